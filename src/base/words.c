#include "base/words.h"

#include <stdio.h>
#include <string.h>
#include <time.h>

const char *words_size(uint64_t n, char out[WORDS_MAX])
{
    static const char *const units[] = {"kB", "MB", "GB", "TB"};
    if (n < 1000)
        return words_amount((size_t)n, "byte", out);
    double v = (double)n / 1000;
    size_t u = 0;
    while (v >= 999.95 && u < 3) {
        v /= 1000;
        u++;
    }
    snprintf(out, WORDS_MAX, "%.1f %s", v, units[u]);
    return out;
}

const char *words_amount(size_t n, const char *unit, char out[WORDS_MAX])
{
    snprintf(out, WORDS_MAX, "%zu %s%s", n, unit, n == 1 ? "" : "s");
    return out;
}

enum { TODAY = 20 * 3600 /* s: a time of day that is longer ago could be taken for one of today */ };

static const char *when_as(long long when, const char *recent, char out[WORDS_MAX])
{
    time_t t = (time_t)when;
    struct tm here = {0};
    localtime_r(&t, &here);
    strftime(out, WORDS_MAX, time(NULL) - t > TODAY ? "%d %b %H:%M" : recent, &here);
    return out;
}

const char *words_when(long long when, char out[WORDS_MAX])
{
    return when_as(when, "%H:%M", out);
}

const char *words_when_exactly(long long when, char out[WORDS_MAX])
{
    return when_as(when, "%H:%M:%S", out);
}

bool words_listed(const char *list, const char *word)
{
    size_t n = strlen(word);
    for (const char *p = list; n && (p = strstr(p, word)) != NULL; p += n) {
        bool begins = p == list || strchr(", ", p[-1]), ends = !p[n] || strchr(", ", p[n]);
        if (begins && ends)
            return true;
    }
    return false;
}

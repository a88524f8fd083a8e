#include "base/words.h"

#include <stdio.h>
#include <time.h>

void size_text(size_t n, char out[SIZE_TEXT_MAX])
{
    static const char *const units[] = {"kB", "MB", "GB", "TB"};
    if (n < 1000) {
        snprintf(out, SIZE_TEXT_MAX, "%zu byte%s", n, n == 1 ? "" : "s");
        return;
    }
    double v = (double)n / 1000;
    size_t u = 0;
    while (v >= 999.95 && u < 3) {
        v /= 1000;
        u++;
    }
    snprintf(out, SIZE_TEXT_MAX, "%.1f %s", v, units[u]);
}

const char *amount(size_t n, const char *unit)
{
    static char texts[8][48];
    static unsigned next;
    char *out = texts[next++ % 8];
    snprintf(out, sizeof texts[0], "%zu %s%s", n, unit, n == 1 ? "" : "s");
    return out;
}

void when_text(long long when, char out[WHEN_TEXT_MAX])
{
    time_t t = (time_t)when;
    struct tm here = {0};
    localtime_r(&t, &here);
    strftime(out, WHEN_TEXT_MAX, time(NULL) - t > 20 * 3600 ? "%d %b %H:%M" : "%H:%M", &here);
}

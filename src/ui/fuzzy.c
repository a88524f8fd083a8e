#include "ui/fuzzy.h"

#include <ctype.h>
#include <stdbool.h>
#include <string.h>
#include <strings.h>

bool fuzzy_words(const char *wanted, const char *text)
{
    for (wanted += strspn(wanted, " "); *wanted; wanted += strspn(wanted, " ")) {
        size_t n = strcspn(wanted, " ");
        bool found = false;
        for (const char *at = text; *at && !found; at++)
            found = (at == text || !isalnum((unsigned char)at[-1])) && strncasecmp(at, wanted, n) == 0;
        if (!found)
            return false;
        wanted += n;
    }
    return true;
}

int fuzzy_score(const char *wanted, const char *text)
{
    int score = 0, run = 0;
    const char *from = text;
    if (!*wanted)
        return 0;
    for (; *wanted; wanted++) {
        char w = (char)tolower((unsigned char)*wanted);
        const char *hit = from;
        if (w == ' ')
            continue;
        while (*hit && tolower((unsigned char)*hit) != w)
            hit++;
        if (!*hit)
            return -1;
        bool word_start = hit == text || !isalnum((unsigned char)hit[-1]);
        run = hit == from && hit != text ? run + 1 : 1;
        score += 2 * run + (word_start ? 6 : 0) + (hit == text ? 4 : 0) -
                 (int)(hit - from > 8 ? 8 : hit - from) / 2;
        from = hit + 1;
    }
    return score > 0 ? score : 1;
}

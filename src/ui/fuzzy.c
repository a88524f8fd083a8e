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

static bool begins(const char *text, const char *wanted)
{
    return strncasecmp(text, wanted, strlen(wanted)) == 0;
}

/* Is it one of these words, separated by blanks? */
static bool is_a_word(const char *wanted, const char *words)
{
    size_t n = strlen(wanted);
    for (const char *at = words; *at; at += strcspn(at, " "), at += *at == ' ')
        if (strcspn(at, " ") == n && strncasecmp(at, wanted, n) == 0)
            return true;
    return false;
}

/* Is it made of beginnings of words, as "delwri" of delete-word-right? */
static bool shortens(const char *wanted, const char *text, bool in_word)
{
    if (!*wanted)
        return true;
    for (const char *at = text; *at; at++) {
        bool word_start = !in_word && at == text;
        word_start = word_start || (at > text && !isalnum((unsigned char)at[-1]));
        bool next = in_word && at == text;
        if ((word_start || next) && tolower((unsigned char)*at) == tolower((unsigned char)*wanted) &&
            shortens(wanted + 1, at + 1, true))
            return true;
    }
    return false;
}

int fuzzy_known(const char *wanted, const FuzzyKnown *k)
{
    enum { STEP = 1000, SHORTENED_MOST = 24 };
    size_t n = strlen(wanted);
    if (n == 0)
        return 0;
    if (begins(k->name, wanted) || begins(k->label, wanted))
        return 7 * STEP - (int)strlen(k->name);
    if (is_a_word(wanted, k->words))
        return 6 * STEP;
    if (k->own_name)
        return -1;
    return fuzzy_words(wanted, k->name) || fuzzy_words(wanted, k->label)     ? 5 * STEP
           : fuzzy_words(wanted, k->words)                                   ? 4 * STEP
           : n > 1 && n < SHORTENED_MOST && shortens(wanted, k->name, false) ? 3 * STEP
           : fuzzy_words(wanted, k->help)                                    ? 2 * STEP
                                                                             : -1;
}

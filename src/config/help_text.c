#include "config/help_text.h"

#include <string.h>

enum { CODE_INDENT = 2 };

typedef struct HelpLine {
    const char *at;
    size_t n;
} HelpLine;

static HelpLine take_line(const char **at, const char *end)
{
    const char *stop = memchr(*at, '\n', (size_t)(end - *at));
    HelpLine line = {*at, (size_t)((stop ? stop : end) - *at)};
    *at = stop ? stop + 1 : end;
    return line;
}

static bool starts(const HelpLine *line, const char *with)
{
    size_t n = strlen(with);
    return line->n >= n && memcmp(line->at, with, n) == 0;
}

static void add_joined(Bytes *out, const char *s, size_t n)
{
    while (n && *s == ' ') {
        s++;
        n--;
    }
    if (n)
        bytes_printf(out, "%s%.*s", out->len ? " " : "", (int)n, s);
}

/* Does it go on in the next line? */
static bool goes_on(HelpPart part, const char *at, const char *end)
{
    HelpLine next = take_line(&at, end);
    bool indented = starts(&next, "  ");
    if (part == HELP_ITEM)
        return indented;
    return part == HELP_WORDS && next.n && !indented && !starts(&next, "= ") && !starts(&next, "- ");
}

bool help_text_next(const char **at, const char *end, HelpBlock *b)
{
    HelpLine line;
    b->gap = false;
    bytes_clear(&b->term);
    bytes_clear(&b->words);
    do {
        if (*at >= end)
            return false;
        line = take_line(at, end);
        b->gap = b->gap || line.n == 0;
    } while (line.n == 0);
    b->part = starts(&line, "= ")   ? HELP_HEADING
              : starts(&line, "- ") ? HELP_ITEM
              : starts(&line, "  ") ? HELP_CODE
                                    : HELP_WORDS;
    size_t skip = b->part == HELP_WORDS ? 0 : CODE_INDENT;
    const char *words = line.at + skip, *gap = NULL;
    size_t n = line.n - skip;
    if (b->part == HELP_CODE) {
        bytes_add(&b->words, words, n);
        return true;
    }
    if (b->part == HELP_ITEM) {
        gap = memmem(words, n, "  ", 2);
        size_t term = gap ? (size_t)(gap - words) : n;
        bytes_add(&b->term, words, term);
        words += term;
        n -= term;
    }
    add_joined(&b->words, words, n);
    while (*at < end && goes_on(b->part, *at, end)) {
        line = take_line(at, end);
        add_joined(&b->words, line.at, line.n);
    }
    return true;
}

void help_block_free(HelpBlock *b)
{
    bytes_free(&b->term);
    bytes_free(&b->words);
}

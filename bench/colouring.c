/* The slowest line of 4000 bytes to colour, over all kinds: equal signs, signs in turn, openers only. */
#include "base/mem.h"
#include "kinds/colour.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { LINE = 4000, PIECE = 512, AHEAD = 512, BEHIND = 64 };

static double now_ms(void)
{
    struct timespec t;
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &t);
    return (double)t.tv_sec * 1e3 + (double)t.tv_nsec / 1e6;
}

/* By pieces, as a view does it. */
static double colour(const Kind *k, const char *bytes)
{
    static uint8_t roles[BEHIND + PIECE + AHEAD];
    ColourState state = colour_plain(k);
    double begun = now_ms();
    for (size_t at = 0; at < LINE;) {
        size_t behind = at < BEHIND ? at : BEHIND, begin = at - behind;
        size_t n = LINE - begin < sizeof roles ? LINE - begin : sizeof roles;
        bool ends = begin + n == LINE;
        ColourLine line = {bytes + begin, n, behind, ends ? n + 1 : behind + PIECE, at == 0, ends};
        at = begin + colour_line(k, &state, &line, roles);
    }
    return now_ms() - begun;
}

int main(int argc, char **argv) /* any argument: all that takes over 1 ms is listed */
{
    static const char *const words[] = {
        "[",   "(",     "{",       "`",   "\"",   "'",  "<",  "*",  "_",   "$(",   "${",    "![",   "[(",
        "](",  "[]",    "`\"",     "a ",  "a",    " ",  "\t", "=",  "a=",  "<a",   "/*",    "//",   "\\",
        "\\[", "1",     "1.",      "-",   "#",    ":",  "a:", "@",  "%",   "&",    "<!--",  "{{",   "{%",
        "a.",  "a(",    "\"a",     "'a",  "\"\\", "+",  "~",  "|",  ",",   ";",    "<a b=", "**a",  "__a",
        "a-",  "[a](b", "http://", "a@b", "0x",   "1:", "1-", "1,", "( [", "[ [ ", "a b{",  "a:b;", "é"};
    double worst = 0;
    char worst_of[200] = "";
    bool all = argc > 1 && argv[1];
    const Kind *k;
    for (size_t i = 0; (k = kind_number(i)); i++)
        for (size_t w = 0; w < sizeof words / sizeof *words; w++) {
            char *line = mem_get(LINE);
            size_t n = strlen(words[w]);
            for (size_t at = 0; at < LINE; at++)
                line[at] = words[w][at % n];
            double ms = 1e9;
            for (int turn = 0; turn < 3; turn++) {
                double once = colour(k, line);
                ms = once < ms ? once : ms;
            }
            if (all && ms > 1)
                printf("%-20s %-8s %8.2f ms%s\n", k->name, words[w], ms, colour_gave_up(k) ? " gave up" : "");
            if (ms > worst) {
                worst = ms;
                snprintf(worst_of, sizeof worst_of, "%s, \"%s\"", k->name, words[w]);
            }
            free(line);
            kind_keep(k, KIND_COLOURER, NULL, NULL);
        }
    printf("slowest line of %d bytes, any kind: %.2f ms (%s; bar 5)\n", LINE, worst, worst_of);
    kinds_end();
    return worst > 5;
}

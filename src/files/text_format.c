#include "files/text_format.h"

#include "base/bytes.h"
#include "base/glyph.h"

#include <string.h>

enum { JUDGED = 64 * 1024, DEFAULT_INDENT = 4 };

typedef struct Tally {
    size_t lf, crlf, tabbed;
    size_t by_width[9]; /* lines whose indentation grew by that many blanks */
    size_t blanks, last_blanks;
    bool at_start, tab_here;
    char last;
} Tally;

static void end_indent(Tally *y)
{
    if (y->tab_here)
        y->tabbed++;
    else if (y->blanks > y->last_blanks && y->blanks - y->last_blanks <= 8)
        y->by_width[y->blanks - y->last_blanks]++;
    y->last_blanks = y->blanks;
    y->at_start = false;
}

static void judge(Tally *y, char c)
{
    if (c == '\n') {
        if (y->last == '\r')
            y->crlf++;
        else
            y->lf++;
        y->at_start = true;
        y->tab_here = false;
        y->blanks = 0;
    } else if (y->at_start && c == ' ') {
        y->blanks++;
    } else if (y->at_start && c == '\t') {
        y->tab_here = true;
    } else if (y->at_start && c != '\r') {
        end_indent(y);
    }
    y->last = c;
}

static bool all_utf8(Text t, size_t n)
{
    char buffer[4096];
    size_t at = 0;
    while (at < n) {
        size_t got = text_read(t, at, buffer, sizeof buffer), p = 0;
        /* A character may be cut at the buffer's end; it is read again with the next piece. */
        while (p < got && (got - p >= 4 || at + got == text_len(t))) {
            int32_t code;
            p += utf8_decode(buffer + p, got - p, &code);
            if (code < 0)
                return false;
        }
        at += p;
    }
    return true;
}

TextFormat text_format_of(Text t)
{
    Tally y = {.at_start = true};
    size_t n = text_len(t) < JUDGED ? text_len(t) : JUDGED;
    for (size_t at = 0; at < n;) {
        TextRun run = text_run(t, at);
        for (size_t i = 0; i < run.len && at + i < n; i++)
            judge(&y, run.at[i]);
        at += run.len;
    }
    TextFormat f = {.ends = ENDS_LF, .indent = DEFAULT_INDENT, .utf8 = all_utf8(t, n)};
    if (y.crlf)
        f.ends = y.lf ? ENDS_MIXED : ENDS_CRLF;
    size_t best = 0, spaced = 0;
    for (unsigned w = 2; w <= 8; w++) {
        spaced += y.by_width[w];
        if (y.by_width[w] > best) {
            best = y.by_width[w];
            f.indent = w;
        }
    }
    f.indented = y.tabbed || spaced;
    f.tabs = y.tabbed > spaced;
    if (f.tabs)
        f.indent = 8;
    return f;
}

const char *text_format_line_end(const TextFormat *f)
{
    return f->ends == ENDS_CRLF ? "\r\n" : "\n";
}

const char *text_format_ends_name(const TextFormat *f)
{
    static const char *const names[] = {"lf", "crlf", "mixed ends"};
    return names[f->ends];
}

bool text_format_convert(Text t, LineEnds ends, Text *out)
{
    Bytes from = {0}, to = {0};
    const char *end = ends == ENDS_CRLF ? "\r\n" : "\n";
    text_bytes(t, 0, text_len(t), &from);
    for (size_t at = 0; at < from.len;) {
        const char *line = from.at + at, *stop = memchr(line, '\n', from.len - at);
        size_t len = stop ? (size_t)(stop - line) : from.len - at;
        at += len + 1;
        if (stop && len && line[len - 1] == '\r')
            len--;
        bytes_add(&to, line, len);
        if (stop)
            bytes_add_str(&to, end);
    }
    *out = (Text){0};
    bool ok = text_insert(out, 0, bytes_str(&to), to.len);
    bytes_free(&from);
    bytes_free(&to);
    return ok;
}

bool text_format_is_binary(Text t)
{
    enum { LOOK = 64 * 1024 };
    size_t at = 0, n = text_len(t) < LOOK ? text_len(t) : LOOK;
    while (at < n) {
        TextRun run = text_run(t, at);
        size_t len = run.len < n - at ? run.len : n - at;
        if (memchr(run.at, 0, len))
            return true;
        at += len;
    }
    return false;
}

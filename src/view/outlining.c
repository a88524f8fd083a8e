#include "view/outlining.h"

#include "base/letters.h"
#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

enum {
    LINE_MOST = 400,    /* bytes of a line that are looked at */
    WINDOW = 64 * 1024, /* bytes that are looked at at once */
};

static bool heading_at(const Outline *o, const char *line, size_t n, size_t at, Heading *h)
{
    OutlineLine l;
    if (!n || !outline_line(o, line, n < LINE_MOST ? n : LINE_MOST, &l))
        return false;
    *h = (Heading){at, at + l.from, at + l.to, l.level};
    return true;
}

/* ---- forward ---- */

size_t outlining_each(Text t, const Outline *o, size_t from, size_t to,
                      bool (*each)(void *ctx, const Heading *h), void *ctx)
{
    char *window = malloc(WINDOW);
    size_t len = text_len(t);
    while (window && from < to) {
        size_t n = text_read(t, from, window, WINDOW), at = 0;
        while (at < n) {
            const char *stop = memchr(window + at, '\n', n - at);
            size_t end = stop ? (size_t)(stop - window) : n;
            Heading h;
            if (!stop && from + n < len && at > 0) /* the rest of this line comes with the next window */
                break;
            if (heading_at(o, window + at, end - at, from + at, &h) && (h.at >= to || !each(ctx, &h))) {
                free(window);
                return h.at;
            }
            at = end + 1;
            if (!stop && from + n < len) { /* a line longer than all of it */
                at = move_line_end(t, from) - from + 1;
                break;
            }
        }
        from += at;
    }
    free(window);
    return from < len ? from : len;
}

typedef struct First {
    Heading *h;
    bool found;
} First;

static bool take_first(void *ctx, const Heading *h)
{
    First *f = ctx;
    *f->h = *h;
    f->found = true;
    return false;
}

bool outlining_next(Text t, const Outline *o, size_t at, Stop stop, Heading *h)
{
    enum { STEP = 1 << 20 };
    size_t len = text_len(t), from = text_line_start(t, text_line_of(t, at) + 1);
    First f = {h, false};
    while (from < len && !f.found && !stop_wanted(stop))
        from = outlining_each(t, o, from, from + STEP < len ? from + STEP : len, take_first, &f);
    return f.found;
}

/* ---- back ---- */

static bool take_last(void *ctx, const Heading *h)
{
    First *f = ctx;
    *f->h = *h;
    f->found = true;
    return true;
}

bool outlining_before(Text t, const Outline *o, size_t at, Stop stop, Heading *h)
{
    size_t to = move_line_start(t, at);
    First f = {h, false};
    while (to > 0 && !f.found && !stop_wanted(stop)) {
        size_t from = to > WINDOW ? move_line_start(t, to - WINDOW) : 0;
        outlining_each(t, o, from, to, take_last, &f);
        to = from;
    }
    return f.found;
}

/* A line, cut; its length. */
static size_t read_line(Text t, size_t from, char out[LINE_MOST])
{
    size_t end = move_line_end(t, from), n = end - from < LINE_MOST ? end - from : LINE_MOST;
    return text_read(t, from, out, n);
}

bool outlining_around(Text t, const Outline *o, size_t at, size_t lines, Heading *h)
{
    char line[LINE_MOST];
    size_t from = move_line_start(t, at), n = read_line(t, from, line), least = LINE_MOST;
    if (heading_at(o, line, n, from, h))
        return true;
    bool blank = letters_blank(line, n) == n;
    least = blank ? LINE_MOST : letters_blank(line, n);
    for (size_t i = 0; i < lines && from > 0; i++) {
        from = move_line_start(t, from - 1);
        n = read_line(t, from, line);
        size_t indent = letters_blank(line, n);
        if (heading_at(o, line, n, from, h) && (!o->by_indent || indent < least))
            return true;
        if (o->ends && outline_ends(o, line, n, 0))
            return false;
        least = indent < n && indent < least ? indent : least;
    }
    return false;
}

struct Around {
    const Outline *o;
    size_t line_from; /* of the cursor then */
    unsigned long version;
    size_t indent; /* of that line */
    bool found;
    Heading h;
};

/* Was nothing changed since but in that line? */
static bool is_same_above(const View *v, const struct Around *a, size_t line_from)
{
    DocChange d;
    unsigned long now = doc_version(v->file->doc);
    if (a->line_from != line_from || now - a->version > 8)
        return false;
    for (unsigned long version = a->version; version != now; version++)
        if (!doc_change_after(v->file->doc, version, &d) || d.at < line_from)
            return false;
    return true;
}

bool outlining_of_view(View *v, const Outline *o, size_t lines, Heading *h)
{
    Text t = view_text(v);
    size_t from = move_line_start(t, v->cursor.at);
    char line[LINE_MOST];
    struct Around *a = v->around ? v->around : (v->around = mem_get(sizeof *a));
    size_t n = read_line(t, from, line), indent = letters_blank(line, n);
    if (heading_at(o, line, n, from, h))
        return true;
    indent = indent == n ? LINE_MOST : indent; /* blank */
    if (a->o != o || a->indent != indent || !is_same_above(v, a, from)) {
        *a = (struct Around){.o = o, .line_from = from, .indent = indent};
        a->found = outlining_around(t, o, from, lines, &a->h);
    }
    a->version = doc_version(v->file->doc);
    *h = a->h;
    return a->found;
}

void outlining_section(Text t, const Outline *o, const Heading *h, Stop stop, size_t *from, size_t *to)
{
    char line[LINE_MOST];
    size_t len = text_len(t), n = read_line(t, h->at, line), indent = letters_blank(line, n), last = h->at;
    *from = h->at;
    for (size_t at = move_line_end(t, h->at) + 1; at < len && !stop_wanted(stop);
         at = move_line_end(t, at) + 1) {
        Heading other;
        n = read_line(t, at, line);
        bool ends = outline_ends(o, line, n, indent);
        if (ends && o->ends) { /* it belongs to it */
            last = at;
            break;
        }
        if (heading_at(o, line, n, at, &other) && other.level <= h->level)
            break;
        if (ends && !strchr(")]}", line[letters_blank(line, n)])) /* the bracket at the end is its own */
            break;
        last = letters_blank(line, n) < n ? at : last;
        if (ends)
            break;
    }
    size_t end = move_line_end(t, last);
    *to = end < len ? end + 1 : len;
}

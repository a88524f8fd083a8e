#include "view/told.h"

#include "edit/move.h"
#include "kinds/calendar.h"
#include "kinds/meaning.h"
#include "kinds/schedule.h"
#include "kinds/table.h"

#include <stdlib.h>
#include <string.h>

enum {
    LINE_MOST = 2000 /* bytes; longer lines are no configuration */,
    WORD_MOST = 40,
    LINE_CELLS = 256 /* of a line that are told apart */
};

/* The line of the cursor. */
typedef struct Line {
    char bytes[LINE_MOST];
    size_t n, start, at; /* at: the cursor in it */
} Line;

static bool take_line(const View *v, Line *l)
{
    Text t = view_text(v);
    size_t end = move_line_end(t, v->cursor.at);
    l->start = move_line_start(t, v->cursor.at);
    if (end - l->start >= sizeof l->bytes)
        return false;
    l->n = text_read(t, l->start, l->bytes, end - l->start);
    l->at = v->cursor.at - l->start;
    return true;
}

static void add_words(Bytes *out, const char *words)
{
    bytes_printf(out, "%s%s", out->len ? " · " : "", words);
}

/* With its year, where that is not this one. */
static void add_time(Bytes *out, time_t next, long long now)
{
    struct tm tm, today;
    time_t at = (time_t)now;
    char words[80];
    if (localtime_r(&next, &tm) && localtime_r(&at, &today) &&
        strftime(words, sizeof words,
                 tm.tm_year == today.tm_year ? "next: %a %e %b %H:%M" : "next: %a %e %b %Y %H:%M", &tm))
        add_words(out, words);
}

static void next_run(const Fields *f, const Line *l, long long now, Bytes *out)
{
    time_t next;
    if (strcmp(f->at[0].name, "minute") != 0)
        return;
    switch (schedule_next(f, l->bytes, l->n, (time_t)now, &next)) {
    case SCHEDULE_AT:
        add_time(out, next, now);
        break;
    case SCHEDULE_NEVER:
        add_words(out, "next: never");
        break;
    case SCHEDULE_AT_START:
        add_words(out, "at each start of the machine");
        break;
    default:
        break;
    }
}

/* What starts a timer of the service manager. */
static void timer_run(const Line *l, long long now, Bytes *out)
{
    static const struct {
        const char *key, *after;
    } keys[] = {{"OnBootSec", "the machine has started"},
                {"OnStartupSec", "the service manager has started"},
                {"OnActiveSec", "the timer is switched on"},
                {"OnUnitActiveSec", "the unit was started last"},
                {"OnUnitInactiveSec", "the unit ended last"}};
    const char *equals = memchr(l->bytes, '=', l->n);
    size_t n = equals ? (size_t)(equals - l->bytes) : 0;
    const char *value = equals + (equals != NULL);
    size_t len = equals ? l->n - n - 1 : 0;
    while (n && l->bytes[n - 1] == ' ')
        n--;
    while (len && *value == ' ')
        value++, len--;
    time_t next;
    if (n == strlen("OnCalendar") && memcmp(l->bytes, "OnCalendar", n) == 0) {
        CalendarNext when = calendar_next(value, len, (time_t)now, &next);
        if (when == CALENDAR_AT)
            add_time(out, next, now);
        else if (when == CALENDAR_NEVER)
            add_words(out, "next: never");
    }
    for (size_t i = 0; len && i < sizeof keys / sizeof *keys; i++)
        if (n == strlen(keys[i].key) && memcmp(l->bytes, keys[i].key, n) == 0)
            bytes_printf(out, "%s%.*s after %s", out->len ? " · " : "",
                         len < WORD_MOST ? (int)len : WORD_MOST, value, keys[i].after);
}

/* The word of letters, digits, dots and slashes around the cursor. */
static void word_meaning(const Line *l, Bytes *out)
{
    static const char other[] = "./:";
    size_t from = l->at, to = l->at;
#define IN_WORD(c) (((c) >= '0' && (c) <= '9') || ((c) && strchr(other, (c))))
    while (from && IN_WORD(l->bytes[from - 1]))
        from--;
    while (to < l->n && IN_WORD(l->bytes[to]))
        to++;
#undef IN_WORD
    while (to > from && strchr(other, l->bytes[to - 1]))
        to--;
    if (to > from && to - from < WORD_MOST)
        meaning_of(l->bytes + from, to - from, out);
}

/* ---- tables ---- */

enum { HEADER_MOST = 4096 };

static bool is_table(const View *v)
{
    return strcmp(v->file->kind->name, "csv") == 0;
}

/* The sign between the cells, and the first row, which has their names. */
static char table_head(const View *v, char head[HEADER_MOST], size_t *n)
{
    bool closed;
    size_t len = text_read(view_text(v), 0, head, HEADER_MOST);
    char separator = table_separator(head, len);
    *n = table_row(head, len, &closed);
    while (*n && (head[*n - 1] == '\n' || head[*n - 1] == '\r'))
        --*n;
    return separator;
}

/* The cell of the line that holds a place; false: the line is in the middle of one that goes over lines, or
 * the like. */
static bool cell_at(const Line *l, char separator, TableCell *cells, size_t *count, size_t *now)
{
    *count = table_cells(l->bytes, l->n, separator, cells, LINE_CELLS);
    for (*now = 0; *now < *count && *now < LINE_CELLS; ++*now)
        if (l->at >= cells[*now].from && l->at <= cells[*now].to)
            return true;
    return false;
}

static void add_cell(const View *v, const Line *l, Bytes *out)
{
    char head[HEADER_MOST];
    TableCell cells[LINE_CELLS], names[LINE_CELLS];
    size_t n, count, now, named;
    char separator = table_head(v, head, &n);
    if (!separator || !cell_at(l, separator, cells, &count, &now))
        return;
    named = table_cells(head, n, separator, names, LINE_CELLS);
    if (l->start > 0 && now < named && named <= LINE_CELLS)
        bytes_printf(out, "%.*s: ", (int)(names[now].to - names[now].from), head + names[now].from);
    bytes_printf(out, "cell %zu of %zu", now + 1, count);
}

static bool next_cell(const View *v, const Line *l, bool back, size_t *at)
{
    char head[HEADER_MOST];
    TableCell cells[LINE_CELLS];
    size_t n, count, now;
    char separator = table_head(v, head, &n);
    if (!separator || !cell_at(l, separator, cells, &count, &now))
        return false;
    bool begins = back && l->at > cells[now].from; /* first to its own beginning */
    size_t to = begins ? now : back ? now - 1 : now + 1;
    if (to >= count || to >= LINE_CELLS)
        return false;
    *at = l->start + cells[to].from;
    return true;
}

void told_words(const View *v, long long now, Bytes *out)
{
    Line l;
    size_t from[FIELDS_MOST], to[FIELDS_MOST];
    if (v->looks.title || !take_line(v, &l))
        return;
    if (is_table(v)) {
        add_cell(v, &l, out);
        return;
    }
    const Fields *f = fields_of(v->file->kind, NULL);
    size_t n = f ? fields_split(f, l.bytes, l.n, from, to) : 0;
    for (size_t i = 0; i < n && i < f->n; i++)
        if (l.at >= from[i] && l.at <= to[i]) {
            bytes_printf(out, "field %zu of %zu: %s, %s", i + 1, f->n, f->at[i].name, f->at[i].about);
            break;
        }
    if (f)
        next_run(f, &l, now, out);
    if (strcmp(v->file->kind->name, "unit") == 0)
        timer_run(&l, now, out);
    if (!out->len)
        word_meaning(&l, out);
}

bool told_field(const View *v, bool back, size_t *at)
{
    Line l;
    size_t from[FIELDS_MOST], to[FIELDS_MOST];
    bool taken = take_line(v, &l);
    if (taken && is_table(v))
        return next_cell(v, &l, back, at);
    const Fields *f = taken ? fields_of(v->file->kind, NULL) : NULL;
    size_t n = f ? fields_split(f, l.bytes, l.n, from, to) : 0;
    for (size_t i = 0; i < n; i++) {
        size_t k = back ? n - 1 - i : i;
        if (back ? from[k] < l.at : from[k] > l.at) {
            *at = l.start + from[k];
            return true;
        }
    }
    return false;
}

#include "commands/differences.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/words.h"
#include "edit/diff.h"
#include "edit/glyph_reader.h"
#include "edit/move.h"
#include "session/reading.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/line_keys.h"
#include "view/scroll.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>

enum {
    CONTEXT = 3,        /* equal lines shown around a change */
    ROWS_MOST = 100000, /* rows that are listed */
    WORDS_MOST = 8192,  /* bytes of a line whose words are compared */
    BESIDE_FROM = 100,  /* columns from which the texts stand side by side */
    NUMBER = 7,         /* cells of a line number and its sign */
};

static const size_t NONE = (size_t)-1;

/* A row of the list: a heading, or a line of one text or of both. */
typedef struct Row {
    size_t change; /* which change it belongs to */
    bool head, same;
    size_t a, b;  /* lines; NONE: there is none on that side */
    size_t other; /* where only one is there: the line of the other side that it is compared with, or NONE */
} Row;

struct Differences {
    Layer layer;
    DifferenceSpec spec;
    char *old_name, *fresh_name;
    DiffRun *runs;
    size_t n_runs;
    Row *rows;
    size_t n;
    bool beside;
    size_t at, top; /* rows */
    size_t left;    /* cells scrolled out */
    int first, shown;
};

/* ---- the rows ---- */

static void add_row(Differences *v, Row r)
{
    v->rows = array_room(v->rows, v->n, sizeof *v->rows);
    v->rows[v->n++] = r;
}

static void add_run_rows(Differences *v, size_t i)
{
    const DiffRun *r = &v->runs[i];
    size_t na = r->a_to - r->a_from, nb = r->b_to - r->b_from;
    size_t *with = mem_get((na + 1) * sizeof *with), b = r->b_from;
    diff_pair(v->spec.old, v->spec.fresh, r, with);
    if (v->beside) {
        for (size_t k = 0; k < na && v->n < ROWS_MOST; k++) {
            for (; with[k] != NONE && b < with[k]; b++) /* without a partner, before this pair */
                add_row(v, (Row){.change = i, .a = NONE, .b = b, .other = NONE});
            add_row(v, (Row){.change = i, .a = r->a_from + k, .b = with[k], .other = NONE});
            b += with[k] != NONE;
        }
        for (; b < r->b_to && v->n < ROWS_MOST; b++)
            add_row(v, (Row){.change = i, .a = NONE, .b = b, .other = NONE});
    } else {
        for (size_t k = 0; k < na && v->n < ROWS_MOST; k++)
            add_row(v, (Row){.change = i, .a = r->a_from + k, .b = NONE, .other = with[k]});
        for (size_t k = 0; k < nb && v->n < ROWS_MOST; k++) {
            size_t line = r->b_from + k, j = 0;
            while (j < na && with[j] != line)
                j++;
            add_row(v, (Row){.change = i, .a = NONE, .b = line, .other = j < na ? r->a_from + j : NONE});
        }
    }
    free(with);
}

static void build_rows(Differences *v)
{
    size_t last = text_line_count(v->spec.fresh);
    v->n = 0;
    for (size_t i = 0; i < v->n_runs && v->n < ROWS_MOST; i++) {
        const DiffRun *r = &v->runs[i];
        size_t before = r->b_from - (i ? v->runs[i - 1].b_to : 0);
        if (i) /* what stands below the change above is not shown twice */
            before -= before < CONTEXT ? before : CONTEXT;
        before = before < CONTEXT ? before : CONTEXT;
        size_t next = i + 1 < v->n_runs ? v->runs[i + 1].b_from : last;
        size_t after = next > r->b_to ? next - r->b_to : 0;
        add_row(v, (Row){.change = i, .head = true});
        for (size_t k = before; k > 0; k--)
            add_row(v, (Row){.change = i, .same = true, .a = r->a_from - k, .b = r->b_from - k});
        add_run_rows(v, i);
        for (size_t k = 0; k < after && k < CONTEXT; k++)
            add_row(v, (Row){.change = i, .same = true, .a = r->a_to + k, .b = r->b_to + k});
    }
    if (v->at >= v->n)
        v->at = v->n ? v->n - 1 : 0;
}

static size_t row_of_change(const Differences *v, size_t change)
{
    for (size_t i = 0; i < v->n; i++)
        if (v->rows[i].head && v->rows[i].change == change)
            return i;
    return 0;
}

static size_t change_now(const Differences *v)
{
    return v->n ? v->rows[v->at].change : 0;
}

static void compare(Differences *v)
{
    free(v->runs);
    v->n_runs = diff_lines(v->spec.old, v->spec.fresh, &v->runs);
    build_rows(v);
}

/* ---- painting ---- */

typedef struct Line {
    Text text;
    size_t line;
    Style style, part; /* part: of the words that differ */
    const DiffRun *runs;
    size_t n;
    bool fresh; /* the runs' second side is meant */
} Line;

static bool differs(const Line *l, size_t at)
{
    for (size_t i = 0; i < l->n; i++)
        if (l->fresh ? at >= l->runs[i].b_from && at < l->runs[i].b_to
                     : at >= l->runs[i].a_from && at < l->runs[i].a_to)
            return true;
    return false;
}

static void paint_words(Frame *f, int row, int col, int limit, const Line *l, size_t left, size_t tab)
{
    size_t start = text_line_start(l->text, l->line), end = move_line_end(l->text, start);
    size_t cells = 0, right = left + (size_t)(limit > col ? limit - col : 0);
    Glyph g;
    GlyphReader reader = {.text = l->text};
    for (size_t p = start; p < end && cells < right; p += g.bytes) {
        glyph_reader_next(&reader, p, &g);
        size_t width = glyph_cells(&g, cells, tab);
        Style style = differs(l, p) ? l->part : l->style;
        int at = col + (int)(cells - left);
        if (cells >= left && g.n_codes == 1 && g.codes[0] == '\t')
            frame_blank(f, row, at, at + (int)width < limit ? at + (int)width : limit, style);
        else if (cells >= left)
            frame_glyph(f, row, at, limit, &g, style);
        cells += width;
    }
}

static void paint_side(Frame *f, int row, int col, int limit, const Line *l, char sign, size_t left,
                       size_t tab)
{
    char number[32];
    frame_blank(f, row, col, limit, l->style);
    snprintf(number, sizeof number, "%*zu %c", NUMBER - 3, l->line + 1, sign);
    int at = frame_text(f, row, col, limit, l->style, number);
    paint_words(f, row, at + 1, limit, l, left, tab);
}

/* The words that differ between the two lines of a row. */
static size_t compare_words(const Differences *v, size_t a, size_t b, DiffRun **runs)
{
    Text x = v->spec.old, y = v->spec.fresh;
    size_t xs = text_line_start(x, a), xe = text_line_end(x, a), ys = text_line_start(y, b),
           ye = text_line_end(y, b);
    *runs = NULL;
    if (xe - xs > WORDS_MOST || ye - ys > WORDS_MOST)
        return 0;
    return diff_words(x, xs, xe, y, ys, ye, runs);
}

static void paint_head(const Differences *v, Frame *f, int row, const Row *r, bool now)
{
    const DiffRun *run = &v->runs[r->change];
    Bytes words = {0};
    size_t na = run->a_to - run->a_from, nb = run->b_to - run->b_from;
    bytes_printf(&words, "%s Change %zu of %zu, line %zu: ", now ? "▸" : " ", r->change + 1, v->n_runs,
                 run->b_from + 1);
    if (na && nb)
        bytes_printf(&words, "%s replaced by %zu", AMOUNT(na, "line"), nb);
    else
        bytes_printf(&words, "%s %s", AMOUNT(na + nb, "line"), na ? "removed" : "added");
    if (frame_width(f, words.at) > f->cols) {
        bytes_clear(&words);
        bytes_printf(&words, "%s %zu of %zu, line %zu: -%zu +%zu", now ? "▸" : " ", r->change + 1, v->n_runs,
                     run->b_from + 1, na, nb);
    }
    frame_blank(f, row, 0, f->cols, now ? ST_BOX_NOW : ST_BOX_TITLE);
    frame_text(f, row, 0, f->cols, now ? ST_BOX_NOW : ST_BOX_TITLE, words.at);
    bytes_free(&words);
}

static void paint_row(const Editor *ed, const Differences *v, Frame *f, int row, const Row *r)
{
    int middle = v->beside ? f->cols / 2 : f->cols;
    size_t tab = view_tab(ed->panes.view), n = 0;
    DiffRun *runs = NULL;
    Line a = {.text = v->spec.old, .line = r->a, .style = ST_OLD, .part = ST_OLD_PART};
    Line b = {.text = v->spec.fresh, .line = r->b, .style = ST_NEW, .part = ST_NEW_PART, .fresh = true};
    frame_blank(f, row, 0, f->cols, ST_TEXT);
    if (r->same) {
        a.style = b.style = ST_TEXT;
    } else {
        size_t x = r->a != NONE ? r->a : r->other, y = r->b != NONE ? r->b : r->other;
        if (x != NONE && y != NONE)
            n = compare_words(v, x, y, &runs);
    }
    a.runs = b.runs = runs;
    a.n = b.n = n;
    if (v->beside && r->a != NONE)
        paint_side(f, row, 0, middle - 1, &a, r->same ? ' ' : '-', v->left, tab);
    if (v->beside && r->b != NONE)
        paint_side(f, row, middle, f->cols, &b, r->same ? ' ' : '+', v->left, tab);
    if (v->beside)
        frame_text(f, row, middle - 1, middle, ST_GUTTER, "│");
    else if (r->b != NONE)
        paint_side(f, row, 0, f->cols, &b, r->same ? ' ' : '+', v->left, tab);
    else
        paint_side(f, row, 0, f->cols, &a, '-', v->left, tab);
    free(runs);
}

static void paint(Editor *ed, Layer *l, Frame *f)
{
    Differences *v = (Differences *)l;
    bool beside = f->cols >= BESIDE_FROM;
    if (beside != v->beside) {
        size_t change = change_now(v);
        v->beside = beside;
        build_rows(v);
        v->at = row_of_change(v, change);
    }
    int title = f->rows > 3 ? 1 : 0;
    v->first = title + 1;
    v->shown = f->status_row - v->first > 1 ? f->status_row - v->first : 1;
    Bytes words = {0};
    bytes_printf(&words, "%s  →  %s", v->old_name, v->fresh_name);
    frame_blank(f, title, 0, f->cols, ST_BOX_TITLE);
    frame_text(f, title, 1, f->cols, ST_BOX_TITLE, words.at);
    bytes_free(&words);
    if (v->at < v->top)
        v->top = v->at;
    if (v->at >= v->top + (size_t)v->shown)
        v->top = v->at + 1 - (size_t)v->shown;
    for (int i = 0; i < v->shown; i++) {
        size_t r = v->top + (size_t)i;
        frame_blank(f, v->first + i, 0, f->cols, ST_TEXT);
        if (r >= v->n)
            continue;
        if (v->rows[r].head)
            paint_head(v, f, v->first + i, &v->rows[r], v->rows[r].change == change_now(v));
        else
            paint_row(ed, v, f, v->first + i, &v->rows[r]);
    }
    if (v->n == 0)
        frame_text(f, v->first, 2, f->cols, ST_TEXT, "There is no difference.");
    f->cursor_row = v->first + (int)(v->at - v->top);
    f->cursor_col = 0;
}

/* ---- moving, taking back ---- */

static void go_row(Differences *v, long by)
{
    long to = (long)v->at + by;
    v->at = (size_t)(to < 0 || v->n == 0 ? 0 : to >= (long)v->n ? (long)v->n - 1 : to);
}

static void go_change(Editor *ed, Differences *v, int by)
{
    size_t now = change_now(v);
    if (v->n_runs == 0)
        return;
    if (by < 0 && v->at > row_of_change(v, now)) {
        v->at = row_of_change(v, now); /* first to this one's own heading */
    } else if ((by < 0 && now == 0) || (by > 0 && now + 1 >= v->n_runs)) {
        say(ed, by < 0 ? "This is the first change" : "This is the last change");
    } else {
        v->at = row_of_change(v, by > 0 ? now + 1 : now - 1);
    }
    v->top = v->at; /* its lines stand below it */
}

/* Puts the old lines of the present change back into the text. */
static void take_back(Editor *ed, Differences *v)
{
    OpenFile *file = session_file(ed->session, v->spec.file);
    char why[TASK_WORDS_MAX];
    if (!file || !v->n_runs)
        return;
    if (file->look_only || reading_unready(file, why)) {
        say(ed, "%s is open to look only", openfile_name(file));
        return;
    }
    if (!text_same(v->spec.fresh, doc_text(file->doc))) { /* it was changed under this view */
        text_drop(&v->spec.fresh);
        v->spec.fresh = text_keep(doc_text(file->doc));
        compare(v);
        say(ed, "The text was changed meanwhile; these are its differences now");
        return;
    }
    DiffRun r = v->runs[change_now(v)];
    size_t at = text_line_start(v->spec.fresh, r.b_from), end = text_line_start(v->spec.fresh, r.b_to);
    size_t from = text_line_start(v->spec.old, r.a_from), to = text_line_start(v->spec.old, r.a_to);
    Text lines;
    if (!text_slice(v->spec.old, from, to - from, &lines))
        return;
    doc_seal(file->doc);
    doc_set_verb(file->doc, "Take back a change");
    if (doc_replace_text(file->doc, at, end - at, lines, at))
        say(ed, "Change reverted; %s in the text brings it back", KEY_FOR(ed, "undo"));
    doc_set_verb(file->doc, NULL);
    doc_seal(file->doc);
    text_drop(&lines);
    text_drop(&v->spec.fresh);
    v->spec.fresh = text_keep(doc_text(file->doc));
    size_t change = change_now(v);
    compare(v);
    v->at = row_of_change(v, change < v->n_runs ? change : v->n_runs ? v->n_runs - 1 : 0);
}

static void close_view(Editor *ed, char letter)
{
    Differences *v = (Differences *)ed->layer;
    DifferenceSpec spec = v->spec;
    v->spec.free_ctx = NULL;
    layers_pop(ed);
    if (spec.done)
        spec.done(ed, letter, spec.ctx);
    if (spec.free_ctx)
        spec.free_ctx(spec.ctx);
}

static void go_to_text(Editor *ed, Differences *v)
{
    OpenFile *file = session_file(ed->session, v->spec.file);
    if (!file || !v->n)
        return;
    const Row *r = &v->rows[v->at];
    size_t line = r->head || r->b == NONE ? v->runs[r->change].b_from : r->b;
    layers_pop(ed);
    editor_show(ed, file);
    view_go_line(ed->panes.view, line, 0);
    scroll_centre(ed->panes.view);
}

static void merge(Editor *ed, Differences *v)
{
    OpenFile *f = session_file(ed->session, v->spec.file);
    void (*then)(Editor *, OpenFile *, Text, const char *) = v->spec.merge;
    if (!f || !then || !v->spec.theirs)
        return;
    Text old = text_keep(v->spec.old);
    char *name = mem_string(v->spec.old_name);
    close_view(ed, 0);
    then(ed, f, old, name);
    free(name);
    text_drop(&old);
}

/* ---- keys ---- */

static bool letter_key(Editor *ed, Differences *v, Key k)
{
    uint32_t ch = k.ch < 128 ? k.ch : settings_menu_letter(&ed->config, k.ch);
    char letter = ch < 128 ? (char)tolower((int)ch) : 0;
    for (size_t i = 0; i < 3 && v->spec.answers[i].letter; i++)
        if (v->spec.answers[i].letter == letter) {
            close_view(ed, letter);
            return true;
        }
    switch (letter) {
    case 'n':
        go_change(ed, v, 1);
        return true;
    case 'b':
        go_change(ed, v, -1);
        return true;
    case 't':
        take_back(ed, v);
        return true;
    case 'm':
        merge(ed, v);
        return true;
    case 'c':
        if (v->spec.choose)
            v->spec.choose(ed, v, v->spec.file);
        return true;
    default:
        return true; /* other letters do nothing rather than something unexpected */
    }
}

static bool key(Editor *ed, Layer *l, const Input *in)
{
    Differences *v = (Differences *)l;
    Key k = line_keys_meaning(&ed->config, in->key);
    long page = v->shown > 1 ? v->shown - 1 : 1;
    const Keymap *keys = &ed->config.keys;
    if (keymap_runs(keys, in->key, "find-next") || keymap_runs(keys, in->key, "differences")) {
        go_change(ed, v, 1);
        return true;
    }
    if (keymap_runs(keys, in->key, "find-before")) {
        go_change(ed, v, -1);
        return true;
    }
    if (key_types(k) && k.code == K_CHAR)
        return letter_key(ed, v, k);
    switch (k.mods ? K_NONE : k.code) {
    case K_UP:
        go_row(v, -1);
        return true;
    case K_DOWN:
        go_row(v, 1);
        return true;
    case K_PAGE_UP:
        go_row(v, -page);
        return true;
    case K_PAGE_DOWN:
        go_row(v, page);
        return true;
    case K_HOME:
        v->at = 0;
        return true;
    case K_END:
        go_row(v, (long)v->n);
        return true;
    case K_LEFT:
        v->left = v->left > 8 ? v->left - 8 : 0;
        return true;
    case K_RIGHT:
        v->left += 8;
        return true;
    case K_ENTER:
        go_to_text(ed, v);
        return true;
    default:
        return false;
    }
}

static void mouse(Editor *ed, Layer *l, const Mouse *m)
{
    (void)ed;
    Differences *v = (Differences *)l;
    if (m->action == MOUSE_WHEEL_UP || m->action == MOUSE_WHEEL_DOWN)
        go_row(v, m->action == MOUSE_WHEEL_UP ? -3 : 3);
    else if (m->action == MOUSE_PRESS && m->row >= v->first && m->row < v->first + v->shown)
        go_row(v, (long)v->top + m->row - v->first - (long)v->at);
}

static size_t hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed;
    const Differences *v = (const Differences *)l;
    size_t n = 0;
    for (size_t i = 0; i < 3 && v->spec.answers[i].letter; i++) {
        out[n] = (Hint){.label = v->spec.answers[i].label, .always = true};
        out[n++].key[0] = v->spec.answers[i].letter;
    }
    out[n++] = (Hint){"n", "Next change", true};
    out[n++] = (Hint){"b", "Change before", false};
    if (v->spec.file) {
        out[n++] = (Hint){"t", v->spec.theirs ? "Take theirs" : "Take it back", true};
        out[n++] = (Hint){"Enter", "Go there", false};
    }
    if (v->spec.merge && v->spec.theirs && v->spec.file)
        out[n++] = (Hint){"m", "Merge", true};
    if (v->spec.choose)
        out[n++] = (Hint){"c", "Compare with…", true};
    out[n++] = (Hint){"Esc", "Back", true};
    return n;
}

static void cancel(Editor *ed, Layer *l)
{
    const Differences *v = (const Differences *)l;
    if (v->spec.done)
        v->spec.done(ed, 0, v->spec.ctx);
}

static void free_view(Editor *ed, Layer *l)
{
    (void)ed;
    Differences *v = (Differences *)l;
    text_drop(&v->spec.old);
    text_drop(&v->spec.fresh);
    free(v->old_name);
    free(v->fresh_name);
    free(v->runs);
    free(v->rows);
    if (v->spec.free_ctx)
        v->spec.free_ctx(v->spec.ctx);
}

static const LayerKind kind = {
    .help = "differences",
    .key = key,
    .mouse = mouse,
    .paint = paint,
    .hints = hints,
    .cancel = cancel,
    .free = free_view,
};

void differences_set_old(Differences *v, Text old, const char *name, bool theirs)
{
    v->spec.theirs = theirs;
    text_drop(&v->spec.old);
    v->spec.old = text_keep(old);
    free(v->old_name);
    v->old_name = mem_string(name);
    v->at = v->top = 0;
    compare(v);
}

void differences_show(Editor *ed, const DifferenceSpec *spec)
{
    Differences *v = mem_get(sizeof *v);
    v->layer.kind = &kind;
    v->spec = *spec;
    v->spec.old = text_keep(spec->old);
    v->spec.fresh = text_keep(spec->fresh);
    v->old_name = mem_string(spec->old_name);
    v->fresh_name = mem_string(spec->fresh_name);
    v->beside = ed->frame.cols >= BESIDE_FROM;
    compare(v);
    layers_push(ed, &v->layer);
}

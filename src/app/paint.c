/* Laying out the Frame: top line, text, status line, hint line, then the layers. */
#include "editor.h"

#include "lesson.h"
#include "columns.h"
#include "mem.h"
#include "menu.h"
#include "move.h"
#include "pages.h"
#include "places.h"
#include "rows.h"
#include "search.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SMALL_ROWS = 16,           /* below, the menu titles make way for the path */
    MATCH_REACH = 1024 * 1024, /* how far ahead a match is looked for to be shown */
};

int status_row(const Frame *f)
{
    return f->status_row;
}

/* Remembers that clicking there presses those keys. */
static void add_spot(Editor *ed, int row, int from, int to, const char *keys)
{
    if (ed->n_spots == SPOTS_MAX)
        return;
    Spot *s = &ed->spots[ed->n_spots++];
    *s = (Spot){.row = row, .from = from, .to = to};
    snprintf(s->keys, sizeof s->keys, "%.*s", (int)sizeof s->keys - 1, keys);
}

/* ---- the top line ---- */

/* A path that is too long loses its middle: its start and its name say most. */
static void shorten_path(const Frame *f, const char *path, int room, Bytes *out)
{
    bytes_clear(out);
    bytes_add_str(out, path);
    if (frame_width(f, path) <= room || room < 8)
        return;
    size_t name = (size_t)(strrchr(path, '/') ? strrchr(path, '/') - path : 0);
    size_t head = name < (size_t)room / 3 ? name : (size_t)room / 3;
    while (head && ((unsigned char)path[head] & 0xc0) == 0x80)
        head--;
    for (size_t tail = head; path[tail]; tail++) {
        if (((unsigned char)path[tail] & 0xc0) == 0x80)
            continue;
        bytes_clear(out);
        bytes_add(out, path, head);
        bytes_add_str(out, "…");
        bytes_add_str(out, path + tail);
        if (frame_width(f, bytes_str(out)) <= room)
            return;
    }
}

static const char *state_words(const OpenFile *f)
{
    if (f->page)
        return "Esc goes back";
    if (f->look_only)
        return "look only";
    if (doc_changed(f->doc))
        return f->disk.exists ? "changed" : "new, changed";
    return f->disk.exists ? "" : "new";
}

static void paint_top(Editor *ed, Frame *f)
{
    const OpenFile *file = ed->view.file;
    frame_blank(f, 0, 0, f->cols, ST_BAR);
    int col = 1;
    if (f->rows >= SMALL_ROWS && f->cols >= 70)
        col = menu_paint_titles(ed, f, col, 0, false);
    const char *state = state_words(file);
    int state_width = *state ? frame_width(f, state) + 2 : 0;
    int room = f->cols - 1 - state_width - col - 1;
    Bytes path = {0};
    if (file->page)
        bytes_printf(&path, "Help: %s", page_name(file->page));
    else
        shorten_path(f, file->path ? file->path : "(no name yet)", room, &path);
    int width = frame_width(f, bytes_str(&path));
    int at = col > 1 && width < room ? f->cols - 1 - state_width - width : col + (col > 1);
    int end = frame_text(f, 0, at, f->cols - state_width, ST_BAR, bytes_str(&path));
    frame_text(f, 0, end + 2, f->cols, ST_STATE, state);
    bytes_free(&path);
}

/* ---- the text ---- */

static int digits(size_t n)
{
    int d = 1;
    while (n >= 10) {
        n /= 10;
        d++;
    }
    return d;
}

static int gutter_width(const Editor *ed, const View *v)
{
    if (ed->bare || v->file->page)
        return 0;
    if (!ed->settings.line_numbers)
        return v->file->bookmarks || v->wrap ? 2 : 0;
    int d = digits(text_newlines(view_text(v)) + 1);
    int width = (d < 3 ? 3 : d) + 2;
    return width * 4 < v->cols ? width : 0;
}

typedef struct TextRow {
    Editor *ed;
    Frame *frame;
    int row;
    size_t mark_from, mark_to; /* of this row; equal: no mark */
    bool block;                /* the mark is a block of columns */
    Columns columns;
    Match match; /* the next one to be shown */
    bool matches;
} TextRow;

static Style style_at(TextRow *r, size_t at, Style plain)
{
    Editor *ed = r->ed;
    const OpenFile *file = ed->view.file;
    if (at >= r->mark_from && at < r->mark_to)
        return ST_MARK;
    while (r->matches && at >= r->match.to && at > r->match.from)
        r->matches = search_match_from(ed, at, at + MATCH_REACH, &r->match);
    if (r->matches && at >= r->match.from && at < r->match.to)
        return r->match.from == ed->match_now.from ? ST_MATCH_NOW : ST_MATCH;
    return file->page && plain == ST_TEXT ? page_style(file->page, at) : plain;
}

/* What stands at the line's end when it is an odd one for this file. */
static const char *odd_line_end(const OpenFile *f, Text t, size_t end)
{
    bool cr = text_byte(t, end) == '\r';
    return cr && f->form.ends != ENDS_CRLF ? "\\r" : NULL;
}

/* A blank, a tab or a line end as a sign, where that is wanted. */
static void paint_sign(const TextRow *r, int col, const char *sign, Style style)
{
    if (r->ed->settings.show_blanks && !r->ed->bare && col < r->ed->view.cols)
        frame_text(r->frame, r->row, col, r->ed->view.cols, style == ST_TEXT ? ST_GUTTER : style, sign);
}

/* What the mark covers of this row. */
static void set_row_mark(TextRow *r, size_t start)
{
    const View *v = &r->ed->view;
    if (!r->block)
        return;
    size_t line = text_line_of(view_text(v), start);
    r->mark_from = r->mark_to = 0;
    if (line >= r->columns.first && line <= r->columns.last)
        columns_part(v, &r->columns, line, &r->mark_from, &r->mark_to);
}

/* Paints [from, end) of a line; `origin`: cells of the line before `from`. */
static void paint_row(TextRow *r, size_t from, size_t end, size_t origin)
{
    const View *v = &r->ed->view;
    Text t = view_text(v);
    Frame *f = r->frame;
    size_t cells = origin, left = v->left + origin, right = left + (size_t)(v->cols - v->gutter);
    size_t p = from;
    Glyph g;
    if (left > cells) { /* what lies left of the screen is not looked at */
        p = place_at_cells(t, text_line_of(t, from), left, v->tab);
        cells = cells_before(t, p, v->tab);
    }
    for (; p < end && cells < right; p += g.bytes) {
        glyph_at(t, p, &g);
        size_t width = glyph_cells(&g, cells, v->tab);
        Style style = style_at(r, p, g.n_codes ? ST_TEXT : ST_ESCAPE);
        if (cells + width > left) {
            int col = v->gutter + (int)(cells > left ? cells - left : 0);
            if (g.n_codes == 1 && g.codes[0] == '\t') {
                frame_blank(f, r->row, col, v->gutter + (int)(cells + width - left), style);
                paint_sign(r, col, "→", style);
            } else if (cells >= left) {
                frame_glyph(f, r->row, col, v->cols, &g, style);
                if (g.codes[0] == ' ')
                    paint_sign(r, col, "·", style);
            } else if (g.n_codes == 0) { /* an escape that begins left of the screen */
                frame_text(f, r->row, col, v->cols, style, g.escape + (left - cells));
            }
        }
        cells += width;
    }
    if (p < end || cells < left)
        return;
    int col = v->gutter + (int)(cells - left);
    if (end < move_line_end(t, from)) { /* a wrapped line goes on below */
        frame_text(f, r->row, v->cols - 1, v->cols, ST_GUTTER, "↵");
        return;
    }
    const char *odd = odd_line_end(v->file, t, end);
    if (odd && col < v->cols)
        col = frame_text(f, r->row, col, v->cols, ST_ESCAPE, odd);
    bool marked = end >= r->mark_from && end < r->mark_to && !r->block;
    if (marked && col < v->cols)
        frame_blank(f, r->row, col, col + 1, ST_MARK); /* the line end is marked too */
    if (text_byte(t, end) >= 0)
        paint_sign(r, col, "¶", marked ? ST_MARK : ST_TEXT);
    if (r->block && r->columns.left == r->columns.right && r->mark_from == r->mark_to &&
        r->mark_from >= from && r->mark_from <= end) /* a block of no width shows as a thin bar */
        frame_restyle(f, r->row, v->gutter + (int)(r->columns.left - left),
                      v->gutter + (int)(r->columns.left - left) + 1, ST_MATCH);
}

static void paint_gutter(const TextRow *r, size_t line, bool first_row, size_t start)
{
    const View *v = &r->ed->view;
    char number[32] = "";
    if (!v->gutter)
        return;
    if (first_row && r->ed->settings.line_numbers)
        snprintf(number, sizeof number, "%*zu", v->gutter - 2, line + 1);
    frame_text(r->frame, r->row, 0, v->gutter, ST_GUTTER, number);
    if (first_row && bookmark_in(v->file, start, text_line_end(view_text(v), line)))
        frame_text(r->frame, r->row, v->gutter - 2, v->gutter, ST_CHANGED,
                   r->ed->settings.line_numbers ? " •" : "•");
    if (!first_row)
        frame_text(r->frame, r->row, v->gutter - 2, v->gutter, ST_GUTTER, "…");
}

static void paint_text(Editor *ed, Frame *f)
{
    View *v = &ed->view;
    Text t = view_text(v);
    TextRow r = {.ed = ed, .frame = f};
    view_marked(v, &r.mark_from, &r.mark_to);
    r.block = columns_marked(v, &r.columns);
    r.matches = search_match_from(ed, v->top.at, v->top.at + MATCH_REACH, &r.match);
    size_t last = view_lines(v) - 1, row = v->top.at;
    bool none = false;
    f->cursor_row = -1;
    for (int i = 0; i < v->rows; i++) {
        r.row = v->row + i;
        frame_blank(f, r.row, 0, v->cols, ST_TEXT);
        size_t line = none ? last + 1 : text_line_of(t, row);
        if (line > last) {
            none = true;
            continue;
        }
        size_t line_start = text_line_start(t, line), end = row_end(v, row);
        size_t origin = row > line_start ? cells_before(t, row, v->tab) : 0;
        set_row_mark(&r, row);
        paint_gutter(&r, line, row == line_start, line_start);
        paint_row(&r, row, end, origin);
        if (v->cursor.at >= row &&
            (v->cursor.at < end || (v->cursor.at == end && end == move_line_end(t, row)))) {
            f->cursor_row = r.row;
            f->cursor_col = v->gutter + (int)(cells_before(t, v->cursor.at, v->tab) - origin - v->left);
        }
        row = row_next(v, row, &none);
    }
}

/* ---- the status line ---- */

static void position_words(const View *v, Bytes *out)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), lines = view_lines(v), from, to;
    bytes_printf(out, "Line %zu of %zu · Column %zu · %zu%%", line + 1, lines,
                 chars_before(t, v->cursor.at) + 1, (size_t)((double)(line + 1) * 100 / (double)lines));
    Columns c;
    if (columns_marked(v, &c)) {
        bytes_printf(out, " · marked %s of %s", amount(c.right - c.left, "column"),
                     amount(c.last - c.first + 1, "line"));
    } else if (view_marked(v, &from, &to)) {
        size_t chars = 0;
        for (size_t p = from; p < to && chars < 100000; chars++)
            p = move_right(t, p);
        size_t marked = text_line_of(t, to) - text_line_of(t, from) + (text_byte(t, to - 1) != '\n');
        bytes_printf(out, " · marked %zu line%s, %zu%s character%s", marked, marked == 1 ? "" : "s", chars,
                     chars == 100000 ? "+" : "", chars == 1 ? "" : "s");
    }
}

/* The fields at the right, as many as fit into `room` cells. */
static void form_words(const Editor *ed, const Frame *frame, int room, Bytes *out)
{
    const OpenFile *f = ed->view.file;
    char indent[32];
    snprintf(indent, sizeof indent, "%s %u", f->form.tabs ? "tabs" : "spaces", f->form.indent);
    const char *const fields[] = {ed->overtype ? "overtype" : "", f->kind->name, indent,
                                  f->form.utf8 ? "utf-8" : "bytes", form_ends_name(&f->form)};
    for (size_t i = 0; i < sizeof fields / sizeof *fields; i++) {
        size_t before = out->len;
        if (!fields[i][0])
            continue;
        bytes_printf(out, "%s%s", before ? " · " : "", fields[i]);
        if (frame_width(frame, bytes_str(out)) > room) {
            bytes_delete(out, before, out->len - before);
            return;
        }
    }
}

static void paint_status(Editor *ed, Frame *f, int row)
{
    const View *v = &ed->view;
    const Message *m = &ed->message;
    const Command *go_line = command_named("go-line", 7), *kind = command_named("file-kind", 9);
    char route[ROUTE_MAX];
    frame_blank(f, row, 0, f->cols, ST_STATUS);
    if (m->text[0]) {
        if (m->warning)
            frame_blank(f, row, 0, f->cols, ST_WARNING);
        frame_text(f, row, 1, f->cols, m->warning ? ST_WARNING : ST_MESSAGE, m->text);
        return;
    }
    Bytes left = {0}, right = {0};
    if (ed->search && ed->search->seek.active)
        bytes_printf(&left, "Searching, %zu%%; Esc stops it · ",
                     text_len(view_text(v)) ? ed->search->seek.at / (text_len(view_text(v)) / 100 + 1) : 0);
    position_words(v, &left);
    int end = frame_text(f, row, 1, f->cols, ST_STATUS, bytes_str(&left));
    form_words(ed, f, f->cols - end - 4, &right);
    int width = frame_width(f, bytes_str(&right));
    if (go_line)
        add_spot(ed, row, 1, end, command_route(go_line, route));
    if (width) {
        frame_text(f, row, f->cols - width - 1, f->cols, ST_STATUS, bytes_str(&right));
        if (kind)
            add_spot(ed, row, f->cols - width - 1, f->cols, command_route(kind, route));
    }
    bytes_free(&left);
    bytes_free(&right);
}

/* ---- the hint line ---- */

static size_t add_command_hint(const Editor *ed, const char *name, bool always, Hint *out)
{
    const Command *c = command_named(name, strlen(name));
    if (!c || !c->hint)
        return 0;
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    keymap_key_of(&ed->keys, c, 0, key);
    snprintf(out->key, sizeof out->key, "%s", key[0] ? key : command_route(c, route));
    out->label = c->hint;
    out->always = always;
    return 1;
}

typedef struct HintList {
    const char *title; /* in the column at the right */
    const char *commands[8];
} HintList;

/* The most useful first. */
static const HintList plain_hints[] = {
    {"File", {"save", "leave", "open", "save-as"}}, {"Edit", {"undo", "redo", "paste", "cut"}},
    {"Search", {"find", "find-next", "replace"}},   {"Mark", {"mark", "mark-all"}},
    {"Go", {"go-line", "go-top", "go-bottom"}},
};
static const HintList mark_hints[] = {
    {"With the mark", {"cut", "copy", "paste", "delete-right", "indent", "unindent"}},
    {"Mark", {"mark", "mark-line", "mark-swap"}},
    {"File", {"save", "leave", "undo"}},
};

/* The hint line's order: not by groups, but by use. */
static const char *const line_plain[] = {"save", "leave", "find",    "undo",
                                         "mark", "paste", "go-line", "replace"};
static const char *const line_mark[] = {"cut", "copy", "paste", "delete-right", "mark", "undo", "leave"};

static size_t page_hints(const Editor *ed, Hint *out)
{
    size_t n = 0;
    out[n++] = (Hint){"Esc", "Back to the text", true};
    out[n++] = (Hint){"Enter", "Follow a link", true};
    n += add_command_hint(ed, "find", false, out + n);
    n += add_command_hint(ed, "find-next", false, out + n);
    n += add_command_hint(ed, "leave", false, out + n);
    return n;
}

static size_t text_hints(const Editor *ed, Hint *out)
{
    size_t from, to, n = 0;
    if (page_shown(ed))
        return page_hints(ed, out);
    bool marked = view_marked(&ed->view, &from, &to) || ed->view.marking == MARK_KEY;
    const char *const *names = marked ? line_mark : line_plain;
    size_t count = marked ? sizeof line_mark / sizeof *line_mark : sizeof line_plain / sizeof *line_plain;
    for (size_t i = 0; i < count; i++)
        n += add_command_hint(ed, names[i], strcmp(names[i], "leave") == 0, out + n);
    out[n++] = (Hint){"Esc", "Commands", true};
    n += add_command_hint(ed, "help", true, out + n);
    return n;
}

size_t hints_now(Editor *ed, Hint *out)
{
    if (!ed->layer)
        return text_hints(ed, out);
    return ed->layer->kind->hints ? ed->layer->kind->hints(ed, ed->layer, out) : 0;
}

static int hint_width(const Frame *f, const Hint *h)
{
    return frame_width(f, h->key) + 1 + frame_width(f, h->label);
}

enum { HINT_GAP = 3 };

static void paint_hints(Editor *ed, Frame *f, int row)
{
    Hint hints[HINTS_MAX];
    size_t n = hints_now(ed, hints);
    int kept = 0;
    for (size_t i = 0; i < n; i++)
        if (hints[i].always)
            kept += hint_width(f, &hints[i]) + HINT_GAP;
    frame_blank(f, row, 0, f->cols, ST_HINT);
    int col = 1;
    for (size_t i = 0; i < n; i++) {
        const Hint *h = &hints[i];
        int width = hint_width(f, h) + HINT_GAP, from = col;
        if (h->always)
            kept -= width;
        else if (col + width - HINT_GAP + kept >= f->cols)
            continue;
        col = frame_text(f, row, col, f->cols, ST_HINT_KEY, h->key) + 1;
        col = frame_text(f, row, col, f->cols, ST_HINT, h->label);
        add_spot(ed, row, from, col, h->key);
        col += HINT_GAP;
    }
}

enum { SIDE_WIDTH = 30, SIDE_FROM = 90 };

static int paint_side_hint(Editor *ed, Frame *f, int row, int col, const Hint *h)
{
    if (row >= status_row(f))
        return row;
    frame_text(f, row, col + 2, col + 14, ST_HINT_KEY, h->key);
    frame_text(f, row, col + 14, f->cols, ST_HINT, h->label);
    add_spot(ed, row, col, f->cols, h->key);
    return row + 1;
}

/* The column at the right: more hints, in groups. */
static void paint_side(Editor *ed, Frame *f, int col)
{
    Hint hints[HINTS_MAX];
    int row = 1;
    size_t from, to;
    for (int r = 1; r < status_row(f); r++) {
        frame_blank(f, r, col, f->cols, ST_HINT);
        frame_text(f, r, col, col + 1, ST_GUTTER, "│");
    }
    if (ed->layer) {
        size_t n = hints_now(ed, hints);
        for (size_t i = 0; i < n; i++)
            row = paint_side_hint(ed, f, row, col, &hints[i]);
        return;
    }
    bool marked = view_marked(&ed->view, &from, &to) || ed->view.marking == MARK_KEY;
    const HintList *lists = marked ? mark_hints : plain_hints;
    size_t n = marked ? sizeof mark_hints / sizeof *mark_hints : sizeof plain_hints / sizeof *plain_hints;
    Hint always[] = {{"Esc", "Commands", true}, {"Esc Esc", "Plain text", true}};
    for (size_t i = 0; i < 2; i++)
        row = paint_side_hint(ed, f, row, col, &always[i]);
    if (add_command_hint(ed, "help", true, hints))
        row = paint_side_hint(ed, f, row, col, hints);
    for (size_t i = 0; i < n; i++) {
        if (row + 2 >= status_row(f))
            return;
        frame_text(f, ++row, col + 2, f->cols, ST_PROMPT, lists[i].title);
        row++;
        for (size_t k = 0; k < 8 && lists[i].commands[k]; k++)
            if (add_command_hint(ed, lists[i].commands[k], false, hints))
                row = paint_side_hint(ed, f, row, col, hints);
    }
}

/* ---- all ---- */

static void paint_layers(Editor *ed, Layer *l, Frame *f)
{
    if (!l)
        return;
    paint_layers(ed, l->below, f);
    if (l->kind->paint)
        l->kind->paint(ed, l, f);
}

static int layers_height(Editor *ed, const Frame *f)
{
    int most = 0;
    for (Layer *l = ed->layer; l; l = l->below) {
        int h = l->kind->height ? l->kind->height(ed, l, f) : 0;
        most = h > most ? h : most;
    }
    return most;
}

static void paint_bare(Editor *ed, Frame *f)
{
    View *v = &ed->view;
    v->row = v->gutter = 0;
    v->rows = f->rows;
    v->cols = f->cols;
    view_follow(v);
    paint_text(ed, f);
    f->cursor_col = f->cursor_col < f->cols ? f->cursor_col : f->cols - 1;
}

void paint_all(Editor *ed, Frame *f)
{
    View *v = &ed->view;
    ed->n_spots = 0;
    if (ed->bare) {
        paint_bare(ed, f);
        return;
    }
    bool side = ed->settings.hints == HINTS_SIDE && f->cols >= SIDE_FROM && f->rows >= SMALL_ROWS;
    /* On a screen too narrow for the column, and in anything but plain text, the line is shown. */
    bool line = !side && f->rows >= 4 && (ed->settings.hints != HINTS_OFF || ed->layer);
    bool top = f->rows >= 3;
    int status = f->status_row = f->rows - 1 - line;
    int lesson = lesson_height(ed, f), over = layers_height(ed, f);
    v->row = top;
    v->rows = f->rows == 1 ? 0 : status - top - (lesson > over ? lesson : over);
    v->cols = f->cols - (side ? SIDE_WIDTH : 0);
    v->gutter = gutter_width(ed, v);
    view_follow(v);
    for (int r = 0; r < f->rows; r++)
        frame_blank(f, r, 0, f->cols, ST_TEXT);
    if (top)
        paint_top(ed, f);
    paint_text(ed, f);
    if (side)
        paint_side(ed, f, v->cols);
    paint_status(ed, f, status);
    if (line)
        paint_hints(ed, f, f->rows - 1);
    if (lesson)
        lesson_paint(ed, f, status - lesson, lesson);
    paint_layers(ed, ed->layer, f);
    if (f->cursor_row >= f->rows) /* a screen of a few cells has no place for it */
        f->cursor_row = -1;
    f->cursor_col = f->cursor_col < 0 ? 0 : f->cursor_col >= f->cols ? f->cols - 1 : f->cursor_col;
}

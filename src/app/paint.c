/* Laying out the Frame: top line, text, status line, hint line, then the layers. */
#include "editor.h"

#include "mem.h"
#include "move.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { SMALL_ROWS = 16 }; /* below, the menu titles make way for the path */

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
    if (f->rows >= SMALL_ROWS)
        for (size_t i = 0; i < n_titles; i++)
            col = frame_text(f, 0, col, f->cols, ST_BAR, menus[i].title) + 2;
    const char *state = state_words(file);
    int state_width = *state ? frame_width(f, state) + 2 : 0;
    int room = f->cols - 1 - state_width - col - 1;
    Bytes path = {0};
    shorten_path(f, file->path ? file->path : "(no name yet)", room, &path);
    int width = frame_width(f, bytes_str(&path));
    int at = f->rows >= SMALL_ROWS && width < room ? f->cols - 1 - state_width - width : col + (col > 1);
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
    if (!ed->numbers)
        return 0;
    int d = digits(text_newlines(view_text(v)) + 1);
    int width = (d < 3 ? 3 : d) + 2;
    return width * 4 < v->cols ? width : 0;
}

typedef struct TextRow {
    Editor *ed;
    Frame *frame;
    int row;
    size_t mark_from, mark_to; /* equal: no mark */
} TextRow;

static Style style_at(const TextRow *r, size_t at, Style plain)
{
    return at >= r->mark_from && at < r->mark_to ? ST_MARK : plain;
}

/* What stands at the line's end when it is an odd one for this file. */
static const char *odd_line_end(const OpenFile *f, Text t, size_t end)
{
    bool cr = text_byte(t, end) == '\r';
    return cr && f->form.ends != ENDS_CRLF ? "\\r" : NULL;
}

static void paint_line(const TextRow *r, size_t from, size_t end)
{
    const View *v = &r->ed->view;
    Text t = view_text(v);
    Frame *f = r->frame;
    size_t tab = view_tab(v), cells = 0, right = v->left + (size_t)(v->cols - v->gutter);
    size_t p = from;
    Glyph g;
    for (; p < end && cells < right; p += g.bytes) {
        glyph_at(t, p, &g);
        size_t width = glyph_cells(&g, cells, tab);
        Style style = style_at(r, p, g.n_codes ? ST_TEXT : ST_ESCAPE);
        if (cells + width > v->left) {
            int col = v->gutter + (int)(cells > v->left ? cells - v->left : 0);
            if (g.n_codes == 1 && g.codes[0] == '\t')
                frame_blank(f, r->row, col, v->gutter + (int)(cells + width - v->left), style);
            else if (cells >= v->left)
                frame_glyph(f, r->row, col, v->cols, &g, style);
            else if (g.n_codes == 0) /* an escape that begins left of the screen */
                frame_text(f, r->row, col, v->cols, style, g.escape + (v->left - cells));
        }
        cells += width;
    }
    if (p < end || cells < v->left)
        return;
    int col = v->gutter + (int)(cells - v->left);
    const char *odd = odd_line_end(v->file, t, end);
    if (odd && col < v->cols)
        col = frame_text(f, r->row, col, v->cols, ST_ESCAPE, odd);
    if (end >= r->mark_from && end < r->mark_to && col < v->cols)
        frame_blank(f, r->row, col, col + 1, ST_MARK); /* the line end is marked too */
}

static void paint_text(Editor *ed, Frame *f)
{
    View *v = &ed->view;
    Text t = view_text(v);
    TextRow r = {.ed = ed, .frame = f};
    view_marked(v, &r.mark_from, &r.mark_to);
    size_t top = text_line_of(t, v->top.at), last = view_lines(v) - 1;
    for (int i = 0; i < v->rows; i++) {
        size_t line = top + (size_t)i;
        r.row = v->row + i;
        frame_blank(f, r.row, 0, f->cols, ST_TEXT);
        if (line > last)
            continue;
        size_t start = text_line_start(t, line);
        if (v->gutter) {
            char number[32];
            snprintf(number, sizeof number, "%*zu", v->gutter - 2, line + 1);
            frame_text(f, r.row, 0, v->gutter, ST_GUTTER, number);
        }
        paint_line(&r, start, move_line_end(t, start));
    }
    size_t cells = cells_before(t, v->cursor.at, view_tab(v));
    f->cursor_row = v->row + (int)(text_line_of(t, v->cursor.at) - top);
    f->cursor_col = v->gutter + (int)(cells - v->left);
}

/* ---- the status line ---- */

static void position_words(const View *v, Bytes *out)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), lines = view_lines(v), from, to;
    bytes_printf(out, "Line %zu of %zu · Column %zu · %zu%%", line + 1, lines, chars_before(t, v->cursor.at) + 1,
                 (size_t)((double)(line + 1) * 100 / (double)lines));
    if (view_marked(v, &from, &to)) {
        size_t chars = 0;
        for (size_t p = from; p < to && chars < 100000; chars++)
            p = move_right(t, p);
        size_t marked = text_line_of(t, to) - text_line_of(t, from) + 1;
        bytes_printf(out, " · marked %zu line%s, %zu%s character%s", marked, marked == 1 ? "" : "s", chars,
                     chars == 100000 ? "+" : "", chars == 1 ? "" : "s");
    }
}

static void form_words(const Editor *ed, const OpenFile *f, Bytes *out)
{
    if (ed->overtype)
        bytes_add_str(out, "overtype · ");
    bytes_printf(out, "%s · ", f->kind->name);
    if (f->form.tabs)
        bytes_printf(out, "tabs %u", f->form.indent);
    else
        bytes_printf(out, "spaces %u", f->form.indent);
    bytes_printf(out, " · %s · %s", f->form.utf8 ? "utf-8" : "bytes", form_ends_name(&f->form));
}

static void paint_status(Editor *ed, Frame *f, int row)
{
    const View *v = &ed->view;
    const Message *m = &ed->message;
    frame_blank(f, row, 0, f->cols, ST_STATUS);
    if (m->text[0]) {
        if (m->warning)
            frame_blank(f, row, 0, f->cols, ST_WARNING);
        frame_text(f, row, 1, f->cols, m->warning ? ST_WARNING : ST_MESSAGE, m->text);
        return;
    }
    Bytes left = {0}, right = {0};
    position_words(v, &left);
    form_words(ed, v->file, &right);
    int end = frame_text(f, row, 1, f->cols, ST_STATUS, bytes_str(&left));
    int width = frame_width(f, bytes_str(&right));
    if (end + 3 + width < f->cols)
        frame_text(f, row, f->cols - width - 1, f->cols, ST_STATUS, bytes_str(&right));
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

static size_t text_hints(const Editor *ed, Hint *out)
{
    static const char *const plain[] = {"save", "leave", "undo", "redo"};
    size_t n = 0;
    for (size_t i = 0; i < sizeof plain / sizeof *plain; i++)
        n += add_command_hint(ed, plain[i], strcmp(plain[i], "leave") == 0, out + n);
    return n;
}

static int hint_width(const Frame *f, const Hint *h)
{
    return frame_width(f, h->key) + 1 + frame_width(f, h->label);
}

enum { HINT_GAP = 3 };

static void paint_hints(Editor *ed, Frame *f, int row)
{
    Hint hints[HINTS_MAX];
    size_t n;
    if (ed->layer)
        n = ed->layer->kind->hints ? ed->layer->kind->hints(ed, ed->layer, hints) : 0;
    else
        n = text_hints(ed, hints);
    int kept = 0;
    for (size_t i = 0; i < n; i++)
        if (hints[i].always)
            kept += hint_width(f, &hints[i]) + HINT_GAP;
    frame_blank(f, row, 0, f->cols, ST_HINT);
    int col = 1;
    for (size_t i = 0; i < n; i++) {
        const Hint *h = &hints[i];
        int width = hint_width(f, h) + HINT_GAP;
        if (h->always)
            kept -= width;
        else if (col + width - HINT_GAP + kept >= f->cols)
            continue;
        col = frame_text(f, row, col, f->cols, ST_HINT_KEY, h->key) + 1;
        col = frame_text(f, row, col, f->cols, ST_HINT, h->label) + HINT_GAP;
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

void paint_all(Editor *ed, Frame *f)
{
    View *v = &ed->view;
    bool top = f->rows >= 3, hints = f->rows >= 4;
    v->row = top;
    v->rows = f->rows - top - (f->rows >= 2) - hints;
    v->cols = f->cols;
    v->gutter = gutter_width(ed, v);
    view_follow(v);
    if (top)
        paint_top(ed, f);
    paint_text(ed, f);
    if (f->rows >= 2)
        paint_status(ed, f, v->row + v->rows);
    if (hints)
        paint_hints(ed, f, f->rows - 1);
    paint_layers(ed, ed->layer, f);
}

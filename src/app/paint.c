/* Laying out the Frame: top line, text, status line, hint line, then the layers. */
#include "app/paint.h"

#include "app/lesson.h"
#include "app/menu.h"
#include "app/pages.h"
#include "app/shown.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { SMALL_ROWS = 16 /* below, the menu titles make way for the path */ };

int status_row(const Frame *f)
{
    return f->status_row;
}

void add_spot(Editor *ed, int row, int from, int to, const char *keys)
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

const char *state_words(const OpenFile *f)
{
    if (f->shown->page)
        return "Esc goes back";
    if (f->incomplete)
        return "incomplete";
    if (f->look_only)
        return "look only";
    if (file_changed(f))
        return f->disk.exists ? "changed" : "new, changed";
    return f->disk.exists ? "" : "new";
}

static void paint_top(Editor *ed, Frame *f)
{
    const OpenFile *file = ed->view->file;
    frame_blank(f, 0, 0, f->cols, ST_BAR);
    int col = 1;
    if (f->rows >= SMALL_ROWS && f->cols >= 70)
        col = menu_paint_titles(ed, f, col, 0, false);
    const char *state = state_words(file);
    int state_width = *state ? frame_width(f, state) + 2 : 0;
    int room = f->cols - 1 - state_width - col - 1;
    Bytes path = {0};
    if (file->shown->page)
        bytes_printf(&path, "Help: %s", page_name(file->shown->page));
    else
        shorten_path(f, file->path ? file->path : "(no name yet)", room, &path);
    int width = frame_width(f, bytes_str(&path));
    int at = col > 1 && width < room ? f->cols - 1 - state_width - width : col + (col > 1);
    int end = frame_text(f, 0, at, f->cols - state_width, ST_BAR, bytes_str(&path));
    frame_text(f, 0, end + 2, f->cols, ST_STATE, state);
    bytes_free(&path);
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
    bool marked = view_marked(ed->view, &from, &to) || ed->view->marking == MARK_KEY;
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
    bool marked = view_marked(ed->view, &from, &to) || ed->view->marking == MARK_KEY;
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

static void place_view(const Editor *ed, Pane *p)
{
    View *v = &p->view;
    v->row = p->row;
    v->col = p->col;
    v->rows = p->rows - 1;
    v->cols = p->cols;
    v->gutter = gutter_width(ed, v);
    view_follow(v);
}

static void paint_bare(Editor *ed, Frame *f)
{
    View *v = ed->view;
    v->row = v->col = v->gutter = 0;
    v->rows = f->rows;
    v->cols = f->cols;
    view_follow(v);
    paint_text(ed, f, v);
    f->cursor_col = f->cursor_col < f->cols ? f->cursor_col : f->cols - 1;
}

/* The border at the left of a pane, where another one stands beside it. */
static void paint_border(Frame *f, const Pane *p)
{
    for (int r = p->row; p->col > 0 && r < p->row + p->rows; r++)
        frame_text(f, r, p->col - 1, p->col, ST_GUTTER, "│");
}

static void paint_panes(Editor *ed, Frame *f)
{
    for (Pane *p = panes_first(ed); p; p = panes_after(p)) {
        if (p->rows == 0)
            continue;
        place_view(ed, p);
        paint_text(ed, f, &p->view);
        if (panes_many(ed)) {
            paint_border(f, p);
            paint_pane_status(ed, f, p);
        }
    }
}

void paint_all(Editor *ed, Frame *f)
{
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
    int height = f->rows == 1 ? 1 : status + 1 - top - (lesson > over ? lesson : over);
    int width = f->cols - (side ? SIDE_WIDTH : 0);
    panes_place(ed, top, 0, height, width);
    for (int r = height + (int)top; r < f->rows; r++) /* the panes paint all of theirs */
        frame_blank(f, r, 0, f->cols, ST_TEXT);
    if (f->rows < 3)
        frame_blank(f, 0, 0, f->cols, ST_TEXT);
    if (top)
        paint_top(ed, f);
    paint_panes(ed, f);
    if (side)
        paint_side(ed, f, width);
    if (!panes_many(ed) || lesson || over || ed->message.text[0])
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

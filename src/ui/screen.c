#include "ui/screen.h"

#include "session/keeper.h"
#include "session/plan.h"
#include "ui/command.h"
#include "ui/hints.h"
#include "ui/menu.h"
#include "ui/status_line.h"
#include "ui/text_rows.h"
#include "view/scroll.h"

#include <string.h>

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

/* Which of several files it is, and its state in words. */
static void state_words(const Editor *ed, const View *v, Bytes *out)
{
    const Session *s = ed->session;
    const char *state = status_line_state(v);
    size_t i = 0;
    while (i < s->n_files && s->files[i] != v->file)
        i++;
    if (s->n_files > 1 && i < s->n_files)
        bytes_printf(out, "%zu of %zu%s", i + 1, s->n_files, *state ? "  " : "");
    bytes_add_str(out, state);
    if (keeper_in_trouble(s) && openfile_changed(v->file)) /* as long as that is so */
        bytes_printf(out, "%snot kept", out->len ? ", " : "");
    if (plan_is_cut_off(s, v->file))
        bytes_printf(out, "%sout of reach", out->len ? ", " : "");
    if (ed->recording)
        bytes_printf(out, "%srecording", out->len ? "  " : "");
}

static void paint_top(Editor *ed, Frame *f)
{
    const View *v = ed->panes.view;
    frame_blank(f, 0, 0, f->cols, ST_BAR);
    int col = 1;
    if (f->rows >= SCREEN_SMALL && f->cols >= 70)
        col = menu_paint_titles(&ed->config.registry, f, col, 0, false);
    Bytes state = {0};
    state_words(ed, v, &state);
    int state_width = state.len ? frame_width(f, bytes_str(&state)) + 2 : 0;
    int room = f->cols - 1 - state_width - col - 1;
    Bytes path = {0}, copy = {0};
    const char *name = v->looks.title ? v->looks.title : v->file->path ? v->file->title : "(no name yet)";
    if (!v->looks.title && v->file->original) { /* what it stands for says more than where the copy lies */
        bytes_printf(&copy, "%s, %s", openfile_known_path(v->file), v->file->caller);
        name = frame_width(f, copy.at) <= room ? copy.at : openfile_known_path(v->file);
    }
    const char *base = strrchr(name, '/');
    if (room < frame_width(f, base ? base : name) + 4) { /* the name says more than the count */
        bytes_clear(&state);
        bytes_add_str(&state, ed->recording ? "recording" : status_line_state(v));
        state_width = state.len ? frame_width(f, bytes_str(&state)) + 2 : 0;
        room = f->cols - 1 - state_width - col - 1;
    }
    shorten_path(f, name, room, &path);
    int width = frame_width(f, bytes_str(&path));
    int at = col > 1 && width < room ? f->cols - 1 - state_width - width : col + (col > 1);
    int end = frame_text(f, 0, at, f->cols - state_width, ST_BAR, bytes_str(&path));
    frame_text(f, 0, end + 2, f->cols, ST_STATE, bytes_str(&state));
    bytes_free(&state);
    bytes_free(&path);
    bytes_free(&copy);
}

/* ---- all ---- */

/* From the lowest up; what one that has a text of its own hides is not painted. */
static void paint_layers(Editor *ed, Layer *l, Frame *f)
{
    if (!l)
        return;
    if (!l->kind->has_text)
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
        if (l->kind->has_text)
            break;
    }
    return most;
}

/* What lies over the file is laid out for the size that the panes have now. */
static void place_text(Editor *ed)
{
    Layer *l = ed->layer;
    while (l && !l->kind->has_text)
        l = l->below;
    if (l && l->kind->place)
        l->kind->place(ed, l);
}

static void place_view(const Editor *ed, const Pane *p, View *v)
{
    v->row = p->row;
    v->col = p->col;
    v->rows = p->rows - 1;
    v->cols = p->cols;
    v->gutter = text_rows_gutter(ed, v);
    scroll_to_cursor(v);
}

static void paint_bare(Editor *ed, Frame *f)
{
    View *v = ed->panes.view;
    v->row = v->col = v->gutter = 0;
    v->rows = f->rows;
    v->cols = f->cols;
    scroll_to_cursor(v);
    text_rows_paint(ed, f, v);
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
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p)) {
        View *v = panes_shown(p);
        if (p->rows == 0)
            continue;
        place_view(ed, p, v);
        text_rows_paint(ed, f, v);
        if (panes_many(&ed->panes)) {
            paint_border(f, p);
            status_line_paint_pane(ed, f, p);
        }
    }
}

enum { SIDE_FROM = 90 /* columns */ };

bool screen_has_side(const Frame *f)
{
    return f->cols >= SIDE_FROM && f->rows >= SCREEN_SMALL;
}

void screen_paint(Editor *ed, Frame *f)
{
    ed->spots.n = 0;
    layers_settle(ed);
    f->cursor_row = -1; /* no pane may be large enough to show it */
    if (ed->bare) {
        paint_bare(ed, f);
        return;
    }
    int hints = ed->config.settings.hints;
    bool side = hints == HINTS_SIDE && screen_has_side(f);
    /* On a screen too narrow for the column, and in anything but plain text, the line is shown. */
    bool line = !side && f->rows >= 4 && (hints != HINTS_OFF || ed->layer);
    bool top = f->rows >= 3, many = panes_many(&ed->panes);
    int said = status_line_rows(ed, f), foot = line ? hints_rows(ed, f) : 0;
    int status = f->status_row = f->rows - said - foot;
    int strip = ed->strip ? ed->strip->height(ed, f) : 0, over = layers_height(ed, f);
    int height = f->rows == 1 ? 1 : status + 1 - top - (strip > over ? strip : over);
    int width = f->cols - (side ? HINTS_SIDE_WIDTH : 0);
    panes_place(&ed->panes, top, 0, height, width);
    place_text(ed);
    for (int r = height + (int)top; r < f->rows; r++) /* the panes paint all of theirs */
        frame_blank(f, r, 0, f->cols, ST_TEXT);
    if (f->rows < 3)
        frame_blank(f, 0, 0, f->cols, ST_TEXT);
    if (top)
        paint_top(ed, f);
    paint_panes(ed, f);
    if (side) {
        hints_paint_side(ed, f, width);
        frame_blank(f, status, width, f->cols, ST_TEXT); /* each pane's own status line is as wide as it */
    }
    if (!many || strip || over || ed->notices.text[0])
        status_line_paint(ed, f, status);
    if (line)
        hints_paint_line(ed, f, f->rows - foot, foot);
    if (strip)
        ed->strip->paint(ed, f, status - strip, strip);
    paint_layers(ed, ed->layer, f);
    if (f->cursor_row >= f->rows) /* a screen of a few cells has no place for it */
        f->cursor_row = -1;
    f->cursor_col = f->cursor_col < 0 ? 0 : f->cursor_col >= f->cols ? f->cols - 1 : f->cursor_col;
}

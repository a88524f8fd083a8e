#include "app/pointer.h"

#include "app/keys.h"
#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/menu.h"
#include "ui/screen.h"
#include "view/scroll.h"

#include <stdio.h>
#include <stdlib.h>

enum { WHEEL_LINES = 3, DOUBLE_CLICK = 400 /* ms */ };

typedef struct Pointer {
    uint64_t last_click;
    int clicks, click_row, click_col;
    size_t click_from, click_to; /* what a double or triple click marked */
    bool dragging;
    bool told;    /* what the other buttons are for */
    Pane *border; /* the cut whose border is moved, or NULL */
} Pointer;

void pointer_begin(Editor *ed)
{
    ed->pointer = mem_get(sizeof *ed->pointer);
}

void pointer_free(Editor *ed)
{
    free(ed->pointer);
}

void pointer_release(Editor *ed)
{
    ed->pointer->clicks = 0;
    ed->pointer->dragging = false;
    ed->pointer->border = NULL;
}

static bool press_spot(Editor *ed, const Mouse *m)
{
    char keys[KEY_NAME_MAX];
    const char *found = spots_find(&ed->spots, m->row, m->col);
    if (!found)
        return false;
    snprintf(keys, sizeof keys, "%s", found); /* what they do may paint again */
    keys_press(ed, keys);
    return true;
}

/* Dragging after a double or triple click marks whole words or lines. */
static void drag_units(Editor *ed, size_t at)
{
    Pointer *p = ed->pointer;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from = at, to = at;
    if (p->clicks == 2) {
        to = move_word_right(t, move_left(t, at));
        from = move_word_left(t, to);
        if (at < from || at > to)
            from = to = at;
    } else {
        from = move_line_start(t, at);
        to = text_line_start(t, text_line_of(t, at) + 1);
    }
    bool back = from < p->click_from;
    v->mark.at = back ? p->click_to : p->click_from;
    v->marking = MARK_KEY;
    view_go(v, back ? from : to);
}

static void drag(Editor *ed, const Mouse *m)
{
    Pointer *p = ed->pointer;
    View *v = ed->panes.view;
    size_t at = scroll_place_at(v, m->row, m->col);
    if (p->border) {
        panes_move_border(p->border, m->row, m->col);
    } else if (p->clicks > 1) {
        drag_units(ed, at);
    } else if (p->dragging) {
        if (v->marking == MARK_NONE && at != v->cursor.at) {
            v->mark.at = v->cursor.at;
            v->marking = MARK_SHIFT;
        }
        view_go(v, at);
    }
}

static void click_text(Editor *ed, const Mouse *m)
{
    Pointer *p = ed->pointer;
    View *v = ed->panes.view;
    size_t there = scroll_place_at(v, m->row, m->col);
    scroll_back(v);
    bool again =
        ed->clock.now - p->last_click < DOUBLE_CLICK && m->row == p->click_row && m->col == p->click_col;
    p->clicks = again ? p->clicks % 3 + 1 : 1;
    p->last_click = ed->clock.now;
    p->click_row = m->row;
    p->click_col = m->col;
    doc_seal(v->file->doc);
    view_drop_mark(v);
    view_go(v, there);
    p->dragging = p->clicks == 1;
    if (p->clicks > 1)
        command_run(ed, command_named(ed, p->clicks == 2 ? "mark-word" : "mark-line"), 1, false, "");
    if (!view_marked(v, &p->click_from, &p->click_to))
        p->click_from = p->click_to = v->cursor.at;
    if (ed->layer && ed->layer->kind->mouse) /* it shows this text */
        ed->layer->kind->mouse(ed, ed->layer, m);
}

static void text_mouse(Editor *ed, const Mouse *m)
{
    Panes *all = &ed->panes;
    Pane *p = panes_at(all, m->row, m->col);
    if (m->action == MOUSE_WHEEL_UP || m->action == MOUSE_WHEEL_DOWN) {
        scroll_lines(p ? panes_shown(p) : all->view,
                     m->action == MOUSE_WHEEL_UP ? -WHEEL_LINES : WHEEL_LINES);
        return;
    }
    if (m->action == MOUSE_DRAG && m->button == 1) {
        drag(ed, m);
        return;
    }
    ed->pointer->dragging = false;
    ed->pointer->border = NULL;
    if (m->action == MOUSE_PRESS && m->button != 1 && !ed->pointer->told) {
        ed->pointer->told = true;
        say(ed, "With Shift held, the terminal's own menu and paste work; %s gives it the mouse for good",
            KEY_FOR(ed, "mouse"));
    }
    if (m->action != MOUSE_PRESS || m->button != 1)
        return; /* the count of clicks lives on until the next press */
    size_t n_titles = ed->config.registry.n_titles;
    size_t title = m->row == 0 ? menu_at_column(ed, m->col) : n_titles;
    if (p && m->row < p->row + p->rows - 1) {
        if (panes_shown(p) != all->view) /* help is shown in the pane it was called from */
            layers_uncover(ed);
        panes_go(all, p);
        click_text(ed, m);
    } else if (title < n_titles && ed->frame.rows >= SCREEN_SMALL) {
        menu_drop(ed, title);
    } else if ((ed->pointer->border = panes_border_at(all, m->row, m->col)) != NULL) {
        ed->pointer->clicks = 0;
    } else if (!press_spot(ed, m) && m->row == 0) {
        menu_open(ed, false);
    }
}

void pointer_handle(Editor *ed, const Mouse *m)
{
    if (m->action == MOUSE_PRESS)
        layers_pass(ed);
    Layer *l = ed->layer;
    bool press = m->action == MOUSE_PRESS && m->button == 1;
    if (!l || l->kind->has_text)
        text_mouse(ed, m);
    else if (press && m->row > ed->frame.status_row && press_spot(ed, m))
        return;
    else if (l->kind->mouse)
        l->kind->mouse(ed, l, m);
}

#include "app/editor.h"

#include "app/asking.h"
#include "app/lesson.h"
#include "app/menu.h"
#include "app/pages.h"
#include "app/panes.h"
#include "app/run.h"
#include "app/search.h"
#include "app/shown.h"
#include "base/mem.h"
#include "edit/move.h"
#include "session/keeper.h"
#include "session/writing.h"

#include <poll.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    MESSAGE_MIN = 2000, /* ms that a message stays at least */
    DOUBLE_ESC = 1000,
    DOUBLE_CLICK = 400,
};

Editor *editor_new(void)
{
    Editor *ed = mem_get(sizeof *ed);
    SessionEvents events = shown_events(ed);
    ed->session = session_new(&ed->message, &events);
    panes_begin(ed);
    settings_reset(ed);
    return ed;
}

bool editor_end(Editor *ed, Err *e)
{
    ed->ending = true;
    while (ed->layer)
        layer_pop(ed);
    page_leave(ed);
    while (ed->layer)
        layer_pop(ed);
    edit_paste_ends(ed);
    return session_end(ed->session, e);
}

void editor_free(Editor *ed)
{
    Err ignored;
    editor_end(ed, &ignored);
    panes_free(ed);
    session_free(ed->session);
    free(ed->places);
    for (size_t i = 0; i < ed->n_routes; i++)
        free(ed->routes[i].args);
    free(ed->routes);
    for (size_t i = 0; i < SETTINGS_COUNT; i++)
        free(ed->setting_sources[i]);
    shelf_free(&ed->shelf);
    search_free(ed);
    clip_forget(ed);
    bytes_free(&ed->problems);
    lesson_free(ed);
    keymap_free(&ed->keys);
    frame_free(&ed->frame);
    free(ed);
}

enum { SIDE_MOST = 2000 /* rows or columns; nobody has such a screen, and numbers stay small */ };

void editor_resize(Editor *ed, int rows, int cols)
{
    rows = rows > SIDE_MOST ? SIDE_MOST : rows;
    cols = cols > SIDE_MOST ? SIDE_MOST : cols;
    frame_resize(&ed->frame, rows > 1 ? rows : 1, cols > 1 ? cols : 1);
}

const Frame *editor_paint(Editor *ed)
{
    paint_all(ed, &ed->frame);
    ed->painted = ed->session->reading = true;
    ed->seen = ed->session->unsettled;
    return &ed->frame;
}

/* ---- messages ---- */

void say(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(&ed->message, false, format, args);
    va_end(args);
}

void warn(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(&ed->message, true, format, args);
    va_end(args);
}

/* A message goes with the next key, but nobody shall miss it by typing on. */
static void age_message(Editor *ed)
{
    Notices *m = &ed->message;
    if (!m->text[0])
        return;
    if (ed->now - m->since >= MESSAGE_MIN)
        m->text[0] = 0;
    else if (!m->clear_at)
        m->clear_at = m->since + MESSAGE_MIN;
}

/* What a slow disk knows of files just opened is asked once they are on the screen. */
static void settle(Editor *ed)
{
    session_settle(ed->session);
    ed->seen = false;
}

void editor_tick(Editor *ed, uint64_t now)
{
    ed->now = ed->message.now = now;
    if (ed->message.clear_at && now >= ed->message.clear_at) {
        ed->message.text[0] = 0;
        ed->message.clear_at = 0;
    }
    run_go_on(ed);
    if (ed->seen)
        settle(ed);
    ed->session->held = asking_held(ed);
    session_poll(ed->session);
    asking_look(ed);
    if (ed->bars_due && now >= ed->bars_due)
        ed->bars_due = 0;
    if (!search_seek_on(ed))
        search_count_on(ed);
    ed->looking_ahead = ed->painted && !ed->view->file->loader && view_look_ahead(ed->view);
}

/* The smaller of two waits, of which -1 is none. */
static int sooner(int a, int b)
{
    return a < 0 ? b : b < 0 || a < b ? a : b;
}

int editor_wait(const Editor *ed, uint64_t now)
{
    uint64_t due = ed->message.clear_at;
    if (ed->bars_due && (!due || ed->bars_due < due))
        due = ed->bars_due;
    if (ed->seen || ed->looking_ahead ||
        (ed->search &&
         (ed->search->counting || ed->search->gap_at < ed->search->gap_end || ed->search->seek.active)))
        return 0;
    int wait = !due ? -1 : due > now ? (int)(due - now) : 0;
    return sooner(wait, sooner(run_wait(ed), session_wait(ed->session)));
}

/* ---- keys ---- */

static void run_binding(Editor *ed, const Binding *b)
{
    const Command *c = b->command;
    View *v = ed->view;
    if ((c->flags & CMD_MOVES) && v->marking == MARK_SHIFT)
        view_drop_mark(v);
    command_run(ed, c, 1, false, b->args ? b->args : "");
}

/* Shift with a key that moves marks what is moved over. */
static bool shift_marks(Editor *ed, Key k)
{
    Key plain = k;
    plain.mods &= ~(unsigned)MOD_SHIFT;
    const Binding *b = k.mods & MOD_SHIFT ? keymap_find(&ed->keys, plain) : NULL;
    if (!b || !b->command || !(b->command->flags & CMD_MOVES))
        return false;
    View *v = ed->view;
    if (v->marking == MARK_NONE) {
        v->mark.at = v->cursor.at;
        v->marking = MARK_SHIFT;
    }
    command_run(ed, b->command, 1, false, b->args ? b->args : "");
    return true;
}

/* The leaving reflex of Ctrl+D: told twice, then people know. */
static void name_the_way_out(Editor *ed, Key k)
{
    size_t from, to;
    bool reflex = k.code == K_CHAR && k.mods == MOD_CTRL && k.ch == 'd';
    if (reflex && !view_marked(ed->view, &from, &to) && ed->lost_told < 2 && !ed->settings.layout) {
        ed->lost_told++;
        say(ed, "Deleted a character; Ctrl+Z brings it back. Leaving is Ctrl+Q.");
    }
}

static void text_key(Editor *ed, Key k)
{
    const Binding *b = keymap_find(&ed->keys, k);
    ed->view->file->shown->wanted = 0;
    if (b && b->command) {
        unsigned long version = doc_version(ed->view->file->doc);
        run_binding(ed, b);
        if (ed->view->file && version != doc_version(ed->view->file->doc))
            name_the_way_out(ed, k);
        return;
    }
    if (!b && shift_marks(ed, k))
        return;
    if (key_types(k)) {
        char bytes[4] = {(char)k.ch};
        size_t n = k.code == K_CHAR ? utf8_encode(k.ch, bytes) : 1;
        edit_type(ed, bytes, n);
        ed->before = NULL;
        return;
    }
    if (k.code == K_CHAR && (k.mods & ~(unsigned)MOD_SHIFT) == MOD_ALT) {
        menu_letter(ed, k.ch);
        return;
    }
    if (k.code == K_ESC && k.mods == 0) {
        if (ed->search && ed->search->seek.active) {
            ed->search->seek.active = false;
            say(ed, "The search was stopped");
        } else if (!session_stop_reading(ed->session, ed->view->file) && !page_leave(ed)) {
            menu_open(ed, true);
        }
        return;
    }
    char name[KEY_NAME_MAX];
    say(ed, "%s does nothing here", key_written(k, name));
}

void editor_plain_text(Editor *ed)
{
    layer_cancel_all(ed);
    if (page_leave(ed)) /* and what waited below it */
        layer_cancel_all(ed);
    plans_ask_no_more(ed->session);
    view_drop_mark(ed->view);
}

/* Rule of the double Esc: the second one within a second closes everything, further ones
 * in the second after that are eaten. True when the key is dealt with. */
static bool double_esc(Editor *ed)
{
    if (ed->double_esc && ed->now - ed->double_esc < DOUBLE_ESC)
        return true;
    bool second = ed->last_esc && ed->now - ed->last_esc < DOUBLE_ESC;
    ed->last_esc = second ? 0 : ed->now;
    ed->double_esc = second ? ed->now : 0;
    if (second)
        editor_plain_text(ed);
    return second;
}

/* Over a slow line, or while the editor is busy, Esc and the chord typed after it come as one. Alt with a
 * letter is Esc and the letter anyhow. */
static bool esc_and_chord(const Editor *ed, Key k)
{
    unsigned both = MOD_CTRL | MOD_ALT;
    return k.code == K_CHAR && (k.mods & both) == both && !keymap_find(&ed->keys, k);
}

static void layer_or_text_key(Editor *ed, const Input *in)
{
    Key k = in->key;
    Layer *l = ed->layer;
    bool esc = k.code == K_ESC && k.mods == 0;
    if (l && l->kind->takes_esc && l->kind->key(ed, l, in))
        return;
    if (esc_and_chord(ed, k)) {
        Input parts[2] = {{.kind = INPUT_KEY, .key = {.code = K_ESC}}, {.kind = INPUT_KEY, .key = k}};
        parts[1].key.mods &= ~(unsigned)MOD_ALT;
        layer_or_text_key(ed, &parts[0]);
        layer_or_text_key(ed, &parts[1]);
        return;
    }
    if (esc && double_esc(ed))
        return;
    if (!esc)
        ed->last_esc = ed->double_esc = 0;
    if (!l) {
        text_key(ed, k);
        return;
    }
    if (l->kind->key && !esc && l->kind->key(ed, l, in))
        return;
    if (esc || (k.mods & MOD_ALT)) {
        layer_cancel(ed);
        return;
    }
    const Binding *b = keymap_find(&ed->keys, k);
    bool help = b && b->command == command_named("help", 4); /* comes back to what lies here now */
    if (help || (b && (b->command == command_named("leave", 5) || b->command == command_named("menus", 5)))) {
        if (!help)
            layer_cancel_all(ed);
        run_binding(ed, b);
        return;
    }
    char name[KEY_NAME_MAX];
    say(ed, "%s does nothing here; Esc goes back", key_written(k, name));
}

void editor_press(Editor *ed, const char *keys)
{
    while (*keys) {
        size_t n = strcspn(keys, " ");
        Input in = {.kind = INPUT_KEY};
        ed->last_esc = ed->double_esc = 0;
        if (!key_parse(keys, n, &in.key))
            return;
        settle(ed);
        layer_or_text_key(ed, &in);
        keys += n + strspn(keys + n, " ");
    }
}

/* ---- the mouse ---- */

enum { WHEEL_LINES = 3 };

static bool press_spot(Editor *ed, const Mouse *m)
{
    for (size_t i = 0; i < ed->n_spots; i++) {
        Spot s = ed->spots[i];
        if (s.row == m->row && m->col >= s.from && m->col < s.to) {
            editor_press(ed, s.keys);
            return true;
        }
    }
    return false;
}

/* Dragging after a double or triple click marks whole words or lines. */
static void drag_units(Editor *ed, size_t at)
{
    View *v = ed->view;
    Text t = view_text(v);
    size_t from = at, to = at;
    if (ed->clicks == 2) {
        to = move_word_right(t, move_left(t, at));
        from = move_word_left(t, to);
        if (at < from || at > to)
            from = to = at;
    } else {
        from = move_line_start(t, at);
        to = text_line_start(t, text_line_of(t, at) + 1);
    }
    bool back = from < ed->click_from;
    v->mark.at = back ? ed->click_to : ed->click_from;
    v->marking = MARK_KEY;
    view_go(v, back ? from : to);
}

static void drag(Editor *ed, const Mouse *m)
{
    View *v = ed->view;
    size_t at = view_place_at(v, m->row, m->col);
    if (ed->border) {
        panes_move_border(ed->border, m->row, m->col);
    } else if (ed->clicks > 1) {
        drag_units(ed, at);
    } else if (ed->dragging) {
        if (v->marking == MARK_NONE && at != v->cursor.at) {
            v->mark.at = v->cursor.at;
            v->marking = MARK_SHIFT;
        }
        view_go(v, at);
    }
}

static void click_text(Editor *ed, const Mouse *m)
{
    View *v = ed->view;
    bool again =
        ed->now - ed->last_click < DOUBLE_CLICK && m->row == ed->click_row && m->col == ed->click_col;
    ed->clicks = again ? ed->clicks % 3 + 1 : 1;
    ed->last_click = ed->now;
    ed->click_row = m->row;
    ed->click_col = m->col;
    doc_seal(v->file->doc);
    view_drop_mark(v);
    view_go(v, view_place_at(v, m->row, m->col));
    ed->dragging = ed->clicks == 1;
    if (ed->clicks > 1)
        command_run(ed, command_named(ed->clicks == 2 ? "mark-word" : "mark-line", 9), 1, false, "");
    if (!view_marked(v, &ed->click_from, &ed->click_to))
        ed->click_from = ed->click_to = v->cursor.at;
    page_clicked(ed);
}

static void text_mouse(Editor *ed, const Mouse *m)
{
    Pane *p = panes_at(ed, m->row, m->col);
    if (m->action == MOUSE_WHEEL_UP || m->action == MOUSE_WHEEL_DOWN) {
        view_scroll(p ? &p->view : ed->view, m->action == MOUSE_WHEEL_UP ? -WHEEL_LINES : WHEEL_LINES);
        return;
    }
    if (m->action == MOUSE_DRAG && m->button == 1) {
        drag(ed, m);
        return;
    }
    ed->dragging = false;
    ed->border = NULL;
    if (m->action != MOUSE_PRESS || m->button != 1)
        return; /* the count of clicks lives on until the next press */
    size_t title = m->row == 0 ? menu_at_column(ed, m->col) : n_titles;
    if (p && m->row < p->row + p->rows - 1) {
        panes_go(ed, p);
        click_text(ed, m);
    } else if (title < n_titles && ed->frame.rows >= 16) {
        menu_drop(ed, title);
    } else if ((ed->border = panes_border_at(ed, m->row, m->col)) != NULL) {
        ed->clicks = 0;
    } else if (!press_spot(ed, m) && m->row == 0) {
        menu_open(ed, false);
    }
}

static void mouse(Editor *ed, const Mouse *m)
{
    Layer *l = ed->layer;
    if (!l) {
        text_mouse(ed, m);
        return;
    }
    bool press = m->action == MOUSE_PRESS && m->button == 1;
    if (press && m->row == ed->frame.rows - 1 && press_spot(ed, m))
        return;
    if (l->kind->mouse)
        l->kind->mouse(ed, l, m);
}

size_t editor_fds(const Editor *ed, struct pollfd *out)
{
    size_t n = run_fds(ed, out);
    return n + session_fds(ed->session, out + n, EDITOR_FDS - n);
}

void editor_emergency(const Editor *ed)
{
    session_emergency(ed->session);
}

/* ---- root ---- */

bool editor_root_begin(Editor *ed, RootWish *out)
{
    const Plan *p = plan_for_root(ed->session);
    OpenFile *f = p ? session_file(ed->session, p->file) : NULL;
    if (!p)
        return false;
    *out = (RootWish){.plan = p->number, .only = p->replace};
    if (!f || !writing_bytes(ed->session, f, &out->bytes)) {
        plan_root_done(ed->session, p->number, false, NULL);
        return false;
    }
    out->path = mem_string(p->path ? p->path : f->path);
    out->wish.backup = ed->session->rules.backup;
    return true;
}

void editor_root_end(Editor *ed, RootWish *w, bool ok, const char *why)
{
    plan_root_done(ed->session, w->plan, ok, why);
    text_drop(&w->bytes);
    free(w->path);
    asking_look(ed);
}

/* ---- back from elsewhere ---- */

void editor_returned(Editor *ed)
{
    size_t changed = 0;
    const OpenFile *last = NULL;
    for (size_t i = 0; i < ed->session->n_files; i++)
        if (session_news(ed->session->files[i]) != DISK_SAME) {
            changed++;
            last = ed->session->files[i];
        }
    if (changed == 1)
        warn(ed, "%s has changed on disk. Esc f d shows how, Esc f z reloads it.", file_name(last));
    else if (changed)
        warn(ed, "%s have changed on disk. Esc f d shows how, Esc f z reloads one.", AMOUNT(changed, "file"));
    else
        say(ed, "Here you are again");
}

/* ---- input ---- */

void editor_input(Editor *ed, const Input *in, uint64_t now)
{
    ed->now = ed->message.now = ed->last_key = now;
    if (ed->session->unsettled) { /* what is to be asked about a text is asked before it can be changed */
        settle(ed);
        asking_look(ed);
    }
    if (in->kind != INPUT_PASTE || ed->layer)
        edit_paste_ends(ed);
    if (in->takes_back_esc && menu_fresh_from_esc(ed))
        layer_pop(ed);
    switch (in->kind) {
    case INPUT_KEY:
        age_message(ed);
        layer_or_text_key(ed, in);
        break;
    case INPUT_PASTE:
        age_message(ed);
        if (!ed->layer)
            edit_paste(ed, in->bytes, in->n_bytes, in->paste_goes_on);
        else if (ed->layer->kind->paste)
            ed->layer->kind->paste(ed, ed->layer, in->bytes, in->n_bytes);
        break;
    case INPUT_MOUSE:
        if (in->mouse.action == MOUSE_PRESS)
            age_message(ed);
        mouse(ed, &in->mouse);
        break;
    case INPUT_FOCUS:
        asking_focus(ed);
        break;
    default:
        break;
    }
    if (!ed->leaving)
        lesson_look(ed);
    ed->session->held = asking_held(ed);
    plans_step(ed->session);
    keeper_poll(ed->session);
    asking_look(ed);
}

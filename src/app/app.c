#include "app/app.h"

#include "app/ahead.h"
#include "app/keys.h"
#include "app/pointer.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/asking.h"
#include "commands/edit/clips.h"
#include "commands/edits.h"
#include "commands/file/comparing.h"
#include "commands/file/since_commit.h"
#include "commands/file/trial_save.h"
#include "commands/file/watching.h"
#include "commands/help/lesson.h"
#include "commands/help/manual.h"
#include "commands/mark/many.h"
#include "commands/tools/spelling.h"
#include "commands/view/hiding_lines.h"
#include "commands/help/practice.h"
#include "commands/menus.h"
#include "commands/search/folder_list.h"
#include "commands/search/search.h"
#include "commands/view/follow.h"
#include "commands/tools/growing.h"
#include "commands/tools/playing.h"
#include "commands/tools/problems.h"
#include "commands/tools/recording.h"
#include "hosts/hosts.h"
#include "session/keeper.h"
#include "session/looking.h"
#include "session/plan.h"
#include "session/session_files.h"
#include "session/session_memory.h"
#include "session/session_run.h"
#include "session/writing.h"
#include "ui/command.h"
#include "ui/folders.h"
#include "ui/menu.h"
#include "ui/screen.h"
#include "view/colours.h"
#include "view/places.h"
#include "view/scroll.h"
#include "view/wanted.h"

#include <stdio.h>
#include <stdlib.h>

typedef struct AppState {
    bool painted;       /* the first screen was laid out */
    bool seen;          /* a file that was just opened was laid out: session_settle is due */
    bool greeted;       /* it was looked whether somebody is new here */
    bool ended;         /* app_end was called */
    bool looking_ahead; /* there is more to count of a long line */
    Ahead *ahead;       /* keys that wait for a text, or NULL */
    Task hosts;         /* wakes up for what other hosts answer */
} AppState;

static void serve(Editor *ed, const Input *in);

/* ---- settings ---- */

enum { CHECK_SECONDS = 10 /* that a checker may take; a save waits for it */ };

/* The settings as the session needs them. */
static void set_rules(Session *s, const Settings *set)
{
    SessionRules *r = &s->rules;
    r->keep_recovery = set->keep_recovery;
    r->remember_answers = set->remember_answers;
    r->remember_places = set->remember_places;
    r->list_lately = set->list_lately;
    r->keep_undo = set->keep_undo;
    r->keep_private_undo = set->keep_private_undo;
    r->keep_earlier = set->keep_earlier;
    r->say_in_use = set->say_in_use;
    r->last_newline = (LastNewline)set->last_newline;
    r->check_seconds = set->command_seconds < CHECK_SECONDS ? (unsigned)set->command_seconds : CHECK_SECONDS;
    r->check_before = (CheckBefore)set->check_before_save;
    snprintf(r->check_off, sizeof r->check_off, "%s", set->check_off);
    snprintf(r->check_on_hosts, sizeof r->check_on_hosts, "%s", set->check_on_hosts);
    r->backup = (Backup)set->backup;
    r->backup_keep = (unsigned)set->backup_keep;
    snprintf(r->backup_folder, sizeof r->backup_folder, "%s", set->backup_folder);
    snprintf(r->in_place, sizeof r->in_place, "%s", set->save_in_place);
    snprintf(r->root_program, sizeof r->root_program, "%s", set->root_program);
}

/* What must follow a change of the settings. */
static void settings_changed(void *ctx)
{
    Editor *ed = ctx;
    const Settings *set = &ed->config.settings;
    ed->theme = theme_number((size_t)set->theme);
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        panes_shown(p)->wrap = p->view.wrap = set->wrap && !p->view.aligned;
    showing_set_tab(&ed->panes, (size_t)set->tab_width);
    set_rules(ed->session, set);
    hosts_use(set->ssh_program);
}

/* ---- beginning and end ---- */

static void look_at(void *ctx, OpenFile *f, size_t at)
{
    Editor *ed = ctx;
    editor_show(ed, f);
    view_go(ed->panes.view, at);
}

static void press(Editor *ed, const Input *in);

/* For messages that name how a command is reached. */
static void key_of(const void *ctx, const char *name, size_t n, char out[NOTICE_KEY_MOST])
{
    const Editor *ed = ctx;
    const Command *c = registry_find(&ed->config.registry, name, n);
    char key[COMMAND_KEY_MAX];
    if (c)
        snprintf(out, NOTICE_KEY_MOST, "%s", command_key(ed, c, key));
}

Editor *app_new(void)
{
    Editor *ed = mem_get(sizeof *ed);
    SessionEvents events = {.ctx = ed, .look_at = look_at};
    ed->app = mem_get(sizeof *ed->app);
    ed->session = session_new(&ed->notices);
    session_observe(ed->session, &events);
    panes_begin(&ed->panes);
    showing_begin(&ed->panes, ed->session);
    wanted_begin(&ed->panes);
    places_begin(&ed->panes);
    jumps_begin(&ed->jumps, &ed->panes);
    ed->matches.panes = &ed->panes;
    edit_begin(ed);
    clips_begin(ed);
    growing_begin(ed);
    recording_begin(ed);
    problems_begin(ed);
    playing_begin(ed);
    search_begin(ed);
    folder_list_begin(ed);
    watching_begin(ed);
    hosts_watch(&ed->session->tasks, &ed->app->hosts);
    lesson_observe(ed);
    follow_observe(ed);
    trial_save_begin(ed);
    since_commit_begin(ed);
    comparing_observe(ed);
    pointer_begin(ed);
    ed->press = press;
    ed->notices.key_of = key_of;
    ed->notices.ctx = ed;
    menus_register(&ed->config.registry);
    ed->config.setter = BY_THIS_RUN;
    ed->config.changed = settings_changed;
    ed->config.changed_ctx = ed;
    settings_reset(&ed->config);
    return ed;
}

bool app_end(Editor *ed, Err *e)
{
    ed->panes.ending = true;
    playing_stop(ed);
    manual_free(ed);
    hiding_lines_end(ed);
    many_end(ed);
    spelling_end(ed);
    while (ed->layer)
        layers_pop(ed);
    edit_paste_ends(ed);
    if (!ed->app->ended)
        places_keep(&ed->panes);
    ed->app->ended = true;
    return session_end(ed->session, e);
}

void app_free(Editor *ed)
{
    Err ignored;
    app_end(ed, &ignored);
    search_stop(ed);
    trial_save_free(ed);
    since_commit_free(ed);
    folder_list_free(ed);
    watching_free(ed);
    folders_forget(ed);
    practice_remove(ed->session);
    panes_free(&ed->panes);
    session_free(ed->session);
    jumps_free(&ed->jumps);
    matches_free(&ed->matches);
    shelf_free(&ed->shelf);
    edit_free(ed);
    clips_free(ed);
    growing_free(ed);
    recording_free(ed);
    problems_end(ed);
    playing_free(ed);
    search_free(ed);
    lesson_free(ed);
    pointer_free(ed);
    config_free(&ed->config);
    frame_free(&ed->frame);
    ahead_free(ed->app->ahead);
    free(ed->app);
    free(ed);
}

enum { SIDE_MOST = 2000 /* rows or columns; nobody has such a screen, and numbers stay small */ };

void app_resize(Editor *ed, int rows, int cols)
{
    rows = rows > SIDE_MOST ? SIDE_MOST : rows;
    cols = cols > SIDE_MOST ? SIDE_MOST : cols;
    frame_resize(&ed->frame, rows > 1 ? rows : 1, cols > 1 ? cols : 1);
}

const Frame *app_paint(Editor *ed)
{
    screen_paint(ed, &ed->frame);
    ed->notices.shown = true;
    ed->app->painted = ed->session->reading = true;
    ed->app->seen = ed->session->unsettled;
    return &ed->frame;
}

/* ---- what is due by itself ---- */

enum { PLAY_SLICE = 60 /* ms between paintings while keys are played */ };
enum { MESSAGE_MIN = 2000 /* ms that a message stays at least */ };

/* A message goes with the next key, but not so soon that somebody who types on misses it. */
static void age_message(Editor *ed)
{
    Notices *n = &ed->notices;
    if (!n->text[0])
        return;
    /* What it came from may have taken long, and this key was typed ahead. */
    uint64_t since = n->shown ? n->since : ed->clock.now;
    if (ed->clock.now - since >= MESSAGE_MIN)
        n->text[0] = 0;
    else if (!n->clear_at)
        n->clear_at = since + MESSAGE_MIN;
}

static void remembered(const char *answer, void *ctx)
{
    (void)answer;
    *(bool *)ctx = true;
}

/* Somebody who begins for the very first time, with an empty text, does not know yet what "Ctrl+S" means. */
static void greet(Editor *ed)
{
    Store *store = ed->panes.view->file->path || ed->notices.text[0] ? NULL : session_store(ed->session);
    bool known = false;
    ed->app->greeted = true;
    if (!store)
        return;
    store_each(store, "greeted", 1, remembered, &known);
    if (known)
        return;
    store_add(store, "greeted", "yes");
    say(ed, "Just type. %s means: hold Ctrl down and press the letter. %s is help", KEY_FOR(ed, "save"),
        KEY_FOR(ed, "help"));
}

/* What a slow disk knows of files just opened is asked once they are on the screen. */
static void settle(Editor *ed)
{
    session_show_use(ed->session);
    for (size_t i = 0; ed->session->unsettled && i < ed->session->n_files; i++)
        if (ed->session->files[i]->unsettled)
            places_recall(&ed->panes, ed->session->files[i]);
    session_settle(ed->session);
    ed->app->seen = false;
}

/* A pane whose colours were guessed, or NULL. */
static const View *guessed(const Editor *ed)
{
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        if (!panes_shown(p)->looks.at && colours_unsure(panes_shown(p)->file, view_end(panes_shown(p))))
            return panes_shown(p);
    return NULL;
}

void app_tick(Editor *ed, uint64_t now)
{
    ed->clock.now = ed->notices.now = now;
    if (ed->notices.clear_at && now >= ed->notices.clear_at)
        notices_clear(&ed->notices);
    layers_end_brief(ed);
    if (ed->app->painted && !ed->app->greeted)
        greet(ed);
    if (ed->app->seen)
        settle(ed);
    ed->session->held = ed->layer != NULL;
    playing_go_on(ed, PLAY_SLICE);
    session_poll(ed->session);
    ahead_release(ed->app->ahead, ed, serve);
    asking_look(ed);
    if (ed->clock.marks_due && now >= ed->clock.marks_due)
        ed->clock.marks_due = 0;
    if (!search_under_way(ed))
        matches_count_step(&ed->matches);
    ed->app->looking_ahead =
        ed->app->painted && !ed->panes.view->file->reading && scroll_look_ahead(ed->panes.view);
    const View *v = ed->app->looking_ahead ? NULL : guessed(ed);
    if (v)
        colours_step(v->file, view_end(v));
}

int app_wait(const Editor *ed, uint64_t now)
{
    uint64_t due = ed->notices.clear_at;
    if (ed->clock.marks_due && (!due || ed->clock.marks_due < due))
        due = ed->clock.marks_due;
    bool greets = ed->app->painted && !ed->app->greeted && !ed->session->rules.plain;
    if (greets || ed->app->seen || ed->app->looking_ahead || matches_counting(&ed->matches) || guessed(ed))
        return 0;
    if (playing_on(ed))
        return playing_wait(ed);
    int wait = !due ? -1 : due > now ? (int)(due - now) : 0;
    wait = task_sooner(wait, layers_brief_wait(ed, now));
    return task_sooner(wait, session_wait(ed->session));
}

size_t app_fds(const Editor *ed, struct pollfd *out)
{
    return tasks_fds(&ed->session->tasks, out, APP_FDS);
}

void app_emergency(const Editor *ed)
{
    session_emergency(ed->session);
}

/* ---- root ---- */

bool app_root_begin(Editor *ed, RootWish *out)
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
    out->wish.in_place = writing_in_place(ed->session, out->path);
    out->on_trial = !p->path && trial_save_by_root(ed, f, out->seconds, &out->command);
    return true;
}

void app_root_end(Editor *ed, RootWish *w, bool ok, const char *why)
{
    const Plan *p = plan_numbered(ed->session, w->plan);
    OpenFile *f = p ? session_file(ed->session, p->file) : NULL;
    if (ok && w->on_trial && f)
        trial_save_by_root_done(ed, f, w->to, w->from);
    plan_root_done(ed->session, w->plan, ok, why);
    text_drop(&w->bytes);
    free(w->path);
    asking_look(ed);
}

void app_root_checked(Editor *ed, OpenFile *f, const char *why)
{
    problems_tell(ed, f, why);
}

/* ---- back from elsewhere ---- */

/* What was changed meanwhile, as far as it is known at once; watching tells of the rest. */
typedef struct Returned {
    size_t changed;
    const OpenFile *last;
} Returned;

static void looked(void *ctx, OpenFile *f, const Looked *l)
{
    Returned *r = ctx;
    if (!l->ok || l->news == DISK_SAME)
        return;
    r->changed++;
    r->last = f;
}

void app_returned(Editor *ed)
{
    Returned r = {0};
    for (size_t i = 0; i < ed->session->n_files; i++) {
        OpenFile *f = ed->session->files[i];
        if (filesystem_can(f->path, FILES_ARE_HERE) && !f->reading)
            looking_begin(ed->session, f, looked, &r);
        looking_forget(f); /* what is not known yet is not waited for */
    }
    size_t changed = r.changed;
    const OpenFile *last = r.last;
    if (changed == 1)
        warn(ed, "%s has changed on disk. {differences} shows how, {reload} reloads it.",
             openfile_name(last));
    else if (changed)
        warn(ed, "%s have changed on disk. {differences} shows how, {reload} reloads one.",
             AMOUNT(changed, "file"));
    else
        say(ed, "Back in the editor");
}

void app_fetched(Editor *ed, const char *bytes, size_t n, const char *why)
{
    ed->host.fetching = false;
    if (why)
        warn(ed, "%s", why);
    else if (n == 0)
        say(ed, "The system's clipboard is empty");
    else
        edit_paste(ed, bytes, n, false);
}

/* ---- input ---- */

enum { PASTE_PAUSE = 500 /* ms, after which what comes is another paste */ };

/* Text that comes many keys at once is not typed by hand; a terminal pastes so if it cannot say it. In a
 * layer it may be typed ahead, and its Enter means something. */
static bool is_pasted(const Editor *ed, const Input *in)
{
    if (in->kind != INPUT_KEY || !ed->burst)
        return in->kind == INPUT_PASTE && !ed->layer;
    bool blank = (in->key.code == K_ENTER || in->key.code == K_TAB) && in->key.mods == 0;
    return !ed->layer && in->n_raw && (blank || key_types(in->key));
}

static void handle(Editor *ed, const Input *in)
{
    switch (in->kind) {
    case INPUT_KEY:
        if (is_pasted(ed, in))
            edit_paste(ed, in->raw, in->n_raw, true);
        else
            keys_handle(ed, in);
        break;
    case INPUT_PASTE:
        layers_pass(ed);
        if (!ed->layer)
            edit_paste(ed, in->bytes, in->n_bytes, in->paste_goes_on);
        else if (ed->layer->kind->paste)
            ed->layer->kind->paste(ed, ed->layer, in->bytes, in->n_bytes);
        break;
    case INPUT_MOUSE:
        pointer_handle(ed, &in->mouse);
        break;
    case INPUT_FOCUS:
        asking_focus(ed);
        break;
    default:
        break;
    }
}

/* What is to be asked about a text is asked before it can be changed. */
static void settle_first(Editor *ed)
{
    if (!ed->session->unsettled)
        return;
    settle(ed);
    asking_look(ed);
}

/* Does it, with what follows from it for the layers and the plans. */
static void serve(Editor *ed, const Input *in)
{
    const View *before = ed->panes.view;
    handle(ed, in);
    if (ed->panes.view != before && !ed->host.leave) { /* another pane was entered */
        ed->running.before = NULL;
        asking_focus(ed);
    }
    edit_tidy(ed);
    if (!ed->host.leave)
        lesson_look(ed);
    ed->session->held = ed->layer != NULL;
    plans_step(ed->session);
    asking_look(ed);
}

/* As if a person had pressed it, but nobody did. */
static void press(Editor *ed, const Input *in)
{
    settle_first(ed);
    edit_paste_ends(ed);
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        scroll_back(panes_shown(p));
    serve(ed, in);
}

bool app_plays(const Editor *ed)
{
    return playing_on(ed);
}

void app_input(Editor *ed, const Input *in, uint64_t now)
{
    bool pasted = is_pasted(ed, in), pause = now - ed->clock.last_key > PASTE_PAUSE;
    playing_finish(ed, 0);
    ed->clock.now = ed->notices.now = ed->clock.last_key = now;
    layers_end_brief(ed);
    settle_first(ed);
    if (!pasted || (pause && in->kind == INPUT_KEY))
        edit_paste_ends(ed);
    recording_note(ed, in, pasted, edit_paste_goes_on(ed));
    if (in->takes_back_esc && menu_fresh_from_esc(ed))
        layers_pop(ed);
    if (in->kind != INPUT_MOUSE)
        pointer_release(ed);
    if (in->kind == INPUT_KEY || in->kind == INPUT_PASTE) {
        for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
            scroll_back(panes_shown(p));
        age_message(ed);
    } else if (in->kind == INPUT_MOUSE && in->mouse.action == MOUSE_PRESS) {
        age_message(ed);
    }
    if (!ahead_takes(&ed->app->ahead, ed, in))
        serve(ed, in);
    playing_go_on(ed, PLAY_SLICE);
    keeper_poll(ed->session);
}

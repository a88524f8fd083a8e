#include "script/engine.h"

#include "base/array.h"
#include "base/mem.h"
#include "script/lua_memory.h"
#include "script/sandbox.h"
#include "script/worked.h"
#include "ui/command.h"

#include <lauxlib.h>

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/time.h>

enum {
    AT_ONCE = 1000,           /* instructions between counts */
    TICK = 100,               /* ms between looks for Esc, however long what is not counted takes */
    MOST_STEPS = 1000 * 1000, /* thousands of instructions, in a Run */
    MOST_MEMORY = 256 << 20,  /* bytes */
    EVENTS_WAITING = 10000,   /* files that are put off */
    DEEP = 12,                /* Runs in each other */
};

const char *const engine_event_names[EVENTS] = {"opened", "kind found", "saving", "saved"};

/* A command that a script has added. */
typedef struct OwnCommand {
    Command command; /* first: the one that runs is found as what it is part of */
    char *name, *label, *help, *words;
    int function; /* in Lua's registry */
} OwnCommand;

typedef struct Handler {
    Event event;
    int function;
} Handler;

typedef struct PutOff {
    Event event;
    FileId file;
} PutOff;

/* A file that is open while a Run goes on, and where its history stood. */
typedef struct Held {
    FileId file;
    DocSpot spot;
} Held;

struct Run {
    Script *script;
    lua_State *co; /* a thread of its own, or the main one for what must not wait */
    int thread;    /* that thread in Lua's registry */
    char *name;    /* for messages */
    Held *held;
    size_t n_held;
    FileId newest; /* of those that are held */
    FileId shown;
    ViewPlace place;     /* in the file that was shown */
    FileId file;         /* that the calls speak of, see engine_set_file */
    long steps;          /* that are left, in thousands */
    const char *stopped; /* by Esc or a bound, why: nothing more runs in it, whatever it catches */
    bool is_refused;     /* cannot be caught by pcall */
    char refused[400];
    Run *before; /* that went on when this one began */
};

struct Script {
    Editor *ed;
    lua_State *L;
    LuaMemory memory;
    Task task; /* runs what was put off */
    Run *now;
    bool event;  /* the present one is a handler, or a script of the command line or the start */
    bool saving; /* a file is about to be saved: nothing may be begun that would save or close */
    int depth;   /* how many Runs go on in each other */
    long worked; /* by calls, in instructions, less than a thousand */
    OwnCommand **commands;
    size_t n_commands;
    Handler *handlers;
    size_t n_handlers;
    PutOff *put_off;
    size_t n_put_off;
    Bytes scratch, finder_key;
    Finder *finder;
};

/* ---- what the calls ask ---- */

Script *engine_of(lua_State *L)
{
    return *(Script **)lua_getextraspace(L);
}

Editor *engine_editor(const Script *s)
{
    return s->ed;
}

OpenFile *engine_file(const Script *s)
{
    OpenFile *f = s->now && s->now->file ? session_file(s->ed->session, s->now->file) : NULL;
    return f ? f : s->ed->panes.view->file;
}

FileId engine_set_file(Script *s, FileId file)
{
    FileId old = s->now->file;
    s->now->file = file;
    return old;
}

bool engine_is_event(const Script *s)
{
    return s->event;
}

bool engine_may_command(const Script *s)
{
    return !s->saving && s->ed->panes.view->file;
}

Bytes *engine_scratch(Script *s)
{
    bytes_clear(&s->scratch);
    return &s->scratch;
}

void engine_refuse(Script *s, const char *why)
{
    snprintf(s->now->refused, sizeof s->now->refused, "%s", why);
    s->now->is_refused = true;
}

Finder *engine_finder(Script *s, const FindWhat *w, Err *e)
{
    size_t mistake;
    char options = (char)('0' + (int)w->letters * 4 + w->words * 2 + w->expression);
    if (s->finder && s->finder_key.len == w->len + 1 && s->finder_key.at[0] == options &&
        memcmp(s->finder_key.at + 1, w->what, w->len) == 0)
        return s->finder;
    finder_free(s->finder);
    s->finder = finder_new(w, e, &mistake);
    bytes_clear(&s->finder_key);
    bytes_add(&s->finder_key, &options, 1);
    bytes_add(&s->finder_key, w->what, w->len);
    return s->finder;
}

/* ---- bounds ---- */

static void stop(lua_State *L, Script *s, lua_Debug *info, const char *why)
{
    s->now->stopped = why;
    lua_getinfo(L, "Sl", info);
    if (info->currentline > 0)
        lua_pushfstring(L, "%s:%d: %s", info->short_src, info->currentline, why);
    else
        lua_pushstring(L, why);
    lua_error(L);
}

/* Lua's own calls count for one instruction, whatever they do: so that Esc is looked for after each that took
 * long, a signal has the next instruction counted (lua_sethook is made for being called there). */
static lua_State *_Atomic ticking;
static volatile sig_atomic_t ticked; /* since Esc was looked for */

/* NULL, or why it is to stop after so many thousands of instructions more. */
static const char *look(Script *s, long thousands)
{
    s->now->steps -= thousands;
    if (s->now->stopped)
        return s->now->stopped;
    if (s->now->steps <= 0)
        return "it does not come to an end";
    if (!ticked)
        return NULL;
    ticked = false;
    return stop_wanted(s->ed->stop) ? "it was stopped" : NULL;
}

/* Called every so many instructions; every single one once it is to stop, as scripts can catch errors. */
static void count(lua_State *L, lua_Debug *info)
{
    Script *s = engine_of(L);
    bool once = ticked;
    const char *why = s->now ? look(s, 1) : NULL;
    if (once || why)
        lua_sethook(L, count, LUA_MASKCOUNT, why ? 1 : AT_ONCE);
    if (why)
        stop(L, s, info, why);
}

static void count_worked(lua_State *L, long n)
{
    Script *s = engine_of(L);
    lua_Debug info = {0};
    s->worked += n;
    if (!s->now || s->worked < AT_ONCE)
        return;
    const char *why = look(s, s->worked / AT_ONCE);
    s->worked %= AT_ONCE;
    if (!why)
        return;
    lua_sethook(L, count, LUA_MASKCOUNT, 1);
    lua_getstack(L, 1, &info);
    stop(L, s, &info, why);
}

static void on_tick(int signal)
{
    (void)signal;
    ticked = true;
    if (ticking)
        lua_sethook(ticking, count, LUA_MASKCOUNT, 1);
}

static void tick(lua_State *L)
{
    static bool known;
    struct itimerval every = {.it_value.tv_usec = TICK * 1000, .it_interval.tv_usec = TICK * 1000},
                     never = {0};
    struct sigaction take = {.sa_handler = on_tick, .sa_flags = SA_RESTART};
    if (!known)
        sigaction(SIGALRM, &take, NULL);
    known = true;
    ticking = NULL;
    setitimer(ITIMER_REAL, L ? &every : &never, NULL);
    ticking = L;
}

/* Only what a script does is bounded, so that what we do with its state cannot fail. */
static void bound(Script *s, lua_State *L, bool on)
{
    s->memory.most = on ? MOST_MEMORY : (size_t)-1;
    if (on)
        lua_sethook(L, count, LUA_MASKCOUNT, AT_ONCE);
    else
        lua_sethook(L, NULL, 0, 0);
}

/* ---- errors ---- */

/* "start.lua:12: why" becomes "start.lua, line 12: why". */
static void error_words(lua_State *L, Bytes *out)
{
    const char *text = lua_type(L, -1) == LUA_TSTRING ? lua_tostring(L, -1) : "an error that is no text";
    const char *colon = strchr(text, ':');
    size_t digits = colon ? strspn(colon + 1, "0123456789") : 0;
    if (digits && strncmp(colon + 1 + digits, ": ", 2) == 0)
        bytes_printf(out, "%.*s, line %.*s%s", (int)(colon - text), text, (int)digits, colon + 1,
                     colon + 1 + digits);
    else
        bytes_add_str(out, text);
}

/* ---- a run ---- */

/* All open files are one step each from now on. */
static void hold_files(Run *r)
{
    Session *session = r->script->ed->session;
    for (size_t i = 0; i < session->n_files; i++) {
        OpenFile *f = session->files[i];
        if (f->id <= r->newest)
            continue;
        r->held = array_room(r->held, r->n_held, sizeof *r->held);
        r->held[r->n_held++] = (Held){f->id, doc_spot(f->doc)};
        doc_begin(f->doc);
    }
    r->newest = session->last_file;
}

/* Lets go of them; true when something was taken back. */
static bool let_go(Run *r, bool take_back)
{
    bool any = false;
    for (size_t i = 0; i < r->n_held; i++) {
        OpenFile *f = session_file(r->script->ed->session, r->held[i].file);
        size_t cursor;
        if (!f)
            continue;
        doc_end(f->doc);
        if (take_back && doc_state_now(f->doc) != r->held[i].spot.now) {
            doc_go(f->doc, r->held[i].spot.now, &cursor);
            any = true;
        }
    }
    return any;
}

static Run *begin(Script *s, const char *name, bool may_wait)
{
    Run *r = mem_get(sizeof *r);
    const View *v = s->ed->panes.view;
    r->script = s;
    r->name = mem_string(name);
    r->steps = MOST_STEPS;
    r->co = s->L;
    r->thread = LUA_NOREF;
    if (may_wait) {
        r->co = lua_newthread(s->L);
        r->thread = luaL_ref(s->L, LUA_REGISTRYINDEX);
    }
    if (v && v->file) {
        r->shown = v->file->id;
        r->place = view_place(v);
    }
    hold_files(r);
    return r;
}

static void free_run(Run *r)
{
    luaL_unref(r->script->L, LUA_REGISTRYINDEX, r->thread);
    free(r->held);
    free(r->name);
    free(r);
}

static void enter(Run *r)
{
    Script *s = r->script;
    r->before = s->now;
    s->now = r;
    s->depth++;
    bound(s, r->co, true);
    tick(r->co);
}

static void leave(Run *r)
{
    Script *s = r->script;
    tick(NULL);
    bound(s, r->co, false);
    s->now = r->before;
    s->depth--;
    if (s->now) {
        bound(s, s->now->co, true);
        tick(s->now->co);
    }
}

/* It has failed, with the reason at the top of its stack: all is as it was before. */
static void fail(Run *r, Bytes *why)
{
    Script *s = r->script;
    View *v = s->ed->panes.view;
    if (r->is_refused)
        bytes_add_str(why, r->refused);
    else
        error_words(r->co, why);
    bool any = let_go(r, true);
    if (v->file && v->file->id == r->shown)
        view_restore(v, &r->place);
    if (any && !s->ed->session->rules.batch)
        bytes_add_str(why, "; what it changed was taken back");
}

/* The function and n arguments are on the stack of the main thread. For what must not wait. False with the
 * reason in `why`. */
static bool call_now(Script *s, const char *name, int n, FileId file, Bytes *why)
{
    Run *r = begin(s, name, false);
    bool was_event = s->event;
    r->file = file;
    s->event = true;
    enter(r);
    int status = lua_pcall(s->L, n, 0, 0);
    bool ok = status == LUA_OK && !r->is_refused && !r->stopped;
    leave(r);
    s->event = was_event;
    if (ok) {
        let_go(r, false);
    } else {
        if (status == LUA_OK)
            lua_pushstring(s->L, r->stopped);
        fail(r, why);
        lua_pop(s->L, 1);
    }
    free_run(r);
    return ok;
}

/* Goes on with n values on the stack of its thread. When it has ended it is freed. */
static void resume(Run *r, int n)
{
    Script *s = r->script;
    Bytes why = {0};
    int results;
    bool was_event = s->event;
    s->event = false;
    hold_files(r); /* others were opened since */
    enter(r);
    int status = lua_resume(r->co, s->L, n, &results);
    leave(r);
    s->event = was_event;
    if (status == LUA_YIELD)
        return;
    if (status == LUA_OK && !r->is_refused && !r->stopped) {
        let_go(r, false);
    } else {
        if (status == LUA_OK)
            lua_pushstring(r->co, r->stopped);
        fail(r, &why);
        warn(s->ed, "%s", bytes_str(&why));
        s->ed->running.declined = true;
    }
    bytes_free(&why);
    free_run(r);
}

Run *engine_may_wait(lua_State *L)
{
    Script *s = engine_of(L);
    if (s->event || !lua_isyieldable(L))
        luaL_error(L, s->event ? "there is nobody to ask here, and nothing can be waited for"
                               : "in a function that is called by another one nothing can be waited for");
    return s->now;
}

void engine_go_on(Run *run, int (*push)(lua_State *L, void *ctx), void *ctx)
{
    resume(run, push(run->co, ctx));
}

void engine_abandon(Run *run)
{
    let_go(run, false);
    free_run(run);
}

/* ---- commands and handlers of scripts ---- */

static void run_own(Editor *ed, const Args *args)
{
    const OwnCommand *c = (const OwnCommand *)ed->running.now;
    Script *s = ed->script;
    if (s->depth >= DEEP) {
        decline(ed, "Commands may run each other %d deep, not deeper", DEEP);
        return;
    }
    Run *r = begin(s, c->name, true);
    lua_rawgeti(r->co, LUA_REGISTRYINDEX, c->function);
    lua_pushinteger(r->co, args->count);
    lua_pushstring(r->co, args->text);
    resume(r, 2);
}

static void free_command(OwnCommand *c)
{
    free(c->name);
    free(c->label);
    free(c->help);
    free(c->words);
    free(c);
}

void engine_add_command(lua_State *L, const OwnCommandSpec *spec)
{
    Script *s = engine_of(L);
    Err e = {""};
    OwnCommand *c = mem_get(sizeof *c);
    c->name = mem_string(spec->name);
    c->label = mem_string(spec->label);
    c->help = mem_string(spec->help);
    c->words = spec->words ? mem_string(spec->words) : NULL;
    c->command = (Command){.name = c->name,
                           .label = c->label,
                           .help = c->help,
                           .words = c->words,
                           .args = "WORDS",
                           .run = run_own};
    if (!registry_add_own(&s->ed->config.registry, &c->command, spec->route, &e)) {
        free_command(c);
        luaL_error(L, "%s", e.text);
        return;
    }
    s->commands = array_room(s->commands, s->n_commands, sizeof *s->commands);
    s->commands[s->n_commands++] = c;
    c->function = luaL_ref(L, LUA_REGISTRYINDEX);
}

void engine_when(lua_State *L, Event e)
{
    Script *s = engine_of(L);
    int function = luaL_ref(L, LUA_REGISTRYINDEX);
    s->handlers = array_room(s->handlers, s->n_handlers, sizeof *s->handlers);
    s->handlers[s->n_handlers++] = (Handler){e, function};
}

/* Calls the handlers of an event; false as soon as one fails, with the reason in `why`. */
static bool call_handlers(Script *s, Event event, const OpenFile *f, Bytes *why)
{
    FileId id = f->id;
    for (size_t i = 0; i < s->n_handlers; i++) {
        if (s->handlers[i].event != event)
            continue;
        if (!(f = session_file(s->ed->session, id)))
            return true; /* it was closed meanwhile */
        lua_rawgeti(s->L, LUA_REGISTRYINDEX, s->handlers[i].function);
        lua_pushstring(s->L, f->path ? f->path : "");
        lua_pushstring(s->L, f->kind->name);
        if (!call_now(s, engine_event_names[event], 2, id, why))
            return false;
    }
    return true;
}

static bool saving(void *ctx, OpenFile *f)
{
    Script *s = ctx;
    Bytes why = {0};
    bool before = s->saving;
    s->saving = true;
    bool ok = call_handlers(s, EVENT_SAVING, f, &why);
    s->saving = before;
    if (!ok)
        warn(s->ed, "%s was not saved: %s", openfile_name(f), bytes_str(&why));
    bytes_free(&why);
    return ok;
}

/* The others come when nothing is under way: they may do anything. */
static void put_off(Script *s, Event event, const OpenFile *f)
{
    bool wanted = false;
    for (size_t i = 0; i < s->n_handlers; i++)
        wanted = wanted || s->handlers[i].event == event;
    if (!wanted || s->n_put_off == EVENTS_WAITING)
        return;
    s->put_off = array_room(s->put_off, s->n_put_off, sizeof *s->put_off);
    s->put_off[s->n_put_off++] = (PutOff){event, f->id};
}

static void opened(void *ctx, OpenFile *f)
{
    put_off(ctx, EVENT_OPENED, f);
    if (strcmp(f->kind->name, "text") != 0)
        put_off(ctx, EVENT_KIND, f);
}

static void saved(void *ctx, OpenFile *f)
{
    put_off(ctx, EVENT_SAVED, f);
}

void engine_run_events(Editor *ed)
{
    Script *s = ed->script;
    Bytes why = {0};
    for (int most = EVENTS_WAITING; s && s->n_put_off && !s->now && most > 0; most--) {
        PutOff p = s->put_off[0];
        memmove(s->put_off, s->put_off + 1, --s->n_put_off * sizeof *s->put_off);
        const OpenFile *f = session_file(ed->session, p.file);
        if (f && !call_handlers(s, p.event, f, &why))
            warn(ed, "%s", bytes_str(&why));
        bytes_clear(&why);
    }
    bytes_free(&why);
}

static void poll_events(void *ctx)
{
    Script *s = ctx;
    if (!s->ed->layer)
        engine_run_events(s->ed);
}

static int wait_events(const void *ctx)
{
    const Script *s = ctx;
    return s->n_put_off && !s->ed->layer && !s->now ? 0 : -1;
}

static const TaskKind events_task = {.poll = poll_events, .wait = wait_events};

/* ---- the state ---- */

void engine_begin(Editor *ed, void (*add_calls)(lua_State *L))
{
    if (ed->script)
        return;
    Script *s = mem_get(sizeof *s);
    s->ed = ed;
    s->memory.most = (size_t)-1;
    s->L = lua_newstate(lua_memory, &s->memory);
    *(Script **)lua_getextraspace(s->L) = s;
    worked_count_by(count_worked);
    sandbox_open(s->L, ed->config.settings.scripts_may);
    add_calls(s->L);
    ed->script = s;
    SessionEvents events = {.ctx = s, .opened = opened, .saving = saving, .saved = saved};
    session_observe(ed->session, &events);
    tasks_add(&ed->session->tasks, &s->task, &events_task, s);
}

void engine_free(Editor *ed)
{
    Script *s = ed->script;
    if (!s)
        return;
    tasks_remove(&ed->session->tasks, &s->task);
    lua_close(s->L);
    for (size_t i = 0; i < s->n_commands; i++) {
        config_forget(&ed->config, &s->commands[i]->command);
        free_command(s->commands[i]);
    }
    free(s->commands);
    free(s->handlers);
    free(s->put_off);
    finder_free(s->finder);
    bytes_free(&s->scratch);
    bytes_free(&s->finder_key);
    free(s);
    ed->script = NULL;
}

bool engine_run(Editor *ed, const char *name, const char *bytes, size_t n, Bytes *why)
{
    Script *s = ed->script;
    Bytes chunk = {0};
    bytes_printf(&chunk, "@%s", name);
    bool ok = luaL_loadbufferx(s->L, bytes, n, chunk.at, "t") == LUA_OK;
    bytes_free(&chunk);
    if (ok)
        return call_now(s, name, 0, 0, why);
    error_words(s->L, why);
    lua_pop(s->L, 1);
    return false;
}

#include "script/calls.h"

#include "base/mem.h"
#include "base/system.h"
#include "files/job.h"
#include "script/places.h"
#include "ui/panel.h"
#include "ui/program.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <lauxlib.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- telling ---- */

static int call_say(lua_State *L)
{
    say(engine_editor(engine_of(L)), "%s", luaL_tolstring(L, 1, NULL));
    return 0;
}

static int call_warn(lua_State *L)
{
    warn(engine_editor(engine_of(L)), "%s", luaL_tolstring(L, 1, NULL));
    return 0;
}

static int call_refuse(lua_State *L)
{
    const char *why = luaL_optstring(L, 1, "a script refuses it");
    engine_refuse(engine_of(L), why);
    return luaL_error(L, "%s", why);
}

/* ---- asking: the run waits for a person ---- */

/* A run that waits for an answer. Whatever layer asks holds one; the run is gone on with once, or given up
 * with the layer. */
typedef struct Waiter {
    Run *run;    /* NULL: it was gone on with */
    char *title; /* of a list */
    char **items;
    size_t n_items;
} Waiter;

static void free_waiter(void *ctx)
{
    Waiter *w = ctx;
    if (w->run)
        engine_abandon(w->run);
    for (size_t i = 0; i < w->n_items; i++)
        free(w->items[i]);
    free(w->items);
    free(w->title);
    free(w);
}

static void go_on(Waiter *w, int (*push)(lua_State *, void *), void *ctx)
{
    Run *run = w->run;
    w->run = NULL;
    if (run)
        engine_go_on(run, push, ctx);
}

static int push_words(lua_State *L, void *ctx)
{
    lua_pushstring(L, ctx); /* nil for NULL */
    return 1;
}

static void answered(Editor *ed, const char *answer, void *ctx)
{
    (void)ed;
    go_on(ctx, push_words, (void *)answer);
}

static void not_answered(Editor *ed, void *ctx)
{
    (void)ed;
    go_on(ctx, push_words, NULL);
}

static int call_ask(lua_State *L)
{
    const char *label = luaL_checkstring(L, 1), *initial = luaL_optstring(L, 2, "");
    Run *run = engine_may_wait(L);
    Waiter *w = mem_get(sizeof *w);
    w->run = run;
    PromptSpec p = {.label = label,
                    .initial = initial,
                    .select = true,
                    .done = answered,
                    .cancelled = not_answered,
                    .ctx = w,
                    .free_ctx = free_waiter};
    prompt_ask(engine_editor(engine_of(L)), &p);
    return lua_yield(L, 0);
}

static int push_truth(lua_State *L, void *ctx)
{
    lua_pushboolean(L, *(char *)ctx == 'y');
    return 1;
}

static void confirmed(Editor *ed, char letter, void *ctx)
{
    (void)ed;
    go_on(ctx, push_truth, &letter);
}

static int call_confirm(lua_State *L)
{
    const char *question = luaL_checkstring(L, 1);
    Run *run = engine_may_wait(L);
    Waiter *w = mem_get(sizeof *w);
    w->run = run;
    QuestionSpec q = {.answers = {{'y', "Yes"}, {'n', "No"}},
                      .stay = "No",
                      .can_lose = true,
                      .done = confirmed,
                      .ctx = w,
                      .free_ctx = free_waiter};
    question_ask(engine_editor(engine_of(L)), &q, "%s", question);
    return lua_yield(L, 0);
}

static void fill_items(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ed, (void)filter;
    const Waiter *w = ctx;
    for (size_t i = 0; i < w->n_items; i++)
        panel_add(p, (long)i, w->items[i], NULL, NULL);
}

typedef struct Item {
    const char *words;
    long number;
} Item;

static int push_item(lua_State *L, void *ctx)
{
    const Item *item = ctx;
    if (!item->words) {
        lua_pushnil(L);
        return 1;
    }
    lua_pushstring(L, item->words);
    lua_pushinteger(L, item->number);
    return 2;
}

static void item_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)ed, (void)typed;
    Waiter *w = ctx;
    Item item = {id >= 0 && (size_t)id < w->n_items ? w->items[id] : NULL, id + 1};
    go_on(w, push_item, &item);
}

static int call_choose(lua_State *L)
{
    const char *title = luaL_checkstring(L, 1);
    luaL_checktype(L, 2, LUA_TTABLE);
    size_t n = (size_t)luaL_len(L, 2);
    if (n == 0 || n > 100000)
        return luaL_error(L, n ? "that is too much to choose from" : "there is nothing to choose from");
    for (size_t i = 0; i < n; i++) { /* so that nothing fails while they are taken */
        if (lua_rawgeti(L, 2, (lua_Integer)i + 1) != LUA_TSTRING)
            return luaL_error(L, "a list of texts is expected");
        lua_pop(L, 1);
    }
    Run *run = engine_may_wait(L);
    Waiter *w = mem_get(sizeof *w);
    w->run = run;
    w->items = mem_get(n * sizeof *w->items);
    for (; w->n_items < n; w->n_items++) {
        lua_rawgeti(L, 2, (lua_Integer)w->n_items + 1);
        w->items[w->n_items] = mem_string(lua_tostring(L, -1));
        lua_pop(L, 1);
    }
    w->title = mem_string(title);
    PanelSpec p = {.title = w->title,
                   .fill = fill_items,
                   .chosen = item_chosen,
                   .cancelled = not_answered,
                   .empty = "Nothing matches",
                   .ctx = w,
                   .free_ctx = free_waiter};
    panel_open(engine_editor(engine_of(L)), &p);
    return lua_yield(L, 0);
}

/* ---- programs: the run waits for them ---- */

static int push_result(lua_State *L, void *ctx)
{
    const Job *j = ctx;
    if (!j) {
        lua_pushnil(L);
        return 1;
    }
    lua_pushlstring(L, bytes_str(&j->output), j->output.len);
    lua_pushinteger(L, j->status);
    lua_pushlstring(L, bytes_str(&j->said), j->said.len);
    return 3;
}

/* It has ended, or was stopped: the script goes on with what it gave, or with nil. */
static void program_ended(Editor *ed, Job *job, JobEnd how, void *ctx)
{
    (void)ed;
    engine_go_on(ctx, push_result, how == JOB_ENDED && !job->too_much ? job : NULL);
}

static void program_dropped(Editor *ed, void *ctx)
{
    (void)ed;
    engine_abandon(ctx);
}

/* Where nothing can be waited for, nothing else goes on meanwhile. */
static int run_at_once(lua_State *L, Editor *ed, Job *job)
{
    uint64_t since = system_now_ms(), most = 1000 * (uint64_t)ed->config.settings.command_seconds;
    bool stopped = false;
    while (!job_poll(job) && !stopped) {
        struct pollfd fds[JOB_FDS];
        poll(fds, job_fds(job, fds), 50);
        stopped = stop_wanted(ed->stop) || system_now_ms() - since > most;
    }
    if (stopped)
        job_stop(job);
    int n = push_result(L, stopped || job->too_much ? NULL : job);
    job_free(job);
    return n;
}

/* The words of a program from the list at 1; the caller frees the list, not the words. */
static char **words_of(lua_State *L)
{
    luaL_checktype(L, 1, LUA_TTABLE);
    size_t n = (size_t)luaL_len(L, 1);
    if (n == 0 || n > 10000)
        luaL_error(L, "a program and its arguments are expected, as { \"sort\", \"-u\" }");
    luaL_checkstack(L, (int)n + 10, "that are too many arguments");
    for (size_t i = 0; i < n; i++)
        if (lua_rawgeti(L, 1, (lua_Integer)i + 1) != LUA_TSTRING)
            luaL_error(L, "the arguments of a program are texts");
    char **words = mem_get((n + 1) * sizeof *words);
    for (size_t i = 0; i < n; i++)
        words[i] = (char *)lua_tostring(L, (int)i - (int)n);
    return words;
}

static int call_run(lua_State *L)
{
    size_t len;
    Script *s = engine_of(L);
    Editor *ed = engine_editor(s);
    const char *bytes = luaL_optlstring(L, 2, "", &len);
    Text input = {0};
    Err e = {"there is not enough memory"};
    const OpenFile *f = engine_file(s);
    if (ed->session->rules.dry_run)
        return luaL_error(L, "no program is run in a dry run, as it changes nothing");
    bool waits = !engine_is_event(s);
    Run *run = waits ? engine_may_wait(L) : NULL;
    char **words = words_of(L);
    Job job = {0};
    JobSpec what = {.words = words, .input = input, .path = f ? f->path : NULL};
    bool ok = text_insert(&what.input, 0, bytes, len) && job_start_program(&job, &what, &e);
    text_drop(&what.input);
    if (ok && waits)
        program_wait_for(ed, job,
                         &(ProgramSpec){.name = words[0],
                                        .what = "program",
                                        .help = "scripts",
                                        .ended = program_ended,
                                        .dropped = program_dropped,
                                        .ctx = run});
    free(words);
    if (!ok || !waits)
        return ok ? run_at_once(L, ed, &job) : luaL_error(L, "%s", e.text);
    return lua_yield(L, 0);
}

const ScriptCall people_calls[] = {
    {{"", "Telling and asking", NULL}, NULL},
    {{"say", "say(WORDS)", "Shows a message"}, call_say},
    {{"warn", "warn(WORDS)", "The same as a warning; without a screen the run fails by it"}, call_warn},
    {{"ask", "ask(LABEL, ANSWER)", "Asks for a line of text, beginning with that answer; nil after Esc"},
     call_ask},
    {{"confirm", "confirm(QUESTION)", "Asks yes or no; true for yes"}, call_confirm},
    {{"choose", "choose(TITLE, LIST)", "Has one of a list of texts chosen: it and its number, or nil"},
     call_choose},
    {{"refuse", "refuse(WHY)",
      "Ends the script and takes its changes back; while saving, the file is not saved, without a screen the "
      "run on "
      "it fails"},
     call_refuse},
    {{"run", "run({ PROGRAM, … }, INPUT)",
      "Runs a program, without a shell: its output, its status, and what it said of errors; nil if it was "
      "stopped. "
      "Its environment names the text in SQUILL_FILE"},
     call_run},
    {{NULL, NULL, NULL}, NULL},
};

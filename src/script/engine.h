/* Scripts: one Lua state for an editor, in which the machine's start.lua, the person's, and a script of the
 * command line run. What a script does runs as a Run: one step for undo, taken back when it fails, and
 * bounded in instructions and memory. A Run may wait, for a person or a program, while the loop goes on. */
#ifndef ENGINE_H
#define ENGINE_H

#include "edit/finder.h"
#include "ui/editor.h"

#include <lua.h>

/* Begins with an empty state, to which `add_calls` adds what scripts can call; nothing if there is one. */
void engine_begin(Editor *ed, void (*add_calls)(lua_State *L));
/* After app_end: nothing more is done with the editor. Fine without a state. */
void engine_free(Editor *ed);
/* Runs n bytes of a script, called `name` in messages, on the file that is shown. False with the reason added
 * to `why`, and then nothing was changed. */
bool engine_run(Editor *ed, const char *name, const char *bytes, size_t n, Bytes *why);
/* What was put off until nothing else is under way: handlers of files that were opened or saved. */
void engine_run_events(Editor *ed);

/* ---- for the calls ---- */

typedef enum Event { EVENT_OPENED, EVENT_KIND, EVENT_SAVING, EVENT_SAVED, EVENTS } Event;
extern const char *const engine_event_names[EVENTS]; /* as they are written in scripts */

typedef struct Script Script;
typedef struct Run Run;

Script *engine_of(lua_State *L);
Editor *engine_editor(const Script *s);
/* The text that the calls speak of: the one that is shown, or another for a while (0: the shown one). */
OpenFile *engine_file(const Script *s);
FileId engine_set_file(Script *s, FileId file);
/* Is the present Run one that must not wait? May it run commands now? */
bool engine_is_event(const Script *s);
bool engine_may_command(const Script *s);
/* Memory for what a call gathers; it outlives an error in it. Emptied by each asking for it. */
Bytes *engine_scratch(Script *s);
/* A finder for that; kept for the next time. NULL with the reason in e. */
Finder *engine_finder(Script *s, const FindWhat *w, Err *e);
/* The file is refused: whatever becomes of the error, the Run fails with these words. */
void engine_refuse(Script *s, const char *why);

/* The function at the top of the stack is called at that event. */
void engine_when(lua_State *L, Event e);
/* The function at the top of the stack becomes a command. Raises an error when it cannot. */
typedef struct OwnCommandSpec {
    const char *name, *label, *help, *route, *words;
} OwnCommandSpec;
void engine_add_command(lua_State *L, const OwnCommandSpec *spec);

/* The present Run, for a call that lets it wait: whoever goes on with it is made then, and the call ends by
 * `return lua_yield(L, 0)`. What engine_go_on pushes is what it gives. Raises an error where it cannot wait.
 */
Run *engine_may_wait(lua_State *L);
/* Goes on with one that waits: `push` puts what its call gives on the stack and returns how many values. */
void engine_go_on(Run *run, int (*push)(lua_State *L, void *ctx), void *ctx);
/* Nobody will ever go on with it. */
void engine_abandon(Run *run);

#endif

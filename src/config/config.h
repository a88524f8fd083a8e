/* All that a person or a machine can set: settings, keys, routes, commands. */
#ifndef CONFIG_H
#define CONFIG_H

#include "base/bytes.h"
#include "config/keymap.h"
#include "config/registry.h"
#include "config/settings.h"

/* A route of one's own: letters of a menu and of an entry in it. */
typedef struct OwnRoute {
    char letters[3];
    const Command *command;
    char *args; /* owned */
} OwnRoute;

typedef struct Config {
    Registry registry;
    Settings settings;
    char *sources[SETTINGS_COUNT]; /* where each value comes from; NULL: the standard */
    Keymap keys;
    SetBy setter; /* whose keys are put now */
    OwnRoute *routes;
    size_t n_routes;
    Bytes problems;             /* what was wrong in the files of settings and keys, a line each */
    void (*changed)(void *ctx); /* called after a setting changed; NULL: nobody cares */
    void *changed_ctx;
} Config;

#define CONFIG_MACHINE_FOLDER SQUILL_SYSCONFDIR "/steady-quill"

/* Adds a path, with ~ for the home folder. */
void config_short_path(const char *path, Bytes *out);
/* Adds a line on what is wrong in a file; line 0: with the file itself. */
void config_problem(Bytes *problems, const char *path, unsigned line, const char *what);
/* Everything at its standard. The keys are there once the commands are: call settings_reset then. */
void config_free(Config *c);

/* Puts a command line on a key ("F5") or a route ("Esc l q") as written in words; NULL frees the key. False
 * with the reason in e. */
bool config_set_key(Config *c, const char *key, const char *command_line, Err *e);
/* Takes a command of a person's own out of all it stands in. */
void config_forget(Config *c, const Command *command);
/* The route of one's own with those two letters, or NULL. */
const OwnRoute *config_route(const Config *c, const char *letters);

#endif

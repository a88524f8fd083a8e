/* The command table. One constant entry says all about a command; menus, letter
 * routes, hints, the key list, help and completion are made from it. */
#ifndef COMMANDS_H
#define COMMANDS_H
#include "app/key.h"

typedef struct Editor Editor;

struct Offers;

typedef struct Args {
    unsigned count;   /* how often; 1 unless a count was given */
    bool counted;     /* a count was given */
    const char *text; /* what stood behind the command's name, or "" */
} Args;

enum {
    CMD_MOVES = 1,   /* moves the cursor: Shift with its key marks */
    CMD_REPEATS = 2, /* a count runs it that often; others get the count in Args */
    CMD_TYPING = 4,  /* stands on a key of its own on every keyboard; in no menu */
    CMD_JUMPS = 16,  /* may go far: "jump back" returns to where it began */
    CMD_CHANGES = 8, /* changes the text: not while looking only */
};

typedef struct Command {
    const char *name;  /* "save-as" */
    const char *label; /* in menus: "Save as…" */
    char letter;       /* in its menu */
    const char *keys;  /* of the standard layout, separated by blanks, the taught one first; or NULL */
    const char *shell; /* the same in the layout "shell" where it differs, "" for none */
    const char *help;  /* one line */
    const char *more;  /* longer help, or NULL */
    const char *args;  /* what may follow the name, such as "LINE[:COLUMN]", or NULL */
    void (*offer)(Editor *ed, const char *args, struct Offers *out); /* what may follow it; or NULL */
    const char *hint; /* one or two words for the hint line, or NULL */
    unsigned flags;
    const char *(*disabled_reason)(const Editor *ed); /* why it does not apply now, or NULL; may be NULL */
    void (*run)(Editor *ed, const Args *args);
} Command;

typedef struct Menu {
    const char *title; /* NULL: no menu of its own */
    char letter;
    const Command *commands;
    size_t n;
    const char *route; /* how its letters are reached, such as "Esc f"; NULL: they are not */
} Menu;

extern const Menu menus[];
extern const size_t n_menus;  /* all tables */
extern const size_t n_titles; /* of them, the first ones stand on the bar */

/* Calls that return NULL when there is none. */
const Command *command_named(const char *name, size_t n);
const Menu *command_menu(const Command *c);
/* Its letter route such as "Esc f s", or "". */
enum { ROUTE_MAX = 16 };
const char *command_route(const Command *c, char out[ROUTE_MAX]);

/* Why the command does not apply now, or NULL. */
const char *command_disabled_reason(const Editor *ed, const Command *c);
/* Runs it as often as `count` says, or says why it does not apply. `text` may be "". */
void command_run(Editor *ed, const Command *c, unsigned count, bool counted, const char *text);
/* Runs "name arguments" as typed by a person; false and a message when there is no such command. */
bool command_run_line(Editor *ed, const char *line, unsigned count, bool counted);

/* ---- keys ---- */

typedef struct Binding {
    Key key;
    const Command *command;
    char *args; /* for the command, or NULL; owned */
    bool own;   /* from the person's keys, not from a layout */
} Binding;

typedef struct Keymap {
    Binding *at;
    size_t n, cap;
} Keymap;

/* Fills the map anew from the table; layout is "desk" or "shell". Own bindings stay. */
void keymap_fill(Keymap *m, const char *layout);
/* Puts a command on a key in place of what was there; NULL frees the key. */
void keymap_set(Keymap *m, Key key, const Command *c, const char *args, bool own);
const Binding *keymap_find(const Keymap *m, Key key);
/* The name of the n-th key (from 0) of a command, or "" when it has no more. */
const char *keymap_key_of(const Keymap *m, const Command *c, size_t n, char out[KEY_NAME_MAX]);
void keymap_free(Keymap *m);

#endif

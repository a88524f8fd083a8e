/* The registry of commands. One constant entry says all about a command; menus, letter routes, hints, the
 * key list, help and completion are made from it. Commands can be added at any time. */
#ifndef REGISTRY_H
#define REGISTRY_H

#include "base/err.h"
#include "config/offers.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct Editor Editor;

typedef struct Args {
    unsigned count;   /* how often; 1 unless a count was given */
    bool counted;     /* a count was given */
    const char *text; /* what stood after the command's name, or "" */
} Args;

enum {
    CMD_MOVES = 1,      /* moves the cursor: Shift with its key marks */
    CMD_REPEATS = 2,    /* a count runs it that often; others get the count in Args */
    CMD_TYPING = 4,     /* stands on a key of its own on every keyboard; in no menu */
    CMD_CHANGES = 8,    /* changes the text: not while looking only */
    CMD_JUMPS = 16,     /* may go far: "jump back" returns to where it began */
    CMD_FILE = 32,      /* speaks of the file that is shown: a help page has none */
    CMD_ADVANCES = 128, /* when it does nothing, or leads past the last line, there is nothing further that
                          way */
    CMD_ENDS =
        256, /* ends, closes or takes away more than words: in lists it is found by its own name only */
    CMD_LEAVES = 64, /* leads away from the text that is shown: a help page gives way first */
    /* With more cursors than one. Without any of these, what changes the text wants a single one. */
    CMD_EACH = 512,       /* is done at each */
    CMD_EACH_LINE = 1024, /* is done once for each line in which there are some; with CMD_EACH: only where
                             nothing is marked */
    CMD_ALL = 2048,       /* knows of them itself */
};

typedef struct Command {
    const char *name;  /* "save-as" */
    const char *label; /* in menus: "Save as…" */
    char letter;       /* in its menu */
    const char *keys;  /* of the standard layout, separated by blanks, the taught one first; or NULL */
    const char *shell; /* the same in the layout "shell" where it differs, "" for none */
    const char *help;  /* one line */
    const char *more;  /* longer help, or NULL */
    const char *words; /* everyday words by which it is found too, separated by blanks; or NULL */
    const char *args;  /* what may follow the name, such as "LINE[:COLUMN]", or NULL */
    void (*offer)(const char *args, Offers *out); /* what Tab offers there; or NULL */
    const char *hint;                             /* one or two words for the hint line, or NULL */
    unsigned flags;
    const char *(*disabled_reason)(const Editor *ed); /* why it does not apply now, or NULL; may be NULL */
    void (*run)(Editor *ed, const Args *args);
} Command;

/* A call of scripts, as help describes it. */
typedef struct CallHelp {
    const char *name;
    const char *form; /* how it is written: "line(NUMBER)" */
    const char *help;
} CallHelp;

typedef struct Menu {
    const char *title; /* NULL: it does not stand on the bar */
    char letter;
    const char *route; /* how its letters are reached, such as "Esc f" */
    const Command **commands;
    unsigned long long groups; /* bit i: a new group begins with command i */
    size_t n;
} Menu;

/* Begin with {0}. It holds pointers: titles and commands must live as long as it does. */
typedef struct Registry {
    Menu *menus; /* those on the bar first */
    size_t n_menus, n_titles;
    const Command **commands; /* all of them */
    size_t n;
    const CallHelp **calls;
    size_t n_calls;
} Registry;

/* Adds commands, up to NULL. They are in no menu yet. */
void registry_add(Registry *r, const Command *const *table);
/* Adds a menu with the commands of these names, separated by blanks, in this order; "|" begins a new group.
 * `title` may be NULL. */
void registry_add_menu(Registry *r, const char *title, char letter, const char *route, const char *names);
/* Puts a command at the end of a menu. */
void registry_place(Registry *r, size_t menu, const Command *c);
/* Adds a command of a person's own and puts it where its route says ("Esc t 5"); with "" into the menu Yours,
 * which is there as long as there is something in it, under the first letter of its name that is free there.
 * Its letter is set. False with the reason in e when its name or its route is taken, or no such can be. */
bool registry_add_own(Registry *r, Command *c, const char *route, Err *e);
/* Takes it out again, wherever it stands. */
void registry_remove(Registry *r, const Command *c);
void registry_free(Registry *r);
void registry_add_call(Registry *r, const CallHelp *c);

/* The command of that name (of n bytes), or NULL. */
const Command *registry_find(const Registry *r, const char *name, size_t n);
/* The number of the menu on the bar with that letter; n_titles when there is none. */
size_t registry_title(const Registry *r, char letter);
/* The command of a menu with that letter, or NULL. */
const Command *registry_letter(const Menu *m, char letter);
enum { ROUTE_MAX = 16 };
/* Writes a command's letter route, such as "Esc f s", or "", and returns it. */
const char *registry_route(const Registry *r, const Command *c, char out[ROUTE_MAX]);

#endif

/* Which command stands on which key. */
#ifndef KEYMAP_H
#define KEYMAP_H

#include "config/registry.h"
#include "input/key.h"

/* Who put a command on a key; the later ones count more. */
typedef enum SetBy { BY_LAYOUT, BY_MACHINE, BY_PERSON, BY_THIS_RUN } SetBy;

typedef struct Binding {
    Key key;
    const Command *command; /* NULL: the key was freed on purpose */
    char *args;             /* for the command, or NULL; owned */
    SetBy by;
} Binding;

/* Begin with {0}. */
typedef struct Keymap {
    Binding *at;
    size_t n;
} Keymap;

/* Fills the map again from the registry; layout is "desk" or "shell". Own bindings stay. */
void keymap_fill(Keymap *m, const Registry *r, const char *layout);
/* Puts a command on a key in place of what was there; NULL frees the key. */
void keymap_set(Keymap *m, Key key, const Command *c, const char *args, SetBy by);
/* The command will be gone: nothing runs it any more. */
void keymap_forget(Keymap *m, const Command *c);
/* NULL when nothing was ever put there. */
const Binding *keymap_find(const Keymap *m, Key key);
/* Does the key run the command of that name? */
bool keymap_runs(const Keymap *m, Key key, const char *command);
/* Writes the name of the n-th key (from 0) of a command, or "" when it has no more, and returns it. */
const char *keymap_key_of(const Keymap *m, const Command *c, size_t n, char out[KEY_NAME_MAX]);
void keymap_free(Keymap *m);

#endif

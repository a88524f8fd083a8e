/* Saving what only root may write: the bytes go through a pipe to this very program, run by sudo or
 * doas, which saves them with the same care and does nothing else. */
#ifndef PRIVILEGED_H
#define PRIVILEGED_H

#include "files/save.h"

enum { PRIVILEGED_ARGS = 20, PRIVILEGED_OWN = 6 /* args at most */, PRIVILEGED_WORD = 128 };

/* The command that runs this program as root with `args` (up to NULL), from `program` (blank-separated words;
 * "": sudo or doas, whichever is there) and our own. False with the reason in e when there is none. The words
 * are in *words, to be freed after. */
bool privileged_command(const char *program, const char *const *args, char *argv[PRIVILEGED_ARGS],
                        char **words, Err *e);
/* The name of the program that would be asked, in `word`; or NULL. */
const char *privileged_program(const char *program, char word[PRIVILEGED_WORD]);
/* Sends the text to the helper and reads its answer, a line; wish->only is the file that is meant. Takes over
 * the descriptors. */
bool privileged_talk(int to, int from, Text t, const SaveWish *wish, Err *e);
typedef struct RootRules {
    unsigned backup_keep;      /* numbered backups, */
    const char *backup_folder; /* and where */
    /* called before that text is saved; false: it is not to be, with the reason in e. Or NULL */
    bool (*before)(const char *path, Text fresh, void *ctx, Err *e);
    void *ctx;
} RootRules;
/* The helper's side: reads from standard input, saves, answers on standard output. Returns the
 * exit status. */
int privileged_helper(const char *path, const RootRules *rules);

#endif

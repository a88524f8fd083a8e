/* Checking by programs that work for root only: the text goes through a pipe to this very program, run by
 * sudo or doas, which asks those of root's kinds and tells what they find. */
#ifndef ROOT_CHECK_H
#define ROOT_CHECK_H

#include "session/session.h"

/* What the helper is called with, up to NULL; valid as long as the file. */
enum { ROOT_CHECK_ARGS = 6 };
void root_check_args(const OpenFile *f, const char *args[ROOT_CHECK_ARGS]);
/* Sends the text as it would be saved, takes the answer into what is known of the file. Takes over the
 * descriptors. False with the reason in e. */
bool root_check_talk(int to, int from, OpenFile *f, Err *e);
/* The helper's side: reads from standard input, answers on standard output. Returns the exit status. */
int root_check_helper(Session *s, const char *path, const Kind *k);

#endif

/* Pages of the system's manual, fetched by `man` beside the keys and kept for a while. */
#ifndef MANUAL_PAGES_H
#define MANUAL_PAGES_H

#include "session/session.h"

/* A page such as "crontab(5)", as plain text; an empty one: it is not installed. NULL: it was not fetched
 * yet. Valid until the next one is fetched. */
const Bytes *manual_page(const Session *s, const char *name);
/* Begins to fetch one; what was fetched before ends. `done` is called once manual_page has it, or does not
 * come to have it as a person stopped it; then `stopped` is true. `quiet`: the person did not ask for it, and
 * is not told. False with the reason in e. */
bool manual_fetch(Session *s, const char *name, bool quiet, void (*done)(void *ctx, bool stopped), void *ctx,
                  Err *e);
/* Ends what goes on, without a word to anybody. */
void manual_stop(Session *s);
void manual_free_pages(Session *s);
/* Fetches one at once, unless it takes longer than `most` ms: then it goes on beside the keys, and NULL comes
 * back, as while another is fetched. */
const Bytes *manual_page_soon(Session *s, const char *name, unsigned most);

/* Where a page's entry for a word begins, or else the first line that has it; -1: nowhere. */
long manual_entry(const Bytes *page, const char *word);
long manual_mention(const Bytes *page, const char *word);
/* Calls `each` for the words that a page has entries for, some of them more than once. */
void manual_each_entry(const Bytes *page, void (*each)(void *ctx, const char *word), void *ctx);
/* May that be part of such a word? */
bool manual_in_word(char c);

#endif

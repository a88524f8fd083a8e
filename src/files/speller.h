/* Which words the machine's dictionaries know. They are those of hunspell, which many programs share; its
 * library is opened by name when it is needed first. On any thread, one at a time for each Speller. */
#ifndef SPELLER_H
#define SPELLER_H

#include "base/bytes.h"
#include "base/err.h"

typedef struct Speller Speller;

/* Reads dictionaries, which takes its time: `names` are those of languages, such as "en_GB de_DE", or paths
 * without an ending, divided by blanks or commas. "": the one for the language of `locale` ("de_DE.UTF-8"),
 * or else of American English. NULL with the reason in e. */
Speller *speller_new(const char *names, const char *locale, Err *e);
/* Is the word, in UTF-8, in one of them? */
bool speller_knows(Speller *s, const char *word);
/* Adds up to `most` words that may be meant, "berth, birth"; may take a tenth of a second. */
void speller_suggest(Speller *s, const char *word, size_t most, Bytes *out);
/* What was read: "en_GB, de_DE". */
const char *speller_names(const Speller *s);
void speller_free(Speller *s);

#endif

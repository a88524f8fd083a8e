/* Character encodings other than UTF-8: a file in one of them is edited as UTF-8 and written
 * as it came. */
#ifndef ENCODING_H
#define ENCODING_H

#include "base/err.h"
#include "text/text.h"

enum { ENCODING_NAME_MAX = 24 };

/* How a file's bytes become text. */
typedef struct Encoding {
    char name[ENCODING_NAME_MAX]; /* as iconv knows it, in lower case; "" for UTF-8 and plain bytes */
    bool mark;                    /* the file begins with a byte-order mark, which is not in the text */
    bool guessed;
} Encoding;

/* Those that are offered, up to NULL; others that iconv knows work too. "utf-8" is one of them. */
extern const char *const encoding_names[];

/* What the bytes of a file look like. With an empty name and no mark they are best taken
 * as they are. */
Encoding encoding_guess(Text raw);
/* The bytes of a file as text. False, with the place in e, when they are not of that encoding. */
bool encoding_read(Text raw, const Encoding *x, Text *out, Err *e);
/* The text as bytes of a file. False with the reason when a character does not exist in that
 * encoding; *at is then its place in the text. */
bool encoding_write(Text t, const Encoding *x, Text *out, size_t *at, Err *e);
/* Takes a name as people write it, such as "UTF-8" or "Latin1"; false when it is not known. */
bool encoding_named(const char *name, Encoding *out);
/* "latin-1 with mark", as shown on the status line; `utf8`: bytes without an encoding are that. Returns
 * `out`. */
enum { ENCODING_LABEL = ENCODING_NAME_MAX + 16 };
const char *encoding_label(const Encoding *x, bool utf8, char out[ENCODING_LABEL]);
#define ENCODING_LABEL_OF(x, utf8) encoding_label(x, utf8, (char[ENCODING_LABEL]){0})

#endif

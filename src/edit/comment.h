/* Making comments of lines, and lines of comments. */
#ifndef COMMENT_H
#define COMMENT_H

#include "base/bytes.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct CommentSigns {
    const char *sign;         /* begins a comment up to the line end; NULL: there is no such sign */
    const char *open, *close; /* around a comment; used where there is no `sign` */
    const char *const *also;  /* signs that begin one as well, NULL after the last; or NULL */
    bool at_start;            /* the lines are the file's first ones: a #! there is none */
} CommentSigns;

typedef enum Commented {
    COMMENT_NOTHING, /* there are only blank lines */
    COMMENT_ADDED,
    COMMENT_REMOVED,
    COMMENT_INSIDE /* refused: what ends a comment stands in it already */
} Commented;

/* Makes comments of n bytes of whole lines, at their common indentation; or takes that away again, byte for
 * byte, when all of them are comments. A blank after the sign goes with it only where that is how they were
 * made: all lines have one, and what is left of it is no odd indentation. Blank lines stay. The result is
 * added to `out`. */
Commented comment_lines(const char *in, size_t n, const CommentSigns *signs, Bytes *out);

#endif

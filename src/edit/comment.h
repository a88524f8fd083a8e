/* Making comments of lines, and lines of comments. */
#ifndef COMMENT_H
#define COMMENT_H

#include "base/bytes.h"

#include <stdbool.h>
#include <stddef.h>

typedef struct CommentSigns {
    const char *sign;         /* begins a comment up to the line end; NULL: there is no such sign */
    const char *open, *close; /* around a comment; used where there is no `sign` */
} CommentSigns;

typedef enum Commented {
    COMMENT_NOTHING, /* there are only blank lines */
    COMMENT_ADDED,
    COMMENT_REMOVED,
    COMMENT_INSIDE /* refused: what ends a comment stands in it already */
} Commented;

/* Makes comments of n bytes of whole lines, at their common indentation; or takes that away again, byte for
 * byte, when all of them are comments. Blank lines stay as they are. The result is added to `out`. */
Commented comment_lines(const char *in, size_t n, const CommentSigns *signs, Bytes *out);

#endif

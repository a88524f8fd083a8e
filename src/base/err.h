/* Errors are values: a text for a person, filled by the code that noticed. */
#ifndef ERR_H
#define ERR_H

#include <stdbool.h>

typedef struct Err {
    char text[512]; /* one line, no final stop; "" when nothing went wrong */
} Err;

/* Writes the text, printf-like, and returns false: `return err_set(e, ...)`. `e` may be NULL. */
bool err_set(Err *e, const char *format, ...) __attribute__((format(printf, 2, 3)));

/* A short plain text for an errno value, such as "no such file". Never NULL. */
const char *err_os(int code);

#endif

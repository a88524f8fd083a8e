/* A growing row of bytes, always followed by a zero so that it can be read as a string. */
#ifndef BYTES_H
#define BYTES_H

#include <stddef.h>

typedef struct Bytes {
    char *at; /* NULL while empty and never grown; use bytes_str to read as a string */
    size_t len;
    size_t cap;
} Bytes;

/* Inserts n bytes before position pos (0..len). `from` may not point into b. */
void bytes_insert(Bytes *b, size_t pos, const void *from, size_t n);
void bytes_delete(Bytes *b, size_t pos, size_t n);
void bytes_add(Bytes *b, const void *from, size_t n);
void bytes_add_str(Bytes *b, const char *s);
void bytes_printf(Bytes *b, const char *format, ...) __attribute__((format(printf, 2, 3)));
/* The contents as a string; valid until b changes. */
const char *bytes_str(const Bytes *b);
/* Empties b but keeps its memory. */
void bytes_clear(Bytes *b);
void bytes_free(Bytes *b);

#endif

/* Code points as UTF-8, and their letter case. */
#ifndef UTF8_H
#define UTF8_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

/* Decodes one code point from n > 0 bytes. Returns its length in bytes; for a byte that
 * is no UTF-8, *code is -1 and the length 1. */
size_t utf8_decode(const char *at, size_t n, int32_t *code);
/* Writes a code point as UTF-8, returns 1..4. */
size_t utf8_write(uint32_t code, char out[4]);

/* Is all of it UTF-8? */
bool utf8_is_valid(const char *s, size_t n);

/* Is it a letter, or a sign that is put on one? */
bool utf8_is_letter(int32_t code);
/* Is it a capital letter, in any script? */
bool utf8_is_capital(int32_t code);
/* Its capital, or the code point itself. */
int32_t utf8_to_capital(int32_t code);

#endif

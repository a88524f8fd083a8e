/* Which bytes are letters of words, and which are blanks: in one place, so that marking, finding, numbers and
 * differences agree. */
#ifndef LETTERS_H
#define LETTERS_H

#include <stdbool.h>
#include <stddef.h>

/* A space or a tab. */
static inline bool letter_is_blank(int c)
{
    return c == ' ' || c == '\t';
}

/* How many of them n bytes begin with. */
static inline size_t letters_blank(const char *s, size_t n)
{
    size_t i = 0;
    while (i < n && letter_is_blank(s[i]))
        i++;
    return i;
}

/* A letter or digit, or any byte of one beyond ASCII; with its sign: that of names, too. */
static inline bool letter_is_plain(unsigned char c)
{
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c >= 0x80;
}

static inline bool letter_is_of_word(unsigned char c)
{
    return letter_is_plain(c) || c == '_';
}

#endif

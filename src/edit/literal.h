/* Finding plain bytes in plain bytes, fast. */
#ifndef LITERAL_H
#define LITERAL_H

#include <stddef.h>

/* The first place of the m > 0 bytes `what` among the n bytes at `in`, or NULL. */
const char *literal_find(const char *in, size_t n, const char *what, size_t m);

#endif

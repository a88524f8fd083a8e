/* Memory. The text tree asks with mem_try and survives a refusal; everything
 * small asks with mem_get, which does not return when there is none. */
#ifndef MEM_H
#define MEM_H

#include <stdbool.h>
#include <stddef.h>

/* Like malloc; NULL when there is no memory. Free with free(). */
void *mem_try(size_t bytes);

/* The same from a multiple of `alignment`, a power of two; in large pages if the system has them and it is
 * wanted. */
void *mem_try_aligned(size_t bytes, size_t alignment, bool large_pages);

/* Zeroed memory, never NULL: without memory the handler is called, then abort(). */
void *mem_get(size_t bytes);
/* Like realloc, never NULL for bytes > 0. New bytes are not zeroed. */
void *mem_grow(void *old, size_t bytes);
/* A copy of a string, or of the first n bytes with a zero added. Free with free(). */
char *mem_string(const char *s);
char *mem_string_n(const char *s, size_t n);

/* What mem_get does before it gives up: bring the work to safety, restore the terminal. */
void mem_on_exhaustion(void (*handler)(void));

/* For tests: let the n-th request of memory that may be refused fail once (1 is the next); 0 stops that. */
void mem_fail_at(size_t n);
/* For what hands out memory of its own: is this request the one that is to fail? */
bool mem_refused(void);

#endif

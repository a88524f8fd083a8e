/* Memory. The text tree asks with mem_try and survives a refusal; everything
 * small asks with mem_get, which does not return when there is none. */
#ifndef MEM_H
#define MEM_H

#include <stddef.h>

/* Like malloc; NULL when there is no memory. Free with free(). */
void *mem_try(size_t bytes);

/* Zeroed memory, never NULL: without memory the handler is called, then abort(). */
void *mem_get(size_t bytes);
/* Like realloc, never NULL for bytes > 0. New bytes are not zeroed. */
void *mem_grow(void *old, size_t bytes);
/* A copy of a string, or of the first n bytes with a zero added. Free with free(). */
char *mem_string(const char *s);
char *mem_string_n(const char *s, size_t n);

/* What mem_get does before it gives up: bring the work to safety, restore the terminal. */
void mem_on_exhaustion(void (*handler)(void));

/* For tests: let the n-th mem_try from now fail once (1 is the next); 0 stops that. */
void mem_fail_at(size_t n);

#endif

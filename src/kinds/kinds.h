/* Kinds of file, known by name, extension or first line. */
#ifndef KINDS_H
#define KINDS_H

#include <stdbool.h>
#include <stddef.h>

typedef struct Kind {
    const char *name;       /* as shown on the status line */
    const char *names;      /* whole file names, "|"-separated, or NULL */
    const char *extensions; /* without the dot, "|"-separated, or NULL */
    const char *programs;   /* interpreters on a "#!" line, or NULL */
} Kind;

/* The kind of a file; `path` may be NULL; `head` are its first n bytes. Never NULL. */
const Kind *kind_of(const char *path, const char *head, size_t n);
/* The kind with that name, or NULL. */
const Kind *kind_named(const char *name);

/* Is it written for people, so that it may hold blanks of any sort? In other kinds one that only looks like a
 * blank breaks things. */
bool kind_is_prose(const Kind *k);

/* All kinds one by one, from 0; NULL after the last. */
const Kind *kind_number(size_t i);

#endif

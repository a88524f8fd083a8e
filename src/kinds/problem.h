/* What a checker finds wrong in a text. */
#ifndef PROBLEM_H
#define PROBLEM_H

#include <stdbool.h>
#include <stddef.h>

typedef struct Problem {
    size_t line, column; /* from 1, columns in bytes; 0: not known */
    char *words;         /* for a person, one line */
    char *about;         /* where the line is not known: a word that it is about, or NULL */
    const char *checker; /* who says so; lasts */
    bool hint;           /* it may well be meant so: it is told, and holds nothing up */
} Problem;

/* Begin with {0}. */
typedef struct Problems {
    Problem *at;
    size_t n;
    const char *checker; /* whose the next ones are */
} Problems;

enum { PROBLEMS_MOST = 500 /* that are taken in; nobody reads more */ };

/* Adds one, printf-like; NULL when there are PROBLEMS_MOST. */
Problem *problems_add(Problems *p, size_t line, size_t column, const char *format, ...)
    __attribute__((format(printf, 4, 5)));
/* The same for a hint. */
Problem *problems_hint(Problems *p, size_t line, size_t column, const char *format, ...)
    __attribute__((format(printf, 4, 5)));
/* How many are more than hints. */
size_t problems_wrong(const Problems *p);
void problems_free(Problems *p);

#endif

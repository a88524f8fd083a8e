#include "kinds/problem.h"

#include "base/array.h"
#include "base/mem.h"

#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>

Problem *problems_add(Problems *p, size_t line, size_t column, const char *format, ...)
{
    char words[400];
    va_list args;
    if (p->n == PROBLEMS_MOST)
        return NULL;
    va_start(args, format);
    vsnprintf(words, sizeof words, format, args);
    va_end(args);
    for (char *c = words; *c; c++) /* what other programs say may hold anything */
        if ((unsigned char)*c < ' ' || *c == 127)
            *c = ' ';
    p->at = array_room(p->at, p->n, sizeof *p->at);
    p->at[p->n] =
        (Problem){.line = line, .column = column, .words = mem_string(words), .checker = p->checker};
    return &p->at[p->n++];
}

void problems_free(Problems *p)
{
    for (size_t i = 0; i < p->n; i++) {
        free(p->at[i].words);
        free(p->at[i].about);
    }
    free(p->at);
    *p = (Problems){0};
}

#include "kinds/problem.h"

#include "base/array.h"
#include "base/mem.h"

#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static Problem *add(Problems *p, size_t line, size_t column, bool hint, const char *format, va_list args)
{
    char words[400] = "hint: ";
    size_t begin = hint ? strlen(words) : 0;
    if (p->n == PROBLEMS_MOST)
        return NULL;
    vsnprintf(words + begin, sizeof words - begin, format, args);
    for (char *c = words; *c; c++) /* what other programs say may hold anything */
        if ((unsigned char)*c < ' ' || *c == 127)
            *c = ' ';
    p->at = array_room(p->at, p->n, sizeof *p->at);
    p->at[p->n] = (Problem){
        .line = line, .column = column, .words = mem_string(words), .checker = p->checker, .hint = hint};
    return &p->at[p->n++];
}

Problem *problems_add(Problems *p, size_t line, size_t column, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    Problem *added = add(p, line, column, false, format, args);
    va_end(args);
    return added;
}

Problem *problems_hint(Problems *p, size_t line, size_t column, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    Problem *added = add(p, line, column, true, format, args);
    va_end(args);
    return added;
}

size_t problems_wrong(const Problems *p)
{
    size_t n = 0;
    for (size_t i = 0; i < p->n; i++)
        n += !p->at[i].hint;
    return n;
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

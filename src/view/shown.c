#include "view/shown.h"

#include "base/mem.h"

#include <stdlib.h>

void shown_begin(OpenFile *f, size_t tab)
{
    f->shown = mem_get(sizeof *f->shown);
    f->shown->tab = tab;
}

void shown_end(OpenFile *f)
{
    text_drop(&f->shown->since);
    free(f->shown);
    f->shown = NULL;
}

#include "commands/about.h"

#include "base/mem.h"

#include <stdlib.h>

About *about_new(About a)
{
    About *copy = mem_get(sizeof *copy);
    *copy = a;
    copy->copy = a.copy ? mem_string(a.copy) : NULL;
    return copy;
}

void about_free(void *ctx)
{
    free(((About *)ctx)->copy);
    free(ctx);
}

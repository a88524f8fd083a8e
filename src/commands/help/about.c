#include "commands/help/about.h"

#include "base/mem.h"

About *about_new(About a)
{
    About *copy = mem_get(sizeof *copy);
    *copy = a;
    return copy;
}

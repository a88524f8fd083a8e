#include "base/notices.h"

#include <stdio.h>

void notices_put(Notices *n, bool warning, const char *format, va_list args)
{
    vsnprintf(n->text, sizeof n->text, format, args);
    n->warning = warning;
    n->shown = false;
    n->since = n->now;
    n->clear_at = 0;
}

void notices_say(Notices *n, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(n, false, format, args);
    va_end(args);
}

void notices_warn(Notices *n, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(n, true, format, args);
    va_end(args);
}

void notices_clear(Notices *n)
{
    n->text[0] = 0;
    n->warning = false;
    n->clear_at = 0;
}

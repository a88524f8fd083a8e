#include "base/err.h"

#include <errno.h>
#include <stdarg.h>
#include <stdio.h>
#include <string.h>

bool err_set(Err *e, const char *format, ...)
{
    if (e) {
        va_list args;
        va_start(args, format);
        vsnprintf(e->text, sizeof e->text, format, args);
        va_end(args);
    }
    return false;
}

const char *err_os(int code)
{
    switch (code) {
    case EACCES:
    case EPERM:
        return "you may not do that (no permission)";
    case ENOENT:
        return "there is no such file or folder";
    case ENOTDIR:
        return "a part of its path is not a folder";
    case EISDIR:
        return "it is a folder";
    case ENOSPC:
        return "the disk is full";
    case EDQUOT:
        return "your share of the disk is used up";
    case EROFS:
        return "the file system can only be read";
    case ENAMETOOLONG:
        return "the name is too long";
    case ELOOP:
        return "its links lead in a circle";
    case ENOMEM:
        return "there is not enough memory";
    case EFBIG:
        return "the file would become too large";
    default:
        return strerror(code);
    }
}

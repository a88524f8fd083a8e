/* Earlier saves: what each save replaced, kept for a while in the state folder. Bounded in number, bytes and
 * age. */
#ifndef EARLIER_H
#define EARLIER_H

#include "base/err.h"
#include "text/text.h"

typedef struct EarlierSave {
    long long when;  /* seconds since 1970 it was replaced */
    unsigned number; /* of several in the same second */
    size_t bytes;
} EarlierSave;

/* Keeps the file as it lies there now, which is about to be replaced. Nothing when it is not there, is too
 * large, or is the same as the newest one that is kept. False with the reason in e. */
bool earlier_keep(const char *path, Err *e);
/* Those of a file, the newest first; how many. The caller frees *out. */
size_t earlier_list(const char *path, EarlierSave **out);
/* The bytes of one; the caller drops them. False with the reason in e. */
bool earlier_read(const char *path, const EarlierSave *s, Text *out, Err *e);
/* The file has another name now. */
void earlier_renamed(const char *from, const char *to);

#endif

/* Earlier saves: what each save replaced, kept for a while in the state folder. Bounded in number, bytes and
 * age, those of a file and those of all. */
#ifndef EARLIER_H
#define EARLIER_H

#include "base/err.h"
#include "text/text.h"

enum { EARLIER_WHO = 32 };

typedef struct EarlierSave {
    long long when;            /* when it was replaced (Unix time), */
    char who[EARLIER_WHO + 1]; /* by whom, as far as that is known; "" if not */
    unsigned number;           /* of several in the same second */
    size_t bytes;
} EarlierSave;

/* Keeps the file as it lies there now, which is about to be replaced. Nothing when it is not there, is too
 * large, is the same as the newest one that is kept, or others may not read it and it is not `also_private`.
 * False with the reason in e. */
bool earlier_keep(const char *path, bool also_private, Err *e);
/* The same with bytes that it had; false when they could not be kept. */
bool earlier_keep_bytes(const char *path, Text bytes, Err *e);
/* Those of a file, the newest first; how many. The caller frees *out. */
size_t earlier_list(const char *path, EarlierSave **out);
/* The bytes of one; the caller drops them. False with the reason in e. */
bool earlier_read(const char *path, const EarlierSave *s, Text *out, Err *e);
/* Lets the oldest ones of all files go until not more than `most` bytes are left. */
void earlier_thin_out(size_t most);
/* The file has another name now. */
void earlier_renamed(const char *from, const char *to);

#endif

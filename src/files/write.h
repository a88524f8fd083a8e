/* Writing to descriptors, as saving, keeping backups, and handing texts to other processes need it. */
#ifndef WRITE_H
#define WRITE_H

#include "text/text.h"

#include <stdatomic.h>

/* All of it, or false with errno. */
bool write_all(int fd, const char *at, size_t n);
bool write_text(int fd, Text t);
/* From now on this thread's written bytes are counted there. */
void write_count(atomic_size_t *count);
/* Where that is, or NULL. */
atomic_size_t *write_counted(void);
/* Waits until the disk has it; where a file system knows no such thing, it is done without. */
bool write_sync(int fd);
/* A name must last as long as the file's bytes: its folder is synced too. */
void write_sync_folder(const char *folder);

#endif

/* A file in the person's folder of settings, which is changed line by line, so that what a person wrote there
 * by hand stays as it is. */
#ifndef OWN_FILE_H
#define OWN_FILE_H

#include "base/bytes.h"
#include "files/disk.h"

/* Begin with {0}. */
typedef struct OwnFile {
    char *path;
    Bytes text;
    DiskState disk; /* as it was read */
} OwnFile;

/* The path of the file of that name; NULL when there is no home folder. The caller frees it. */
char *own_file_path(const char *name);
/* Reads it, empty when there is none. False with the reason in e. */
bool own_file_read(OwnFile *f, const char *name, Err *e);
/* Puts `with` in the place of n lines from that one, from 0; beyond the end: at the end. */
void own_file_put(OwnFile *f, size_t line, size_t n, const char *with);
/* Adds a text as it stands there, in quotation marks. */
void own_file_quote(const char *s, Bytes *out);
/* Writes it, its folder too if need be; false with the reason in e. */
bool own_file_write(OwnFile *f, Err *e);
void own_file_free(OwnFile *f);

#endif

/* The files of the folder data/, which the build puts into the program. */
#ifndef DATA_H
#define DATA_H

#include <stddef.h>

typedef struct DataFile {
    const char *path;  /* relative to data/, with '/' */
    const char *bytes; /* a zero follows them */
    size_t len;
} DataFile;

extern const DataFile data_files[]; /* sorted by path */
extern const size_t data_file_count;

/* The file with that path, or NULL. */
const DataFile *data_find(const char *path);

#endif

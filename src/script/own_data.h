/* Kinds and themes of the machine and of the person. */
#ifndef OWN_DATA_H
#define OWN_DATA_H

#include "base/bytes.h"

/* Reads them, once: they are the same for every text. */
void own_data_load(void);
/* What was wrong in them, a line each. */
const char *own_data_problems(void);

/* The bytes of a file that may tell us what to do; NULL when there are none, with a line in
 * `problems` unless there is no such file. The caller frees them. */
char *own_data_read(Bytes *problems, const char *path, size_t *length);

#endif

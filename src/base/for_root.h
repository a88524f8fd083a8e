/* What root may rely on. */
#ifndef FOR_ROOT_H
#define FOR_ROOT_H

#include <stdbool.h>

/* Is it so that nobody but root may change it? (`st` of a file or folder.) */
struct stat;
bool for_root_alone(const struct stat *st);
/* Can nobody but root put something else in the place of what a full path leads to? Each folder on the way
 * from / on, and each link, is root's, and others may write in it only where they cannot take away what is
 * not theirs. What is not there yet is not judged; what it leads to in the end is not, either. */
bool for_root_safe(const char *path);

/* From now on the programs that are begun have nothing of the environment that this one was given but a home
 * folder that is root's alone. Before there are threads. */
void for_root_environment(void);

#endif

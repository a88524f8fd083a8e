/* What is known of a file: a record of our own, the same for every system that has files. */
#ifndef STATE_H
#define STATE_H

#include <stdbool.h>
#include <stdint.h>

typedef enum FileType {
    FILE_PLAIN,
    FILE_FOLDER,
    FILE_LINK,
    FILE_PIPE,
    FILE_SOCKET,
    FILE_DEVICE,
    FILE_OTHER
} FileType;

/* Which file it is, among all of one system, for as long as it exists. */
typedef struct FileNode {
    uint64_t device, number; /* number 0: not known */
} FileNode;

typedef struct FileTime {
    int64_t seconds; /* since 1970 */
    long nanoseconds;
} FileTime;

enum { MODE_OTHERS_READ = 04 };

typedef struct FileState {
    FileType type;
    FileNode node;
    uint64_t size;    /* bytes */
    FileTime written; /* when its bytes changed last, */
    FileTime changed; /* and when anything of it did */
    unsigned mode;    /* who may do what, as chmod takes it */
    unsigned owner, group;
    uint64_t names; /* hard links, its own name counted */
} FileState;

/* Each is false with errno when that cannot be read. The first follows links, the next does not; the last is
 * for a name in an open folder. */
bool state_of(const char *path, FileState *out);
bool state_of_name(const char *path, FileState *out);
bool state_of_open(int fd, FileState *out);
bool state_in(int folder, const char *name, bool follow, FileState *out);

bool state_same_node(FileNode a, FileNode b);
bool state_same_time(FileTime a, FileTime b);
/* The very same file, and nothing of it has changed. */
bool state_untouched(const FileState *a, const FileState *b);

#endif

/* All that POSIX has no way for: what this system does, and beside it what others do. Where a system has
 * nothing, the call says so, and its caller lives without. Two more have a file to themselves: attributes and
 * access lists (files/rights.c), and notices of changes to a file (files/watch.c). */
#ifndef SYSTEM_H
#define SYSTEM_H

#include <fcntl.h>
#include <pthread.h>
#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>
#include <sys/stat.h>
#include <sys/types.h>

#if defined(__APPLE__) /* the same fields by other names */
#define st_mtim st_mtimespec
#define st_ctim st_ctimespec
#endif

/* A folder is only to be entered, not listed. */
#if defined(O_PATH)
enum { SYSTEM_FOLDER_ONLY = O_PATH };
#elif defined(O_SEARCH)
enum { SYSTEM_FOLDER_ONLY = O_SEARCH };
#else
enum { SYSTEM_FOLDER_ONLY = O_RDONLY };
#endif

/* ---- this program and others ---- */

/* The path of this program; false when it is not known. */
bool system_own_path(char *out, size_t cap);
/* What the system knows of a process: false when it does not tell. *ended: it only waits to be taken note of;
 * *born: when it began, by a count of the system's own. */
bool system_process(pid_t pid, bool *ended, long long *born);
/* The calling thread gives way to others of this program. */
void system_give_way(void);

/* ---- memory ---- */

/* Many pages will be used there: large ones would do. */
void system_large_pages(void *at, size_t bytes);
/* A file of memory alone, or an ordinary one without a name; -1 with errno. */
int system_memory_file(const char *name);
/* Bytes that nobody can guess, 256 at most; false when there are none. */
bool system_random(void *out, size_t n);

/* ---- files ---- */

/* pipe() with both ends closed in programs that are begun, and not waiting if that is wanted. */
bool system_pipe(int ends[2], bool no_wait);
/* Asks the system to start writing these bytes to the disk. */
void system_write_soon(int fd, off_t from, off_t n);
/* Is something mounted at that very name? False where the system does not say. */
bool system_is_mount(int folder, const char *name);
/* Why nobody may change a file, not even root: a mark that it has; NULL: it has none. */
const char *system_mark(const char *path);

/* ---- the same on all of them ---- */

/* Milliseconds on a clock that never goes back. */
uint64_t system_now_ms(void);
/* Begins a thread that leaves signals to the main one, but for those that its own mistakes raise. */
bool system_thread(pthread_t *thread, void *(*run)(void *), void *ctx);
/* rename() that fails with EEXIST instead of taking another file's place. */
bool system_rename_new(int from_folder, const char *from, int to_folder, const char *to);
/* The rights that new files are not given. Asked once, before there are threads: asking sets it for a moment.
 */
mode_t system_umask(void);
/* Reads until there are `cap` bytes or the end has come, interrupted or not. How many there are, -1 with
 * errno on failure. */
ssize_t system_read_full(int fd, char *to, size_t cap);

#endif

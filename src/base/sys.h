/* The few things that differ between systems. */
#ifndef SYS_H
#define SYS_H

#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>
#include <pthread.h>
#include <sys/types.h>

/* Milliseconds on a clock that never goes back. */
uint64_t sys_now_ms(void);

/* An absolute form of `path` without "." and ".."; links in its folder part are
 * resolved where it exists. The caller frees it. */
char *sys_full_path(const char *path);

/* `path` with a leading "~" or "~/" replaced by the home folder. The caller frees it. */
char *sys_expand_home(const char *path);
/* The other way around, to be shown. The caller frees it. */
char *sys_short_home(const char *path);

/* The part of a path after its last '/'; points into `path`. */
const char *sys_base_name(const char *path);
/* The part before it, without that '/': "." when there is none, "/" at the top. The caller frees it. */
char *sys_folder_of(const char *path);

/* The person's folder for one kind of file, "$XDG_<kind>_HOME/steady-quill" or its
 * standard place below the home folder; kind is "CONFIG" or "STATE". NULL when there is no home.
 * The folder is not made. The caller frees it. */
char *sys_own_folder(const char *kind);

/* The folder for stored state, made if need be, mode 0700. NULL with the reason in e when there is no
 * home, or when it is somebody else's: as root in another home nothing is read or left there. */
char *sys_state_folder(Err *e);

/* Where the program of that name is, by PATH or as a path; `for_root`: also where those for root lie, to
 * which PATH often does not lead. NULL: nowhere. The caller frees it. */
char *sys_find_program(const char *name, bool for_root);
/* Can one be run? */
bool sys_in_path(const char *program);

/* Makes a folder and those above it, mode 0700; true when it is there afterwards. As root, only below a
 * folder that is root's. The other returns it open, or -1 with errno. */
bool sys_make_folders(const char *path);
int sys_open_folders(const char *path);

/* Is it so that nobody but root may change it? (`st` of a file or folder.) */
struct stat;
bool sys_root_alone_writes(const struct stat *st);
/* Can nobody but root put something else in the place of what a full path leads to? Each folder on the way
 * from / on, and each link, is root's, and others may write in it only where they cannot take away what is
 * not theirs. What is not there yet is not judged; what it leads to in the end is not, either. */
bool sys_safe_for_root(const char *path);

/* fork() whose child has every signal as programs expect it from the start: what is sent to it at once must
 * not reach the handlers that it shares with us. */
pid_t sys_fork(void);

/* Is there such a process, one that has not ended? (A dead one may wait for ever to be taken note of.) */
bool sys_process_lives(pid_t pid);
/* When it began, by the system's own count, so that a number that was given again is not taken for the old
 * one; 0 when that cannot be had. */
long long sys_process_born(pid_t pid);

/* Begins a thread that leaves signals to the main one, but for those that its own mistakes raise. */
bool sys_thread(pthread_t *thread, void *(*run)(void *), void *ctx);

/* rename() that fails with EEXIST instead of taking another file's place. */
bool sys_rename_new(int from_folder, const char *from, int to_folder, const char *to);

/* The rights that new files are not given. Asked once, before there are threads: asking sets it for a moment.
 */
mode_t sys_umask(void);

/* Reads until there are `cap` bytes or the end has come, interrupted or not. How many there are, -1 with
 * errno on failure. */
ssize_t sys_read_full(int fd, char *to, size_t cap);

#endif

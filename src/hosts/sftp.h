/* What an SFTP server can be asked to do, one call each; they wait for the answer. Paths are those of the
 * host; a relative one begins in the person's home folder there. */
#ifndef SFTP_H
#define SFTP_H

#include "hosts/connection.h"

typedef struct Sftp {
    Connection *connection;
    const atomic_bool *stop; /* set when nobody waits any more; or NULL */
} Sftp;

/* What these return: a PacketStatus, or that the connection is lost (or nobody waits), or that the server
 * said what cannot be. */
enum { SFTP_LOST = -1, SFTP_SENSELESS = -2 };

/* For people: "no permission". */
const char *sftp_words(int status);

typedef struct SftpHandle {
    char bytes[256];
    size_t n;
} SftpHandle;

int sftp_state(Sftp *s, const char *path, bool follow, Attributes *out);
int sftp_open(Sftp *s, const char *path, unsigned flags, const Attributes *a, SftpHandle *h);
int sftp_close(Sftp *s, const SftpHandle *h);
/* The same, where it does not matter how it ends: nobody waits for that. */
void sftp_let_go(Sftp *s, const SftpHandle *h);
int sftp_state_open(Sftp *s, const SftpHandle *h, Attributes *out);
int sftp_set(Sftp *s, const SftpHandle *h, const Attributes *a);
/* On the disk for good, where the server can do that; else STATUS_OK too. */
int sftp_sync(Sftp *s, const SftpHandle *h);
/* In place of what is there (`over`: only where the server can do that at once), or only if nothing is. */
int sftp_rename(Sftp *s, const char *from, const char *to, bool over);
/* Another name for the same file, where the server can do that. */
int sftp_link(Sftp *s, const char *path, const char *name);
int sftp_remove(Sftp *s, const char *path);
int sftp_make_folder(Sftp *s, const char *path);
/* With links resolved; the caller frees *out. */
int sftp_real_path(Sftp *s, const char *path, char **out);

/* The state of a path, and the file opened for reading, both asked for at once; either may fail. */
int sftp_open_known(Sftp *s, const char *path, Attributes *state, int *opened, SftpHandle *h);
/* Reads to the end, many packets on their way at a time. `take` gets all bytes in their order; false: no more
 * are wanted, which is SFTP_LOST. */
int sftp_read(Sftp *s, const SftpHandle *h, uint64_t size, bool (*take)(void *ctx, const char *at, size_t n),
              void *ctx);
/* Writes `len` bytes from the file's beginning on, as `read` gives them (n from a place on), and counts those
 * that are there (or NULL). */
int sftp_write(Sftp *s, const SftpHandle *h, size_t len,
               void (*read)(const void *ctx, size_t at, char *to, size_t n), const void *ctx,
               atomic_size_t *count);
/* Each name in a folder but "." and "..", in no order, until false. */
int sftp_list(Sftp *s, const char *path, bool (*take)(void *ctx, const char *name, const Attributes *a),
              void *ctx);

#endif

#include "files/write.h"

#include "base/mem.h"
#include "base/system.h"

#include <errno.h>
#include <fcntl.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { GATHER = 256 * 1024, PIECE = 4 * 1024 * 1024 };

static _Thread_local atomic_size_t *counted;

void write_count(atomic_size_t *count)
{
    counted = count;
}

atomic_size_t *write_counted(void)
{
    return counted;
}

bool write_all(int fd, const char *at, size_t n)
{
    while (n) {
        ssize_t done = write(fd, at, n < PIECE ? n : PIECE);
        if (done < 0 && errno == EINTR)
            continue;
        if (done < 0)
            return false;
        /* The disk begins at once; measured, that halves what fsync has to wait for in the end. */
        if (n >= PIECE)
            system_write_soon(fd, lseek(fd, 0, SEEK_CUR) - done, done);
        at += done;
        n -= (size_t)done;
        if (counted)
            atomic_fetch_add(counted, (size_t)done);
    }
    return true;
}

/* Long pieces are written as they lie, short ones gathered. */
bool write_text(int fd, Text t)
{
    char *gathered = mem_get(GATHER);
    size_t held = 0, at = 0;
    bool ok = true;
    while (ok && at < text_len(t)) {
        TextRun run = text_run(t, at);
        at += run.len;
        if (held + run.len > GATHER) {
            ok = write_all(fd, gathered, held);
            held = 0;
        }
        if (run.len > GATHER) {
            ok = ok && write_all(fd, run.at, run.len);
        } else {
            memcpy(gathered + held, run.at, run.len);
            held += run.len;
        }
    }
    ok = ok && write_all(fd, gathered, held);
    int code = errno;
    free(gathered);
    errno = code;
    return ok;
}

bool write_sync(int fd)
{
    return fsync(fd) == 0 || errno == EINVAL || errno == ENOSYS || errno == EOPNOTSUPP;
}

void write_sync_folder(const char *folder)
{
    int fd = open(folder, O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd >= 0) {
        fsync(fd);
        close(fd);
    }
}

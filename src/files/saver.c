#include "files/saver.h"

#include "base/mem.h"
#include "base/system.h"
#include "files/filesystem.h"
#include "files/write.h"

#include <fcntl.h>
#include <pthread.h>
#include <stdatomic.h>
#include <stdlib.h>
#include <unistd.h>

struct Saver {
    pthread_t thread;
    char *path, *folder;
    Text text;
    SaveWish wish;
    DiskState only, disk;
    SaveFate fate;
    Err e;
    bool ok;
    atomic_bool ended;
    atomic_size_t written;
    int wake[2];
};

static void *run(void *ctx)
{
    Saver *s = ctx;
    write_count(&s->written);
    s->ok = filesystem_of(s->path)->save(s->path, s->text, &s->wish, &s->disk, &s->e);
    atomic_store(&s->ended, true);
    ssize_t ignored = write(s->wake[1], "", 1);
    (void)ignored;
    return NULL;
}

static void free_saver(Saver *s)
{
    for (int i = 0; i < 2; i++)
        if (s->wake[i] >= 0)
            close(s->wake[i]);
    text_drop(&s->text);
    free(s->path);
    free(s->folder);
    free(s);
}

Saver *saver_begin(const char *path, Text t, const SaveWish *wish)
{
    Saver *s = mem_get(sizeof *s);
    s->path = mem_string(path);
    s->text = text_keep(t);
    s->wish = *wish;
    if (wish->folder) /* the setting may change meanwhile */
        s->wish.folder = s->folder = mem_string(wish->folder);
    s->wish.fate = &s->fate;
    if (wish->only) {
        s->only = *wish->only;
        s->wish.only = &s->only;
    }
    bool ok = system_pipe(s->wake, true);
    if (!ok)
        s->wake[0] = s->wake[1] = -1;
    if (ok && system_thread(&s->thread, run, s))
        return s;
    free_saver(s);
    return NULL;
}

int saver_fd(const Saver *s)
{
    return s->wake[0];
}

bool saver_ended(const Saver *s)
{
    return atomic_load(&s->ended);
}

int saver_percent(const Saver *s)
{
    size_t done = atomic_load(&((Saver *)s)->written) / (text_len(s->text) / 100 + 1);
    return done > 100 ? 100 : (int)done;
}

bool saver_finish(Saver *s, DiskState *disk, SaveFate *fate, Err *e)
{
    pthread_join(s->thread, NULL);
    bool ok = s->ok;
    *disk = s->disk;
    *fate = s->fate;
    *e = s->e;
    free_saver(s);
    return ok;
}

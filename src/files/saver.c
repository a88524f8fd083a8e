#include "files/saver.h"

#include "base/mem.h"
#include "base/side_thread.h"
#include "files/filesystem.h"
#include "files/write.h"

#include <stdatomic.h>
#include <stdlib.h>

struct Saver {
    SideThread *thread;
    char *path, *folder;
    Text text;
    SaveWish wish;
    DiskState only, disk;
    SaveFate fate;
    Err e;
    bool ok;
    atomic_size_t written;
};

static void run(void *ctx)
{
    Saver *s = ctx;
    write_count(&s->written);
    s->ok = filesystem_of(s->path)->save(s->path, s->text, &s->wish, &s->disk, &s->e);
}

static void free_saver(Saver *s)
{
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
    s->thread = side_thread_begin(run, s);
    if (s->thread)
        return s;
    free_saver(s);
    return NULL;
}

int saver_fd(const Saver *s)
{
    return side_thread_fd(s->thread);
}

bool saver_ended(const Saver *s)
{
    return side_thread_ended(s->thread);
}

int saver_percent(const Saver *s)
{
    size_t done = atomic_load(&((Saver *)s)->written) / (text_len(s->text) / 100 + 1);
    return done > 100 ? 100 : (int)done;
}

bool saver_finish(Saver *s, DiskState *disk, SaveFate *fate, Err *e)
{
    side_thread_end(s->thread);
    bool ok = s->ok;
    *disk = s->disk;
    *fate = s->fate;
    *e = s->e;
    free_saver(s);
    return ok;
}

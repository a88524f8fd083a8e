#include "session/looking.h"

#include "base/mem.h"

#include <stdlib.h>

typedef struct Looking {
    Session *session;
    OpenFile *file;
    Errand *look, *compare;
    LookingTold told;
    void *ctx;
} Looking;

static void free_looking(Looking *l)
{
    errand_free(l->look);
    errand_free(l->compare);
    free(l);
}

void looking_forget(OpenFile *f)
{
    if (f->looking)
        free_looking(f->looking);
    f->looking = NULL;
}

static void go_on(void *ctx);

/* Its bytes say what its size and times do not. False while they are not known. */
static bool compare(Looking *l)
{
    Text bytes;
    if (!l->compare) {
        if (!openfile_bytes(l->file, &bytes))
            return true;
        l->compare = errand_begin(&(Errand){.kind = ERRAND_COMPARE, .path = l->file->path, .bytes = bytes},
                                  &l->session->tasks, go_on, l);
        text_drop(&bytes);
    }
    return l->compare->done;
}

static void end(Looking *l, Looked result)
{
    OpenFile *f = l->file;
    LookingTold told = l->told;
    void *whom = l->ctx;
    looking_forget(f);
    told(whom, f, &result);
}

static void go_on(void *ctx)
{
    Looking *l = ctx;
    OpenFile *f = l->file;
    const Seen *seen = &l->look->seen;
    if (!l->look->ok) {
        end(l, (Looked){.e = l->look->e});
        return;
    }
    Looked result = {.ok = true, .news = openfile_news_by(f, seen), .now = seen->disk};
    if (result.news == DISK_TOUCHED) {
        if (!compare(l))
            return;
        bool same = l->compare && l->compare->ok && l->compare->same &&
                    disk_same(&l->compare->seen.disk, &seen->disk);
        result.news = openfile_compared(f, same, &seen->disk);
    }
    end(l, result);
}

void looking_begin(Session *s, OpenFile *f, LookingTold told, void *ctx)
{
    looking_forget(f);
    Looking *l = f->looking = mem_get(sizeof *l);
    *l = (Looking){.session = s, .file = f, .told = told, .ctx = ctx};
    l->look = errand_begin(&(Errand){.kind = ERRAND_LOOK, .path = f->path}, &s->tasks, go_on, l);
    if (l->look->done)
        go_on(l);
}

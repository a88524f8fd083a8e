#include "session/session_around.h"

#include "base/mem.h"
#include "files/leftovers.h"
#include "session/keeper.h"

#include <stdlib.h>

void session_follow_rules(Session *s, OpenFile *f)
{
    if (s->rules.plain || !filesystem_can(f->path, FILES_HAVE_RULES)) {
        f->rules = (Rules){.trim = WISH_NONE};
        return;
    }
    Rules r = f->rules = rules_for(f->path);
    bool fresh = !f->disk.exists;
    if (r.indentation) {
        f->format.tabs = r.format.tabs;
        f->format.indent = r.format.indent;
    }
    if (fresh && r.line_ends) /* an existing file keeps its own until somebody converts it */
        f->format.ends = r.format.ends;
    if (fresh && r.charset)
        f->encoding = r.encoding;
}

void session_take_use(Session *s, OpenFile *f)
{
    in_use_release(&s->in_use, &f->in_use);
    f->used = false;
    if (!s->rules.batch && !s->rules.plain && s->rules.say_in_use && f->purpose == FOR_WORK &&
        filesystem_can(f->path, FILES_TELL_USE) && !f->look_only && disk_may_write(f->path))
        f->used = !in_use_take(&s->in_use, f->path, &f->in_use, &f->used_by);
}

/* A whole new version lies beside the file (or NULL), as its writer died. One with the very
 * bytes that the file has is not needed. Takes over `copy`. */
static void take_copy(OpenFile *f, char *copy)
{
    Text t;
    DiskState disk;
    Err ignored;
    free(f->safe_copy.path);
    f->safe_copy.path = copy;
    if (!copy || !load_file(copy, &t, &disk, &ignored))
        return;
    DiskState known = f->disk;
    known.file.written.nanoseconds ^= 1; /* by its bytes */
    bool same = disk_news(f->path, &known, t) == DISK_SAME;
    text_drop(&t);
    if (!same)
        return;
    leftover_remove(&f->safe_copy.path);
}

bool session_copy_text(Session *s, OpenFile *f, Text *t)
{
    Err e = {""};
    Text raw;
    DiskState disk;
    bool ok = f->safe_copy.path && load_file(f->safe_copy.path, &raw, &disk, &e);
    if (ok) {
        ok = encoding_read(raw, &f->encoding, t, &e);
        text_drop(&raw);
    }
    if (!ok)
        notices_warn(s->notices, "%s", e.text[0] ? e.text : "There is no such copy");
    return ok;
}

void session_settle_copy(Session *s, OpenFile *f, CopyFate fate)
{
    Text t;
    f->safe_copy.settled = true;
    if (fate == COPY_TAKE && session_copy_text(s, f, &t)) {
        doc_set_verb(f->doc, "Take the whole version");
        f->safe_copy.taken = doc_set_text(f->doc, t, 0);
        doc_set_verb(f->doc, NULL);
        text_drop(&t);
        if (f->safe_copy.taken)
            notices_say(s->notices, "The whole version is here; saving makes it the file");
        else
            notices_warn(s->notices, "There is not enough memory for that");
    } else if (fate == COPY_REMOVE && f->safe_copy.path) {
        leftover_remove(&f->safe_copy.path);
        notices_say(s->notices, "The other version of %s was removed", openfile_name(f));
    }
}

/* What there is about each of these files: asked for all at once, as there may be thousands of them. */
void session_look_around(Session *s, OpenFile *const *files, size_t n_files)
{
    OpenFile **work = mem_get(n_files * sizeof *work);
    const char **paths = mem_get(n_files * sizeof *paths);
    char **copies = mem_get(n_files * sizeof *copies);
    size_t n = 0;
    for (size_t i = 0; i < n_files; i++) {
        if (!files[i]->in_use)
            session_take_use(s, files[i]);
        if (!s->rules.batch && files[i]->purpose == FOR_WORK && files[i]->path)
            work[n++] = files[i];
    }
    if (n)
        keeper_look(s, work, n);
    size_t left = 0;
    for (size_t i = 0; i < n; i++)
        if (filesystem_can(work[i]->path, FILES_LEAVE)) {
            paths[left] = work[i]->path;
            work[left++] = work[i];
        }
    if (left)
        leftovers_find(paths, left, copies);
    for (size_t i = 0; i < left; i++)
        take_copy(work[i], copies[i]);
    free(work);
    free(paths);
    free(copies);
}

void session_reloaded(Session *s, OpenFile *f)
{
    openfile_take_format(f);
    keeper_loaded(f);
    session_look_around(s, &f, 1);
}

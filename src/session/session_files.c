#include "session/session_files.h"

#include "base/array.h"
#include "base/mem.h"
#include "kept/earlier.h"
#include "session/checking.h"
#include "session/looking.h"
#include "session/following.h"
#include "session/keeper.h"
#include "session/reading.h"
#include "session/session_around.h"
#include "session/session_memory.h"
#include "session/writing.h"

#include <stdlib.h>
#include <string.h>

static OpenFile *add_file(Session *s, Text t, char *path)
{
    OpenFile *f = openfile_new(t, path);
    f->id = ++s->last_file;
    s->files = array_room(s->files, s->n_files, sizeof *s->files);
    s->files[s->n_files++] = f;
    keeper_loaded(f);
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].added)
            s->observers[i].added(s->observers[i].ctx, f);
    return f;
}

OpenFile *session_add(Session *s, Text t)
{
    return add_file(s, t, NULL);
}

/* Those who show it let go of it first. */
static void forget(Session *s, OpenFile *f)
{
    for (size_t i = s->n_observers; i-- > 0;) /* those who build on others let go first */
        if (s->observers[i].closing)
            s->observers[i].closing(s->observers[i].ctx, f);
    size_t i = 0;
    while (s->files[i] != f)
        i++;
    memmove(s->files + i, s->files + i + 1, (--s->n_files - i) * sizeof *s->files);
    looking_forget(f);
    writing_forget(s, f);
    checking_forget(s, f);
    keeper_forget(f);
    reading_forget(s, f);
    following_forget(s, f);
    in_use_release(&s->in_use, &f->in_use);
    openfile_free(f);
}

void session_close(Session *s, OpenFile *f)
{
    keeper_dropped(s, f); /* if there was anything to drop */
    session_keep_undo(s, f);
    forget(s, f);
    s->woken = true;
}

/* ---- opening ---- */

/* The same file may be named by another path or a link. Both are asked now: the number of a file that is gone
 * is given again. */
static OpenFile *already_open(Session *s, const char *full, const DiskState *disk)
{
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        FileState now;
        bool maybe =
            f->path && disk->exists && f->disk.exists && state_same_node(f->disk.file.node, disk->file.node);
        bool same_node = maybe && filesystem_can(f->path, FILES_ARE_HERE) && state_of(f->path, &now) &&
                         state_same_node(now.node, disk->file.node);
        if (f->path && (same_node || strcmp(f->path, full) == 0))
            return f;
    }
    return NULL;
}

/* A text that a save or a renaming under way is just giving that name. */
static const OpenFile *about_to_have(const Session *s, const char *full)
{
    for (size_t i = 0; i < s->n_files; i++) {
        const OpenFile *f = s->files[i];
        const char *to = f->becomes ? f->becomes : writing_path(f);
        if (to && strcmp(to, full) == 0 && (!f->path || strcmp(f->path, to) != 0))
            return f;
    }
    return NULL;
}

/* Makes text of a file's bytes; those of no known encoding stay as they are. Takes over `raw`. */
static Text text_of(Text raw, Encoding *x)
{
    Text t;
    Err e;
    if ((!x->name[0] && !x->mark) || !encoding_read(raw, x, &t, &e)) {
        *x = (Encoding){.name = ""};
        return raw;
    }
    text_drop(&raw);
    return t;
}

static Purpose purpose_of(const Session *s, const char *path)
{
    size_t n = s->practice_folder ? strlen(s->practice_folder) : 0;
    return n && strncmp(path, s->practice_folder, n) == 0 ? FOR_PRACTICE : FOR_WORK;
}

OpenFile *session_open(Session *s, const char *path, Err *e)
{
    char *full = location_full(path);
    Text raw;
    DiskState disk;
    Loader *rest;
    const OpenFile *other = about_to_have(s, full);
    if (other) {
        err_set(e, "%s is just being %s %s; wait a moment", full,
                other->becomes ? "given as a new name to" : "written from", openfile_name(other));
        free(full);
        return NULL;
    }
    if (!filesystem_of(full)->load(full, &raw, &disk, &rest, e)) {
        free(full);
        return NULL;
    }
    OpenFile *f = already_open(s, full, &disk);
    if (f) {
        text_drop(&raw);
        loader_free(rest);
        free(full);
        return f;
    }
    Encoding x = {.name = ""};
    if (!rest) /* a text that arrives bit by bit is taken as it is */
        x = encoding_guess(raw);
    f = add_file(s, text_of(raw, &x), full);
    f->disk = disk;
    f->news = DISK_SAME;
    f->encoding = x;
    if (rest)
        reading_begin(s, f, rest);
    f->purpose = purpose_of(s, full);
    session_follow_rules(s, f);
    if (f->disk.exists && !s->rules.batch && text_format_is_binary(doc_text(f->doc))) {
        f->look_only = true;
        if (!rest) /* else it is said how far reading is */
            notices_warn(s->notices, BINARY_FORMAT, openfile_name(f));
    }
    f->unsettled = s->unsettled = true;
    if (s->rules.batch)
        session_settle(s);
    return f;
}

void session_show_use(Session *s)
{
    for (size_t i = 0; s->unsettled && i < s->n_files; i++)
        if (s->files[i]->unsettled && !s->files[i]->reading)
            session_take_use(s, s->files[i]);
}

void session_settle(Session *s)
{
    if (!s->unsettled)
        return;
    s->unsettled = false;
    OpenFile **fresh = mem_get(s->n_files * sizeof *fresh), **whole = mem_get(s->n_files * sizeof *whole);
    size_t n = 0, n_whole = 0;
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        if (!f->unsettled)
            continue;
        f->unsettled = false;
        fresh[n++] = f;
        session_recall_kind(s, f);
        if (!f->reading) /* the others follow when they are read */
            whole[n_whole++] = f;
    }
    session_look_around(s, whole, n_whole);
    for (size_t i = 0; i < n_whole; i++)
        session_recall_undo(s, whole[i]);
    session_note_opened(s, fresh, n);
    for (size_t i = 0; i < n_whole; i++)
        session_tell_opened(s, whole[i]);
    free(fresh);
    free(whole);
}

void session_renamed(Session *s, OpenFile *f, const char *path)
{
    if (f->path && !s->rules.plain)
        earlier_renamed(f->path, path);
    looking_forget(f);
    following_end(f);
    openfile_set_path(f, mem_string(path));
    f->news = DISK_SAME;
    session_take_use(s, f);
    openfile_recognise(f);
    session_follow_rules(s, f);
    keeper_renamed(s, f);
    if (!openfile_changed(f))
        session_keep_undo(s, f);
}

bool session_read_again(Session *s, OpenFile *f, Text raw, const DiskState *disk, const Encoding *as)
{
    Err e = {""};
    Text t;
    bool partial = f->reading || f->incomplete, ok;
    Encoding x = as ? *as : f->encoding;
    ok = encoding_read(raw, &x, &t, &e);
    if (!ok) {
        notices_warn(s->notices, "%s stays as it was: %s", openfile_name(f), e.text);
        return false;
    }
    keeper_dropped(s, f);
    doc_set_verb(f->doc, "Reload");
    if (partial) /* a part of the file is nothing to go back to */
        doc_reload(f->doc, t);
    else
        ok = doc_set_text(f->doc, t, session_cursor(s, f));
    doc_set_verb(f->doc, NULL);
    text_drop(&t);
    if (!ok) {
        notices_warn(s->notices, "There is not enough memory for that; nothing was changed");
        return false;
    }
    f->disk = *disk;
    f->news = DISK_SAME;
    f->encoding = x;
    f->format_changed = f->incomplete = false;
    f->dropped = 0;
    openfile_take_format(f);
    doc_mark_saved(f->doc);
    keeper_saved(s, f);
    if (partial) {
        reading_forget(s, f);
        session_reloaded(s, f);
        session_tell_more(s, f);
    }
    return true;
}

void session_forget_all(Session *s)
{
    while (s->n_files)
        forget(s, s->files[s->n_files - 1]);
}

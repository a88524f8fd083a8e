#include "session/session.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/sys.h"
#include "base/system.h"
#include "base/words.h"
#include "edit/dump.h"
#include "files/leftovers.h"
#include "files/earlier.h"
#include "session/check_work.h"
#include "session/checking.h"
#include "session/keeper.h"
#include "session/manual_pages.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/writing.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { BESIDE_FROM = 16 * 1024 * 1024 };

Session *session_new(Notices *notices)
{
    Session *s = mem_get(sizeof *s);
    s->notices = notices;
    s->rules.beside_from = BESIDE_FROM;
    s->in_use.fd = -1;
    keeper_new(s);
    return s;
}

void session_observe(Session *s, const SessionEvents *events)
{
    s->observers = array_room(s->observers, s->n_observers, sizeof *s->observers);
    s->observers[s->n_observers++] = *events;
}

void session_tell_opened(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].opened)
            s->observers[i].opened(s->observers[i].ctx, f);
}

bool session_may_save(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].saving && !s->observers[i].saving(s->observers[i].ctx, f))
            return false;
    return true;
}

void session_tell_saved(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].saved)
            s->observers[i].saved(s->observers[i].ctx, f);
}

void session_tell_checked(Session *s, OpenFile *f)
{
    plans_wake(s);
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].checked)
            s->observers[i].checked(s->observers[i].ctx, f);
}

void session_tell_more(Session *s, OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].more)
            s->observers[i].more(s->observers[i].ctx, f);
}

void session_look_at(Session *s, OpenFile *f, size_t at)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].look_at)
            s->observers[i].look_at(s->observers[i].ctx, f, at);
}

size_t session_cursor(const Session *s, const OpenFile *f)
{
    for (size_t i = 0; i < s->n_observers; i++)
        if (s->observers[i].cursor)
            return s->observers[i].cursor(s->observers[i].ctx, f);
    return 0;
}

OpenFile *session_file(const Session *s, FileId id)
{
    for (size_t i = 0; id && i < s->n_files; i++)
        if (s->files[i]->id == id)
            return s->files[i];
    return NULL;
}

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

/* Whoever shows it lets go of it first. */
static void forget(Session *s, OpenFile *f)
{
    for (size_t i = s->n_observers; i-- > 0;) /* those who build on others let go first */
        if (s->observers[i].closing)
            s->observers[i].closing(s->observers[i].ctx, f);
    size_t i = 0;
    while (s->files[i] != f)
        i++;
    memmove(s->files + i, s->files + i + 1, (--s->n_files - i) * sizeof *s->files);
    writing_forget(s, f);
    checking_forget(s, f);
    keeper_forget(f);
    reading_forget(s, f);
    in_use_release(&s->in_use, &f->in_use);
    openfile_free(f);
}

void session_close(Session *s, OpenFile *f)
{
    keeper_dropped(s, f); /* if there was anything to drop */
    session_keep_undo(s, f);
    forget(s, f);
    plans_wake(s);
}

bool session_end(Session *s, Err *e)
{
    for (size_t i = 0; i < s->n_files; i++)
        writing_poll(s, s->files[i], true);
    return keeper_end(s, e);
}

enum { LEAVE_BEHIND = 200 /* ms, at the end, for work that was given up */ };

void session_free(Session *s)
{
    Err ignored;
    session_end(s, &ignored);
    plans_free(s);
    keeper_free(s);
    manual_free_pages(s);
    while (s->n_files)
        forget(s, s->files[s->n_files - 1]);
    check_works_settle(LEAVE_BEHIND); /* so that they clean up after themselves */
    free(s->files);
    free(s->observers);
    free(s->practice_folder);
    store_close(s->store);
    free(s);
}

OpenFile *session_other_with(const Session *s, const OpenFile *f, const char *path)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i] != f && s->files[i]->path && strcmp(s->files[i]->path, path) == 0)
            return s->files[i];
    return NULL;
}

/* ---- what is remembered ---- */

enum { HISTORY_MOST = 8 * 1024 * 1024, HASHED_MOST = 256 * 1024 * 1024 };

Store *session_store(Session *s)
{
    Err e;
    if (s->rules.plain || !s->rules.remember_answers)
        return NULL;
    if (!s->store && !s->store_tried)
        s->store = store_open(&e);
    s->store_tried = true;
    return s->store;
}

/* The store, if this file's history may be kept there. */
static Store *store_for(Session *s, const OpenFile *f)
{
    bool may = f->path && f->disk.exists && s->rules.keep_undo && text_len(doc_text(f->doc)) < HASHED_MOST;
    bool open_to_all = f->disk.exists && (f->disk.st.st_mode & S_IROTH);
    return may && (open_to_all || s->rules.keep_private_undo) ? session_store(s) : NULL;
}

static void recall_undo(Session *s, OpenFile *f)
{
    Store *store = store_for(s, f);
    Bytes history = {0};
    if (store && store_get_undo(store, f->path, store_hash(doc_text(f->doc)), &history))
        dump_restore(f->doc, history.at, history.len);
    bytes_free(&history);
}

void session_keep_undo(Session *s, OpenFile *f)
{
    Store *store = doc_states(f->doc) > 1 && !s->rules.dry_run ? store_for(s, f) : NULL;
    if (!store)
        return;
    Bytes history = {0};
    dump_history(f->doc, HISTORY_MOST, &history);
    store_put_undo(store, f->path, store_hash(doc_saved_text(f->doc)), &history);
    bytes_free(&history);
}

/* ---- opening ---- */

/* The same file may be named by another path or a link. Both are asked now: the number of a file that is gone
 * is given again. */
static OpenFile *already_open(Session *s, const char *full, const DiskState *disk)
{
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        struct stat now;
        bool maybe = f->path && disk->exists && f->disk.exists && f->disk.st.st_dev == disk->st.st_dev &&
                     f->disk.st.st_ino == disk->st.st_ino;
        bool same_node = maybe && stat(f->path, &now) == 0 && now.st_dev == disk->st.st_dev &&
                         now.st_ino == disk->st.st_ino;
        if (f->path && (same_node || strcmp(f->path, full) == 0))
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

void session_follow_rules(Session *s, OpenFile *f)
{
    if (s->rules.plain || !f->path)
        return;
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

static Purpose purpose_of(const Session *s, const char *path)
{
    size_t n = s->practice_folder ? strlen(s->practice_folder) : 0;
    return n && strncmp(path, s->practice_folder, n) == 0 ? FOR_PRACTICE : FOR_WORK;
}

OpenFile *session_open(Session *s, const char *path, Err *e)
{
    char *full = sys_full_path(path);
    Text raw;
    DiskState disk;
    Loader *rest;
    for (size_t i = 0; i < s->n_files; i++) { /* a text that is about to have that name */
        const char *to = writing_path(s->files[i]);
        if (to && strcmp(to, full) == 0 && (!s->files[i]->path || strcmp(s->files[i]->path, to) != 0)) {
            err_set(e, "%s is just being written from %s; wait a moment", full, openfile_name(s->files[i]));
            free(full);
            return NULL;
        }
    }
    if (!load_file_begin(full, &raw, &disk, &rest, e)) {
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
            notices_warn(s->notices, "%s is look-only, as it is no text (zero bytes). {look-only} changes that",
                         openfile_name(f));
    }
    f->unsettled = s->unsettled = true;
    if (s->rules.batch)
        session_settle(s);
    return f;
}

void session_take_use(Session *s, OpenFile *f)
{
    in_use_release(&s->in_use, &f->in_use);
    f->used = false;
    if (!s->rules.batch && !s->rules.plain && s->rules.say_in_use && f->purpose == FOR_WORK && f->path &&
        !f->look_only && disk_may_write(f->path))
        f->used = !in_use_take(&s->in_use, f->path, &f->in_use, &f->used_by);
}

/* A whole new version lies beside the file (or NULL), as whoever wrote it in place died. One with the very
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
    known.st.st_mtim.tv_nsec ^= 1; /* by its bytes */
    bool same = disk_news(f->path, &known, t) == DISK_SAME;
    text_drop(&t);
    if (!same)
        return;
    unlink(f->safe_copy.path);
    free(f->safe_copy.path);
    f->safe_copy.path = NULL;
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
        unlink(f->safe_copy.path);
        free(f->safe_copy.path);
        f->safe_copy.path = NULL;
        notices_say(s->notices, "The other version of %s was removed", openfile_name(f));
    }
}

/* What there is about each of these files: asked for all at once, as there may be thousands of them. */
static void look_around(Session *s, OpenFile *const *files, size_t n_files)
{
    OpenFile **work = mem_get(n_files * sizeof *work);
    const char **paths = mem_get(n_files * sizeof *paths);
    char **copies = mem_get(n_files * sizeof *copies);
    size_t n = 0;
    for (size_t i = 0; i < n_files; i++) {
        if (!files[i]->in_use)
            session_take_use(s, files[i]);
        if (!s->rules.batch && files[i]->purpose == FOR_WORK && files[i]->path) {
            paths[n] = files[i]->path;
            work[n++] = files[i];
        }
    }
    if (n) {
        keeper_look(s, work, n);
        leftovers_find(paths, n, copies);
    }
    for (size_t i = 0; i < n; i++)
        take_copy(work[i], copies[i]);
    free(work);
    free(paths);
    free(copies);
}

static void note_opened(Session *s, OpenFile *const *files, size_t n)
{
    Store *store = s->rules.dry_run ? NULL : session_store(s);
    if (!store)
        return;
    store_begin(store);
    for (size_t i = 0; i < n; i++)
        store_add(store, "opened", files[i]->path);
    store_end(store);
}

/* ---- the kind that was said ---- */

static Store *store_of_kinds(Session *s, const OpenFile *f)
{
    bool may = s->rules.remember_places && !s->rules.plain && !s->rules.batch && !s->rules.dry_run &&
               f->purpose == FOR_WORK && f->path;
    return may ? session_store(s) : NULL;
}

void session_say_kind(Session *s, OpenFile *f, const Kind *k, bool remember)
{
    Store *store = remember ? store_of_kinds(s, f) : NULL;
    openfile_recognise(f);
    if (store)
        store_put_kind(store, f->path, k == f->kind ? "" : k->name);
    openfile_set_kind(f, k);
    f->kind_said = true;
}

static void recall_kind(Session *s, OpenFile *f)
{
    Store *store = f->kind_said ? NULL : store_of_kinds(s, f);
    char *name = store ? store_get_kind(store, f->path) : NULL;
    const Kind *k = name ? kind_named(name) : NULL;
    if (k)
        openfile_set_kind(f, k);
    free(name);
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
        recall_kind(s, f);
        if (!f->reading) /* the others follow when they are read */
            whole[n_whole++] = f;
    }
    look_around(s, whole, n_whole);
    for (size_t i = 0; i < n_whole; i++)
        recall_undo(s, whole[i]);
    note_opened(s, fresh, n);
    for (size_t i = 0; i < n_whole; i++)
        session_tell_opened(s, whole[i]);
    free(fresh);
    free(whole);
}

void session_renamed(Session *s, OpenFile *f, const char *path)
{
    if (f->path && !s->rules.plain)
        earlier_renamed(f->path, path);
    openfile_set_path(f, mem_string(path));
    if (f->disk.exists)
        f->disk = disk_look(path);
    f->news = DISK_SAME;
    session_take_use(s, f);
    openfile_recognise(f);
    session_follow_rules(s, f);
    keeper_renamed(s, f);
    if (!openfile_changed(f))
        session_keep_undo(s, f);
}

static DiskNews look_for_news(OpenFile *f)
{
    Text bytes;
    size_t at;
    Err e;
    DiskNews news = disk_glance(f->path, &f->disk);
    if (news != DISK_TOUCHED)
        return news;
    if (!encoding_write(doc_saved_text(f->doc), &f->encoding, &bytes, &at, &e))
        return DISK_CHANGED;
    news = disk_news(f->path, &f->disk, bytes);
    text_drop(&bytes);
    return news;
}

DiskNews session_news(OpenFile *f)
{
    if (f->writing || !f->path) /* what changes there now is ours */
        return DISK_SAME;
    return f->news = look_for_news(f);
}

bool session_is_gone(OpenFile *f)
{
    if (!f->writing && f->path && disk_glance(f->path, &f->disk) == DISK_GONE)
        f->news = DISK_GONE;
    return openfile_gone(f);
}

/* Its line ends and letters, as they prove to be. */
static void take_format(OpenFile *f)
{
    TextFormat found = text_format_of(doc_text(f->doc));
    f->format.ends = found.ends;
    f->format.utf8 = found.utf8;
}

void session_reloaded(Session *s, OpenFile *f)
{
    take_format(f);
    keeper_loaded(f);
    look_around(s, &f, 1);
}

bool session_read_again(Session *s, OpenFile *f, const Encoding *as)
{
    Err e = {""};
    Text raw, t;
    DiskState disk;
    bool partial = f->reading || f->incomplete, ok;
    if (!f->path || !load_file(f->path, &raw, &disk, &e) || !disk.exists) {
        notices_warn(s->notices, "%s", e.text[0] ? e.text : "There is nothing on disk to read");
        return false;
    }
    Encoding x = as ? *as : f->encoding;
    ok = encoding_read(raw, &x, &t, &e);
    text_drop(&raw);
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
    f->disk = disk;
    f->news = DISK_SAME;
    f->encoding = x;
    f->format_changed = f->incomplete = false;
    f->dropped = 0;
    take_format(f);
    doc_mark_saved(f->doc);
    keeper_saved(s, f);
    if (partial) {
        reading_forget(s, f);
        session_reloaded(s, f);
        session_tell_more(s, f);
    }
    return true;
}

/* ---- going on by itself ---- */

void session_poll(Session *s)
{
    tasks_poll(&s->tasks);
    plans_step(s);
    keeper_poll(s);
}

int session_wait(const Session *s)
{
    return task_sooner(keeper_wait(s), tasks_wait(&s->tasks));
}

void session_emergency(const Session *s)
{
    keeper_emergency(s);
}

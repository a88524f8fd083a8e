#include "session/session.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/sys.h"
#include "base/words.h"
#include "files/loader.h"
#include "session/keeper.h"
#include "session/plan.h"
#include "session/writing.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

const char *file_name(const OpenFile *f)
{
    if (f->purpose == FOR_READING)
        return "the help page";
    return f->path ? sys_base_name(f->path) : "this text";
}

bool file_changed(const OpenFile *f)
{
    return doc_changed(f->doc) || f->format_changed;
}

void file_recognise(OpenFile *f)
{
    char head[256];
    size_t n = text_read(doc_text(f->doc), 0, head, sizeof head);
    f->kind = kind_of(f->path, head, n);
}

enum { BESIDE_FROM = 16 * 1024 * 1024 };

Session *session_new(Notices *notices, const SessionEvents *events)
{
    Session *s = mem_get(sizeof *s);
    s->notices = notices;
    s->events = *events;
    s->rules.beside_from = BESIDE_FROM;
    keeper_new(s);
    return s;
}

OpenFile *session_file(const Session *s, FileId id)
{
    for (size_t i = 0; id && i < s->n_files; i++)
        if (s->files[i]->id == id)
            return s->files[i];
    return NULL;
}

OpenFile *session_add(Session *s, Text t)
{
    OpenFile *f = mem_get(sizeof *f);
    f->id = ++s->last_file;
    f->doc = doc_new(t);
    f->lock.fd = -1;
    f->format = text_format_of(t);
    file_recognise(f);
    s->files = array_room(s->files, s->n_files, sizeof *s->files);
    s->files[s->n_files++] = f;
    keeper_loaded(f);
    if (s->events.added)
        s->events.added(s->events.ctx, f);
    return f;
}

/* Whoever shows it lets go of it first. */
static void forget(Session *s, OpenFile *f)
{
    if (s->events.closing)
        s->events.closing(s->events.ctx, f);
    size_t i = 0;
    while (s->files[i] != f)
        i++;
    memmove(s->files + i, s->files + i + 1, (--s->n_files - i) * sizeof *s->files);
    writing_forget(f);
    keeper_forget(f);
    loader_free(f->loader);
    lockfile_release(&f->lock);
    doc_free(f->doc);
    free(f->safe_copy);
    free(f->path);
    free(f);
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

void session_free(Session *s)
{
    Err ignored;
    session_end(s, &ignored);
    plans_free(s);
    keeper_free(s);
    while (s->n_files)
        forget(s, s->files[s->n_files - 1]);
    free(s->files);
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
    if (store && store_get_undo(store, f->path, text_hash(doc_text(f->doc)), &history))
        doc_restore(f->doc, history.at, history.len);
    bytes_free(&history);
}

void session_keep_undo(Session *s, OpenFile *f)
{
    Store *store = doc_states(f->doc) > 1 && !s->rules.dry_run ? store_for(s, f) : NULL;
    if (!store)
        return;
    Bytes history = {0};
    doc_dump(f->doc, HISTORY_MOST, &history);
    store_put_undo(store, f->path, text_hash(doc_saved_text(f->doc)), &history);
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
            err_set(e, "%s is just being written from %s; wait a moment", full, file_name(s->files[i]));
            free(full);
            return NULL;
        }
    }
    if (!file_load_begin(full, &raw, &disk, &rest, e)) {
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
    f = session_add(s, text_of(raw, &x));
    f->path = full;
    f->disk = disk;
    f->encoding = x;
    f->loader = rest;
    f->purpose = purpose_of(s, full);
    file_recognise(f);
    session_follow_rules(s, f);
    f->unsettled = s->unsettled = true;
    if (s->rules.batch)
        session_settle(s);
    return f;
}

void session_take_use(Session *s, OpenFile *f)
{
    lockfile_release(&f->lock);
    f->used = false;
    if (!s->rules.batch && !s->rules.plain && s->rules.say_in_use && f->purpose == FOR_WORK && f->path &&
        !f->look_only && file_may_write(f->path))
        f->used = !lockfile_take(f->path, &f->lock, &f->used_by);
}

/* A whole new version may lie beside the file, as whoever wrote it in place died. One with the very bytes
 * that the file has is not needed. */
static void look_for_copy(OpenFile *f)
{
    Text t;
    DiskState disk;
    Err ignored;
    f->safe_copy = save_find_copy(f->path);
    if (!f->safe_copy || !file_load(f->safe_copy, &t, &disk, &ignored))
        return;
    DiskState known = f->disk;
    known.st.st_mtim.tv_nsec ^= 1; /* by its bytes */
    bool same = disk_news(f->path, &known, t) == DISK_SAME;
    text_drop(&t);
    if (!same)
        return;
    unlink(f->safe_copy);
    free(f->safe_copy);
    f->safe_copy = NULL;
}

bool session_copy_text(Session *s, OpenFile *f, Text *t)
{
    Err e = {""};
    Text raw;
    DiskState disk;
    bool ok = f->safe_copy && file_load(f->safe_copy, &raw, &disk, &e);
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
    f->copy_settled = true;
    if (fate == COPY_TAKE && session_copy_text(s, f, &t)) {
        doc_set_verb(f->doc, "Take the whole version");
        f->copy_taken = doc_set_text(f->doc, t, 0);
        doc_set_verb(f->doc, NULL);
        text_drop(&t);
        if (f->copy_taken)
            notices_say(s->notices, "The whole version is here; Ctrl+S saves it");
        else
            notices_warn(s->notices, "There is not enough memory for that");
    } else if (fate == COPY_REMOVE && f->safe_copy) {
        unlink(f->safe_copy);
        free(f->safe_copy);
        f->safe_copy = NULL;
        notices_say(s->notices, "Removed");
    }
}

static void look_around(Session *s, OpenFile *f)
{
    session_take_use(s, f);
    if (s->rules.batch || f->purpose != FOR_WORK || !f->path)
        return;
    keeper_look(s, f);
    look_for_copy(f);
}

void session_settle(Session *s)
{
    for (size_t i = 0; s->unsettled && i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        if (!f->unsettled)
            continue;
        f->unsettled = false;
        if (!f->loader) {
            look_around(s, f); /* first, as others shall see at once that it is in use */
            recall_undo(s, f);
        }
        if (session_store(s) && !s->rules.dry_run)
            store_add(session_store(s), "opened", f->path);
    }
    s->unsettled = false;
}

void session_renamed(Session *s, OpenFile *f, const char *path)
{
    free(f->path);
    f->path = mem_string(path);
    if (f->disk.exists)
        f->disk = disk_look(path);
    session_take_use(s, f);
    file_recognise(f);
    session_follow_rules(s, f);
    keeper_renamed(s, f);
    if (!file_changed(f))
        session_keep_undo(s, f);
}

DiskNews session_news(OpenFile *f)
{
    Text bytes;
    size_t at;
    Err e;
    if (f->writing || !f->path) /* what changes there now is ours */
        return DISK_SAME;
    DiskNews news = disk_glance(f->path, &f->disk);
    if (news != DISK_TOUCHED)
        return news;
    if (!encoding_write(doc_saved_text(f->doc), &f->encoding, &bytes, &at, &e))
        return DISK_CHANGED;
    news = disk_news(f->path, &f->disk, bytes);
    text_drop(&bytes);
    return news;
}

/* ---- reading ---- */

static int percent(const OpenFile *f)
{
    return (int)(loader_done(f->loader) / (loader_size(f->loader) / 100 + 1));
}

bool file_unready(const OpenFile *f, char words[FILE_WORDS_MAX])
{
    char size[WORDS_MAX];
    if (f->loader && !loader_size(f->loader)) {
        words_size(loader_done(f->loader), size);
        snprintf(words, FILE_WORDS_MAX, "%.60s is still being read, %s; Esc stops that", file_name(f), size);
    } else if (f->loader)
        snprintf(words, FILE_WORDS_MAX, "%.60s is still being read, %d%%; Esc stops that", file_name(f),
                 percent(f));
    else if (f->incomplete)
        snprintf(words, FILE_WORDS_MAX, "%.60s was not read to its end; reloading does that", file_name(f));
    return f->loader || f->incomplete;
}

static void all_is_there(Session *s, OpenFile *f)
{
    TextFormat form = text_format_of(doc_text(f->doc));
    loader_free(f->loader);
    f->loader = NULL;
    f->format.ends = form.ends;
    f->format.utf8 = form.utf8;
    keeper_loaded(f);
    look_around(s, f);
    if (s->events.more)
        s->events.more(s->events.ctx, f);
}

static void read_on(Session *s, OpenFile *f)
{
    Err e = {""};
    Text more = {0};
    LoadState state = loader_take(f->loader, &more, &e);
    if (!doc_load_more(f->doc, more)) {
        state = LOAD_FAILED;
        err_set(&e, "There is not enough memory for all of %s", file_name(f));
    }
    text_drop(&more);
    keeper_loaded(f);
    if (state == LOADED) {
        all_is_there(s, f);
    } else if (state == LOAD_FAILED) {
        session_stop_reading(s, f);
        notices_warn(s->notices, "%s. It is incomplete and can only be looked at.", e.text);
    } else if (s->events.more) {
        s->events.more(s->events.ctx, f);
    }
}

bool session_stop_reading(Session *s, OpenFile *f)
{
    if (!f->loader)
        return false;
    char size[WORDS_MAX];
    words_size(loader_done(f->loader), size);
    if (loader_size(f->loader))
        snprintf(size, sizeof size, "%d%%", percent(f));
    notices_say(s->notices, "Reading was stopped at %s; %s is incomplete and can only be looked at", size,
                file_name(f));
    loader_free(f->loader);
    f->loader = NULL;
    f->incomplete = true; /* which hinders changes and saving */
    return true;
}

bool session_finish_reading(Session *s, OpenFile *f)
{
    Err e = {""};
    Text more = {0};
    if (!f->loader)
        return true;
    bool ok = loader_finish(f->loader, &more, &e) && doc_load_more(f->doc, more);
    text_drop(&more);
    if (ok)
        all_is_there(s, f);
    else
        notices_warn(s->notices, "%s", e.text);
    return ok;
}

bool session_read_again(Session *s, OpenFile *f, const Encoding *as)
{
    Err e = {""};
    Text raw, t;
    DiskState disk;
    bool partial = f->loader || f->incomplete, ok;
    if (!f->path || !file_load(f->path, &raw, &disk, &e) || !disk.exists) {
        notices_warn(s->notices, "%s", e.text[0] ? e.text : "There is nothing on disk to read");
        return false;
    }
    Encoding x = as ? *as : f->encoding;
    ok = encoding_read(raw, &x, &t, &e);
    text_drop(&raw);
    if (!ok) {
        notices_warn(s->notices, "%s stays as it was: %s", file_name(f), e.text);
        return false;
    }
    keeper_dropped(s, f);
    doc_set_verb(f->doc, "Reload");
    if (partial) /* a part of the file is nothing to go back to */
        doc_load_anew(f->doc, t);
    else
        ok = doc_set_text(f->doc, t, s->events.cursor ? s->events.cursor(s->events.ctx, f) : 0);
    doc_set_verb(f->doc, NULL);
    text_drop(&t);
    if (!ok) {
        notices_warn(s->notices, "There is not enough memory for that; nothing was changed");
        return false;
    }
    f->disk = disk;
    f->encoding = x;
    f->format_changed = f->incomplete = false;
    f->dropped = 0;
    TextFormat form = text_format_of(doc_text(f->doc));
    f->format.ends = form.ends;
    f->format.utf8 = form.utf8;
    doc_mark_saved(f->doc);
    keeper_saved(s, f);
    if (partial)
        all_is_there(s, f);
    return true;
}

/* ---- going on by itself ---- */

void session_poll(Session *s)
{
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        if (f->loader && !loader_started(f->loader) && s->reading)
            loader_start(f->loader);
        else if (f->loader)
            read_on(s, f);
    }
    plans_step(s);
    keeper_poll(s);
}

static int sooner(int a, int b)
{
    return a < 0 ? b : b < 0 || a < b ? a : b;
}

enum { LOOK = 200 /* ms between looks at what goes on beside */ };

int session_wait(const Session *s)
{
    int wait = keeper_wait(s);
    for (size_t i = 0; i < s->n_files; i++) {
        const OpenFile *f = s->files[i];
        if (f->loader)
            wait = sooner(wait, loader_started(f->loader) ? LOOK : 0);
        if (f->writing)
            wait = sooner(wait, LOOK);
    }
    return wait;
}

size_t session_fds(const Session *s, struct pollfd *out, size_t most)
{
    size_t n = 0;
    for (size_t i = 0; i < s->n_files && n < most; i++) {
        const OpenFile *f = s->files[i];
        int fd = f->loader ? loader_fd(f->loader) : writing_fd(f);
        if (fd >= 0)
            out[n++] = (struct pollfd){.fd = fd, .events = POLLIN};
    }
    return n;
}

void session_emergency(const Session *s)
{
    keeper_emergency(s);
}

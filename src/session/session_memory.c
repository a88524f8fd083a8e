#include "session/session_memory.h"

#include "edit/dump.h"

#include <stdlib.h>
#include <sys/stat.h>

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
    bool open_to_all = f->disk.exists && (f->disk.file.mode & MODE_OTHERS_READ);
    return may && (open_to_all || s->rules.keep_private_undo) ? session_store(s) : NULL;
}

void session_recall_undo(Session *s, OpenFile *f)
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

void session_note_opened(Session *s, OpenFile *const *files, size_t n)
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

void session_recall_kind(Session *s, OpenFile *f)
{
    Store *store = f->kind_said ? NULL : store_of_kinds(s, f);
    char *name = store ? store_get_kind(store, f->path) : NULL;
    const Kind *k = name ? kind_named(name) : NULL;
    if (k)
        openfile_set_kind(f, k);
    free(name);
}

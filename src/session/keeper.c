#include "session/keeper.h"

#include "base/mem.h"
#include "files/disk.h"
#include "kept/recoverable.h"

#include <limits.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SOON = 400,                /* ms after which a change goes to the journal */
    KEYS = 100,                /* changes after which it does */
    REBASE = 32 * 1024 * 1024, /* bytes of patches after which they are put together */
    OPEN_AGAIN = 10000,        /* ms after which opening the journal is tried again */
};

typedef struct Keeper {
    Journal *journal;
    Err why;       /* why there is none, until that is reported */
    bool reported; /* that work cannot be kept at the moment */
    bool ended;    /* the program ends; nothing more is begun */
    uint64_t due;  /* before that it is not tried to open it */
    unsigned life; /* of the database: a new one knows nothing of what was in the one before */
} Keeper;

typedef struct Keeping {
    int64_t row; /* 0: nothing of it is in the journal */
    Text kept;   /* the version that is */
    unsigned long version;
    uint64_t since; /* when the first change came that is not, ms; 0: all is */
    unsigned changes;
    size_t bytes;
    char *alias;   /* the name that it is just getting on disk, or NULL */
    bool missed;   /* there was no journal when it was due */
    bool whole;    /* its file is gone: what is in the journal begins from nothing */
    bool too_much; /* it changed too much at once; until it is saved */
    Offer offer;
} Keeping;

void keeper_new(Session *s)
{
    s->keeper = mem_get(sizeof *s->keeper);
}

Journal *keeper_journal(Session *s)
{
    Keeper *k = s->keeper;
    uint64_t now = s->notices->now;
    if (s->rules.plain || s->rules.batch || !s->rules.keep_recovery || k->ended)
        return NULL;
    if (!k->journal && now >= k->due) {
        k->journal = journal_open(&k->why);
        k->due = now + OPEN_AGAIN;
        k->life = journal_life(k->journal);
    }
    return k->journal;
}

static Keeping *keeping(OpenFile *f)
{
    if (!f->keeping)
        f->keeping = mem_get(sizeof *f->keeping);
    return f->keeping;
}

void keeper_forget(OpenFile *f)
{
    if (!f->keeping)
        return;
    text_drop(&f->keeping->kept);
    free(f->keeping->alias);
    free(f->keeping);
    f->keeping = NULL;
}

/* ---- to the journal ---- */

/* The same file may be reached by a link: its work is found under the name that it really has. */
static char *real_name(const char *path)
{
    return !path ? NULL : filesystem_can(path, FILES_ARE_HERE) ? disk_real_name(path) : mem_string(path);
}

/* A file that was decoded is not its own base; nor is one that may be out of reach tomorrow. */
static DiskState base_of(const OpenFile *f)
{
    bool decoded = f->encoding.name[0] || f->encoding.mark;
    return decoded || !filesystem_can(f->path, FILES_ARE_BASES) ? (DiskState){0} : f->disk;
}

static void note_kept(OpenFile *f, size_t bytes)
{
    Keeping *k = keeping(f);
    k->bytes = bytes;
    k->since = 0;
    k->changes = 0;
    k->version = doc_version(f->doc);
    text_drop(&k->kept);
    k->kept = text_keep(doc_text(f->doc));
}

static void tell_too_much(Session *s, const OpenFile *f)
{
    notices_warn(s->notices, "So much of %s changed that it is not kept for recovery until you save it",
                 openfile_name(f));
}

/* In place of what was there (`old`, if not 0): in one transaction, so that one of both is there always. */
static void begin(Session *s, OpenFile *f, int64_t old, bool drop_old)
{
    Keeping *k = keeping(f);
    char *path = real_name(f->path);
    bool gone = openfile_gone(f);
    DiskState disk = gone ? (DiskState){0} : base_of(f);
    size_t bytes = 0;
    int64_t row = journal_replace(s->keeper->journal, old, drop_old, path, k->alias, &disk,
                                  gone ? (Text){0} : doc_saved_text(f->doc), doc_text(f->doc), &bytes);
    k->whole = gone;
    free(path);
    if (row)
        k->row = row;
    k->too_much = row == 0;
    note_kept(f, bytes);
    if (!row)
        tell_too_much(s, f);
}

/* Nobody may rely on what is not there. */
static void tell_trouble(Session *s)
{
    Keeper *k = s->keeper;
    Err e;
    bool trouble = journal_trouble(k->journal, &e);
    if (k->why.text[0] && !k->reported)
        notices_warn(s->notices, "Unsaved work cannot be kept: %s", k->why.text);
    else if (trouble && !k->reported)
        notices_warn(s->notices, "Unsaved work cannot be kept now: %s. Save it soon.", e.text);
    if (k->journal || k->why.text[0]) /* else it is as it was reported */
        k->reported = trouble || k->why.text[0];
    k->why.text[0] = 0;
}

bool keeper_in_trouble(const Session *s)
{
    return s->keeper->reported;
}

static bool is_work(const OpenFile *f)
{
    return f->purpose == FOR_WORK;
}

/* Another database stands there now: all of it once more. */
static void look_at_life(Session *s)
{
    Keeper *k = s->keeper;
    if (!k->journal || k->life == journal_life(k->journal))
        return;
    k->life = journal_life(k->journal);
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->keeping && s->files[i]->keeping->row)
            begin(s, s->files[i], s->files[i]->keeping->row, false);
}

static bool is_unsaved(const OpenFile *f)
{
    return doc_changed(f->doc) || openfile_gone(f);
}

static void flush(Session *s, OpenFile *f)
{
    Keeping *k = keeping(f);
    size_t n;
    k->since = 0;
    k->changes = 0;
    k->version = doc_version(f->doc);
    if (!is_work(f) || k->too_much)
        return;
    k->missed = !keeper_journal(s);
    if (k->missed) {
        tell_trouble(s);
        return;
    }
    look_at_life(s);
    if (openfile_gone(f) && !k->whole) { /* what it was based on is no more */
        begin(s, f, k->row, false);
        return;
    }
    if (!is_unsaved(f) && !f->writing) { /* undone back to what is on disk */
        if (k->row)
            journal_done(s->keeper->journal, k->row);
        k->row = 0;
        text_drop(&k->kept);
        return;
    }
    if (!k->row || (k->bytes > REBASE && !f->writing)) {
        begin(s, f, k->row, false);
        return;
    }
    if (!journal_patch(s->keeper->journal, k->row, k->kept, doc_text(f->doc), &n)) {
        k->too_much = true; /* what is there stays */
        tell_too_much(s, f);
        return;
    }
    note_kept(f, k->bytes + n);
}

void keeper_poll(Session *s)
{
    uint64_t now = s->notices->now;
    if (s->reading) /* ready before the first change, as a busy disk may make that slow */
        keeper_journal(s);
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        Keeping *k = keeping(f);
        k->missed = k->missed || (openfile_gone(f) && !k->whole && !k->too_much);
        if (k->missed && keeper_journal(s))
            flush(s, f);
        if (doc_version(f->doc) == k->version)
            continue;
        if (!k->since)
            k->since = now ? now : 1;
        if (++k->changes >= KEYS || now - k->since >= SOON)
            flush(s, f);
    }
    look_at_life(s);
    if (s->keeper->journal)
        tell_trouble(s);
}

int keeper_wait(const Session *s)
{
    const Keeper *k = s->keeper;
    uint64_t now = s->notices->now;
    int wait = journal_waits(k->journal) && !k->reported ? SOON : -1; /* whether it could be written */
    for (size_t i = 0; i < s->n_files; i++) {
        const Keeping *f = s->files[i]->keeping;
        bool again = f && f->missed && s->rules.keep_recovery && !s->rules.plain;
        if (!f || (!f->since && !again))
            continue;
        uint64_t due = f->since ? f->since + SOON : k->due;
        int w = due > now ? (int)(due - now) : 0;
        wait = wait < 0 || w < wait ? w : wait;
    }
    return wait;
}

void keeper_emergency(const Session *s)
{
    journal_settle(s->keeper->journal, 500);
}

void keeper_loaded(OpenFile *f)
{
    Keeping *k = keeping(f);
    k->version = doc_version(f->doc);
    k->since = 0;
    k->missed = k->whole = false;
}

/* ---- around saving ---- */

static void forget_alias(Keeping *k)
{
    free(k->alias);
    k->alias = NULL;
}

int64_t keeper_saving(Session *s, OpenFile *f)
{
    Keeping *k = keeping(f);
    DiskState disk = base_of(f);
    if (!is_work(f) || k->too_much || !keeper_journal(s) ||
        journal_holds_base(s->keeper->journal, &disk, doc_saved_text(f->doc)))
        return 0;
    /* Its base is the file itself, which is about to go. */
    flush(s, f);
    if (!k->row)
        begin(s, f, 0, false);
    if (k->row && !k->too_much)
        journal_mark(s->keeper->journal, k->row);
    return k->too_much ? 0 : k->row;
}

void keeper_replaces(Journal *j, int64_t row, const char *path, const FileState *st)
{
    if (j && row)
        journal_second_base(j, row, path, st);
}

void keeper_saved(Session *s, OpenFile *f)
{
    Keeping *k = keeping(f);
    Journal *j = s->keeper->journal;
    forget_alias(k);
    k->too_much = k->whole = false;
    if (doc_changed(f->doc) && is_work(f) &&
        keeper_journal(s)) { /* typed on meanwhile: that is not safe yet */
        int64_t old = k->row;
        begin(s, f, old, false);
        if (k->too_much && old) { /* what it held is saved */
            journal_done(j, old);
            k->row = 0;
        }
        return;
    }
    if (k->row && j)
        journal_done(j, k->row);
    k->row = 0;
    text_drop(&k->kept);
    keeper_loaded(f);
    k->missed = doc_changed(f->doc) && is_work(f); /* as soon as there is a journal */
}

void keeper_dropped(Session *s, OpenFile *f)
{
    Keeping *k = keeping(f);
    if (is_unsaved(f))
        flush(s, f);
    if (k->row && s->keeper->journal)
        journal_drop(s->keeper->journal, k->row);
    k->row = 0;
    text_drop(&k->kept);
    keeper_loaded(f);
}

void keeper_renaming(Session *s, OpenFile *f, const char *path)
{
    Keeping *k = keeping(f);
    forget_alias(k);
    k->alias = real_name(path);
    if (k->row && s->keeper->journal)
        journal_renaming(s->keeper->journal, k->row, k->alias);
}

void keeper_renamed(Session *s, OpenFile *f)
{
    Keeping *k = keeping(f);
    char *path = real_name(f->path);
    forget_alias(k);
    if (k->row && s->keeper->journal)
        journal_rename(s->keeper->journal, k->row, path);
    free(path);
}

bool keeper_end(Session *s, Err *e)
{
    Keeper *keeper = s->keeper;
    bool wanted = s->rules.keep_recovery && !s->rules.plain && !s->rules.batch;
    const OpenFile *unsaved = NULL, *lost = NULL;
    if (keeper->ended)
        return true;
    for (size_t i = 0; i < s->n_files; i++) {
        OpenFile *f = s->files[i];
        bool given_up =
            s->left && f->dropped == doc_version(f->doc) + 1; /* that was noted when it was left */
        if (given_up || !is_work(f))
            continue;
        if (!doc_changed(f->doc)) { /* taken back just now: what the journal has is no work any more */
            if (f->keeping->row && f->keeping->version != doc_version(f->doc))
                flush(s, f);
            continue;
        }
        flush(s, f);
        unsaved = f;
        if (!f->keeping->row || f->keeping->too_much)
            lost = f;
    }
    keeper->ended = true;
    if (!journal_close(keeper->journal) && !lost)
        lost = unsaved;
    keeper->journal = NULL;
    return !lost || !wanted ||
           err_set(e, "what was not saved of %s could not be kept for recovery", openfile_name(lost));
}

void keeper_free(Session *s)
{
    Err ignored;
    keeper_end(s, &ignored);
    free(s->keeper);
    s->keeper = NULL;
}

/* ---- bringing back ---- */

/* Killed between saving and taking note of that, a program leaves work that is not unsaved at all. */
static bool saved_meanwhile(Session *s, const OpenFile *f, int64_t row)
{
    Err e = {""};
    Text t = {0}, now = doc_text(f->doc);
    if (!keeper_text(s, row, &t, &e))
        return false;
    bool same = !e.text[0] && text_len(t) == text_len(now) && text_same_bytes(t, 0, now, 0, text_len(t));
    text_drop(&t);
    if (same)
        journal_done(s->keeper->journal, row);
    return same;
}

void keeper_look(Session *s, OpenFile *const *files, size_t n_files)
{
    Recoverable *r;
    if (!n_files || !keeper_journal(s))
        return;
    char **paths = mem_get(n_files * sizeof *paths);
    for (size_t i = 0; i < n_files; i++)
        paths[i] = real_name(files[i]->path);
    Err e;
    size_t n = recoverable_of(s->keeper->journal, (const char *const *)paths, n_files, &r, &e);
    if (e.text[0])
        notices_warn(s->notices, "Unsaved work of an earlier run could not be looked for: %s", e.text);
    for (size_t i = 0; i < n; i++) {
        OpenFile *f = files[r[i].of];
        Offer *offer = &keeping(f)->offer;
        if (offer->row || r[i].dropped || !is_work(f) || saved_meanwhile(s, f, r[i].id))
            continue;
        *offer = (Offer){.row = r[i].id, .when = r[i].when};
        snprintf(offer->from, sizeof offer->from, "%s", r[i].foreign ? r[i].host : "");
    }
    recoverable_free(r, n);
    for (size_t i = 0; i < n_files; i++)
        free(paths[i]);
    free(paths);
}

Offer keeper_offer(const OpenFile *f)
{
    return f->keeping ? f->keeping->offer : (Offer){0};
}

bool keeper_text(Session *s, int64_t row, Text *t, Err *e)
{
    return keeper_journal(s) ? recoverable_text(s->keeper->journal, row, t, e)
                             : err_set(e, "There is no journal now");
}

bool keeper_remains(Session *s, int64_t row, Text *t)
{
    return keeper_journal(s) && recoverable_remains(s->keeper->journal, row, t);
}

bool keeper_take(Session *s, OpenFile *f, int64_t row, Err *e)
{
    Text t = {0};
    Keeping *k = keeping(f);
    bool foreign = k->offer.row == row && k->offer.from[0];
    if (!keeper_text(s, row, &t, e))
        return false;
    doc_set_verb(f->doc, "Bring back");
    bool ok = doc_set_text(f->doc, t, 0);
    doc_set_verb(f->doc, NULL);
    text_drop(&t);
    if (!ok)
        return err_set(e, "there is not enough memory for that");
    k->offer = (Offer){0};
    /* Unsaved work again, under this run's name. Somebody may still be at the other one, or bring back more.
     */
    bool drop_old = foreign || e->text[0];
    if (k->row)
        journal_drop(s->keeper->journal, k->row);
    k->row = 0;
    if (doc_changed(f->doc))
        begin(s, f, row, drop_old);
    else if (drop_old)
        journal_drop(s->keeper->journal, row);
    else
        journal_done(s->keeper->journal, row);
    if (e->text[0])
        notices_warn(s->notices, "%s", e->text);
    else
        notices_say(s->notices,
                    "The unsaved work is back: undo shows the file as it was, saving keeps the work");
    return true;
}

void keeper_put_away(Session *s, OpenFile *f, int64_t row)
{
    if (keeper_journal(s))
        journal_drop(s->keeper->journal, row);
    keeping(f)->offer = (Offer){0};
    notices_say(s->notices, "Set aside; for %d days File, Recover work brings it back", JOURNAL_DAYS);
}

void keeper_later(OpenFile *f)
{
    keeping(f)->offer = (Offer){0};
}

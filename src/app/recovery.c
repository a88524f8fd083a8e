#include "recovery.h"

#include "differences.h"
#include "mem.h"
#include "panel.h"
#include "saving.h"
#include "sys.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum {
    SOON = 400,                /* ms after which a change goes to the journal */
    KEYS = 100,                /* keys after which it does */
    REBASE = 32 * 1024 * 1024, /* bytes of patches after which they are put together */
    OPEN_AGAIN = 10000,        /* ms after which opening the journal is tried again */
};

/* ---- writing ---- */

static Journal *journal(Editor *ed)
{
    if (ed->plain || ed->batch || !ed->settings.keep_recovery)
        return NULL;
    if (!ed->journal && ed->now >= ed->journal_due) {
        ed->journal = journal_open(&ed->journal_why);
        ed->journal_due = ed->now + OPEN_AGAIN;
    }
    return ed->journal;
}

/* Practice copies and help pages are no work. */
static bool is_work(const Editor *ed, const OpenFile *f)
{
    size_t n = ed->practice_folder ? strlen(ed->practice_folder) : 0;
    return !f->page && !(n && f->path && strncmp(f->path, ed->practice_folder, n) == 0);
}

static void begin(Editor *ed, OpenFile *f)
{
    /* A file that was decoded is not its own base. */
    DiskState disk = f->encoding.name[0] || f->encoding.mark ? (DiskState){0} : f->disk;
    f->journal_id = journal_begin(ed->journal, f->path, &disk, doc_saved_text(f->doc));
    f->journaled = text_keep(doc_saved_text(f->doc));
    f->journal_bytes = 0;
}

static void forget(OpenFile *f)
{
    text_drop(&f->journaled);
    f->journal_id = 0;
}

/* Nobody shall rely on what is not there. Root in another's home is meant to have none. */
static void tell_trouble(Editor *ed)
{
    Err e;
    bool trouble = journal_trouble(ed->journal, &e);
    if (ed->journal_why.text[0] && geteuid() != 0 && !ed->journal_told)
        warn(ed, "Unsaved work is not kept for recovery: %s", ed->journal_why.text);
    else if (trouble && !ed->journal_told)
        warn(ed, "Unsaved work cannot be kept for recovery now: %s. Saving is safer.", e.text);
    if (ed->journal || ed->journal_why.text[0]) /* else it is as it was told */
        ed->journal_told = trouble || ed->journal_why.text[0];
    ed->journal_why.text[0] = 0;
}

static void flush(Editor *ed, OpenFile *f)
{
    Text now = doc_text(f->doc);
    f->journal_since = 0;
    f->journal_keys = 0;
    f->journal_version = doc_version(f->doc);
    if (!is_work(ed, f) || f->unkept)
        return;
    if (!journal(ed)) {
        tell_trouble(ed);
        return;
    }
    if (!doc_changed(f->doc)) { /* undone back to what is on disk */
        if (f->journal_id)
            journal_done(ed->journal, f->journal_id);
        forget(f);
        return;
    }
    if (f->journal_id && f->journal_bytes > REBASE) {
        journal_done(ed->journal, f->journal_id);
        forget(f);
    }
    if (!f->journal_id)
        begin(ed, f);
    size_t n = journal_patch(ed->journal, f->journal_id, f->journaled, now);
    if (n == JOURNAL_TOO_MUCH) {
        f->unkept = true;
        forget(f);
        warn(ed, "So much of %s changed that it is not kept for recovery until you save it", file_name(f));
        return;
    }
    f->journal_bytes += n;
    text_drop(&f->journaled);
    f->journaled = text_keep(now);
}

void recovery_look(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (doc_version(f->doc) == f->journal_version)
            continue;
        if (!f->journal_since)
            f->journal_since = ed->now;
        if (++f->journal_keys >= KEYS || ed->now - f->journal_since >= SOON)
            flush(ed, f);
    }
    if (ed->journal)
        tell_trouble(ed);
}

int recovery_wait(const Editor *ed)
{
    int wait = journal_waits(ed->journal) && !ed->journal_told ? SOON : -1; /* whether it could be written */
    for (size_t i = 0; i < ed->n_files; i++) {
        const OpenFile *f = ed->files[i];
        if (!f->journal_since)
            continue;
        uint64_t due = f->journal_since + SOON;
        int w = due > ed->now ? (int)(due - ed->now) : 0;
        wait = wait < 0 || w < wait ? w : wait;
    }
    return wait;
}

void recovery_saved(Editor *ed, OpenFile *f)
{
    if (f->journal_id)
        journal_done(ed->journal, f->journal_id);
    forget(f);
    f->unkept = false;
    f->journal_since = 0;
    f->journal_version = doc_version(f->doc);
}

void recovery_dropped(Editor *ed, OpenFile *f)
{
    if (file_changed(f))
        flush(ed, f);
    if (f->journal_id)
        journal_drop(ed->journal, f->journal_id);
    forget(f);
    f->journal_since = 0;
    f->journal_version = doc_version(f->doc);
}

void recovery_end(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (f->dropped && ed->leaving)
            recovery_dropped(ed, f);
        else if (doc_changed(f->doc))
            flush(ed, f);
        inuse_release(&f->in_use);
    }
    journal_close(ed->journal);
    ed->journal = NULL;
    ed->journal_due = UINT64_MAX;
}

void editor_emergency(const Editor *ed)
{
    journal_settle(ed->journal, 500);
}

/* ---- bringing back ---- */

static void when_words(long long when, char out[40])
{
    time_t t = (time_t)when;
    struct tm here;
    localtime_r(&t, &here);
    strftime(out, 40, time(NULL) - t > 20 * 3600 ? "%d %b %H:%M" : "%H:%M", &here);
}

/* Work that is offered for a text. */
typedef struct Offer {
    OpenFile *file;
    int64_t id;
} Offer;

static void ask_offer(Editor *ed, Offer o);

static Offer *copy_of(Offer o)
{
    Offer *copy = mem_get(sizeof *copy);
    *copy = o;
    return copy;
}

static bool take(Editor *ed, OpenFile *f, int64_t id)
{
    Err e = {""};
    Text t;
    if (!journal_recover(ed->journal, id, &t, &e)) {
        warn(ed, "It cannot be brought back: %s", e.text);
        return false;
    }
    doc_set_verb(f->doc, "Bring back");
    bool ok = doc_become(f->doc, t, 0);
    doc_set_verb(f->doc, NULL);
    text_drop(&t);
    if (!ok) {
        warn(ed, "There is not enough memory for that");
        return false;
    }
    if (f->offered_from[0] || e.text[0]) /* somebody may still be at it, or bring back more */
        journal_drop(ed->journal, id);
    else
        journal_done(ed->journal, id);
    f->offered = 0;
    flush(ed, f); /* it is unsaved work again, under this run's name */
    if (e.text[0])
        warn(ed, "%s", e.text);
    else
        say(ed, "The unsaved work is back; Ctrl+Z shows the file as it was, Ctrl+S saves it");
    return true;
}

static void put_away(Editor *ed, OpenFile *f, int64_t id)
{
    journal_drop(ed->journal, id);
    f->offered = 0;
    say(ed, "Put away; for %d days File, Recover work brings it back", JOURNAL_DAYS);
}

static void viewed(Editor *ed, char letter, void *ctx)
{
    const Offer *o = ctx;
    if (letter == 'k')
        take(ed, o->file, o->id);
    else
        ask_offer(ed, *o);
}

static void view_offer(Editor *ed, const Offer *o)
{
    Err e = {""};
    Text t;
    if (!journal_recover(ed->journal, o->id, &t, &e)) {
        warn(ed, "It cannot be brought back: %s", e.text);
        return;
    }
    DifferenceSpec s = {
        .old = doc_text(o->file->doc),
        .fresh = t,
        .old_name = "the file",
        .fresh_name = "the unsaved work",
        .answers = {{'k', "Take it"}},
        .done = viewed,
        .ctx = copy_of(*o),
        .free_ctx = free,
    };
    differences_show(ed, &s);
    text_drop(&t);
}

static void offer_answered(Editor *ed, char letter, void *ctx)
{
    const Offer *o = ctx;
    if (letter == 'k')
        take(ed, o->file, o->id);
    else if (letter == 'v')
        view_offer(ed, o);
    else if (letter == 'p')
        put_away(ed, o->file, o->id);
    else
        o->file->offered = 0; /* it is asked again the next time */
}

static void ask_offer(Editor *ed, Offer o)
{
    char when[40];
    when_words(o.file->offered_when, when);
    QuestionSpec q = {
        .answers = {{'k', "Take it"}, {'v', "View it"}, {'p', "Put it away"}},
        .stay = "Later",
        .can_lose = true,
        .done = offer_answered,
        .ctx = copy_of(o),
        .free_ctx = free,
    };
    question_ask(ed, &q, "There is unsaved work on %s, of %s%s%s.", file_name(o.file), when,
                 o.file->offered_from[0] ? " on " : "", o.file->offered_from);
}

/* ---- others ---- */

static void in_use_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = ctx;
    if (letter == 'l') {
        f->look_only = true;
        say(ed, "%s can only be looked at; Esc f l changes that", file_name(f));
    } else if (letter == 'e') {
        say(ed, "You both edit %s now; saving tells when the other one saved before", file_name(f));
    } else if (ed->n_files > 1) {
        editor_close(ed, f);
    } else {
        ed->leaving = true;
    }
}

static void ask_in_use(Editor *ed, OpenFile *f)
{
    char since[40] = "";
    when_words(f->used_by.since, since);
    QuestionSpec q = {
        .answers = {{'l', "Look only"}, {'e', "Edit anyway"}},
        .stay = "Close",
        .can_lose = true,
        .done = in_use_answered,
        .ctx = f,
    };
    f->used = false;
    question_ask(ed, &q, "%s has %s open since %s on %s.", f->used_by.user, file_name(f), since,
                 f->used_by.host);
}

/* Killed between saving and taking note of that, a program leaves work that is not unsaved at all. */
static bool saved_meanwhile(Editor *ed, const OpenFile *f, int64_t id)
{
    Err e = {""};
    Text t, now = doc_text(f->doc);
    if (!journal_recover(ed->journal, id, &t, &e))
        return false;
    bool same = !e.text[0] && text_len(t) == text_len(now) && text_same_bytes(t, 0, now, 0, text_len(t));
    text_drop(&t);
    if (same)
        journal_done(ed->journal, id);
    return same;
}

static void offer(OpenFile *f, const Recoverable *r)
{
    f->offered = r->id;
    f->offered_when = r->when;
    snprintf(f->offered_from, sizeof f->offered_from, "%s", r->foreign ? r->host : "");
}

void recovery_opened(Editor *ed, OpenFile *f)
{
    Recoverable *r;
    if (ed->batch || !is_work(ed, f))
        return;
    if (!ed->plain && ed->settings.say_in_use && f->path && !f->look_only && file_may_write(f->path))
        f->used = !inuse_take(f->path, &f->in_use, &f->used_by);
    if (!f->path || !journal(ed))
        return;
    size_t n = journal_list(ed->journal, f->path, &r);
    for (size_t i = 0; i < n && !f->offered; i++)
        if (!r[i].dropped && !saved_meanwhile(ed, f, r[i].id))
            offer(f, &r[i]);
    journal_free_list(r, n);
}

/* ---- changed on disk ---- */

static void news_answered(Editor *ed, char letter, void *ctx);

static void news_viewed(Editor *ed, void *ctx)
{
    recovery_focus(ed);
    (void)ctx;
}

static void news_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = ctx;
    if (letter == 'z')
        editor_reload(ed, f);
    else if (letter == 'v')
        differences_with_disk(ed, f, news_viewed, NULL, NULL);
    else
        f->told = f->told_st; /* not again until it changes once more */
}

static bool told_already(const OpenFile *f, const struct stat *st)
{
    return f->told.st_ino == st->st_ino && f->told.st_size == st->st_size &&
           f->told.st_mtim.tv_sec == st->st_mtim.tv_sec && f->told.st_mtim.tv_nsec == st->st_mtim.tv_nsec;
}

void recovery_focus(Editor *ed)
{
    OpenFile *f = ed->view->file;
    struct stat st = {0};
    if (ed->layer || !f || f->page || !f->path || ed->batch)
        return;
    DiskNews news = file_news(f);
    bool there = stat(f->path, &st) == 0;
    if (news == DISK_SAME || (told_already(f, &st) && (there || f->told_gone)))
        return;
    f->told_st = st;
    f->told_gone = !there;
    if (news == DISK_GONE) {
        f->told = st;
        warn(ed, "%s is no longer there: it was removed or renamed. Saving writes it anew.", file_name(f));
        return;
    }
    if (!file_changed(f) && ed->settings.auto_reload) {
        editor_reload(ed, f);
        return;
    }
    char when[40];
    when_words((long long)st.st_mtim.tv_sec, when);
    QuestionSpec q = {
        .answers = {{'v', "View"}, {'z', "Reload"}},
        .stay = "Keep what is here",
        .can_lose = true,
        .done = news_answered,
        .ctx = f,
    };
    question_ask(ed, &q, "%s %s at %s.", file_name(f),
                 news == DISK_APPEARED ? "was made by somebody else" : "changed on disk", when);
}

void recovery_ask(Editor *ed)
{
    OpenFile *f = ed->view->file;
    if (ed->painted) /* ready before the first change, as a busy disk may make that slow */
        journal(ed);
    if (ed->layer || !f || ed->leaving)
        return;
    if (f->used)
        ask_in_use(ed, f);
    else if (f->offered)
        ask_offer(ed, (Offer){f, f->offered});
}

/* ---- everything ---- */

typedef struct Listing {
    Recoverable *r;
    size_t n;
} Listing;

static void describe(const Recoverable *r, Bytes *out)
{
    char when[40], size[SIZE_TEXT_MAX];
    when_words(r->when, when);
    size_text(r->bytes, size);
    bytes_printf(out, "%s, %s, %s", when, r->dropped ? "dropped" : "broken off", size);
}

static void fill_list(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ed, (void)filter;
    const Listing *l = ctx;
    for (size_t i = 0; i < l->n; i++) {
        Bytes note = {0};
        if (!l->r[i].id)
            continue;
        describe(&l->r[i], &note);
        panel_add(p, (long)i, l->r[i].path ? l->r[i].path : "(no name yet)", note.at, NULL);
        bytes_free(&note);
    }
}

static void list_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Listing *l = ctx;
    Err e = {""};
    if (id < 0)
        return;
    const Recoverable *r = &l->r[id];
    if (!r->path)
        editor_show(ed, editor_add(ed, (Text){0}));
    else if (!editor_open(ed, r->path, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    editor_settle(ed);
    offer(ed->view->file, r); /* and no other */
    take(ed, ed->view->file, r->id);
    ed->view->file->offered = 0; /* it was not asked about */
}

static bool list_key(Editor *ed, Key k, long id, void *ctx)
{
    Listing *l = ctx;
    if (k.code != K_DELETE || k.mods || id < 0)
        return false;
    journal_done(ed->journal, l->r[id].id);
    l->r[id].id = 0;
    panel_refresh(ed);
    say(ed, "Gone for good");
    return true;
}

static void free_listing(void *ctx)
{
    Listing *l = ctx;
    journal_free_list(l->r, l->n);
    free(l);
}

void recovery_list(Editor *ed)
{
    static const Hint hints[] = {{"Delete", "Forget it for good", true}, {"", NULL, false}};
    if (!journal(ed)) {
        say(ed, "No work is kept for recovery: it is turned off, or there is no place for it");
        return;
    }
    Listing *l = mem_get(sizeof *l);
    l->n = journal_list(ed->journal, NULL, &l->r);
    PanelSpec p = {
        .title = "Recover work",
        .fill = fill_list,
        .chosen = list_chosen,
        .key = list_key,
        .hints = hints,
        .empty = "There is nothing to bring back",
        .ctx = l,
        .free_ctx = free_listing,
    };
    panel_open(ed, &p);
}

void recovery_print(Editor *ed, Bytes *out)
{
    Recoverable *r = NULL;
    size_t n = journal(ed) ? journal_list(ed->journal, NULL, &r) : 0;
    for (size_t i = 0; i < n; i++) {
        bytes_printf(out, "%s\t", r[i].path ? r[i].path : "(no name yet)");
        describe(&r[i], out);
        bytes_add_str(out, "\n");
    }
    journal_free_list(r, n);
}

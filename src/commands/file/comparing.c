#include "commands/file/comparing.h"

#include "base/mem.h"
#include "commands/differences.h"
#include "commands/file/commits.h"
#include "commands/file/merging.h"
#include "files/encoding.h"
#include "files/location.h"
#include "files/versions.h"
#include "ui/awaiting.h"
#include "ui/panel.h"

#include <stdlib.h>
#include <string.h>

/* ---- against something else ---- */

/* What stands there is compared with what is chosen; the view lies below the list. */
typedef struct Choice {
    Differences *view;
    FileId file;
    PackageVersion *versions; /* that lie beside the file */
    size_t n_versions;
    bool committed; /* it lies in a work tree of a version control */
} Choice;

static const char on_disk[] = "the file on disk";

enum {
    AGAINST_SAVE,
    AGAINST_DISK,
    AGAINST_FIRST,
    AGAINST_COMMIT,
    AGAINST_COMMITS,
    AGAINST_VERSIONS,
    AGAINST_FILES = 100
};

static void free_choice(void *ctx)
{
    Choice *c = ctx;
    versions_free(c->versions, c->n_versions);
    free(c);
}

static void fill_against(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Choice *c = ctx;
    const OpenFile *f = session_file(ed->session, c->file);
    if (!f)
        return;
    for (size_t i = 0; i < c->n_versions; i++) {
        char *name = location_base(c->versions[i].path);
        panel_add(p, AGAINST_VERSIONS + (long)i, name, c->versions[i].words, NULL);
        free(name);
    }
    if (c->committed) {
        panel_add(p, AGAINST_COMMIT, "the last commit", NULL, NULL);
        panel_add(p, AGAINST_COMMITS, "earlier commits…", NULL, NULL);
    }
    panel_add(p, AGAINST_SAVE, "the last save", NULL, NULL);
    if (f->path)
        panel_add(p, AGAINST_DISK, on_disk, NULL, NULL);
    panel_add(p, AGAINST_FIRST, "as it was at first", NULL, NULL);
    for (size_t i = 0; i < ed->session->n_files; i++) {
        const OpenFile *o = ed->session->files[i];
        if (o != f)
            panel_add(p, AGAINST_FILES + (long)o->id, openfile_name(o), o->path, "open");
    }
}

/* What is to be done with the text on disk. */
typedef struct OnDisk {
    FileId file;
    void (*take)(Editor *ed, OpenFile *f, Text old, bool theirs, void *ctx);
    void (*fail)(Editor *ed, void *ctx); /* or NULL */
    void *ctx;
    void (*free_ctx)(void *ctx);
} OnDisk;

static void free_on_disk(void *ctx)
{
    OnDisk *o = ctx;
    if (o->free_ctx)
        o->free_ctx(o->ctx);
    free(o);
}

static void take_loaded(Editor *ed, Errand *e, void *ctx)
{
    OnDisk *o = ctx;
    OpenFile *f = session_file(ed->session, o->file);
    Text old;
    Err why = e->e;
    bool ok = f && e->ok && encoding_read(e->bytes, &f->encoding, &old, &why);
    if (ok) {
        o->take(ed, f, old, true, o->ctx);
        text_drop(&old);
        return;
    }
    warn(ed, "%s", why.text);
    if (o->fail)
        o->fail(ed, o->ctx);
}

static void take_look(Editor *ed, Errand *e, void *ctx)
{
    OnDisk *o = ctx;
    OpenFile *f = session_file(ed->session, o->file);
    if (!f)
        return;
    /* As long as it is what we wrote, its memory is shared with the text: that compares at once. */
    if (e->ok && openfile_news_by(f, &e->seen) == DISK_SAME) {
        o->take(ed, f, doc_saved_text(f->doc), false, o->ctx);
        return;
    }
    OnDisk *next = mem_get(sizeof *next);
    *next = *o;
    o->free_ctx = NULL; /* it goes on with the next */
    await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = f->path}, take_loaded, next, free_on_disk);
}

static void text_on_disk(Editor *ed, OpenFile *f, OnDisk what)
{
    OnDisk *o = mem_get(sizeof *o);
    *o = what;
    o->file = f->id;
    await_errand(ed, &(Errand){.kind = ERRAND_LOOK, .path = f->path}, take_look, o, free_on_disk);
}

static void set_disk(Editor *ed, OpenFile *f, Text old, bool theirs, void *ctx)
{
    (void)ed, (void)f;
    differences_set_old(ctx, old, on_disk, theirs);
}

/* A version that was loaded is compared with, if the view is still the one that asked. */
static void take_version(Editor *ed, Errand *e, void *ctx)
{
    Err why = e->e;
    Text old;
    Encoding x = e->ok ? encoding_guess(e->bytes) : (Encoding){.name = ""};
    if (!e->ok || !encoding_read(e->bytes, &x, &old, &why)) {
        warn(ed, "%s", why.text);
        return;
    }
    char *name = location_base(e->path);
    differences_set_old(ctx, old, name, true);
    free(name);
    text_drop(&old);
}

static void take_commit(Editor *ed, Text t, const char *name, void *ctx)
{
    (void)ed;
    differences_set_old(ctx, t, name, true);
}

static void against(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Choice *c = ctx;
    OpenFile *f = session_file(ed->session, c->file);
    const OpenFile *other =
        id >= AGAINST_FILES ? session_file(ed->session, (FileId)(id - AGAINST_FILES)) : NULL;
    Text old;
    const char *name = NULL;
    if (id < 0 || !f || (id >= AGAINST_FILES && !other))
        return;
    if (id == AGAINST_DISK) {
        text_on_disk(ed, f, (OnDisk){.take = set_disk, .ctx = c->view});
        return;
    } else if (id == AGAINST_COMMIT || id == AGAINST_COMMITS) {
        (id == AGAINST_COMMIT ? commits_take_last : commits_choose)(ed, f, take_commit, c->view);
        return;
    } else if (id >= AGAINST_VERSIONS && id < AGAINST_FILES) {
        if ((size_t)(id - AGAINST_VERSIONS) < c->n_versions)
            await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = c->versions[id - AGAINST_VERSIONS].path},
                         take_version, c->view, NULL);
        return;
    } else if (id < AGAINST_FILES) {
        old = text_keep(id == AGAINST_SAVE ? doc_saved_text(f->doc) : doc_state_text(f->doc, 0));
        name = id == AGAINST_SAVE ? "the last save" : "as it was at first";
    } else {
        old = text_keep(doc_text(other->doc));
        name = openfile_name(other);
    }
    differences_set_old(c->view, old, name, other != NULL);
    text_drop(&old);
}

static void choose(Editor *ed, Differences *v, FileId file)
{
    Choice *c = mem_get(sizeof *c);
    const OpenFile *f = session_file(ed->session, file);
    *c = (Choice){.view = v, .file = file};
    if (f && filesystem_can(f->path, FILES_ARE_HERE)) {
        c->versions = versions_beside(f->inside, &c->n_versions);
        c->committed = versions_in_work_tree(f->inside);
    }
    PanelSpec p = {
        .title = "Compare with", .fill = fill_against, .chosen = against, .ctx = c, .free_ctx = free_choice};
    panel_open(ed, &p);
}

/* ---- the usual ones ---- */

typedef struct Then {
    void (*then)(Editor *, void *);
    void *ctx;
    void (*free_ctx)(void *);
} Then;

static void call_then(Editor *ed, char letter, void *ctx)
{
    (void)letter;
    const Then *t = ctx;
    if (t->then)
        t->then(ed, t->ctx);
}

static void free_then(void *ctx)
{
    Then *t = ctx;
    if (t->free_ctx)
        t->free_ctx(t->ctx);
    free(t);
}

/* What is on disk has a version that both began from. */
static void merge(Editor *ed, OpenFile *f, Text old, const char *name)
{
    if (strcmp(name, on_disk) == 0)
        merging_with_disk(ed, f);
    else
        merging_with(ed, f, old);
}

static void show_file(Editor *ed, OpenFile *f, Text old, const char *old_name, bool theirs, Then then)
{
    Then *t = mem_get(sizeof *t);
    *t = then;
    DifferenceSpec s = {
        .old = old,
        .fresh = doc_text(f->doc),
        .old_name = old_name,
        .fresh_name = openfile_name(f),
        .file = f->id,
        .theirs = theirs,
        .choose = choose,
        .merge = merge,
        .done = call_then,
        .ctx = t,
        .free_ctx = free_then,
    };
    differences_show(ed, &s);
}

static void show_disk(Editor *ed, OpenFile *f, Text old, bool theirs, void *ctx)
{
    Then *t = ctx;
    show_file(ed, f, old, on_disk, theirs, *t);
    t->free_ctx = NULL; /* the view has it now */
}

static void fail_disk(Editor *ed, void *ctx)
{
    call_then(ed, 0, ctx);
}

void comparing_with_disk(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                         void (*free_ctx)(void *))
{
    Then *t = mem_get(sizeof *t);
    *t = (Then){then, ctx, free_ctx};
    text_on_disk(ed, f, (OnDisk){.take = show_disk, .fail = fail_disk, .ctx = t, .free_ctx = free_then});
}

void comparing_with_save(Editor *ed, OpenFile *f, void (*then)(Editor *, void *), void *ctx,
                         void (*free_ctx)(void *))
{
    show_file(ed, f, doc_saved_text(f->doc), f->disk.exists ? "the last save" : "nothing yet", false,
              (Then){then, ctx, free_ctx});
}

/* What an upgrade left beside a file is said once, when it is opened. */
static void opened(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    size_t n;
    if (ed->session->rules.batch || f->purpose != FOR_WORK || !filesystem_can(f->path, FILES_ARE_HERE))
        return;
    PackageVersion *all = versions_beside(f->inside, &n);
    if (n && all[0].newer) {
        char *name = location_base(all[0].path);
        say(ed, "%s lies beside it, %s. {merge} merges it, {differences}, then c, compares", name,
            all[0].words);
        free(name);
    }
    versions_free(all, n);
}

void comparing_observe(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .opened = opened};
    session_observe(ed->session, &events);
}

static void run_differences(Editor *ed, const Args *args)
{
    (void)args;
    comparing_with_save(ed, ed->panes.view->file, NULL, NULL, NULL);
}

static const Command cmd_differences = {
    .name = "differences",
    .label = "Differences",
    .letter = 'd',
    .keys = "F9",
    .help = "Show what differs from the last save, from the disk or from another text",
    .words = "diff compare changes",
    .more = "Letters in that view: n and b go to the next change and the one before, t takes one back, c "
            "compares "
            "with something else. Enter goes to the place in the text.",
    .hint = "Differences",
    .flags = CMD_FILE,
    .run = run_differences,
};

const Command *const comparing_commands[] = {
    &cmd_differences,
    NULL,
};

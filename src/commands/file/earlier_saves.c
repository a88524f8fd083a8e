#include "commands/file/earlier_saves.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/differences.h"
#include "commands/edits.h"
#include "commands/file/commits.h"
#include "commands/file/merging.h"
#include "edit/diff.h"
#include "files/location.h"
#include "files/versions.h"
#include "kept/earlier.h"
#include "ui/awaiting.h"
#include "ui/panel.h"

#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef enum OfWhat { OF_SAVE, OF_PACKAGE, OF_COMMIT } OfWhat;

typedef struct Version {
    OfWhat of;
    long long when;
    EarlierSave save;
    char *path;       /* of a package's */
    const char *what; /* it is, for people */
    Commit commit;
} Version;

typedef struct Versions {
    FileId file;
    Version *at;
    size_t n;
    size_t *order; /* their numbers, the newest first */
    CommitList *commits;
} Versions;

static void free_versions(void *ctx)
{
    Versions *l = ctx;
    for (size_t i = 0; i < l->n; i++) {
        free(l->at[i].path);
        free(l->at[i].commit.words);
    }
    commits_list_end(l->commits);
    free(l->order);
    free(l->at);
    free(l);
}

static bool is_newer(const Version *x, const Version *y)
{
    return x->when != y->when ? x->when > y->when : x->save.number > y->save.number;
}

/* The rows keep their numbers when others come later. */
static void add_version(Versions *l, Version v)
{
    size_t at = l->n;
    l->at = array_room(l->at, l->n, sizeof *l->at);
    l->order = array_room(l->order, l->n, sizeof *l->order);
    l->at[l->n] = v;
    for (; at > 0 && is_newer(&v, &l->at[l->order[at - 1]]); at--)
        l->order[at] = l->order[at - 1];
    l->order[at] = l->n++;
}

/* One of the saves as a text in the file's encoding. */
static bool text_of(Editor *ed, const OpenFile *f, const EarlierSave *s, Text *out)
{
    Err e = {""};
    Text raw = {0};
    bool ok = earlier_read(f->path, s, &raw, &e) && encoding_read(raw, &f->encoding, out, &e);
    text_drop(&raw);
    if (!ok)
        warn(ed, "%s", e.text);
    return ok;
}

enum { COUNTED = 1 << 20 /* bytes of a version whose lines are compared for the list */ };

static void note_save(Editor *ed, const OpenFile *f, const EarlierSave *s, Bytes *note)
{
    char size[WORDS_MAX];
    Text t = {0};
    words_size(s->bytes, size);
    bytes_printf(note, "%s%s%s", s->who, s->who[0] ? ", " : "", size);
    if (s->bytes > COUNTED || !text_of(ed, f, s, &t))
        return;
    size_t lines = diff_lines_changed(t, doc_text(f->doc));
    bytes_printf(note, ", %s%s", lines ? AMOUNT(lines, "line") : "the same",
                 lines > 1 ? " differ"
                 : lines   ? " differs"
                           : "");
    text_drop(&t);
}

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Versions *l = ctx;
    const OpenFile *f = session_file(ed->session, l->file);
    for (size_t i = 0; f && i < l->n; i++) {
        const Version *v = &l->at[l->order[i]];
        char when[WORDS_MAX];
        Bytes note = {0};
        if (v->of == OF_SAVE) {
            note_save(ed, f, &v->save, &note);
        } else if (v->of == OF_PACKAGE) {
            char *name = location_base(v->path);
            bytes_printf(&note, "%s, %s", name, v->what);
            free(name);
        } else {
            bytes_printf(&note, "commit, %s", v->commit.words);
        }
        panel_add(p, (long)l->order[i], words_when_exactly(v->when, when), note.at, NULL);
        bytes_free(&note);
    }
}

/* ---- one of them ---- */

typedef struct Taken {
    FileId file;
    Text old;
} Taken;

static void free_taken(void *ctx)
{
    text_drop(&((Taken *)ctx)->old);
    free(ctx);
}

static void taken(Editor *ed, char letter, void *ctx)
{
    const Taken *one = ctx;
    OpenFile *f = session_file(ed->session, one->file);
    if (f && letter == 'm')
        merging_with(ed, f, one->old);
    if (letter != 'r' || !f)
        return;
    editor_show(ed, f);
    if (!edit_allowed(ed))
        return;
    doc_set_verb(f->doc, "Take an earlier version");
    if (doc_set_text(f->doc, one->old, ed->panes.view->cursor.at))
        say(ed, "The text is as it was then; undo takes that back, saving keeps it");
    else
        warn(ed, "There is not enough memory for that; nothing was changed");
    doc_set_verb(f->doc, NULL);
}

/* Against the present text, where single changes can be taken back too. */
static void show(Editor *ed, OpenFile *f, Text old, const char *name)
{
    Taken *one = mem_get(sizeof *one);
    *one = (Taken){.file = f->id, .old = text_keep(old)};
    DifferenceSpec s = {
        .old = old,
        .fresh = doc_text(f->doc),
        .old_name = name,
        .fresh_name = openfile_name(f),
        .file = f->id,
        .answers = {{'r', "Restore all of it"}, {'m', "Merge"}},
        .done = taken,
        .ctx = one,
        .free_ctx = free_taken,
    };
    differences_show(ed, &s);
}

static void take_package(Editor *ed, Errand *e, void *ctx)
{
    OpenFile *f = session_file(ed->session, *(FileId *)ctx);
    Err why = e->e;
    Text t;
    if (!f)
        return;
    if (!e->ok || !encoding_read(e->bytes, &f->encoding, &t, &why)) {
        warn(ed, "%s", why.text);
        return;
    }
    char *name = location_base(e->path);
    show(ed, f, t, name);
    free(name);
    text_drop(&t);
}

static void take_commit(Editor *ed, Text t, const char *name, void *ctx)
{
    OpenFile *f = session_file(ed->session, (FileId)(uintptr_t)ctx);
    if (f)
        show(ed, f, t, name);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Versions *l = ctx;
    OpenFile *f = session_file(ed->session, l->file);
    if (id < 0 || !f)
        return;
    const Version *v = &l->at[id];
    char when[WORDS_MAX], name[WORDS_MAX + 20];
    Text old = {0};
    if (v->of == OF_COMMIT) {
        commits_take(ed, f, &v->commit, take_commit, (void *)(uintptr_t)f->id);
    } else if (v->of == OF_PACKAGE) {
        FileId *file = mem_get(sizeof *file);
        *file = f->id;
        await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = v->path}, take_package, file, free);
    } else if (text_of(ed, f, &v->save, &old)) {
        snprintf(name, sizeof name, "until %s", words_when_exactly(v->when, when));
        show(ed, f, old, name);
        text_drop(&old);
    }
}

/* ---- all of them ---- */

static void take_commits(Editor *ed, const Commit *all, size_t n, void *ctx)
{
    Versions *l = ctx;
    for (size_t i = 0; i < n; i++) {
        Version v = {.of = OF_COMMIT, .when = all[i].when, .commit = all[i]};
        v.commit.words = mem_string(all[i].words);
        add_version(l, v);
    }
    if (panel_shows(ed, l))
        panel_refresh(ed);
}

static void add_packages(const OpenFile *f, Versions *l)
{
    size_t n = 0;
    PackageVersion *all = versions_beside(f->inside, &n);
    for (size_t i = 0; i < n; i++)
        add_version(l, (Version){.of = OF_PACKAGE,
                                 .when = disk_look(all[i].path).file.written.seconds,
                                 .path = mem_string(all[i].path),
                                 .what = all[i].words});
    versions_free(all, n);
}

static void run_earlier(Editor *ed, const Args *args)
{
    (void)args;
    const OpenFile *f = ed->panes.view->file;
    Versions *l = mem_get(sizeof *l);
    EarlierSave *saves = NULL;
    l->file = f->id;
    size_t n = f->path ? earlier_list(f->path, &saves) : 0;
    bool here = f->path && filesystem_can(f->path, FILES_ARE_HERE);
    for (size_t i = 0; i < n; i++)
        add_version(l, (Version){.of = OF_SAVE, .when = saves[i].when, .save = saves[i]});
    free(saves);
    if (here)
        add_packages(f, l);
    if (here && versions_in_work_tree(f->inside))
        l->commits = commits_list(ed, f, take_commits, l);
    PanelSpec p = {
        .title = "Earlier saves",
        .fill = fill,
        .chosen = chosen,
        .empty = "Nothing was saved here yet that is kept (settings keep_earlier, keep_private_undo)",
        .ctx = l,
        .free_ctx = free_versions,
    };
    panel_open(ed, &p);
}

static const Command cmd_earlier_saves = {
    .name = "earlier-saves",
    .label = "Earlier saves…",
    .letter = 'h',
    .help = "List what saving replaced, commits and a package's versions, and take one or a part of it back",
    .words = "versions backup history restore",
    .more =
        "What a save replaces is kept for 90 days, at most 40 versions and 64 MB of a file, 16 MB of one, "
        "and 512 MB of all; with who replaced it; also "
        "what somebody else had changed. Files that others may not read are left out unless "
        "keep_private_undo "
        "says otherwise.",
    .flags = CMD_FILE,
    .run = run_earlier,
};

const Command *const earlier_commands[] = {&cmd_earlier_saves, NULL};

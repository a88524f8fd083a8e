#include "commands/file/merging.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "edit/merge.h"
#include "files/location.h"
#include "files/versions.h"
#include "text/text_line.h"
#include "ui/awaiting.h"
#include "ui/command.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdlib.h>

/* ---- places where both changed the same ---- */

typedef struct Walk {
    FileId file;
    DocSpot since; /* all of it is one step */
    bool folds;
    Conflict now;
} Walk;

static size_t conflicts_from(Text t, size_t from)
{
    enum { COUNTED = 1000 };
    Conflict c;
    size_t n = 0;
    for (; n < COUNTED && conflict_next(t, from, &c); n++)
        from = c.all.to;
    return n;
}

static void walk(Editor *ed, Walk *w, size_t from);

/* Puts the chosen parts in the place of all of it; returns where they end. */
static size_t decide(Editor *ed, OpenFile *f, const Walk *w, char letter)
{
    const Conflict *c = &w->now;
    const ConflictPart first = letter == 't' ? c->theirs : letter == 'o' ? c->base : c->mine;
    Text t = doc_text(f->doc), part = {0}, second = {0};
    bool ok = text_slice(t, first.from, first.to - first.from, &part);
    if (ok && letter == 'b')
        ok = text_slice(t, c->theirs.from, c->theirs.to - c->theirs.from, &second) &&
             text_insert_text(&part, text_len(part), second);
    size_t end = c->all.from + text_len(part);
    doc_set_verb(f->doc, "Merge");
    ok = ok && edit_allowed(ed) &&
         doc_replace_text(f->doc, c->all.from, c->all.to - c->all.from, part, c->all.from);
    doc_set_verb(f->doc, NULL);
    text_drop(&part);
    text_drop(&second);
    if (ok && w->folds)
        doc_fold(f->doc, w->since, "Merge");
    return ok ? end : c->all.to;
}

static void answered(Editor *ed, char letter, void *ctx)
{
    Walk *w = ctx;
    OpenFile *f = session_file(ed->session, w->file);
    if (!f)
        return;
    View *v = ed->panes.view;
    view_drop_mark(v);
    view_go(v, w->now.all.from);
    if (letter == 'e') {
        view_go(v, w->now.mine.from);
        say(ed,
            "Make it as it is to be, and take the marker lines away. {next-conflict} goes to the next one");
    } else if (letter) {
        Walk *next = mem_get(sizeof *next);
        *next = *w;
        walk(ed, next, decide(ed, f, w, letter));
    } else {
        size_t left = conflicts_from(doc_text(f->doc), 0);
        say(ed, "%s still marked. {next-conflict} goes to the next one",
            left == 1 ? "One place is" : AMOUNT(left, "place"));
    }
}

/* Shows the next place and asks; takes over w. */
static void walk(Editor *ed, Walk *w, size_t from)
{
    OpenFile *f = session_file(ed->session, w->file);
    Text t = doc_text(f->doc);
    bool any = conflict_next(t, from, &w->now) || conflict_next(t, 0, &w->now);
    if (!any) {
        say(ed, "Nothing is marked any more%s", w->folds ? "; one undo takes all of it back" : "");
        free(w);
        return;
    }
    editor_show(ed, f);
    View *v = ed->panes.view;
    view_go(v, w->now.all.to);
    v->mark.at = w->now.all.from;
    v->marking = MARK_SHIFT;
    v->top.at = text_line_start(t, text_line_of(t, w->now.all.from));
    size_t left = conflicts_from(t, 0), i = 0;
    QuestionSpec q = {.stay = "Leave it marked", .done = answered, .ctx = w, .free_ctx = free};
    q.answers[i++] = (AnswerLetter){'m', "Mine"};
    q.answers[i++] = (AnswerLetter){'t', "Theirs"};
    q.answers[i++] = (AnswerLetter){'b', "Both"};
    if (w->now.has_base)
        q.answers[i++] = (AnswerLetter){'o', "The old lines"};
    q.answers[i++] = (AnswerLetter){'e', "Edit by hand"};
    question_ask(ed, &q, "Both changed these lines (%s to decide).", AMOUNT(left, "place"));
}

/* ---- merging ---- */

/* What is loaded for it, one after the other. */
typedef struct Merge {
    FileId file;
    char *path, *base; /* the other version and what both began from; path NULL: what is on disk */
    Text theirs;
    bool has_theirs;
    DiskState disk;
} Merge;

static void free_merge(void *ctx)
{
    Merge *m = ctx;
    text_drop(&m->theirs);
    free(m->path);
    free(m->base);
    free(m);
}

static bool same_text(Text a, Text b)
{
    return text_len(a) == text_len(b) && text_same_bytes(a, 0, b, 0, text_len(a));
}

/* All is there; `base` is what both began from, or NULL. */
static void merge_now(Editor *ed, OpenFile *f, const Merge *m, const Text *base)
{
    static const MergeNames names = {"mine", "before", "theirs"}, two = {"mine", NULL, "theirs"};
    Merged out;
    Text mine = doc_text(f->doc), none = {0};
    DocSpot since = doc_spot(f->doc);
    if (!edit_allowed(ed))
        return;
    if (same_text(mine, m->theirs) || (base && same_text(*base, m->theirs))) {
        say(ed, same_text(mine, m->theirs) ? "Both are the same; there is nothing to merge"
                                           : "The other version has no changes; there is nothing to merge");
        return;
    }
    if (!merge_texts(base ? *base : none, mine, m->theirs, base ? &names : &two, f->format.ends == ENDS_CRLF,
                     &out)) {
        warn(ed, "There is not enough memory for that");
        return;
    }
    doc_set_verb(f->doc, "Merge");
    bool ok = doc_set_text(f->doc, out.text, ed->panes.view->cursor.at);
    doc_set_verb(f->doc, NULL);
    text_drop(&out.text);
    if (!ok) {
        warn(ed, "There is not enough memory for that");
        return;
    }
    if (!m->path) { /* what is on disk is known now, and may be replaced by what has both */
        f->disk = m->disk;
        f->news = DISK_SAME;
    }
    size_t len = text_len(doc_text(f->doc));
    View *v = panes_view_of(&ed->panes, f);
    if (v && v->cursor.at > len)
        view_go(v, len);
    say(ed, "Merged %s of the other version; %s", AMOUNT(out.theirs, "change"),
        out.conflicts ? "where both changed the same, you decide" : "one undo takes that back");
    if (!out.conflicts)
        return;
    Walk *w = mem_get(sizeof *w);
    *w = (Walk){.file = f->id, .since = since, .folds = true};
    walk(ed, w, 0);
}

static void take_base(Editor *ed, Errand *e, void *ctx)
{
    Merge *m = ctx;
    OpenFile *f = session_file(ed->session, m->file);
    Text base;
    Err why = e->e;
    Encoding x = e->ok ? encoding_guess(e->bytes) : (Encoding){.name = ""};
    if (!f)
        return;
    if (!e->ok || !encoding_read(e->bytes, &x, &base, &why)) {
        warn(ed, "%s", why.text);
        return;
    }
    merge_now(ed, f, m, &base);
    text_drop(&base);
}

static void take_theirs(Editor *ed, Errand *e, void *ctx)
{
    Merge *m = ctx;
    OpenFile *f = session_file(ed->session, m->file);
    Err why = e->e;
    if (!f)
        return;
    Encoding x = !m->path ? f->encoding : e->ok ? encoding_guess(e->bytes) : (Encoding){.name = ""};
    if (!e->ok || !encoding_read(e->bytes, &x, &m->theirs, &why)) {
        warn(ed, "%s", why.text);
        return;
    }
    m->disk = e->seen.disk;
    if (m->path && !m->base) {
        merge_now(ed, f, m, NULL);
        return;
    }
    if (!m->path) {
        Text base = text_keep(doc_saved_text(f->doc));
        merge_now(ed, f, m, &base);
        text_drop(&base);
        return;
    }
    Merge *next = mem_get(sizeof *next);
    *next = *m;
    *m = (Merge){0}; /* it goes on with the next */
    await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = next->base}, take_base, next, free_merge);
}

static void begin(Editor *ed, const OpenFile *f, const char *path, const char *base)
{
    Merge *m = mem_get(sizeof *m);
    *m = (Merge){
        .file = f->id, .path = path ? location_full(path) : NULL, .base = base ? location_full(base) : NULL};
    await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = m->path ? m->path : f->path}, take_theirs, m,
                 free_merge);
}

void merging_with(Editor *ed, OpenFile *f, Text theirs)
{
    char other[] = "";
    editor_show(ed, f);
    merge_now(ed, f, &(Merge){.file = f->id, .path = other, .theirs = theirs}, NULL);
}

void merging_with_disk(Editor *ed, OpenFile *f)
{
    editor_show(ed, f);
    begin(ed, f, NULL, NULL);
}

/* ---- the commands ---- */

static void path_given(Editor *ed, const char *path, void *ctx)
{
    (void)ctx;
    if (*path)
        begin(ed, ed->panes.view->file, path, NULL);
}

/* The version that a package manager left beside a file, if there is one: it is likely what is wanted. */
static char *version_beside(const OpenFile *f)
{
    size_t n = 0;
    PackageVersion *all = filesystem_can(f->path, FILES_ARE_HERE) ? versions_beside(f->inside, &n) : NULL;
    char *path = n ? mem_string(all[0].path) : NULL;
    versions_free(all, n);
    return path;
}

static void run_merge(Editor *ed, const Args *args)
{
    OpenFile *f = ed->panes.view->file;
    Bytes path = {0}, base = {0};
    const char *line = args->text;
    bool given = arguments_word(&line, &path), with_base = given && arguments_word(&line, &base);
    if (given) {
        begin(ed, f, bytes_str(&path), with_base ? bytes_str(&base) : NULL);
    } else if (f->path && f->news != DISK_SAME && f->news != DISK_GONE) {
        begin(ed, f, NULL, NULL);
    } else {
        char *beside = version_beside(f);
        PromptSpec p = {.label = "Merge with",
                        .initial = beside ? beside : "",
                        .history = "files",
                        .offer = offers_files,
                        .done = path_given};
        prompt_ask(ed, &p);
        free(beside);
    }
    bytes_free(&path);
    bytes_free(&base);
}

static const Command cmd_merge = {
    .name = "merge",
    .label = "Merge…",
    .letter = 'g',
    .help = "Bring together what is here and what somebody else made of the file, or another file",
    .words = "both combine conflict changes",
    .more =
        "When the file changed on disk while you worked on it, changes that do not touch each other are both "
        "made. Where they do, both stand between marker lines, and you decide for each place: mine, theirs, "
        "both, the old lines, or by hand. With another file (and BASE, what both began from, if there is "
        "one) the same. One undo takes all of it back.",
    .args = "FILE BASE",
    .offer = offers_files,
    .flags = CMD_CHANGES | CMD_FILE,
    .run = run_merge,
};

static void go_next(Editor *ed, size_t from)
{
    View *v = ed->panes.view;
    Conflict c;
    if (!conflict_next(view_text(v), 0, &c)) {
        decline(ed, "No lines are marked as changed by both");
        return;
    }
    Walk *w = mem_get(sizeof *w);
    *w = (Walk){.file = v->file->id};
    walk(ed, w, from);
}

void merging_go_first(Editor *ed)
{
    go_next(ed, 0);
}

static void run_next(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    go_next(ed, text_line_start(view_text(v), text_line_of(view_text(v), v->cursor.at)));
}

static const Command cmd_next_conflict = {
    .name = "next-conflict",
    .label = "Next conflict…",
    .letter = 'x',
    .help = "Go to the next lines that are marked as changed by both, and decide",
    .words = "merge marker mine theirs",
    .more = "Version controls mark such lines with <<<<<<<, ======= and >>>>>>>, and so does merging here.",
    .flags = CMD_JUMPS | CMD_CHANGES | CMD_FILE,
    .run = run_next,
};

const Command *const merging_commands[] = {&cmd_merge, &cmd_next_conflict, NULL};

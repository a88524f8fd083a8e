/* Saving: what is asked before, writing, and other names. */
#include "saving.h"

#include "differences.h"
#include "loading.h"
#include "mem.h"
#include "panes.h"
#include "privileged.h"
#include "recovery.h"
#include "saver.h"
#include "sys.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

void size_text(size_t n, char out[SIZE_TEXT_MAX])
{
    static const char *const units[] = {"kB", "MB", "GB", "TB"};
    if (n < 1000) {
        snprintf(out, SIZE_TEXT_MAX, "%zu byte%s", n, n == 1 ? "" : "s");
        return;
    }
    double v = (double)n / 1000;
    size_t u = 0;
    while (v >= 999.95 && u < 3) {
        v /= 1000;
        u++;
    }
    snprintf(out, SIZE_TEXT_MAX, "%.1f %s", v, units[u]);
}

size_t lines_of(Text t)
{
    size_t n = text_newlines(t), len = text_len(t);
    return n + (len > 0 && text_byte(t, len - 1) != '\n');
}

/* A save under way: what has been asked already. */
typedef struct Saving {
    OpenFile *file;
    void (*then)(Editor *);
    bool newline_settled, disk_settled;
} Saving;

static void save_on(Editor *ed, Saving s);

static Saving *copy_of(Saving s)
{
    Saving *copy = mem_get(sizeof *copy);
    *copy = s;
    return copy;
}

/* ---- what may have to be asked ---- */

static void newline_answered(Editor *ed, char letter, void *ctx)
{
    Saving *s = ctx;
    Text t = doc_text(s->file->doc);
    const char *end = form_line_end(&s->file->form);
    s->newline_settled = true;
    if (letter == 0) {
        say(ed, "Nothing was saved");
        return;
    }
    if (letter == 'a' &&
        !doc_replace(s->file->doc, text_len(t), 0, end, strlen(end), STEP_WHOLE, ed->view->cursor.at))
        warn(ed, "There is not enough memory for that");
    save_on(ed, *s);
}

/* True when a question is on the screen. */
static bool asks_newline(Editor *ed, Saving *s)
{
    OpenFile *f = s->file;
    Text t = doc_text(f->doc);
    size_t len = text_len(t);
    bool missing = len > 0 && text_byte(t, len - 1) != '\n';
    Wish wish = f->rules.last_newline;
    if (s->newline_settled || !missing || ed->batch)
        return false;
    if (wish == WISH_YES || (wish == WISH_NONE && ed->settings.last_newline == NEWLINE_ADD)) {
        const char *end = form_line_end(&f->form);
        doc_seal(f->doc);
        doc_replace(f->doc, len, 0, end, strlen(end), STEP_WHOLE, ed->view->cursor.at);
        return false;
    }
    if (wish == WISH_NO || ed->settings.last_newline == NEWLINE_KEEP)
        return false;
    QuestionSpec q = {
        .answers = {{'a', "Add one"}, {'k', "Save as it is"}},
        .stay = "Do not save",
        .done = newline_answered,
        .ctx = copy_of(*s),
        .free_ctx = free,
    };
    question_ask(ed, &q, "The last line of %s has no line end.", file_name(f));
    return true;
}

static void disk_answered(Editor *ed, char letter, void *ctx);

static void ask_disk(Editor *ed, Saving s, DiskNews news)
{
    OpenFile *f = s.file;
    char when[32] = "";
    struct stat st;
    if (stat(f->path, &st) == 0)
        strftime(when, sizeof when, " at %H:%M", localtime(&st.st_mtime));
    QuestionSpec q = {
        .answers = {{'v', "View"}, {'o', "Overwrite"}, {'z', "Reload"}},
        .stay = "Stay",
        .can_lose = true,
        .done = disk_answered,
        .ctx = copy_of(s),
        .free_ctx = free,
    };
    if (news == DISK_GONE) {
        q = (QuestionSpec){.answers = {{'w', "Write it anew"}},
                           .stay = "Stay",
                           .can_lose = true,
                           .done = disk_answered,
                           .ctx = q.ctx,
                           .free_ctx = free};
        question_ask(ed, &q, "%s is no longer there: it was removed or renamed.", file_name(f));
    } else if (news == DISK_APPEARED) {
        question_ask(ed, &q, "There is a %s on disk now, made%s, after you began.", file_name(f), when);
    } else {
        question_ask(ed, &q, "%s changed on disk%s, after you opened it.", file_name(f), when);
    }
}

static void viewed_disk(Editor *ed, void *ctx)
{
    Saving *s = ctx;
    DiskNews news = file_news(s->file);
    if (news != DISK_SAME)
        ask_disk(ed, *s, news);
}

static void disk_answered(Editor *ed, char letter, void *ctx)
{
    Saving *s = ctx;
    if (letter == 'o' || letter == 'w') {
        s->disk_settled = true;
        save_on(ed, *s);
    } else if (letter == 'z') {
        editor_reload(ed, s->file);
    } else if (letter == 'v') {
        differences_with_disk(ed, s->file, viewed_disk, copy_of(*s), free);
    } else {
        say(ed, "Nothing was saved");
    }
}

static bool asks_disk(Editor *ed, Saving *s)
{
    DiskNews news = s->disk_settled || ed->batch ? DISK_SAME : file_news(s->file);
    if (news == DISK_SAME)
        return false;
    ask_disk(ed, *s, news);
    return true;
}

/* ---- writing ---- */

static void go_to_unwritable(Editor *ed, OpenFile *f, size_t at)
{
    editor_show(ed, f);
    view_go(ed->view, at);
}

/* Trims line ends where .editorconfig asks for it, as one step; returns how many lines. */
static size_t trim_for_rules(Editor *ed, OpenFile *f)
{
    size_t lines = 0;
    if (f->rules.trim != WISH_YES)
        return 0;
    doc_begin(f->doc);
    doc_set_verb(f->doc, "Trim blanks");
    for (size_t line = text_newlines(doc_text(f->doc)) + 1; line-- > 0;) {
        Text t = doc_text(f->doc);
        size_t start = text_line_start(t, line), end = text_line_end(t, line);
        end -= end > start && text_byte(t, end - 1) == '\r';
        size_t from = end;
        while (from > start && (text_byte(t, from - 1) == ' ' || text_byte(t, from - 1) == '\t'))
            from--;
        if (from < end)
            lines += doc_replace(f->doc, from, end - from, NULL, 0, STEP_WHOLE, ed->view->cursor.at);
    }
    doc_set_verb(f->doc, NULL);
    doc_end(f->doc);
    return lines;
}

static void root_answered(Editor *ed, char letter, void *ctx)
{
    Saving *s = ctx;
    if (letter == 'r') {
        ed->root_save = s->file;
        ed->root_then = s->then;
    } else if (letter == 'a') {
        editor_save_as(ed, s->file, s->then);
    } else {
        say(ed, "Nothing was saved");
    }
}

/* What only root may write is saved by root, if the person wants and may. */
static bool asks_root(Editor *ed, const Saving *s)
{
    OpenFile *f = s->file;
    const char *program = privileged_program(ed->settings.become_root);
    if (ed->batch || ed->dry_run || geteuid() == 0 || file_may_write(f->path) || !program)
        return false;
    QuestionSpec q = {
        .answers = {{'r', "Save as root"}, {'a', "Another name"}},
        .stay = "Do not save",
        .can_lose = true,
        .done = root_answered,
        .ctx = copy_of(*s),
        .free_ctx = free,
    };
    question_ask(ed, &q, "You may not write %s; %s can.", file_name(f), sys_base_name(program));
    return true;
}

static bool encoded(Editor *ed, OpenFile *f, Text *out)
{
    Err e = {""};
    size_t at;
    if (encoding_write(doc_text(f->doc), &f->encoding, out, &at, &e))
        return true;
    warn(ed, "%s was not saved: %s. Esc f p chooses another encoding.", file_name(f), e.text);
    go_to_unwritable(ed, f, at);
    return false;
}

SaveWish save_wish(const Editor *ed)
{
    return (SaveWish){(Backup)ed->settings.backup, (unsigned)ed->settings.backup_keep, NULL};
}

static bool write_bytes(Editor *ed, OpenFile *f)
{
    Err e = {""};
    Text bytes;
    if (!encoded(ed, f, &bytes))
        return false;
    SaveWish wish = save_wish(ed);
    DiskState disk;
    bool ok = file_save(f->path, bytes, &wish, &disk, &e);
    text_drop(&bytes);
    if (ok)
        f->disk = disk;
    else
        warn(ed, "%s", e.text);
    return ok;
}

/* State `state` of the document is on disk now. */
static void written(Editor *ed, OpenFile *f, size_t state, bool fresh, size_t trimmed)
{
    doc_mark_state_saved(f->doc, state);
    f->form_changed = f->dropped = false;
    recovery_saved(ed, f);
    if (doc_changed(f->doc)) /* typed on meanwhile: that is not safe yet */
        f->journal_version = 0;
    editor_keep_history(ed, f);
    if (fresh)
        file_recognise(f);
    char size[SIZE_TEXT_MAX];
    Text t = doc_saved_text(f->doc);
    size_text((size_t)f->disk.st.st_size, size);
    bool open_end = text_len(t) && text_byte(t, text_len(t) - 1) != '\n';
    say(ed, "Saved %s: %s, %s%s%s%s", file_name(f), amount(lines_of(t), "line"), size,
        trimmed ? "; trimmed " : "", trimmed ? amount(trimmed, "line") : "",
        open_end ? "; the last line has no line end" : "");
}

static bool write_file(Editor *ed, OpenFile *f)
{
    bool fresh = !f->disk.exists;
    if (ed->dry_run) {
        say(ed, file_changed(f) ? "would be saved" : "would stay as it is");
        doc_mark_saved(f->doc);
        return true;
    }
    if (ed->batch && !file_changed(f)) { /* a file that needs no change is not touched */
        say(ed, "stays as it is");
        return true;
    }
    size_t trimmed = trim_for_rules(ed, f);
    if (!write_bytes(ed, f))
        return false;
    written(ed, f, doc_state_now(f->doc), fresh, trimmed);
    return true;
}

/* ---- on a thread ---- */

enum { LARGE = 16 * 1024 * 1024 /* bytes from which typing need not wait for the disk */ };

/* True when it is under way, or cannot be. */
static bool save_beside_typing(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    Text bytes;
    if (ed->batch || ed->dry_run || text_len(doc_text(f->doc)) < LARGE)
        return false;
    trim_for_rules(ed, f);
    if (!encoded(ed, f, &bytes))
        return true; /* it was told why not */
    SaveWish wish = save_wish(ed);
    f->saver = saver_begin(f->path, bytes, &wish);
    text_drop(&bytes);
    if (!f->saver)
        return false;
    doc_seal(f->doc);
    f->saver_state = doc_state_now(f->doc);
    f->saver_fresh = !f->disk.exists;
    f->saver_then = then;
    return true;
}

/* A text that was to be written under another name has it now, or keeps its old one. */
static void name_settled(Editor *ed, OpenFile *f, bool ok)
{
    if (!f->renaming)
        return;
    f->renaming = false;
    if (ok) {
        free(f->former_path);
        inuse_release(&f->in_use);
        recovery_opened(ed, f);
        f->offered = 0;
        file_rules(ed, f);
    } else {
        free(f->path);
        f->path = f->former_path;
        f->disk = f->former_disk;
    }
    f->former_path = NULL;
}

void saving_finish(Editor *ed, OpenFile *f)
{
    Err e = {""};
    DiskState disk;
    if (!f->saver)
        return;
    bool ok = saver_finish(f->saver, &disk, &e);
    void (*then)(Editor *) = f->saver_then;
    f->saver = NULL;
    f->saver_then = NULL;
    bool again = f->save_again;
    f->save_again = false;
    if (!ok) {
        name_settled(ed, f, false);
        warn(ed, "%s", e.text);
        return;
    }
    f->disk = disk;
    written(ed, f, f->saver_state, f->saver_fresh, 0);
    name_settled(ed, f, true);
    if (again && file_changed(f))
        editor_save(ed, f, then);
    else if (then)
        then(ed);
}

void saving_go_on(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i]->saver && saver_ended(ed->files[i]->saver)) {
            saving_finish(ed, ed->files[i]);
            return; /* what follows may have closed files */
        }
}

int saving_wait(const Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i]->saver)
            return saver_ended(ed->files[i]->saver) ? 0 : 200;
    return -1;
}

const char *saving_words(const OpenFile *f)
{
    static char words[100];
    if (!f->saver)
        return NULL;
    snprintf(words, sizeof words, "Saving %.60s, %d%%", file_name(f), saver_percent(f->saver));
    return words;
}

static void save_on(Editor *ed, Saving s)
{
    const char *why = loading_hindrance(s.file);
    if (s.file->saver) { /* the one before goes first */
        say(ed, "%s; then the rest", saving_words(s.file));
        s.file->saver_then = s.then ? s.then : s.file->saver_then;
        s.file->save_again = true;
        return;
    }
    if (why) {
        warn(ed, "Not saved: %s", why);
        return;
    }
    if (asks_disk(ed, &s) || asks_newline(ed, &s) || asks_root(ed, &s))
        return;
    if (save_beside_typing(ed, s.file, s.then))
        return;
    if (write_file(ed, s.file) && s.then)
        s.then(ed);
}

void editor_save(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    if (!f->path)
        editor_save_as(ed, f, then);
    else
        save_on(ed, (Saving){.file = f, .then = then});
}

/* ---- as root ---- */

bool editor_root_text(Editor *ed, Text *bytes)
{
    trim_for_rules(ed, ed->root_save);
    if (encoded(ed, ed->root_save, bytes))
        return true;
    ed->root_save = NULL;
    return false;
}

void editor_root_saved(Editor *ed, bool ok, const char *why)
{
    OpenFile *f = ed->root_save;
    bool fresh = !f->disk.exists;
    ed->root_save = NULL;
    if (!ok) {
        warn(ed, "%s", why);
        return;
    }
    f->disk.exists = stat(f->path, &f->disk.st) == 0;
    written(ed, f, doc_state_now(f->doc), fresh, 0);
    if (ed->root_then)
        ed->root_then(ed);
}

/* ---- another name ---- */

typedef struct Naming {
    OpenFile *file;
    char *path;
    void (*then)(Editor *);
    bool rename; /* the file on disk goes along */
} Naming;

static void free_naming(void *ctx)
{
    free(((Naming *)ctx)->path);
    free(ctx);
}

static Naming *new_naming(Naming n)
{
    Naming *copy = mem_get(sizeof *copy);
    *copy = n;
    copy->path = n.path ? mem_string(n.path) : NULL;
    return copy;
}

static void ask_name(Editor *ed, const Naming *n);

static void save_under(Editor *ed, const Naming *n)
{
    OpenFile *f = n->file;
    f->saver_then = NULL; /* what is being written under the old name ends first, and nothing follows it */
    f->save_again = false;
    saving_finish(ed, f);
    f->former_path = f->path;
    f->former_disk = f->disk;
    f->renaming = true;
    f->path = mem_string(n->path);
    f->disk = (DiskState){0};
    if (save_beside_typing(ed, f, n->then)) {
        if (!f->saver)
            name_settled(ed, f, false);
        return;
    }
    bool ok = write_file(ed, f);
    name_settled(ed, f, ok);
    if (ok && n->then)
        n->then(ed);
}

static void rename_to(Editor *ed, const Naming *n)
{
    OpenFile *f = n->file;
    f->saver_then = NULL;
    saving_finish(ed, f);
    if (f->disk.exists && rename(f->path, n->path) != 0) {
        warn(ed, "%s was not renamed: %s", file_name(f), err_os(errno));
        return;
    }
    say(ed, "%s is now called %s", file_name(f), sys_base_name(n->path));
    free(f->path);
    f->path = mem_string(n->path);
    file_recognise(f);
    file_rules(ed, f);
    if (!file_changed(f))
        editor_keep_history(ed, f);
}

static void take_name(Editor *ed, const Naming *n)
{
    if (n->rename)
        rename_to(ed, n);
    else
        save_under(ed, n);
}

static void replace_answered(Editor *ed, char letter, void *ctx)
{
    Naming *n = ctx;
    if (letter == 'o')
        take_name(ed, n);
    else if (letter == 'n')
        ask_name(ed, n);
    else
        say(ed, n->rename ? "Nothing was renamed" : "Nothing was written");
}

/* The other text that has this path, or NULL. */
static OpenFile *other_with(Editor *ed, const OpenFile *f, const char *path)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i] != f && ed->files[i]->path && strcmp(ed->files[i]->path, path) == 0)
            return ed->files[i];
    return NULL;
}

static void name_given(Editor *ed, const char *answer, void *ctx)
{
    Naming *n = ctx;
    if (!*answer) {
        say(ed, n->rename ? "Without a name nothing was renamed" : "Without a name nothing was saved");
        return;
    }
    char *expanded = sys_expand_home(answer);
    Naming named = {n->file, sys_full_path(expanded), n->then, n->rename};
    free(expanded);
    bool same = n->file->path && strcmp(named.path, n->file->path) == 0;
    struct stat st;
    if (same && n->rename) {
        say(ed, "That is its name already");
    } else if (same) {
        editor_save(ed, n->file, n->then);
    } else if (stat(named.path, &st) == 0 && S_ISDIR(st.st_mode)) {
        warn(ed, "%s is a folder; give it a file name too", named.path);
        ask_name(ed, &named);
    } else if (other_with(ed, n->file, named.path)) {
        warn(ed, "%s is open here as another text; close that first", named.path);
    } else if (access(named.path, F_OK) == 0) {
        QuestionSpec q = {
            .answers = {{'o', "Replace it"}, {'n', "Another name"}},
            .stay = n->rename ? "Do not rename" : "Do not save",
            .can_lose = true,
            .done = replace_answered,
            .ctx = new_naming(named),
            .free_ctx = free_naming,
        };
        question_ask(ed, &q, "There is a %s already.", named.path);
    } else {
        take_name(ed, &named);
    }
    free(named.path);
}

static void no_name(Editor *ed, void *ctx)
{
    say(ed, ((Naming *)ctx)->rename ? "Nothing was renamed" : "Nothing was saved");
}

static void ask_name(Editor *ed, const Naming *n)
{
    const char *why = n->rename ? NULL : loading_hindrance(n->file);
    if (why) {
        warn(ed, "Not saved: %s", why);
        return;
    }
    PromptSpec p = {
        .label = n->rename ? "Rename to" : "Save as",
        .initial = n->path         ? n->path
                   : n->file->path ? n->file->path
                                   : "",
        .history = "files",
        .offer = offer_files,
        .done = name_given,
        .cancelled = no_name,
        .ctx = new_naming(*n),
        .free_ctx = free_naming,
    };
    prompt_ask(ed, &p);
}

void editor_save_as(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    Naming n = {.file = f, .then = then};
    ask_name(ed, &n);
}

void editor_save_to(Editor *ed, OpenFile *f, const char *path)
{
    Naming n = {.file = f};
    name_given(ed, path, &n);
}

void editor_rename(Editor *ed, OpenFile *f, const char *path)
{
    Naming n = {.file = f, .rename = true};
    if (!f->path)
        say(ed, "This text has no file yet; saving asks for its name");
    else if (*path)
        name_given(ed, path, &n);
    else
        ask_name(ed, &n);
}

/* ---- every file ---- */

static void save_next(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (!file_changed(f) || f->page || (!f->path && text_len(doc_text(f->doc)) == 0))
            continue;
        if (!f->path)
            editor_show(ed, f); /* so that it is seen what a name is asked for */
        editor_save(ed, f, save_next);
        return;
    }
    void (*then)(Editor *) = ed->then_all;
    ed->then_all = NULL;
    if (then)
        then(ed);
}

void editor_save_every(Editor *ed, void (*then)(Editor *))
{
    size_t changed = 0;
    for (size_t i = 0; i < ed->n_files; i++)
        changed += file_changed(ed->files[i]);
    if (!changed && !then) {
        say(ed, "No file has changes that are not saved");
        return;
    }
    ed->then_all = then;
    save_next(ed);
    size_t left = 0;
    for (size_t i = 0; i < ed->n_files; i++)
        left += file_changed(ed->files[i]);
    if (!ed->layer && !ed->leaving && left == 0 && changed > 1)
        say(ed, "Saved %s", amount(changed, "file"));
}

#include "editor.h"

#include "mem.h"
#include "pages.h"
#include "places.h"
#include "save.h"
#include "sys.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

const char *file_name(const OpenFile *f)
{
    if (f->page)
        return "the help page";
    return f->path ? sys_base_name(f->path) : "this text";
}

static void recognise(OpenFile *f)
{
    char head[256];
    size_t n = text_read(doc_text(f->doc), 0, head, sizeof head);
    f->kind = kind_of(f->path, head, n);
}

OpenFile *editor_add(Editor *ed, Text t)
{
    OpenFile *f = mem_get(sizeof *f);
    f->doc = doc_new(t);
    f->form = form_of(t);
    recognise(f);
    ed->files = mem_grow(ed->files, (ed->n_files + 1) * sizeof *ed->files);
    ed->files[ed->n_files++] = f;
    return f;
}

void editor_forget(Editor *ed, OpenFile *f)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i] == f)
            memmove(ed->files + i, ed->files + i + 1, (--ed->n_files - i) * sizeof *ed->files);
    if (ed->pasting == f)
        edit_paste_ends(ed);
    places_forget(ed, f);
    page_free(f->page);
    doc_free(f->doc);
    free(f->path);
    free(f);
}

void editor_show(Editor *ed, OpenFile *f)
{
    if (page_shown(ed) && ed->view->file != f) { /* help gives way */
        page_leave(ed);
        layer_cancel_all(ed);
    }
    if (ed->view->file != f)
        view_show(ed->view, f);
}

/* The same file may be named by another path or a link. */
static OpenFile *already_open(Editor *ed, const char *full, const DiskState *disk)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        bool same_node = disk->exists && f->disk.exists && f->disk.st.st_dev == disk->st.st_dev &&
                         f->disk.st.st_ino == disk->st.st_ino;
        if (f->path && (same_node || strcmp(f->path, full) == 0))
            return f;
    }
    return NULL;
}

/* ---- undo that outlives the program ---- */

enum { HISTORY_MOST = 8 * 1024 * 1024, HASHED_MOST = 256 * 1024 * 1024 };

/* The store, if this file's history may be kept there. */
static Store *store_for(Editor *ed, const OpenFile *f)
{
    bool may =
        f->path && f->disk.exists && ed->settings.keep_undo && text_len(doc_text(f->doc)) < HASHED_MOST;
    bool open_to_all = f->disk.exists && (f->disk.st.st_mode & S_IROTH);
    return may && (open_to_all || ed->settings.keep_private_undo) ? editor_store(ed) : NULL;
}

static void recall_history(Editor *ed, OpenFile *f)
{
    Store *s = store_for(ed, f);
    Bytes history = {0};
    if (s && store_get_history(s, f->path, text_hash(doc_text(f->doc)), &history))
        doc_restore(f->doc, history.at, history.len);
    bytes_free(&history);
}

void editor_keep_history(Editor *ed, OpenFile *f)
{
    size_t n = doc_states(f->doc), saved = 0;
    Store *s = n > 1 ? store_for(ed, f) : NULL;
    if (!s)
        return;
    while (!doc_state(f->doc, saved).saved)
        saved++;
    Bytes history = {0};
    doc_dump(f->doc, HISTORY_MOST, &history);
    store_put_history(s, f->path, text_hash(doc_state_text(f->doc, saved)), &history);
    bytes_free(&history);
}

bool editor_open(Editor *ed, const char *path, Err *e)
{
    char *full = sys_full_path(path);
    Text t;
    DiskState disk;
    if (!file_load(full, &t, &disk, e)) {
        free(full);
        return false;
    }
    OpenFile *f = already_open(ed, full, &disk);
    if (f) {
        text_drop(&t);
        free(full);
    } else {
        f = editor_add(ed, t);
        f->path = full;
        f->disk = disk;
        recognise(f);
        recall_history(ed, f);
    }
    editor_show(ed, f);
    if (disk.exists && !file_may_write(f->path))
        warn(ed, "You may not write %s; editing is fine, saving needs another name", f->path);
    return true;
}

/* ---- saving ---- */

/* "2.1 kB": sizes as people read them, in powers of 1000. */
static void size_text(size_t n, char *out, size_t cap)
{
    static const char *const units[] = {"kB", "MB", "GB", "TB"};
    if (n < 1000) {
        snprintf(out, cap, "%zu byte%s", n, n == 1 ? "" : "s");
        return;
    }
    double v = (double)n / 1000;
    size_t u = 0;
    while (v >= 999.95 && u < 3) {
        v /= 1000;
        u++;
    }
    snprintf(out, cap, "%.1f %s", v, units[u]);
}

/* Lines as people count them: what stands behind the last newline only if there is something. */
static size_t count_lines(Text t)
{
    size_t n = text_newlines(t), len = text_len(t);
    return n + (len > 0 && text_byte(t, len - 1) != '\n');
}

static void write_file(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    Err e;
    Text t = doc_text(f->doc);
    bool fresh = !f->disk.exists;
    if (ed->dry_run) {
        say(ed, doc_changed(f->doc) ? "would be saved" : "would stay as it is");
        doc_mark_saved(f->doc);
        return;
    }
    if (ed->batch && !doc_changed(f->doc)) { /* a file that needs no change is not touched */
        say(ed, "stays as it is");
        return;
    }
    if (!file_save(f->path, t, &f->disk, &e)) {
        warn(ed, "%s", e.text);
        return;
    }
    doc_mark_saved(f->doc);
    editor_keep_history(ed, f);
    if (fresh)
        recognise(f);
    char size[32];
    size_t lines = count_lines(t);
    size_text(text_len(t), size, sizeof size);
    say(ed, "Saved %s: %zu line%s, %s", file_name(f), lines, lines == 1 ? "" : "s", size);
    if (then)
        then(ed);
}

typedef struct SaveAs {
    OpenFile *file;
    char *path;
    void (*then)(Editor *);
} SaveAs;

static void free_save_as(void *ctx)
{
    free(((SaveAs *)ctx)->path);
    free(ctx);
}

static SaveAs *new_save_as(OpenFile *f, const char *path, void (*then)(Editor *))
{
    SaveAs *a = mem_get(sizeof *a);
    *a = (SaveAs){f, path ? mem_string(path) : NULL, then};
    return a;
}

static void take_name(Editor *ed, SaveAs *a)
{
    OpenFile *f = a->file;
    char *old = f->path;
    DiskState old_disk = f->disk;
    f->path = mem_string(a->path);
    f->disk = (DiskState){0};
    write_file(ed, f, NULL);
    if (f->disk.exists) {
        free(old);
        if (a->then)
            a->then(ed);
    } else { /* the old name stays when the new one could not be written */
        free(f->path);
        f->path = old;
        f->disk = old_disk;
    }
}

static void replace_answered(Editor *ed, char letter, void *ctx)
{
    SaveAs *a = ctx;
    if (letter == 'o')
        take_name(ed, a);
    else if (letter == 'n')
        editor_save_as(ed, a->file, a->then);
    else
        say(ed, "Nothing was written");
}

static void name_given(Editor *ed, const char *answer, void *ctx)
{
    SaveAs *a = ctx;
    if (!*answer) {
        say(ed, "Without a name nothing was saved");
        return;
    }
    char *expanded = sys_expand_home(answer);
    char *full = sys_full_path(expanded);
    free(expanded);
    if (full && a->file->path && strcmp(full, a->file->path) == 0) {
        write_file(ed, a->file, a->then);
    } else if (access(full, F_OK) == 0) {
        QuestionSpec q = {
            .answers = {{'o', "Replace it"}, {'n', "Another name"}},
            .stay = "Do not save",
            .can_lose = true,
            .done = replace_answered,
            .ctx = new_save_as(a->file, full, a->then),
            .free_ctx = free_save_as,
        };
        question_ask(ed, &q, "There is a %s already.", full);
    } else {
        SaveAs named = {a->file, full, a->then};
        take_name(ed, &named);
    }
    free(full);
}

static void no_name(Editor *ed, void *ctx)
{
    (void)ctx;
    say(ed, "Nothing was saved");
}

void editor_save_as(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    PromptSpec p = {
        .label = "Save as",
        .initial = f->path ? f->path : "",
        .history = "files",
        .offer = offer_files,
        .done = name_given,
        .cancelled = no_name,
        .ctx = new_save_as(f, NULL, then),
        .free_ctx = free_save_as,
    };
    prompt_ask(ed, &p);
}

void editor_save(Editor *ed, OpenFile *f, void (*then)(Editor *))
{
    if (!f->path)
        editor_save_as(ed, f, then);
    else
        write_file(ed, f, then);
}

/* ---- leaving ---- */

static void leave_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = ctx;
    if (letter == 's') {
        editor_save(ed, f, editor_leave);
    } else if (letter == 'd') {
        f->dropped = true;
        editor_leave(ed);
    } else {
        for (size_t i = 0; i < ed->n_files; i++)
            ed->files[i]->dropped = false;
    }
}

void editor_leave(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (!doc_changed(f->doc) || f->dropped)
            continue;
        editor_show(ed, f);
        QuestionSpec q = {
            .answers = {{'s', "Save and leave"}, {'d', "Drop them"}},
            .stay = "Stay",
            .can_lose = true,
            .done = leave_answered,
            .ctx = f,
        };
        question_ask(ed, &q, "%s has changes that are not saved.", f->path ? file_name(f) : "This text");
        return;
    }
    for (size_t i = 0; i < ed->n_files; i++)
        editor_keep_history(ed, ed->files[i]);
    ed->leaving = true;
}

#include "editor.h"

#include "bars.h"
#include "lesson.h"
#include "loading.h"
#include "mem.h"
#include "pages.h"
#include "panes.h"
#include "places.h"
#include "privileged.h"
#include "recovery.h"
#include "saving.h"
#include "sys.h"

#include <stdlib.h>
#include <string.h>

const char *file_name(const OpenFile *f)
{
    if (f->page)
        return "the help page";
    return f->path ? sys_base_name(f->path) : "this text";
}

void file_recognise(OpenFile *f)
{
    char head[256];
    size_t n = text_read(doc_text(f->doc), 0, head, sizeof head);
    f->kind = kind_of(f->path, head, n);
}

OpenFile *editor_add(Editor *ed, Text t)
{
    OpenFile *f = mem_get(sizeof *f);
    f->doc = doc_new(t);
    f->in_use.fd = -1;
    f->form = form_of(t);
    file_recognise(f);
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
    lesson_forget(ed, f);
    if (ed->parting == f)
        ed->parting = NULL;
    if (ed->root_save == f)
        ed->root_save = NULL;
    places_forget(ed, f);
    page_free(f->page);
    bars_free(f);
    text_drop(&f->journaled);
    loader_free(f->loader);
    inuse_release(&f->in_use);
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
    ed->view->tab = f->rules.tab_width ? f->rules.tab : (size_t)ed->settings.tab_width;
    f->shown = ++ed->shown;
}

bool file_changed(const OpenFile *f)
{
    return doc_changed(f->doc) || f->form_changed;
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
    Store *s = doc_states(f->doc) > 1 ? store_for(ed, f) : NULL;
    if (!s)
        return;
    Bytes history = {0};
    doc_dump(f->doc, HISTORY_MOST, &history);
    store_put_history(s, f->path, text_hash(doc_saved_text(f->doc)), &history);
    bytes_free(&history);
}

/* ---- opening and reading again ---- */

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

void file_rules(Editor *ed, OpenFile *f)
{
    if (ed->plain || !f->path)
        return;
    Rules r = f->rules = rules_for(f->path);
    bool fresh = !f->disk.exists;
    if (r.indentation) {
        f->form.tabs = r.form.tabs;
        f->form.indent = r.form.indent;
    }
    if (fresh && r.line_ends) /* an existing file keeps its own until somebody converts it */
        f->form.ends = r.form.ends;
    if (fresh && r.charset)
        f->encoding = r.encoding;
}

static void say_encoding(Editor *ed, const OpenFile *f)
{
    if (f->encoding.guessed)
        say(ed, "%s is not UTF-8; it is read as %s, which is a guess. Esc f p changes that.", file_name(f),
            f->encoding.name);
}

/* What the person should know right after opening. */
static void say_rights(Editor *ed, const OpenFile *f)
{
    if (!f->disk.exists || file_may_write(f->path))
        return;
    const char *program = privileged_program(ed->settings.become_root);
    warn(ed, "You may not write %s; editing is fine, saving %s%s", f->path,
         program ? "will ask " : "needs another name", program ? sys_base_name(program) : "");
}

void editor_settle(Editor *ed)
{
    for (size_t i = 0; ed->unsettled && i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (!f->unsettled)
            continue;
        f->unsettled = false;
        if (!f->loader) {
            recovery_opened(ed, f); /* first, as others shall see at once that it is in use */
            recall_history(ed, f);
        }
        if (editor_store(ed))
            store_add(editor_store(ed), "opened", f->path);
    }
    ed->unsettled = ed->seen = false;
}

bool editor_open(Editor *ed, const char *path, Err *e)
{
    char *full = sys_full_path(path);
    Text raw;
    DiskState disk;
    struct Loader *rest;
    if (!file_load_begin(full, &raw, &disk, &rest, e)) {
        free(full);
        return false;
    }
    OpenFile *f = already_open(ed, full, &disk);
    if (f) {
        text_drop(&raw);
        loader_free(rest);
        free(full);
    } else {
        Encoding x = {.name = ""};
        if (!rest) /* a text that arrives bit by bit is taken as it is */
            x = encoding_guess(raw);
        f = editor_add(ed, text_of(raw, &x));
        f->path = full;
        f->disk = disk;
        f->encoding = x;
        f->loader = rest;
        file_recognise(f);
        file_rules(ed, f);
        f->journal_version = doc_version(f->doc);
        f->unsettled = ed->unsettled = true;
        if (ed->batch)
            editor_settle(ed);
    }
    editor_show(ed, f);
    if (ed->batch && !loading_finish(ed, f))
        return err_set(e, "%s", ed->message.text);
    say_encoding(ed, f);
    say_rights(ed, f);
    return true;
}

DiskNews file_news(OpenFile *f)
{
    Text bytes;
    size_t at;
    Err e;
    if (f->saver) /* what changes there now is ours */
        return DISK_SAME;
    if (!f->path || !encoding_write(doc_saved_text(f->doc), &f->encoding, &bytes, &at, &e))
        return DISK_SAME;
    DiskNews news = disk_news(f->path, &f->disk, bytes);
    text_drop(&bytes);
    return news;
}

static bool read_again(Editor *ed, OpenFile *f, const Encoding *as)
{
    Err e = {""};
    Text raw, t;
    DiskState disk;
    f->saver_then = NULL;
    f->save_again = false;
    saving_finish(ed, f);
    loader_free(f->loader); /* all is read anew */
    f->loader = NULL;
    if (!f->path || !file_load(f->path, &raw, &disk, &e) || !disk.exists) {
        warn(ed, "%s", e.text[0] ? e.text : "There is nothing on disk to read");
        return false;
    }
    Encoding x = as ? *as : f->encoding;
    bool ok = encoding_read(raw, &x, &t, &e);
    text_drop(&raw);
    if (!ok) {
        warn(ed, "It stays as it was: %s", e.text);
        return false;
    }
    recovery_dropped(ed, f);
    doc_set_verb(f->doc, "Reload");
    ok = doc_become(f->doc, t, ed->view->cursor.at);
    doc_set_verb(f->doc, NULL);
    text_drop(&t);
    if (!ok) {
        warn(ed, "There is not enough memory for that; nothing was changed");
        return false;
    }
    f->disk = disk;
    f->encoding = x;
    f->form_changed = f->dropped = f->incomplete = false;
    Form form = form_of(doc_text(f->doc));
    f->form.ends = form.ends;
    f->form.utf8 = form.utf8;
    doc_mark_saved(f->doc);
    recovery_saved(ed, f);
    return true;
}

bool editor_reload(Editor *ed, OpenFile *f)
{
    if (!read_again(ed, f, NULL))
        return false;
    say(ed, "%s is as it is on disk: %s. Ctrl+Z brings back what was here.", file_name(f),
        amount(lines_of(doc_text(f->doc)), "line"));
    return true;
}

bool editor_reload_as(Editor *ed, OpenFile *f, const Encoding *x)
{
    if (!read_again(ed, f, x))
        return false;
    say(ed, "%s is now read as %s", file_name(f), encoding_label(x, f->form.utf8));
    return true;
}

/* The text that was shown last among those in no pane, else among all. */
static OpenFile *shown_before(Editor *ed, const OpenFile *f)
{
    OpenFile *best = NULL;
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *o = ed->files[i];
        if (o != f && !o->page && (!best || o->shown > best->shown))
            best = o;
    }
    return best;
}

void editor_close(Editor *ed, OpenFile *f)
{
    bool page = f->page != NULL;
    if (page || f == ed->before_page) /* help is left, not closed */
        page_leave(ed);
    if (page)
        return;
    f->saver_then = NULL;
    f->save_again = false;
    saving_finish(ed, f);
    char *name = mem_string(file_name(f));
    recovery_dropped(ed, f); /* if there was anything to drop */
    editor_keep_history(ed, f);
    OpenFile *instead = shown_before(ed, f);
    if (!instead)
        instead = editor_add(ed, (Text){0});
    panes_replace(ed, f, instead);
    instead->shown = ++ed->shown;
    editor_forget(ed, f);
    say(ed, "Closed %s", name);
    free(name);
}

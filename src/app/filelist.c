#include "app/filelist.h"

#include "app/asking.h"
#include "app/panel.h"
#include "app/shown.h"
#include "base/mem.h"
#include "base/sys.h"

#include <dirent.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <sys/stat.h>
#include <unistd.h>

/* ---- the open texts ---- */

static void describe(const OpenFile *f, Bytes *out)
{
    char size[WORDS_MAX];
    words_size(text_len(doc_text(f->doc)), size);
    bytes_printf(out, "%s, %s, %s%s%s%s", AMOUNT(lines_of(doc_text(f->doc)), "line"), size, f->kind->name,
                 f->incomplete ? ", incomplete" : "", file_changed(f) ? ", changed" : "",
                 f->look_only ? ", look only" : "");
    if (f->path)
        bytes_printf(out, "   %s", f->path);
}

static const char *shown_name(const OpenFile *f)
{
    return f->path ? file_name(f) : "(no name yet)";
}

/* The one shown last comes first, but for the one that is shown now. */
static void fill_files(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < ed->session->n_files; i++) {
        const OpenFile *f = ed->session->files[i];
        Bytes note = {0};
        describe(f, &note);
        if (!f->shown->page)
            panel_add(p, (long)f->id, shown_name(f), note.at, f == ed->view->file ? "now" : NULL);
        bytes_free(&note);
    }
}

static void file_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    OpenFile *f = session_file(ed->session, id > 0 ? (FileId)id : 0);
    if (f)
        editor_show(ed, f);
}

static bool file_key(Editor *ed, Key k, long id, void *ctx)
{
    (void)ctx;
    if (k.code != K_DELETE || k.mods || id < 0)
        return false;
    OpenFile *f = session_file(ed->session, (FileId)id);
    if (!f)
        return true;
    if (file_changed(f) || f->writing) { /* the question needs the status line */
        layer_pop(ed);
        asking_begin(ed, PLAN_CLOSE, f, NULL);
        return true;
    }
    ed->session->held = false; /* by this very list */
    asking_begin(ed, PLAN_CLOSE, f, NULL);
    panel_refresh(ed);
    return true;
}

void filelist_show(Editor *ed)
{
    static const Hint hints[] = {{"Delete", "Close it", true}, {"", NULL, false}};
    PanelSpec p = {
        .title = "Open files", .fill = fill_files, .chosen = file_chosen, .key = file_key, .hints = hints};
    panel_open(ed, &p);
    for (size_t i = 0; i < ed->session->n_files; i++)
        if (ed->session->files[i] == ed->view->file)
            panel_go(ed, (long)ed->view->file->id);
}

void filelist_step(Editor *ed, int by)
{
    size_t i = 0, n = ed->session->n_files;
    while (i < n && ed->session->files[i] != ed->view->file)
        i++;
    for (size_t k = 1; k <= n; k++) {
        size_t to = by > 0 ? (i + k) % n : (i + n - k) % n;
        if (ed->session->files[to]->shown->page || to == i)
            continue;
        editor_show(ed, ed->session->files[to]);
        say(ed, "%s, %zu of %zu", shown_name(ed->session->files[to]), to + 1, n);
        return;
    }
    say(ed, "No other file is open");
}

/* ---- opening ---- */

/* What the rows stand for. */
typedef struct Choice {
    char *path;
    bool folder;
} Choice;

typedef struct Opening {
    Choice *rows;
    size_t n, cap;
    bool insert; /* the file goes into the text */
} Opening;

enum { RECENT_MOST = 30, ENTRIES_MOST = 5000 };

static long add_choice(Opening *o, const char *path, bool folder)
{
    if (o->n == o->cap) {
        o->cap = o->cap ? 2 * o->cap : 64;
        o->rows = mem_grow(o->rows, o->cap * sizeof *o->rows);
    }
    o->rows[o->n] = (Choice){mem_string(path), folder};
    return (long)o->n++;
}

static void clear_choices(Opening *o)
{
    for (size_t i = 0; i < o->n; i++)
        free(o->rows[i].path);
    o->n = 0;
}

static void free_opening(void *ctx)
{
    Opening *o = ctx;
    clear_choices(o);
    free(o->rows);
    free(o);
}

static bool has_part(const char *name, const char *part)
{
    size_t n = strlen(part);
    for (; *name || !n; name++)
        if (strncasecmp(name, part, n) == 0)
            return true;
    return false;
}

static bool is_folder(const char *path)
{
    struct stat st;
    return stat(path, &st) == 0 && S_ISDIR(st.st_mode);
}

static void add_open(Editor *ed, Panel *p, Opening *o, const char *filter)
{
    for (size_t i = 0; i < ed->session->n_files && !o->insert; i++) {
        const OpenFile *f = ed->session->files[i];
        if (!f->path || f == ed->view->file || !has_part(file_name(f), filter))
            continue;
        panel_exact(p, add_choice(o, f->path, false), file_name(f),
                    file_changed(f) ? "open, changed" : "open");
    }
}

typedef struct Recent {
    Editor *ed;
    Panel *panel;
    Opening *opening;
    const char *filter;
} Recent;

static bool is_listed(const Opening *o, const char *path)
{
    for (size_t i = 0; i < o->n; i++)
        if (strcmp(o->rows[i].path, path) == 0)
            return true;
    return false;
}

static void add_recent(const char *path, void *ctx)
{
    Recent *r = ctx;
    const OpenFile *now = r->ed->view->file;
    bool here = now->path && strcmp(now->path, path) == 0;
    if (here || !has_part(sys_base_name(path), r->filter) || is_listed(r->opening, path) ||
        access(path, F_OK) != 0)
        return;
    char *folder = mem_string_n(path, (size_t)(sys_base_name(path) - path));
    char *present = sys_full_path("./");
    bool below = strncmp(folder, present, strlen(present)) == 0 && folder[strlen(present)] == '/' &&
                 !folder[strlen(present) + 1]; /* it is listed with the folder's entries */
    free(present);
    if (below) {
        free(folder);
        return;
    }
    char *note = mem_grow(NULL, strlen(folder) + 16);
    sprintf(note, "lately, in %s", folder);
    panel_exact(r->panel, add_choice(r->opening, path, false), sys_base_name(path), note);
    free(note);
    free(folder);
}

static int by_name(const void *a, const void *b)
{
    const Choice *x = a, *y = b;
    if (x->folder != y->folder)
        return x->folder ? -1 : 1;
    return strcmp(x->path, y->path);
}

/* The entries of a folder whose names have `part` in them; those that begin with it first. */
static void add_entries(Panel *p, Opening *o, const char *folder, const char *part)
{
    Opening found = {0};
    DIR *d = opendir(*folder ? folder : ".");
    Bytes path = {0}, name = {0};
    for (struct dirent *e; d && found.n < ENTRIES_MOST && (e = readdir(d));) {
        bool hidden = e->d_name[0] == '.' && part[0] != '.';
        if (hidden || !has_part(e->d_name, part) || strcmp(e->d_name, ".") == 0 ||
            strcmp(e->d_name, "..") == 0)
            continue;
        bytes_clear(&path);
        bytes_printf(&path, "%s%s", folder, e->d_name);
        add_choice(&found, path.at, is_folder(path.at));
    }
    if (d)
        closedir(d);
    if (found.n)
        qsort(found.rows, found.n, sizeof *found.rows, by_name);
    for (int begins = 1; begins >= 0; begins--)
        for (size_t i = 0; i < found.n; i++) {
            const Choice *c = &found.rows[i];
            const char *base = sys_base_name(c->path);
            if ((strncmp(base, part, strlen(part)) == 0) != begins)
                continue;
            bytes_clear(&name);
            bytes_printf(&name, "%s%s", base, c->folder ? "/" : "");
            panel_exact(p, add_choice(o, c->path, c->folder), name.at, c->folder ? "folder" : NULL);
        }
    clear_choices(&found);
    free(found.rows);
    bytes_free(&path);
    bytes_free(&name);
}

/* What is typed, cut into a folder that ends with a slash (or is "") and the start of a name. */
static char *folder_part(const char *typed, const char **name)
{
    const char *slash = strrchr(typed, '/');
    char *head = mem_string_n(typed, slash ? (size_t)(slash - typed) + 1 : 0);
    char *folder = sys_expand_home(head);
    *name = slash ? slash + 1 : typed;
    free(head);
    return folder;
}

static void fill_opening(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    Opening *o = ctx;
    const char *name;
    clear_choices(o);
    char *folder = folder_part(filter, &name), *full = sys_expand_home(filter);
    bool there = *filter && access(full, F_OK) == 0 && !is_folder(full);
    if (there) /* typed in full: that and nothing else is meant */
        panel_exact(p, add_choice(o, full, false), filter, NULL);
    if (!strchr(filter, '/')) {
        add_open(ed, p, o, filter);
        Recent r = {ed, p, o, filter};
        if (session_store(ed->session))
            store_each(session_store(ed->session), "opened", RECENT_MOST, add_recent, &r);
    }
    add_entries(p, o, folder, name);
    if (*folder && strcmp(folder, "/") != 0) {
        char *up = sys_full_path(folder);
        char *slash = strrchr(up, '/');
        if (slash)
            slash[slash == up] = 0;
        panel_exact(p, add_choice(o, up, true), "../", "the folder above");
        free(up);
    }
    if (*name && !there && !is_folder(full) && !o->insert)
        panel_exact(p, add_choice(o, full, false), filter, "begin a new file of this name");
    free(folder);
    free(full);
}

static void walk_into(Editor *ed, const char *path)
{
    char *full = sys_full_path(path);
    Bytes filter = {0};
    bytes_printf(&filter, "%s%s", full, strcmp(full, "/") == 0 ? "" : "/");
    panel_set_filter(ed, filter.at);
    bytes_free(&filter);
    free(full);
}

static void insert_file(Editor *ed, const char *path)
{
    Err e = {""};
    Text t;
    DiskState disk;
    View *v = ed->view;
    char *full = sys_full_path(path);
    if (!file_load(full, &t, &disk, &e)) {
        warn(ed, "%s", e.text);
    } else if (!disk.exists) {
        warn(ed, "There is no file %s", full);
    } else if (edit_allowed(ed)) {
        size_t from, to, n = text_len(t), lines = lines_of(t);
        if (!view_marked(v, &from, &to))
            from = to = v->cursor.at;
        doc_set_verb(v->file->doc, "Insert file");
        if (doc_replace_text(v->file->doc, from, to - from, t, v->cursor.at)) {
            view_drop_mark(v);
            view_go(v, from + n);
            say(ed, "Inserted %s: %s", sys_base_name(full), AMOUNT(lines, "line"));
        } else {
            warn(ed, "There is not enough memory for that");
        }
        doc_set_verb(v->file->doc, NULL);
    }
    text_drop(&t);
    free(full);
}

void filelist_go(Editor *ed, const char *path)
{
    Err e = {""};
    char *full = sys_expand_home(path);
    if (is_folder(full)) {
        Bytes folder = {0};
        bytes_printf(&folder, "%s/", full);
        filelist_open(ed, folder.at);
        bytes_free(&folder);
    } else if (!editor_open(ed, full, &e)) {
        warn(ed, "%s", e.text);
    }
    free(full);
}

static void opening_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    Opening *o = ctx;
    if (id < 0 || (size_t)id >= o->n) {
        say(ed, "Type a name, or choose one");
        return;
    }
    char *path = mem_string(o->rows[id].path);
    bool insert = o->insert;
    if (o->rows[id].folder) {
        walk_into(ed, path);
    } else {
        layer_pop(ed);
        if (insert)
            insert_file(ed, path);
        else
            filelist_go(ed, path);
    }
    free(path);
}

/* Tab: as far as all names agree, or the row that is highlighted. */
static bool opening_key(Editor *ed, Key k, long id, void *ctx)
{
    const Opening *o = ctx;
    if (k.code != K_TAB || k.mods)
        return false;
    const char *typed = panel_filter(ed);
    char *before = mem_string(typed);
    Offers offers = {0};
    Bytes out = {0};
    offer_files(ed, before, &offers);
    size_t same = offers.n ? strlen(offers.items[0]) : 0;
    for (size_t i = 1; i < offers.n; i++)
        for (size_t c = 0; c < same; c++)
            if (offers.items[i][c] != offers.items[0][c])
                same = c;
    while (same && offers.n && ((unsigned char)offers.items[0][same] & 0xc0) == 0x80)
        same--;
    if (offers.n && same > strlen(before))
        bytes_add(&out, offers.items[0], same);
    else if (id >= 0)
        bytes_printf(&out, "%s%s", o->rows[id].path, o->rows[id].folder ? "/" : "");
    if (out.len)
        panel_set_filter(ed, out.at);
    bytes_free(&out);
    offers_free(&offers);
    free(before);
    return true;
}

static void open_panel(Editor *ed, const char *title, const char *path, bool insert)
{
    static const Hint hints[] = {{"Tab", "Complete", true}, {"", NULL, false}};
    Opening *o = mem_get(sizeof *o);
    o->insert = insert;
    PanelSpec p = {
        .title = title,
        .fill = fill_opening,
        .chosen = opening_chosen,
        .key = opening_key,
        .hints = hints,
        .empty = "There is nothing here",
        .initial = path,
        .stays = true,
        .plain = true,
        .ctx = o,
        .free_ctx = free_opening,
    };
    panel_open(ed, &p);
}

void filelist_open(Editor *ed, const char *path)
{
    open_panel(ed, "Open", path, false);
}

void filelist_insert(Editor *ed, const char *path)
{
    char *full = sys_expand_home(path);
    if (*path && !is_folder(full))
        insert_file(ed, full);
    else
        open_panel(ed, "Insert file", path, true);
    free(full);
}

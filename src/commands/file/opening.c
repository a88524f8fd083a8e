#include "commands/file/opening.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/sys.h"
#include "base/words.h"
#include "commands/edits.h"
#include "session/session_files.h"
#include "session/session_memory.h"
#include "text/text_line.h"
#include "ui/panel.h"

#include <stdlib.h>
#include <string.h>
#include <strings.h>

/* What the rows stand for. */
typedef struct Choice {
    char *path;
    bool folder;
} Choice;

typedef struct Opening {
    Choice *rows;
    size_t n;
    bool insert; /* the file goes into the text */
} Opening;

enum { RECENT_MOST = 30, ENTRIES_MOST = 5000 };

static long add_choice(Opening *o, const char *path, bool folder)
{
    o->rows = array_room(o->rows, o->n, sizeof *o->rows);
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

/* Does a row stand for that file already, by whatever path? */
static bool stands_already(const Opening *o, const char *path)
{
    char *full = sys_full_path(path);
    bool found = false;
    for (size_t i = 0; i < o->n && !found; i++) {
        char *other = sys_full_path(o->rows[i].path);
        found = strcmp(full, other) == 0;
        free(other);
    }
    free(full);
    return found;
}

static void add_open(Editor *ed, Panel *p, Opening *o, const char *filter)
{
    for (size_t i = 0; i < ed->session->n_files && !o->insert; i++) {
        const OpenFile *f = ed->session->files[i];
        if (!f->path || f == ed->panes.view->file || !has_part(openfile_name(f), filter) ||
            stands_already(o, f->path))
            continue;
        panel_exact(p, add_choice(o, f->path, false), openfile_name(f),
                    openfile_changed(f) ? "open, changed" : "open");
    }
}

typedef struct Recent {
    Editor *ed;
    Panel *panel;
    Opening *opening;
    const char *filter;
} Recent;

static void add_recent(const char *path, void *ctx)
{
    Recent *r = ctx;
    const OpenFile *now = r->ed->panes.view->file;
    bool here = now->path && strcmp(now->path, path) == 0;
    if (here || !has_part(sys_base_name(path), r->filter) || stands_already(r->opening, path) ||
        !disk_exists(path))
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
    Bytes note = {0};
    bytes_printf(&note, "lately, in %s", folder);
    panel_exact(r->panel, add_choice(r->opening, path, false), sys_base_name(path), note.at);
    bytes_free(&note);
    free(folder);
}

static int by_name(const void *a, const void *b)
{
    const Choice *x = a, *y = b;
    if (x->folder != y->folder)
        return x->folder ? -1 : 1;
    return strcmp(x->path, y->path);
}

/* A folder that is looked through. */
typedef struct Looking {
    Opening *found;
    const char *folder, *part;
} Looking;

static bool add_entry(int fd, const char *name, void *ctx)
{
    (void)fd;
    const Looking *l = ctx;
    bool hidden = name[0] == '.' && l->part[0] != '.';
    if (hidden || !has_part(name, l->part))
        return true;
    Bytes path = {0};
    bytes_printf(&path, "%s%s", l->folder, name);
    add_choice(l->found, path.at, folder_at(path.at));
    bytes_free(&path);
    return l->found->n < ENTRIES_MOST;
}

/* The entries of a folder whose names have `part` in them. */
static void find_entries(Opening *found, const char *folder, const char *part)
{
    Looking l = {found, folder, part};
    folder_read(*folder ? folder : ".", add_entry, &l);
    if (found->n)
        qsort(found->rows, found->n, sizeof *found->rows, by_name);
}

/* Those of them that begin with it, or the others; true when there was one. */
static bool add_entries(Panel *p, Opening *o, const Opening *found, size_t stood, const char *part,
                        bool begins)
{
    Bytes name = {0};
    bool any = false;
    Opening before = {.rows = o->rows, .n = stood}; /* what is listed apart from the folder's entries */
    for (size_t i = 0; i < found->n; i++) {
        const Choice *c = &found->rows[i];
        const char *base = sys_base_name(c->path);
        before.rows = o->rows;
        if ((strncmp(base, part, strlen(part)) == 0) != begins || stands_already(&before, c->path))
            continue;
        any = true;
        bytes_clear(&name);
        bytes_printf(&name, "%s%s", base, c->folder ? "/" : "");
        panel_exact(p, add_choice(o, c->path, c->folder), name.at, c->folder ? "folder" : NULL);
    }
    bytes_free(&name);
    return any;
}

/* Does the name look whole: has it an ending? Then it is meant, although others begin with it. */
static bool looks_whole(const char *name)
{
    const char *dot = strrchr(name, '.');
    return dot && dot > name && strlen(dot) > 2;
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
    bool there = *filter && disk_exists(full) && !folder_at(full);
    if (there) /* typed in full: that and nothing else is meant */
        panel_exact(p, add_choice(o, full, false), filter, NULL);
    if (!strchr(filter, '/')) {
        add_open(ed, p, o, filter);
        Recent r = {ed, p, o, filter};
        if (session_store(ed->session))
            store_each(session_store(ed->session), "opened", RECENT_MOST, add_recent, &r);
    }
    Opening found = {0};
    size_t stood = o->n;
    bool fresh = *name && !there && !folder_at(full) && !o->insert, first = fresh && looks_whole(name);
    find_entries(&found, folder, name);
    if (first)
        panel_exact(p, add_choice(o, full, false), filter, "begin a new file of this name");
    bool any = add_entries(p, o, &found, stood, name, true);
    if (fresh && !first && !any && stood == 0) { /* nothing begins so */
        first = true;
        panel_exact(p, add_choice(o, full, false), filter, "begin a new file of this name");
    }
    add_entries(p, o, &found, stood, name, false);
    clear_choices(&found);
    free(found.rows);
    if (*folder && strcmp(folder, "/") != 0) {
        char *up = sys_full_path(folder);
        char *slash = strrchr(up, '/');
        if (slash)
            slash[slash == up] = 0;
        panel_exact(p, add_choice(o, up, true), "../", "the folder above");
        free(up);
    }
    if (fresh && !first)
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

/* As opening reads it, with the line ends of the text that it goes into. */
static bool decoded(Text raw, const TextFormat *into, Text *out, Err *e)
{
    Encoding x = encoding_guess(raw);
    Text t;
    if (!encoding_read(raw, &x, &t, e))
        return false;
    TextFormat found = text_format_of(t);
    if (into->ends == ENDS_MIXED || found.ends == into->ends || !text_newlines(t)) {
        *out = t;
        return true;
    }
    bool ok = text_format_convert(t, into->ends, out);
    text_drop(&t);
    return ok || err_set(e, "there is not enough memory for that");
}

static void insert_file(Editor *ed, const char *path)
{
    Err e = {""};
    Text raw = {0}, t = {0};
    DiskState disk;
    View *v = ed->panes.view;
    char *full = sys_full_path(path);
    if (!load_file(full, &raw, &disk, &e)) {
        warn(ed, "%s", e.text);
    } else if (disk.exists && !decoded(raw, &v->file->format, &t, &e)) {
        warn(ed, "%s was not inserted: %s", sys_base_name(full), e.text);
    } else if (!disk.exists) {
        warn(ed, "There is no file %s", full);
    } else if (edit_allowed(ed)) {
        size_t from, to, n = text_len(t), lines = text_line_count(t);
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
    text_drop(&raw);
    text_drop(&t);
    free(full);
}

static void open_panel(Editor *ed, const char *title, const char *path, bool insert);

void opening_go(Editor *ed, const char *path)
{
    Err e = {""};
    char *full = sys_expand_home(path);
    if (folder_at(full)) {
        Bytes folder = {0};
        bytes_printf(&folder, "%s/", full);
        open_panel(ed, "Open", folder.at, false);
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
        layers_pop(ed);
        if (insert)
            insert_file(ed, path);
        else
            opening_go(ed, path);
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
    offers_add_files(&offers, before);
    size_t same = offers_common(&offers);
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

static void run_open(Editor *ed, const Args *args)
{
    if (*args->text)
        opening_go(ed, args->text);
    else
        open_panel(ed, "Open", "", false);
}

static const Command cmd_open = {
    .name = "open",
    .label = "Open…",
    .letter = 'o',
    .keys = "Ctrl+O",
    .help = "Open a file, or go to it if it is open",
    .words = "load read",
    .more = "Lists what is open and what was opened lately, and then what lies in the folder that is typed. "
            "Enter on a folder goes into it, Tab completes; the name of a file that is not there begins it.",
    .args = "FILE",
    .offer = offers_files,
    .hint = "Open",
    .run = run_open,
};

static void run_new(Editor *ed, const Args *args)
{
    (void)args;
    editor_show(ed, session_add(ed->session, (Text){0}));
}

static const Command cmd_new = {
    .name = "new",
    .label = "New",
    .letter = 'n',
    .help = "Begin a new text; its first save asks for a name",
    .run = run_new,
};

static void run_insert_file(Editor *ed, const Args *args)
{
    char *full = sys_expand_home(args->text);
    if (*args->text && !folder_at(full))
        insert_file(ed, full);
    else
        open_panel(ed, "Insert file", args->text, true);
    free(full);
}

static const Command cmd_insert_file = {
    .name = "insert-file",
    .label = "Insert file…",
    .letter = 'i',
    .help = "Put the contents of a file at the cursor, or in place of the mark",
    .words = "read include",
    .args = "FILE",
    .offer = offers_files,
    .flags = CMD_CHANGES,
    .run = run_insert_file,
};

const Command *const opening_commands[] = {
    &cmd_new,
    &cmd_open,
    &cmd_insert_file,
    NULL,
};

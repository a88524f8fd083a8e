#include "commands/file/opening.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/words.h"
#include "commands/edits.h"
#include "files/location.h"
#include "session/session_files.h"
#include "session/session_memory.h"
#include "text/text_line.h"
#include "ui/awaiting.h"
#include "ui/folders.h"
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

enum { RECENT_MOST = 30, ENTRIES_MOST = 5000, NO_ROW = 1 << 30 };

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
    char *full = location_full(path);
    bool found = false;
    for (size_t i = 0; i < o->n && !found; i++) {
        char *other = location_full(o->rows[i].path);
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
    if (here || stands_already(r->opening, path) || (!location_is_remote(path) && !disk_exists(path)))
        return;
    char *folder = location_folder(path), *base = location_base(path), *shown = location_shown(folder);
    char *present = path_full("./");
    bool below = strcmp(folder, present) == 0; /* it is listed with the folder's entries */
    if (!below && has_part(base, r->filter)) {
        Bytes note = {0};
        bytes_printf(&note, "lately, in %s%s", shown, strcmp(shown, "/") == 0 ? "" : "/");
        panel_exact(r->panel, add_choice(r->opening, path, false), base, note.at);
        bytes_free(&note);
    }
    free(present);
    free(shown);
    free(base);
    free(folder);
}

static int by_name(const void *a, const void *b)
{
    const Choice *x = a, *y = b;
    if (x->folder != y->folder)
        return x->folder ? -1 : 1;
    return strcmp(x->path, y->path);
}

/* The entries of a folder whose names have `part` in them. False when they are not there, and why. */
static bool find_entries(Editor *ed, Opening *found, const char *folder, const char *part, Err *e)
{
    char *full = location_full(*folder ? folder : ".");
    const FolderEntries *all = folders_in(ed, full, e);
    for (size_t i = 0; all && i < all->n && found->n < ENTRIES_MOST; i++) {
        const char *name = all->at[i].name;
        bool hidden = name[0] == '.' && part[0] != '.';
        if (hidden || !has_part(name, part))
            continue;
        Bytes path = {0};
        if (location_is_remote(folder)) {
            char *place = location_in(full, name);
            bytes_add_str(&path, place);
            free(place);
        } else {
            bytes_printf(&path, "%s%s", folder, name);
        }
        add_choice(found, path.at, all->at[i].folder);
        bytes_free(&path);
    }
    free(full);
    if (found->n)
        qsort(found->rows, found->n, sizeof *found->rows, by_name);
    return all != NULL;
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
        char *base = location_base(c->path);
        before.rows = o->rows;
        if ((strncmp(base, part, strlen(part)) == 0) == begins && !stands_already(&before, c->path)) {
            any = true;
            bytes_clear(&name);
            bytes_printf(&name, "%s%s", base, c->folder ? "/" : "");
            panel_exact(p, add_choice(o, c->path, c->folder), name.at, c->folder ? "folder" : NULL);
        }
        free(base);
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
    char *folder = path_expand_home(head);
    *name = slash ? slash + 1 : typed;
    free(head);
    return folder;
}

static void fill_opening(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    Opening *o = ctx;
    const char *typed;
    clear_choices(o);
    char *folder = folder_part(filter, &typed), *full = path_expand_home(filter);
    char *name = *typed && location_is_remote(filter) ? location_base(filter) : mem_string(typed);
    Opening found = {0};
    Err e;
    bool listed = find_entries(ed, &found, folder, name, &e), remote = location_is_remote(filter);
    Lies what = *filter ? folders_what(ed, full) : LIES_NOTHING;
    bool there = what == LIES_FILE;
    if (there) /* typed in full: that and nothing else is meant */
        panel_exact(p, add_choice(o, full, false), filter, NULL);
    if (!strchr(filter, '/')) {
        add_open(ed, p, o, filter);
        Recent r = {ed, p, o, filter};
        if (session_store(ed->session))
            store_each(session_store(ed->session), "opened", RECENT_MOST, add_recent, &r);
    }
    size_t stood = o->n;
    bool fresh = *name && what == LIES_NOTHING && !o->insert && (listed || !remote);
    bool first = fresh && looks_whole(name);
    if (!listed && remote && *name) /* it can be opened without a look at the others */
        panel_exact(p, add_choice(o, full, false), filter, NULL);
    if (!listed && remote)
        panel_exact(p, NO_ROW, e.text[0] ? e.text : "Waiting for the host…", NULL);
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
    if (*folder && strcmp(folder, "/") != 0 && listed) {
        char *at = location_full(folder), *up = location_folder(at);
        free(at);
        panel_exact(p, add_choice(o, up, true), "../", "the folder above");
        free(up);
    }
    if (fresh && !first)
        panel_exact(p, add_choice(o, full, false), filter, "begin a new file of this name");
    free(name);
    free(folder);
    free(full);
}

static void walk_into(Editor *ed, const char *path)
{
    char *full = location_full(path);
    Bytes filter = {0};
    bytes_printf(&filter, "%s%s", full, full[strlen(full) - 1] == '/' ? "" : "/");
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

/* It goes where the cursor is when it has come. */
static void insert_loaded(Editor *ed, Errand *loaded, void *ctx)
{
    (void)ctx;
    Err e = {""};
    Text t = {0};
    View *v = ed->panes.view;
    char *name = location_base(loaded->path);
    if (!loaded->ok) {
        warn(ed, "%s", loaded->e.text);
    } else if (!decoded(loaded->bytes, &v->file->format, &t, &e)) {
        warn(ed, "%s was not inserted: %s", name, e.text);
    } else if (edit_allowed(ed)) {
        size_t from, to, n = text_len(t), lines = text_line_count(t);
        if (!view_marked(v, &from, &to))
            from = to = v->cursor.at;
        doc_set_verb(v->file->doc, "Insert file");
        if (doc_replace_text(v->file->doc, from, to - from, t, v->cursor.at)) {
            view_drop_mark(v);
            view_go(v, from + n);
            say(ed, "Inserted %s: %s", name, AMOUNT(lines, "line"));
        } else {
            warn(ed, "There is not enough memory for that");
        }
        doc_set_verb(v->file->doc, NULL);
    }
    text_drop(&t);
    free(name);
}

static void insert_file(Editor *ed, const char *path)
{
    char *full = location_full(path);
    await_errand(ed, &(Errand){.kind = ERRAND_LOAD, .path = full}, insert_loaded, NULL, NULL);
    free(full);
}

static void open_panel(Editor *ed, const char *title, const char *path, bool insert);

/* Is it the name of a folder, so that it is to be walked? On a host only what ends with a slash certainly
 * is; or the host alone. */
bool opening_is_folder(const char *path)
{
    size_t n = strlen(path);
    if (!location_is_remote(path))
        return folder_at(path);
    return path[n - 1] == '/' || !strchr(path + strlen("ssh://"), '/');
}

void opening_go(Editor *ed, const char *path)
{
    Err e = {""};
    char *full = path_expand_home(path);
    if (opening_is_folder(full)) {
        Bytes folder = {0};
        size_t n = strlen(full);
        bool bare = location_is_remote(full) && !strchr(full + strlen("ssh://"), '/');
        bytes_printf(&folder, "%s%s", full, bare ? "/~/" : n && full[n - 1] == '/' ? "" : "/");
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
    if (id == NO_ROW)
        return;
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
    if (location_is_remote(before))
        folders_offer(ed, before, &offers);
    else
        offers_add_files(&offers, before);
    size_t same = offers_common(&offers);
    if (offers.n && same > strlen(before))
        bytes_add(&out, offers.items[0], same);
    else if (id >= 0 && (size_t)id < o->n)
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
    folders_forget(ed);
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
    char *full = path_expand_home(args->text);
    if (*args->text && !opening_is_folder(full))
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

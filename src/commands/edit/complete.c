#include "commands/edit/complete.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"
#include "commands/edits.h"
#include "files/filesystem.h"
#include "edit/move.h"
#include "kinds/place.h"
#include "session/manual_pages.h"
#include "ui/command.h"
#include "view/colours.h"

#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum {
    NEAR = 512 * 1024,  /* bytes of this text to either side of the cursor that are looked through */
    OTHER = 256 * 1024, /* and of each other one */
    WORD_MOST = 200,    /* bytes of a word */
    LISTED = 8,         /* that are seen at once */
    KEPT = 200          /* that can be chosen from */
};

/* A word that would do. */
typedef struct Candidate {
    char *word;
    size_t rank; /* lower ones first */
} Candidate;

/* Over the text while one word after the other is tried. */
typedef struct Completing {
    Layer layer;
    FileId file;
    const Kind *kind; /* of its text */
    Candidate *all;
    size_t n, now;
    size_t from, typed, there; /* where the word begins; bytes of it that were typed; that stand there now */
    bool any_case;
    const char *sign; /* behind each that the place wants, or NULL */
} Completing;

/* ---- what there is ---- */

static bool in_word(unsigned char c)
{
    return c >= 0x80 || c == '_' || (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') ||
           (c >= 'A' && c <= 'Z');
}

/* Words of most files have hyphens in them; in a program those are signs. */
static bool has_hyphens(const Kind *k)
{
    return !k->comment_open;
}

/* From which others begin; what the place wants comes before all. */
enum Rank { RANK_PLACE = 0, RANK_NEAR = 1 << 20, RANK_TEXTS = 1 << 24, RANK_KINDS = 1 << 30 };

static void add(Completing *c, const char *word, size_t n, size_t rank)
{
    c->all = array_room(c->all, c->n, sizeof *c->all);
    c->all[c->n++] = (Candidate){mem_string_n(word, n), rank};
}

static bool continues(const Completing *c, const char *prefix, const char *word, size_t n)
{
    if (n <= c->typed || n > WORD_MOST)
        return false;
    return c->any_case ? strncasecmp(word, prefix, c->typed) == 0 : memcmp(word, prefix, c->typed) == 0;
}

/* Adds the words of [from, to) that continue the prefix. With `near`, the nearest to it count most; else in
 * their order from `rank` on. */
static void add_words(Completing *c, Text t, size_t from, size_t to, const char *prefix, const size_t *near,
                      size_t rank)
{
    bool hyphens = has_hyphens(c->kind);
    char *bytes = text_string(t, from, to);
    size_t n = to - from;
    for (size_t i = 0, end; i < n; i = end + 1) {
        end = i;
        while (end < n && (in_word((unsigned char)bytes[end]) || (hyphens && end > i && bytes[end] == '-' &&
                                                                  in_word((unsigned char)bytes[end + 1]))))
            end++;
        size_t at = from + i;
        bool itself = near && at <= *near && from + end >= *near;
        if (!itself && continues(c, prefix, bytes + i, end - i))
            add(c, bytes + i, end - i, rank + (near ? (at > *near ? at - *near : *near - at) : i));
    }
    free(bytes);
}

typedef struct KindWord {
    Completing *completing;
    const char *prefix;
    size_t rank;
} KindWord;

static void add_kind_word(void *ctx, const char *word)
{
    KindWord *k = ctx;
    if (continues(k->completing, k->prefix, word, strlen(word)))
        add(k->completing, word, strlen(word), k->rank++);
}

/* The settings that the manual of such files knows. Pages of commands tell about other things. */
static void add_manual_words(Editor *ed, const Kind *kind, KindWord *k)
{
    enum { SOON = 300 /* ms that a person waits once for it */ };
    uint64_t end = system_now_ms() + SOON, now;
    for (KindWords pages = kind->manual; pages && *pages; pages++) {
        if (strstr(*pages, "(1)") || (now = system_now_ms()) >= end)
            continue;
        const Bytes *page = manual_page_soon(ed->session, *pages, (unsigned)(end - now));
        if (!page)
            return; /* it comes, and is there the next time */
        manual_each_entry(page, add_kind_word, k);
    }
}

typedef struct Entries {
    Completing *completing;
    const char *folder, *prefix;
} Entries;

static bool add_entry(int fd, const char *name, void *ctx)
{
    (void)fd;
    Entries *e = ctx;
    if ((name[0] == '.' && e->prefix[0] != '.') || strncmp(name, e->prefix, strlen(e->prefix)) != 0)
        return true;
    for (const char *p = name; *p; p++)
        if ((unsigned char)*p < 32 || *p == 127) /* not into a text */
            return true;
    Bytes path = {0}, shown = {0};
    bytes_printf(&path, "%s/%s", e->folder, name);
    bytes_printf(&shown, "%s%s", name, folder_at(path.at) ? "/" : "");
    if (shown.len > e->completing->typed)
        add(e->completing, shown.at, shown.len, 0);
    bytes_free(&path);
    bytes_free(&shown);
    return true;
}

/* Does </ end something there, as in XML? */
static bool closes_tags(const Editor *ed)
{
    const View *v = ed->panes.view;
    const char *open = colours_kind(v->file, v->cursor.at)->comment_open;
    return open && open[0] == '<';
}

/* What is before the cursor up to a blank or the like, if there is a slash in it: the folder that it names,
 * and the start of a name. */
static bool path_before(Editor *ed, Text t, size_t at, char **folder, char **name)
{
    size_t from = at;
    while (from > 0 && at - from < WORD_MOST * 10) {
        int c = text_byte(t, from - 1);
        if (c <= ' ' || strchr("\"'`=:;,()<>|&[]{}", c))
            break;
        from--;
    }
    char *path = text_string(t, from, at), *slash = strrchr(path, '/');
    bool closes_tag = from > 0 && text_byte(t, from - 1) == '<' && path[0] == '/' && closes_tags(ed);
    if (!slash || closes_tag || strncmp(path, "//", 2) == 0) {
        free(path);
        return false;
    }
    *name = mem_string(slash + 1);
    slash[slash == path] = 0;
    const char *own = ed->panes.view->file->path;
    Bytes full = {0};
    char *here = own ? path_folder(own) : mem_string("."), *home = path_expand_home(path);
    bytes_printf(&full, "%s%s%s", home[0] == '/' ? "" : here, home[0] == '/' ? "" : "/", home);
    *folder = full.at;
    free(here);
    free(home);
    free(path);
    return true;
}

static int by_rank(const void *a, const void *b)
{
    const Candidate *x = a, *y = b;
    if (x->rank != y->rank)
        return x->rank < y->rank ? -1 : 1;
    return strcmp(x->word, y->word);
}

static int by_word(const void *a, const void *b)
{
    int c = strcmp(((const Candidate *)a)->word, ((const Candidate *)b)->word);
    return c ? c : by_rank(a, b);
}

/* Each once, the best first. */
static void sort_out(Completing *c)
{
    size_t n = 0;
    if (!c->n)
        return;
    qsort(c->all, c->n, sizeof *c->all, by_word);
    for (size_t i = 0; i < c->n; i++)
        if (n && strcmp(c->all[n - 1].word, c->all[i].word) == 0)
            free(c->all[i].word);
        else
            c->all[n++] = c->all[i];
    qsort(c->all, n, sizeof *c->all, by_rank);
    while (n > KEPT)
        free(c->all[--n].word);
    c->n = n;
}

static void gather_words(Editor *ed, Completing *c, const char *prefix)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t at = v->cursor.at, len = text_len(t);
    add_words(c, t, at > NEAR ? at - NEAR : 0, len - at > NEAR ? at + NEAR : len, prefix, &at, RANK_NEAR);
    for (size_t i = 0; i < ed->session->n_files; i++) {
        const OpenFile *f = ed->session->files[i];
        Text other = doc_text(f->doc);
        if (f != v->file)
            add_words(c, other, 0, text_len(other) < OTHER ? text_len(other) : OTHER, prefix, NULL,
                      RANK_TEXTS + i * OTHER);
    }
    KindWord k = {c, prefix, RANK_KINDS};
    kind_each_word(v->file->kind, add_kind_word, &k);
    add_manual_words(ed, v->file->kind, &k);
    sort_out(c);
}

/* ---- what the place wants ---- */

typedef struct Wanting {
    Completing *completing;
    const char *prefix;
    bool any_case;
    size_t rank;
} Wanting;

static bool add_wanted(void *ctx, const char *name)
{
    Wanting *w = ctx;
    Completing *c = w->completing;
    Bytes all = {0};
    for (const char *p = name; *p; p++)
        if ((unsigned char)*p < 32 || *p == 127) /* not into a text */
            return true;
    if ((w->any_case ? strncasecmp : strncmp)(name, w->prefix, c->typed) != 0 ||
        strlen(name) < c->typed + !(c->sign && *c->sign))
        return true;
    bytes_printf(&all, "%s%s", name, c->sign ? c->sign : "");
    add(c, all.at, all.len, w->rank++);
    bytes_free(&all);
    return c->n < KEPT * 10;
}

/* The name of the section in which a line stands; the caller frees it. */
static char *section_above(const Kind *k, Text t, size_t line_start)
{
    const KeyValues *settings = key_values_of(k, NULL);
    size_t looked = line_start > NEAR ? line_start - NEAR : 0, from, to;
    char *section = NULL;
    while (settings && settings->section && line_start > looked && !section) {
        size_t end = line_start - 1;
        line_start = move_line_start(t, end);
        char *line = text_string(t, line_start, end);
        if (key_values_section(settings, line, end - line_start, &from, &to))
            section = mem_string_n(line + from, to - from);
        free(line);
    }
    return section ? section : mem_string("");
}

static bool rest_is_blank(Text t, size_t at)
{
    size_t end = move_line_end(t, at);
    while (at < end && (text_byte(t, at) == ' ' || text_byte(t, at) == '\t'))
        at++;
    return at == end;
}

/* The names of files and users here are not those of another machine. */
static bool is_here(const OpenFile *f)
{
    return !f->path || filesystem_can(f->path, FILES_ARE_HERE);
}

/* The settings of the section, the values of a setting, users where a user is to stand, and so on. */
static void gather_wanted(Editor *ed, Completing *c)
{
    enum { LINE_MOST = 10000 };
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t at = v->cursor.at, start = move_line_start(t, at);
    Place p;
    if (at - start > LINE_MOST)
        return;
    char *line = text_string(t, start, at), *section = section_above(c->kind, t, start);
    if (place_of(c->kind, section, line, at - start, &p)) {
        c->from = start + p.from;
        c->typed = c->there = at - c->from;
        c->sign = rest_is_blank(t, at) ? p.sign : ""; /* else it stands there */
        Wanting w = {c, line + p.from, c->kind->any_case, RANK_PLACE};
        place_each(&p, section, is_here(v->file), add_wanted, &w);
        w.any_case = true; /* perhaps it was begun with other capitals */
        if (!c->n)
            place_each(&p, section, is_here(v->file), add_wanted, &w);
    }
    free(line);
    free(section);
    sort_out(c);
}

static void gather(Editor *ed, Completing *c)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t at = v->cursor.at;
    char *folder, *name;
    c->file = v->file->id;
    c->kind = v->file->kind;
    gather_wanted(ed, c);
    if (c->n)
        return;
    c->sign = NULL;
    if (is_here(v->file) && path_before(ed, t, at, &folder, &name)) {
        c->typed = c->there = strlen(name);
        c->from = at - c->typed;
        folder_read(folder, add_entry, &(Entries){c, folder, name});
        free(folder);
        free(name);
        sort_out(c);
        if (c->n) /* else a slash between two words */
            return;
    }
    c->from = at;
    while (c->from > 0 && at - c->from < WORD_MOST) {
        int before = text_byte(t, c->from - 1);
        bool hyphen = before == '-' && has_hyphens(v->file->kind) && c->from < at && c->from > 1 &&
                      in_word((unsigned char)text_byte(t, c->from - 2));
        if (!in_word((unsigned char)before) && !hyphen)
            break;
        c->from--;
    }
    c->typed = c->there = at - c->from;
    if (!c->typed)
        return;
    char *prefix = text_string(t, c->from, at);
    gather_words(ed, c, prefix);
    if (!c->n) { /* perhaps it was begun with other capitals, which stay */
        c->any_case = true;
        gather_words(ed, c, prefix);
        for (size_t i = 0; i < c->n; i++)
            memcpy(c->all[i].word, prefix, c->typed);
        sort_out(c);
    }
    free(prefix);
}

/* ---- trying one after the other ---- */

static void put(Editor *ed, Completing *c, const char *word, size_t n)
{
    if (edit_replace(ed, c->from, c->there, word, n, STEP_WHOLE))
        c->there = n;
}

static void put_now(Editor *ed, Completing *c)
{
    const char *word = c->all[c->now].word;
    put(ed, c, word, strlen(word));
}

static void free_words(Completing *c)
{
    for (size_t i = 0; i < c->n; i++)
        free(c->all[i].word);
    free(c->all);
}

static void list_free(Editor *ed, Layer *l)
{
    Completing *c = (Completing *)l;
    OpenFile *f = session_file(ed->session, c->file);
    if (f)
        doc_end(f->doc);
    free_words(c);
}

/* Is it the sign that was put behind the name already? */
static bool types_sign(const Completing *c, Key k)
{
    size_t blanks = c->sign ? strspn(c->sign, " ") : 0;
    const char *sign = c->sign && c->sign[blanks] ? c->sign + blanks : c->sign;
    return sign && *sign && k.mods == 0 && k.code == K_CHAR && k.ch == (unsigned char)*sign;
}

static bool list_key(Editor *ed, Layer *l, const Input *in)
{
    Completing *c = (Completing *)l;
    Key k = in->key;
    const Binding *b = keymap_find(&ed->config.keys, k);
    bool again = b && b->command && strcmp(b->command->name, "complete-word") == 0;
    bool plain = k.mods == 0, shift = k.mods == MOD_SHIFT;
    if (again || (plain && (k.code == K_TAB || k.code == K_DOWN)))
        c->now = (c->now + 1) % c->n;
    else if ((k.code == K_TAB && shift) || (k.code == K_UP && plain))
        c->now = (c->now + c->n - 1) % c->n;
    else if (types_sign(c, k) || (k.code == K_ENTER && plain)) {
        layers_pop(ed);
        return true;
    } else
        return false;
    put_now(ed, c);
    return true;
}

/* What was typed stands there again. */
static void list_cancel(Editor *ed, Layer *l)
{
    Completing *c = (Completing *)l;
    OpenFile *f = session_file(ed->session, c->file);
    size_t cursor;
    if (!f)
        return;
    doc_end(f->doc);
    if (doc_undo(f->doc, &cursor))
        view_go(ed->panes.view, c->from + c->typed);
    doc_begin(f->doc);
}

static void list_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    Completing *c = (Completing *)l;
    int rows = (int)(c->n < LISTED ? c->n : LISTED), width = 0, row = f->cursor_row,
        space = f->status_row - row - 1;
    size_t first = c->now < (size_t)rows ? 0 : c->now - (size_t)rows + 1;
    if (row < 0)
        return;
    for (size_t i = first; i < first + (size_t)rows; i++) {
        int w = frame_width(f, c->all[i].word) + 2;
        width = w > width ? w : width;
    }
    bool above = space < rows && row - 1 > space;
    rows = above ? (rows < row - 1 ? rows : row - 1) : rows < space ? rows : space;
    width = width < f->cols ? width : f->cols;
    int col = f->cursor_col - frame_width(f, c->all[c->now].word) - 1, top = above ? row - rows : row + 1;
    col = col + width > f->cols ? f->cols - width : col;
    col = col > 0 ? col : 0;
    first = rows > 0 && c->now >= first + (size_t)rows ? c->now - (size_t)rows + 1 : first;
    for (int i = 0; i < rows; i++) {
        Style style = first + (size_t)i == c->now ? ST_MATCH_NOW : ST_BOX;
        frame_blank(f, top + i, col, col + width, style);
        frame_text(f, top + i, col + 1, col + width, style, c->all[first + (size_t)i].word);
    }
}

static size_t list_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    static const Hint hints[] = {{"Tab", "Next word", true},
                                 {"Shift+Tab", "Word before", false},
                                 {"Enter", "Take it", true},
                                 {"Esc", "As it was", true}};
    memcpy(out, hints, sizeof hints);
    return sizeof hints / sizeof *hints;
}

static const LayerKind list_kind = {
    .help = "lines",
    .passing = true,
    .key = list_key,
    .paint = list_paint,
    .hints = list_hints,
    .cancel = list_cancel,
    .free = list_free,
};

static void run_complete(Editor *ed, const Args *args)
{
    (void)args;
    Completing *c = mem_get(sizeof *c);
    if (!edit_allowed(ed)) {
        free(c);
        return;
    }
    view_drop_mark(ed->panes.view);
    gather(ed, c);
    bool signed_one = c->n == 1 && c->sign && *c->sign; /* so that the sign is not typed twice */
    if (c->n < 2 && !signed_one) {
        if (c->n)
            put_now(ed, c);
        else
            say(ed, c->typed ? "No completion found" : "Type the beginning of a word first");
        free_words(c);
        free(c);
        return;
    }
    c->layer.kind = &list_kind;
    doc_begin(ed->panes.view->file->doc);
    layers_push(ed, &c->layer);
    put_now(ed, c);
}

static const Command cmd_complete_word = {
    .name = "complete-word",
    .label = "Complete the word",
    .letter = 'k',
    .keys = "Ctrl+Space",
    .help = "Complete what was begun by a word of the texts, the kind, its manual or a file's name",
    .more = "The nearest word comes first; Tab, or the same key again, puts the next one. After a slash the "
            "names of files "
            "are offered. Enter takes the word, any other key does so and is typed; Esc puts back what was "
            "there.",
    .words = "autocomplete suggest expand finish",
    .flags = CMD_CHANGES,
    .run = run_complete,
};

const Command *const complete_commands[] = {&cmd_complete_word, NULL};

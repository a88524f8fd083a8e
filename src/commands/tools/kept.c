#include "commands/tools/kept.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/plain_data.h"
#include "base/trusted.h"
#include "config/own_file.h"
#include "ui/command.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct KeptAll {
    void (*play)(Editor *ed, const Args *args);
    Kept **at;
    size_t n;
    bool stale;    /* the file was saved since it was read */
    char **labels; /* of those that are gone: histories may name them */
    size_t n_labels;
} KeptAll;

/* ---- as commands ---- */

static char *label_of(const char *name)
{
    char *label = mem_string(name);
    for (char *p = label; *p; p++)
        if (*p == '-')
            *p = ' ';
    if (*label >= 'a' && *label <= 'z')
        *label = (char)(*label - 'a' + 'A');
    return label;
}

/* A name for the command, of the letters and digits of that of the recording; another one where it is taken.
 */
static char *command_name_of(const Editor *ed, const char *name)
{
    enum { NAME_MOST = 30 };
    Bytes b = {0};
    for (const char *p = name; *p && b.len < NAME_MOST; p++) {
        char c = (char)tolower((unsigned char)*p);
        bool letter = c >= 'a' && c <= 'z', more = letter || (c >= '0' && c <= '9');
        if (letter || (more && b.len))
            bytes_add(&b, &c, 1);
        else if (b.len && b.at[b.len - 1] != '-')
            bytes_add(&b, "-", 1);
    }
    while (b.len && b.at[b.len - 1] == '-')
        b.len--;
    if (!b.len)
        bytes_add_str(&b, "recording");
    size_t base = b.len;
    for (unsigned i = 2; registry_find(&ed->config.registry, bytes_str(&b), b.len); i++) {
        b.len = base;
        bytes_printf(&b, "-%u", i);
    }
    char *own = mem_string(bytes_str(&b));
    bytes_free(&b);
    return own;
}

static void drop(Editor *ed, Kept *k)
{
    KeptAll *all = ed->kept;
    config_forget(&ed->config, &k->command);
    ed->running.before = NULL;
    recorded_free(&k->what);
    free(k->name);
    free(k->own);
    all->labels = array_room(all->labels, all->n_labels, sizeof *all->labels);
    all->labels[all->n_labels++] = k->label;
    free(k);
}

/* Takes over `what`. NULL with the reason in e. */
static Kept *add(Editor *ed, const char *name, Recorded what, bool machine, Err *e)
{
    KeptAll *all = ed->kept;
    Kept *k = mem_get(sizeof *k);
    k->what = what;
    k->name = mem_string(name);
    k->own = command_name_of(ed, name);
    k->label = label_of(name);
    k->machine = machine;
    k->command = (Command){.name = k->own,
                           .label = k->label,
                           .help = "Plays the keys that are kept under this name",
                           .words = "recording play",
                           .run = all->play};
    if (!registry_add_own(&ed->config.registry, &k->command, "", e)) {
        drop(ed, k);
        return NULL;
    }
    all->at = array_room(all->at, all->n, sizeof *all->at);
    all->at[all->n++] = k;
    return k;
}

static Kept *find(const Editor *ed, const char *name)
{
    for (size_t i = 0; i < ed->kept->n; i++)
        if (strcmp(ed->kept->at[i]->name, name) == 0)
            return ed->kept->at[i];
    for (size_t i = 0; i < ed->kept->n; i++)
        if (strcmp(ed->kept->at[i]->own, name) == 0)
            return ed->kept->at[i];
    return NULL;
}

const Kept *kept_named(const Editor *ed, const char *name)
{
    return find(ed, name);
}

size_t kept_count(const Editor *ed)
{
    return ed->kept->n;
}

const Kept *kept_at(const Editor *ed, size_t i)
{
    return ed->kept->at[i];
}

static void drop_all(Editor *ed)
{
    for (size_t i = 0; i < ed->kept->n; i++)
        drop(ed, ed->kept->at[i]);
    for (size_t i = 0; i < ed->kept->n_labels; i++)
        free(ed->kept->labels[i]);
    free(ed->kept->labels);
    free(ed->kept->at);
}

/* ---- reading ---- */

typedef struct Source {
    Editor *ed;
    const char *path;
    bool machine;
    Bytes *problems;
} Source;

static void wrong(const Source *s, unsigned line, const char *name, const char *why)
{
    Bytes words = {0};
    if (name)
        bytes_printf(&words, "“%s”: ", name);
    bytes_add_str(&words, why);
    config_problem(s->problems, s->path, line, bytes_str(&words));
    bytes_free(&words);
}

static void read_one(const Source *s, const PlainValue *v)
{
    Err e = {""};
    Recorded what = {0};
    unsigned line = 0, lines = 1;
    if (!v->key || v->type != PLAIN_TEXT) {
        wrong(s, v->line, v->key, "a name and its keys in [[ ]] are expected");
        return;
    }
    for (const char *p = v->text; *p; p++)
        lines += *p == '\n';
    if (!recorded_read(v->text, &what, &e, &line)) {
        wrong(s, v->line + line, v->key, e.text);
        recorded_free(&what);
        return;
    }
    Kept *k = find(s->ed, v->key);
    if (k) { /* what stands on its key stays there; a person's own counts more than the machine's */
        recorded_free(&k->what);
        k->what = what;
        k->machine = s->machine;
    } else if (!(k = add(s->ed, v->key, what, s->machine, &e))) {
        wrong(s, v->line, NULL, e.text);
        return;
    }
    k->there = true;
    k->line = v->line;
    k->n = lines + 1; /* that of the opening brackets gives none */
}

static void read_all(const Source *s, const PlainValue *all)
{
    for (const PlainValue *v = all; v; v = v->next) {
        if (strcmp(v->key, "recordings") != 0 || v->type != PLAIN_TABLE)
            wrong(s, v->line, v->key, "only recordings = { … } is expected here");
        else
            for (const PlainValue *one = v->first; one; one = one->next)
                read_one(s, one);
    }
}

/* Does a recording begin in this line? */
static bool begins_one(const char *line)
{
    line += strspn(line, " \t");
    const char *end = line + strcspn(line, "\n"), *is = memmem(line, (size_t)(end - line), "= [", 3);
    return *line == '[' && is && (is[3] == '[' || is[3] == '=');
}

static bool closes_one(const char *line)
{
    return line[strspn(line, " \t")] == ']';
}

static const char *line_after(const char *line)
{
    line += strcspn(line, "\n");
    return line + (*line != 0);
}

/* The file is broken somewhere: each recording by itself, so that the others are not lost with it. False when
 * there is none. */
static bool read_each(const Source *s, const char *bytes)
{
    unsigned number = 1;
    bool any = false;
    for (const char *p = bytes; *p;) {
        const char *from = p;
        bool here = begins_one(p);
        Bytes one = {0};
        Err e = {""};
        unsigned first = number, at = 0;
        do { /* up to its closing bracket, or to where something else begins */
            number++;
            p = line_after(p);
        } while (here && *p && *p != '}' && !begins_one(p) && !closes_one(p));
        if (here && *p && closes_one(p)) {
            number++;
            p = line_after(p);
        }
        if (!here)
            continue;
        any = true;
        for (unsigned i = 1; i + 1 < first; i++) /* so that its lines have their numbers */
            bytes_add_str(&one, "\n");
        bytes_add_str(&one, first > 1 ? "recordings = {\n" : "recordings = { ");
        bytes_add(&one, from, (size_t)(p - from));
        bytes_add_str(&one, "\n}\n");
        PlainData *d = plain_data_read(one.at, one.len, NULL, &e, &at);
        if (d)
            read_all(s, plain_data_all(d)->first);
        else
            wrong(s, at, NULL, e.text);
        plain_data_free(d);
        bytes_free(&one);
    }
    return any;
}

static void read_file(const Source *s)
{
    Err e;
    size_t n;
    unsigned line;
    char *bytes = trusted_read(s->path, &n, &e);
    if (!bytes && e.text[0])
        wrong(s, 0, NULL, e.text);
    PlainData *d = bytes ? plain_data_read(bytes, n, NULL, &e, &line) : NULL;
    if (bytes && !d && !read_each(s, bytes))
        wrong(s, line, NULL, e.text);
    if (d)
        read_all(s, plain_data_all(d)->first);
    plain_data_free(d);
    free(bytes);
}

static void load(Editor *ed, Bytes *problems)
{
    KeptAll *all = ed->kept;
    Bytes machine = {0};
    char *own = own_file_path(KEPT_FILE_NAME);
    for (size_t i = 0; i < all->n; i++)
        all->at[i]->there = false;
    bytes_printf(&machine, "%s/%s", CONFIG_MACHINE_FOLDER, KEPT_FILE_NAME);
    read_file(&(Source){ed, machine.at, true, problems});
    if (own)
        read_file(&(Source){ed, own, false, problems});
    for (size_t i = all->n; i-- > 0;)
        if (!all->at[i]->there) {
            drop(ed, all->at[i]);
            memmove(all->at + i, all->at + i + 1, (--all->n - i) * sizeof *all->at);
        }
    bytes_free(&machine);
    free(own);
}

void kept_load(Editor *ed)
{
    load(ed, &ed->config.problems);
}

static void saved(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    char *own = own_file_path(KEPT_FILE_NAME), *full = own ? path_full(own) : NULL;
    if (full && f->path && strcmp(full, f->path) == 0)
        ed->kept->stale = true;
    free(full);
    free(own);
}

void kept_look(Editor *ed)
{
    if (!ed->kept->stale)
        return;
    Bytes problems = {0};
    ed->kept->stale = false;
    load(ed, &problems);
    if (problems.len)
        warn(ed, "%.*s", (int)strcspn(problems.at, "\n"), problems.at);
    bytes_free(&problems);
}

void kept_begin(Editor *ed, void (*play)(Editor *ed, const Args *args))
{
    SessionEvents events = {.ctx = ed, .saved = saved};
    ed->kept = mem_get(sizeof *ed->kept);
    ed->kept->play = play;
    session_observe(ed->session, &events);
}

void kept_free(Editor *ed)
{
    drop_all(ed);
    free(ed->kept);
    ed->kept = NULL;
}

/* ---- writing ---- */

static void entry_text(const char *name, const Recorded *r, Bytes *out)
{
    bytes_add_str(out, "  [\"");
    for (const char *p = name; *p; p++)
        bytes_printf(out, *p == '"' || *p == '\\' ? "\\%c" : "%c", *p);
    bytes_add_str(out, "\"] = [[\n");
    recorded_write(r, out);
    bytes_add_str(out, "]],\n");
}

/* The line, from 0, on which the last table ends; a table is begun when there is none. */
static size_t end_of_table(OwnFile *f)
{
    size_t line = 0, last = (size_t)-1;
    for (const char *p = bytes_str(&f->text); *p; line++) {
        size_t n = strcspn(p, "\n");
        if (*p == '}' && strspn(p + 1, " \t\r") == n - 1)
            last = line;
        p += n + (p[n] != 0);
    }
    if (last != (size_t)-1)
        return last;
    own_file_put(f, line, 0, "recordings = {\n}\n");
    return line + 1;
}

/* Writes a recording in the place of `old` (NULL: as a new one), or takes that away. What is in the file is
 * read first: somebody may have changed it. */
static bool put(Editor *ed, const char *old, const char *name, const Recorded *what, Err *e)
{
    OwnFile f = {0};
    Bytes entry = {0};
    Recorded copy = {0};
    if (what) {
        recorded_copy(&copy, what);
        entry_text(name, &copy, &entry);
    }
    ed->kept->stale = true;
    kept_look(ed);
    const Kept *k = old ? find(ed, old) : NULL;
    bool ok = own_file_read(&f, KEPT_FILE_NAME, e);
    if (ok) {
        bool there = k && !k->machine && k->line;
        size_t line = there ? k->line - 1 : end_of_table(&f);
        own_file_put(&f, line, there ? k->n : 0, bytes_str(&entry));
        ok = own_file_write(&f, e);
    }
    own_file_free(&f);
    bytes_free(&entry);
    recorded_free(&copy);
    ed->kept->stale = true;
    kept_look(ed);
    return ok;
}

/* Only for this run, as nothing stored is used in it. */
static bool put_here(Editor *ed, const char *old, const char *name, const Recorded *what, Err *e)
{
    KeptAll *all = ed->kept;
    Recorded copy = {0};
    if (what)
        recorded_copy(&copy, what);
    for (size_t i = 0; old && i < all->n; i++)
        if (strcmp(all->at[i]->name, old) == 0) {
            drop(ed, all->at[i]);
            memmove(all->at + i, all->at + i + 1, (--all->n - i) * sizeof *all->at);
        }
    return !what || add(ed, name, copy, false, e) != NULL;
}

bool kept_put(Editor *ed, const char *old, const char *name, const Recorded *what)
{
    Err e = {""};
    bool plain = ed->session->rules.plain;
    if ((plain ? put_here : put)(ed, old, name, what, &e))
        return true;
    warn(ed, "%s", e.text);
    return false;
}

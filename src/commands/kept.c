#include "commands/kept.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/plain_data.h"
#include "base/sys.h"
#include "base/trusted.h"
#include "base/words.h"
#include "commands/key_test.h"
#include "commands/playing.h"
#include "commands/recording.h"
#include "config/own_file.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"
#include "ui/question.h"
#include "view/scroll.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#define FILE_NAME "recordings.lua"

/* A recording that is kept. It is a command too. */
typedef struct Kept {
    Command command; /* first: a command that runs is found as what it is part of */
    Recorded what;
    char *name, *label;
    char *own;        /* the command's name */
    bool there;       /* it was found when the files were read last */
    bool machine;     /* from the machine's file, which is not ours to change */
    unsigned line, n; /* where it stands in its file, from 1, and how many lines it has */
} Kept;

typedef struct KeptAll {
    Kept **at;
    size_t n;
    bool stale;    /* the file was saved since it was read */
    char **labels; /* of those that are gone: histories may name them */
    size_t n_labels;
} KeptAll;

/* ---- as commands ---- */

static void run_kept(Editor *ed, const Args *args)
{
    const Kept *k = (const Kept *)ed->running.now;
    playing_start(ed, &k->what, k->name, PLAY_TIMES, args->count);
}

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
                           .run = run_kept};
    if (!registry_add_own(&ed->config.registry, &k->command, "", e)) {
        drop(ed, k);
        return NULL;
    }
    all->at = array_room(all->at, all->n, sizeof *all->at);
    all->at[all->n++] = k;
    return k;
}

/* By its name, or else by that of its command. */
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

const Recorded *kept_find(const Editor *ed, const char *name)
{
    const Kept *k = find(ed, name);
    return k ? &k->what : NULL;
}

static void drop_all(Editor *ed)
{
    for (size_t i = 0; i < ed->kept->n; i++)
        drop(ed, ed->kept->at[i]);
    for (size_t i = 0; i < ed->kept->n_labels; i++)
        free(ed->kept->labels[i]);
    free(ed->kept->labels);
    free(ed->kept->at);
    *ed->kept = (KeptAll){0};
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
    char *own = own_file_path(FILE_NAME);
    for (size_t i = 0; i < all->n; i++)
        all->at[i]->there = false;
    bytes_printf(&machine, "%s/%s", CONFIG_MACHINE_FOLDER, FILE_NAME);
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
    char *own = own_file_path(FILE_NAME), *full = own ? sys_full_path(own) : NULL;
    if (full && f->path && strcmp(full, f->path) == 0)
        ed->kept->stale = true;
    free(full);
    free(own);
}

void kept_look(Editor *ed)
{
    if (!ed->kept->stale || playing_on(ed))
        return;
    Bytes problems = {0};
    ed->kept->stale = false;
    load(ed, &problems);
    if (problems.len)
        warn(ed, "%.*s", (int)strcspn(problems.at, "\n"), problems.at);
    bytes_free(&problems);
}

void kept_begin(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .saved = saved};
    ed->kept = mem_get(sizeof *ed->kept);
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
    bool ok = own_file_read(&f, FILE_NAME, e);
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

static bool keep(Editor *ed, const char *old, const char *name, const Recorded *what)
{
    Err e = {""};
    bool plain = ed->session->rules.plain;
    if ((plain ? put_here : put)(ed, old, name, what, &e))
        return true;
    warn(ed, "%s", e.text);
    return false;
}

/* ---- the list ---- */

enum { THE_LAST, THE_KEPT }; /* ids of rows: the last recording, and the first of the kept ones */

/* How many steps, and how they begin. */
static void note_words(const Recorded *r, Bytes *out)
{
    bytes_printf(out, "%s: ", AMOUNT(r->n, "key"));
    Bytes text = {0};
    recorded_write(r, &text);
    for (size_t i = 0; i < text.len && out->len < 160; i++)
        bytes_add(out, text.at[i] == '\n' ? "  " : text.at + i, text.at[i] == '\n' ? 2 : 1);
    bytes_free(&text);
}

static void add_row(const Editor *ed, Panel *p, long id, const char *name, const Recorded *r,
                    const Command *c)
{
    Bytes note = {0};
    char key[COMMAND_KEY_MAX] = "";
    note_words(r, &note);
    panel_add(p, id, name, bytes_str(&note), c ? command_key(ed, c, key) : NULL);
    bytes_free(&note);
}

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const Recorded *last = recording_last(ed);
    if (last)
        add_row(ed, p, THE_LAST, "the last one, not kept yet", last, NULL);
    for (size_t i = 0; i < ed->kept->n; i++)
        add_row(ed, p, THE_KEPT + (long)i, ed->kept->at[i]->name, &ed->kept->at[i]->what,
                &ed->kept->at[i]->command);
}

/* What was chosen: the name of a kept one, or NULL for the last one; owned. */
static const Recorded *chosen_keys(const Editor *ed, const char *name)
{
    return name ? kept_find(ed, name) : recording_last(ed);
}

static void name_given(Editor *ed, const char *name, void *ctx)
{
    const char *old = ctx;
    const Recorded *what = chosen_keys(ed, old);
    const Kept *there = find(ed, name);
    if (!*name || !what) {
        say(ed, "Without a name it is not kept");
        return;
    }
    if (old && strcmp(old, name) == 0)
        return;
    if (there && !(old && strcmp(there->name, old) == 0)) {
        warn(ed, "There is a recording “%s” already", there->name);
        return;
    }
    for (const char *p = name; *p; p++)
        if ((unsigned char)*p < ' ' || *p == 0x7f) {
            warn(ed, "A name cannot have such signs in it");
            return;
        }
    if (keep(ed, old, name, what) && (there = find(ed, name)))
        say(ed, "Kept as “%s”%s; its route is %s", name, ed->session->rules.plain ? " for this run" : "",
            KEY_FOR(ed, there->own));
}

static void ask_name(Editor *ed, const char *old)
{
    PromptSpec p = {.label = "Keep it under the name",
                    .initial = old,
                    .done = name_given,
                    .ctx = old ? mem_string(old) : NULL,
                    .free_ctx = free};
    prompt_ask(ed, &p);
}

/* Its lines in the file of recordings; saving that counts. */
static void change_as_text(Editor *ed, const char *name)
{
    Err e = {""};
    const Kept *k = name ? find(ed, name) : NULL;
    char *path = own_file_path(FILE_NAME);
    if (!k || k->machine || !k->line || !path) {
        say(ed, !name ? "Keep it under a name first; then its keys stand in a file that you can change"
                      : "It stands in the machine's file, or is kept for this run only");
    } else if (!editor_open(ed, path, &e)) {
        warn(ed, "%s", e.text);
    } else {
        view_go_line(ed->panes.view, k->line, 0);
        scroll_centre(ed->panes.view);
        say(ed, "The keys of “%s”, one in each line; what you save here counts at once", name);
    }
    free(path);
}

static void remove_kept(Editor *ed, const char *name)
{
    const Kept *k = name ? find(ed, name) : NULL;
    char *copy = k ? mem_string(name) : NULL;
    if (!k || k->machine)
        say(ed, k ? "It stands in the machine's file, which is not yours to change" : "It is not kept");
    else if (keep(ed, copy, NULL, NULL))
        say(ed, "“%s” is kept no longer", copy);
    free(copy);
}

static void what_now(Editor *ed, char letter, void *ctx)
{
    const char *name = ctx;
    const Recorded *r = chosen_keys(ed, name);
    if (!r)
        return;
    if (letter == 'p')
        playing_start(ed, r, name, PLAY_TIMES, 1);
    else if (letter == 'w')
        playing_start(ed, r, name, PLAY_WHILE_IT_WORKS, 0);
    else if (letter == 'k' || letter == 'a')
        ask_name(ed, name);
    else if (letter == 't')
        change_as_text(ed, name);
    else if (letter == 'f' && name)
        key_test_open_for(ed, find(ed, name)->own);
    else if (letter == 'r')
        remove_kept(ed, name);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    size_t i = (size_t)(id - THE_KEPT);
    const char *name = id >= THE_KEPT && i < ed->kept->n ? ed->kept->at[i]->name : NULL;
    if (id < 0)
        return;
    QuestionSpec q = {
        .answers = {{'p', "Play"},
                    {'w', "Play as often as it works"},
                    {name ? 'a' : 'k', name ? "Another name…" : "Keep it…"},
                    {name ? 't' : 0, "Change as text"}, /* only of one that is kept */
                    {'f', "Put on a key…"},
                    {'r', "Remove it"}},
        .stay = "Back",
        .done = what_now,
        .ctx = name ? mem_string(name) : NULL,
        .free_ctx = free,
    };
    question_ask(ed, &q, "%s:", name ? name : "The last recording");
}

static void run_recordings(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {
        .title = "Recordings", .fill = fill, .chosen = chosen, .empty = "There is none; F7 records one"};
    panel_open(ed, &p);
}

static const Command cmd_recordings = {
    .name = "recordings",
    .label = "Recordings…",
    .letter = 's',
    .help = "Play, name, change and remove what was recorded",
    .words = "macros list keep name",
    .more =
        "What is kept under a name is a command of that name, in the menu Yours, and can be put on a key. "
        "Its keys stand in recordings.lua in words, where they can be changed.",
    .run = run_recordings,
};

const Command *const kept_commands[] = {&cmd_recordings, NULL};

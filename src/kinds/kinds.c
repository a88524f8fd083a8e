#include "kinds/kinds.h"

#include "base/array.h"
#include "base/data.h"
#include "base/mem.h"
#include "base/paths.h"
#include "kinds/checks.h"
#include "kinds/expression.h"
#include "kinds/outline.h"
#include "kinds/parts.h"

#include <fnmatch.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum { MATCH_MOST = 100000 /* steps of an expression on a file's first lines */ };

static struct {
    Kind **all; /* in the order of their names */
    size_t n;
    Kind **former; /* whose place others took: open files may still be of them */
    size_t n_former;
    bool loaded;
} kinds;

/* ---- the list of them ---- */

static void add(Kind *k)
{
    size_t i = kinds.n;
    while (i > 0 && strcmp(kinds.all[i - 1]->name, k->name) >= 0)
        i--;
    if (i < kinds.n && strcmp(kinds.all[i]->name, k->name) == 0) {
        kinds.former = array_room(kinds.former, kinds.n_former, sizeof *kinds.former);
        kinds.former[kinds.n_former++] = kinds.all[i];
        kinds.all[i] = k;
        return;
    }
    kinds.all = array_room(kinds.all, kinds.n, sizeof *kinds.all);
    memmove(kinds.all + i + 1, kinds.all + i, (kinds.n - i) * sizeof *kinds.all);
    kinds.all[i] = k;
    kinds.n++;
}

static void load_own(void)
{
    if (kinds.loaded)
        return;
    kinds.loaded = true;
    for (size_t i = 0; i < data_file_count; i++) {
        const DataFile *d = &data_files[i];
        Kind *k = strncmp(d->path, "kinds/", 6) == 0 ? kind_read(d->bytes, d->len, true, NULL) : NULL;
        if (k)
            add(k);
    }
    for (size_t i = 0; i < kinds.n; i++)
        kind_build_on(kinds.all[i], kind_named, NULL);
}

bool kinds_add(const char *bytes, size_t n, PlainProblem problem, void *ctx)
{
    const PlainReport r = {problem, ctx};
    load_own();
    Kind *k = kind_read(bytes, n, false, &r);
    if (!k)
        return false;
    k->own = true;
    kind_build_on(k, kind_named, &r);
    parts_check(k, &r);
    size_t checks;
    fields_of(k, &r);
    key_values_of(k, &r);
    outline_of(k, &r);
    checks_of(k, &checks, &r);
    add(k);
    return true;
}

void kinds_end(void)
{
    Kind **const lists[] = {kinds.all, kinds.former};
    const size_t n[] = {kinds.n, kinds.n_former};
    for (int list = 0; list < 2; list++) {
        for (size_t i = 0; i < n[list]; i++)
            kind_free(lists[list][i]);
        free(lists[list]);
    }
    memset(&kinds, 0, sizeof kinds);
}

const Kind *kind_named(const char *name)
{
    load_own();
    for (size_t i = 0; i < kinds.n; i++)
        if (strcmp(kinds.all[i]->name, name) == 0)
            return kinds.all[i];
    return NULL;
}

const Kind *kind_number(size_t i)
{
    load_own();
    return i < kinds.n ? kinds.all[i] : NULL;
}

bool kind_line_fits(const Kind *k, const char *like, const char *line, size_t n)
{
    return like && expression_fits(like, k->any_case, line, n, MATCH_MOST);
}

static int by_letters(const void *a, const void *b)
{
    return strcmp(*(const char *const *)a, *(const char *const *)b);
}

void kind_each_word(const Kind *k, void (*each)(void *ctx, const char *word), void *ctx)
{
    const KindParts *p = parts_of(k);
    const char **words = NULL;
    size_t n = 0;
    for (size_t i = 0; i < p->n_sets; i++)
        for (size_t s = 0; s < p->sets[i]->n_slots; s++)
            if (p->sets[i]->words[s].word) {
                words = array_room(words, n, sizeof *words);
                words[n++] = p->sets[i]->words[s].word;
            }
    if (n)
        qsort(words, n, sizeof *words, by_letters);
    for (size_t i = 0; i < n; i++)
        if (i == 0 || strcmp(words[i - 1], words[i]) != 0)
            each(ctx, words[i]);
    free(words);
}

/* ---- recognising ---- */

static bool listed(KindWords list, const char *word, size_t n)
{
    for (; list && *list; list++)
        if (strlen(*list) == n && strncasecmp(*list, word, n) == 0)
            return true;
    return false;
}

const Kind *kind_called(const char *word, size_t n)
{
    load_own();
    for (size_t i = 0; i < kinds.n; i++)
        if (listed((const char *const[]){kinds.all[i]->name, NULL}, word, n))
            return kinds.all[i];
    for (size_t i = 0; i < kinds.n; i++)
        if (listed(kinds.all[i]->endings, word, n) || listed(kinds.all[i]->programs, word, n))
            return kinds.all[i];
    return NULL;
}

const char *kind_path_of(const char *name)
{
    load_own();
    for (size_t i = 0; i < kinds.n; i++)
        for (KindWords p = kinds.all[i]->paths; p && *p; p++)
            if (!strpbrk(*p, "*?[\\") && (*p)[0] == '/' && strcmp(path_base(*p), name) == 0)
                return *p;
    return NULL;
}

/* What is known of a file, for those who find its kind. */
typedef struct Sight {
    const char *path; /* without such endings as .bak; "" if it has none */
    const char *head; /* its first bytes */
    size_t n;
    const char *program; /* that its first line names */
    size_t program_len, line;
} Sight;

static bool has_wildcard(const char *pattern)
{
    return strpbrk(pattern, "*?[\\") != NULL;
}

/* How long the longest of these patterns is that fits, as that says most; 0: none. `which` chooses among
 * them. */
static size_t pattern_of(KindWords patterns, const char *name, bool (*which)(const char *pattern))
{
    size_t best = 0;
    for (; patterns && *patterns; patterns++) {
        size_t plain = strcspn(*patterns, "*?[\\"), n = strlen(*patterns); /* most differ in that already */
        if (strncmp(*patterns, name, plain) == 0 && n > best && (!which || which(*patterns)) &&
            fnmatch(*patterns, name, 0) == 0)
            best = n;
    }
    return best;
}

/* Three sorts of patterns for paths: those that end in a name, in an ending, or fit whatever is in a folder.
 */
static bool ends_in_name(const char *pattern)
{
    return !has_wildcard(path_base(pattern));
}

static bool ends_in_ending(const char *pattern)
{
    const char *dot = strrchr(path_base(pattern), '.');
    return !ends_in_name(pattern) && dot && !has_wildcard(dot);
}

static bool is_folder(const char *pattern)
{
    return !ends_in_name(pattern) && !ends_in_ending(pattern);
}

/* "hosts", "passwd", "control": other programs have files of that name, too. */
static bool is_word(const char *name)
{
    return name[strspn(name, "abcdefghijklmnopqrstuvwxyz")] == 0;
}

static bool is_telling(const char *name)
{
    return !is_word(name);
}

/* Many programs have files of such an ending, each in a form of its own. */
static bool is_weak(const char *ending)
{
    static const char *const weak[] = {"conf", "cfg", "cnf", "local",  "rules", "service", "path", "cron",
                                       "list", "cf",  "rc",  "config", "opts",  "options", "out",  "err"};
    for (size_t i = 0; i < sizeof weak / sizeof *weak; i++)
        if (strcasecmp(ending, weak[i]) == 0)
            return true;
    return false;
}

/* How long the longest of its endings is that the name has, weak ones or others; 0: none. Letter case does
 * not count. */
static size_t ending_of(const Kind *k, const char *path, bool weak)
{
    const char *name = path_base(path);
    size_t n = strlen(name), best = 0;
    for (KindWords e = k->endings; e && *e; e++) {
        size_t len = strlen(*e);
        if (n > len + 1 && name[n - len - 1] == '.' && strcasecmp(name + n - len, *e) == 0 && len > best &&
            is_weak(*e) == weak)
            best = len;
    }
    return best;
}

/* How much the bytes look like it: for each expression its weight, for each time that it fits. */
static size_t looks_of(const Kind *k, const Sight *s)
{
    enum { TIMES = 4, LEAST = 4 /* so that one line of another form decides nothing */ };
    long all = 0;
    for (const PlainValue *v = k->looks_like ? k->looks_like->first : NULL; v; v = v->next) {
        const PlainValue *like = plain_data_find(v, "like"), *weight = plain_data_find(v, "weight");
        long times = like && like->type == PLAIN_TEXT
                         ? (long)expression_times(like->text, k->any_case, s->head, s->n, TIMES, MATCH_MOST)
                         : 0;
        all += times * (weight && weight->type == PLAIN_NUMBER ? (long)weight->number : 1);
    }
    return all >= LEAST ? (size_t)all : 0;
}

enum { IN_OWN_FOLDER = 10000 /* more than any pattern has bytes */ };

/* Is it in a folder that is the kind's alone, so that a name tells nothing: a filter named squid.conf? */
static bool in_own_folder(const Kind *k, const Sight *s)
{
    const char *dot = strrchr(path_base(s->path), '.');
    return k->own_folders && !s->program_len && (!dot || is_weak(dot + 1)) &&
           (pattern_of(k->paths, s->path, is_folder) || pattern_of(k->paths, s->path, ends_in_ending));
}

static size_t way_of(const Kind *k, const Sight *s, KindWay way)
{
    switch (way) {
    case KIND_BY_PLACE:
        return pattern_of(k->paths, s->path, ends_in_name);
    case KIND_BY_NAME:
        return in_own_folder(k, s) ? IN_OWN_FOLDER : pattern_of(k->names, path_base(s->path), is_telling);
    case KIND_BY_WORD:
        return pattern_of(k->names, path_base(s->path), is_word);
    case KIND_BY_FIRST_LINE:
        return (s->program_len && listed(k->programs, s->program, s->program_len)) ||
               (s->line && k->first_line && !k->last &&
                expression_fits(k->first_line, false, s->head, s->line, MATCH_MOST));
    case KIND_BY_FOLDER_AND_ENDING:
        return pattern_of(k->paths, s->path, ends_in_ending);
    case KIND_BY_ENDING:
        return ending_of(k, s->path, false);
    case KIND_BY_FOLDER:
        return pattern_of(k->paths, s->path, is_folder);
    case KIND_BY_LOOKS:
        return looks_of(k, s);
    case KIND_BY_BEGINNING:
        return s->n && k->first_lines && !k->last &&
               expression_fits(k->first_lines, false, s->head, s->n, MATCH_MOST);
    case KIND_BY_WEAK_ENDING:
        return ending_of(k, s->path, true);
    case KIND_BY_LAST:
        return s->n && k->last &&
               ((k->first_line && expression_fits(k->first_line, false, s->head, s->line, MATCH_MOST)) ||
                (k->first_lines && expression_fits(k->first_lines, false, s->head, s->n, MATCH_MOST)));
    default:
        return 0;
    }
}

/* The best by these ways; of several by the same, a person's own and a machine's go before the program's. */
static const Kind *by_ways(const Sight *s, KindWay from, KindWay to, KindWay *way)
{
    for (*way = from; *way <= to; ++*way) {
        const Kind *best = NULL;
        size_t most = 0;
        for (size_t i = 0; i < kinds.n; i++) {
            size_t n = way_of(kinds.all[i], s, *way);
            if (n &&
                (!best || kinds.all[i]->own > best->own || (kinds.all[i]->own == best->own && n > most))) {
                most = n;
                best = kinds.all[i];
            }
        }
        if (best)
            return best;
    }
    return NULL;
}

static const char *const templates[] = {".j2",  ".jinja2", ".jinja",    ".tmpl", ".tpl",
                                        ".erb", ".epp",    ".template", ".in"};

static size_t without_one_of(const char *const *additions, size_t n_additions, const char *path, size_t n)
{
    for (size_t i = 0; i < n_additions; i++) {
        size_t len = strlen(additions[i]);
        if (n > len && memcmp(path + n - len, additions[i], len) == 0 && path[n - len - 1] != '/')
            return n - len;
    }
    return n;
}

static size_t without_template(const char *path, size_t n)
{
    return without_one_of(templates, sizeof templates / sizeof *templates, path, n);
}

bool kind_is_template(const char *path)
{
    size_t n = path ? strlen(path) : 0;
    return n && without_template(path, n) < n;
}

/* What package tools, backups, templates and people put after a name. The length without it; the same if
 * there is none. */
static size_t without_addition(const char *path, size_t n)
{
    static const char *const additions[] = {
        "~",        ".old",      ".bak",      ".backup",    ".orig",     ".save",    ".saved",
        ".edit",    ".dpkg-old", ".dpkg-new", ".dpkg-dist", ".dpkg-bak", ".rpmnew",  ".rpmsave",
        ".rpmorig", ".ucf-dist", ".ucf-old",  ".ucf-new",   ".sample",   ".example", ".dist",
        ".default", ".tmp",      ".disabled", ".local",     "-"};
    size_t less = without_template(path, n);
    return less < n ? less : without_one_of(additions, sizeof additions / sizeof *additions, path, n);
}

/* The program a "#!" line names, after /usr/bin/env too; its length without a version, 0 if there is none. */
static size_t program_of(const char *head, size_t n, const char **word)
{
    if (n < 2 || head[0] != '#' || head[1] != '!')
        return 0;
    const char *p = head + 2, *end = memchr(head, '\n', n);
    end = end ? end : head + n;
    while (p < end) {
        while (p < end && *p == ' ')
            p++;
        const char *start = p, *stop = p;
        while (stop < end && *stop != ' ' && *stop != '\r' && *stop != '\t')
            stop++;
        p = stop < end ? stop + 1 : end;
        for (const char *q = start; q < stop; q++)
            if (*q == '/')
                start = q + 1;
        bool named = stop > start && *start != '-' && !memchr(start, '=', (size_t)(stop - start));
        if (named && !(stop - start == 3 && memcmp(start, "env", 3) == 0)) {
            while (stop > start + 1 && ((stop[-1] >= '0' && stop[-1] <= '9') || stop[-1] == '.'))
                stop--;
            *word = start;
            return (size_t)(stop - start);
        }
    }
    return 0;
}

const Kind *kind_of(const char *path, const char *head, size_t n)
{
    KindWay way;
    return kind_of_by(path, head, n, &way);
}

const Kind *kind_of_by(const char *path, const char *head, size_t n, KindWay *way)
{
    const char *end = n ? memchr(head, '\n', n) : NULL;
    char *name = mem_string(path ? path : "");
    Sight s = {.path = name, .head = head, .n = n, .line = end ? (size_t)(end - head) : n};
    const Kind *k = NULL;
    load_own();
    s.program_len = program_of(head, n, &s.program);
    if (s.line && head[s.line - 1] == '\r')
        s.line--;
    for (size_t len = strlen(name), less; !k; len = less) {
        k = by_ways(&s, KIND_BY_PLACE, KIND_BY_WORD, way);
        less = without_addition(name, len);
        if (less == len)
            break;
        name[less] = 0;
    }
    k = k ? k : by_ways(&s, KIND_BY_LOOKS, KIND_BY_LAST, way);
    free(name);
    if (k)
        return k;
    *way = KIND_BY_NOTHING;
    return kind_named("text");
}

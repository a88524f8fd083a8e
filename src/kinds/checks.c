#include "kinds/checks.h"

#include "base/array.h"
#include "base/mem.h"
#include "kinds/kind_data.h"
#include "kinds/kind.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <fnmatch.h>
#include <stdlib.h>
#include <string.h>

typedef struct KindChecks {
    Check *at;
    size_t n;
} KindChecks;

/* ---- reading the data ---- */

/* { with = "json" } */
static bool read_part(const Kind *k, Check *c, const PlainValue *with, const PlainReport *r)
{
    if (with->type != PLAIN_TEXT)
        return plain_wrong(r, with->line, "with: the name of a checker is expected");
    c->name = with->text;
    if (strcmp(with->text, "fields") == 0) {
        c->fields = fields_of(k, r);
        return c->fields || plain_wrong(r, with->line, "the kind has no fields to be checked");
    }
    if (strcmp(with->text, "settings") == 0) {
        c->settings = key_values_of(k, r);
        return c->settings || plain_wrong(r, with->line, "the kind has no settings to be checked");
    }
    c->part = checker_named(with->text);
    return c->part || (!checker_is_known(with->text) &&
                       plain_wrong(r, with->line, "there is no checker “%s”", with->text));
}

static void free_check(Check *c)
{
    pcre2_code_free(c->like_code);
    pcre2_code_free(c->reads_code);
    pcre2_code_free(c->given_code);
    pcre2_code_free(c->knows_code);
    pcre2_code_free(c->uses_code);
    pcre2_code_free(c->unsure_code);
    pcre2_code_free(c->writes_code);
    pcre2_code_free(c->hint_code);
    free((void *)c->run);
    free((void *)c->first_line);
    free((void *)c->only_paths);
    free((void *)c->not_paths);
}

/* An expression of a checker, if it has that one: its text, and its code. */
static bool read_like(const PlainValue *v, const char *name, const char **text, void **code,
                      const PlainReport *r)
{
    const PlainValue *found = plain_data_find(v, name);
    *code = kind_expression(found, PCRE2_MULTILINE, r);
    *text = *code ? found->text : NULL;
    return !found || *code;
}

/* The text of that name, if it is there; false when it is something else. */
static bool read_text(const PlainValue *v, const char *name, const char **text, const PlainReport *r)
{
    const PlainValue *found = plain_data_find(v, name);
    *text = found && found->type == PLAIN_TEXT && found->text[0] ? found->text : NULL;
    return !found || *text || plain_wrong(r, found->line, "%s: a text in quotes is expected", name);
}

static bool read_numbers(const PlainValue *v, const char *name, KindNumbers *to, const PlainReport *r)
{
    const PlainValue *found = plain_data_find(v, name);
    for (const PlainValue *i = found && found->type == PLAIN_TABLE ? found->first : NULL; i; i = i->next) {
        if (i->type != PLAIN_NUMBER || !(i->number >= 0 && i->number <= 255) || to->n == NUMBERS_MOST)
            return plain_wrong(r, i->line, "%s: up to %d exit statuses from 0 to 255 are expected", name,
                               NUMBERS_MOST);
        to->at[to->n++] = (int)i->number;
    }
    return !found || to->n || plain_wrong(r, found->line, "%s: a list such as { 0, 1 } is expected", name);
}

/* Is it a part of a checker that is a program? */
static bool is_known_part(const char *key)
{
    static const char *const known[] = {"run",        "like",       "reads",       "given",      "knows",
                                        "uses",       "name",       "in_folder",   "instead_of", "as_root",
                                        "first_line", "only_paths", "not_paths",   "loads",      "free",
                                        "right",      "unsure",     "unsure_like", "writes",     "binds",
                                        "hints",      "as_in_place"};
    for (size_t i = 0; key && i < sizeof known / sizeof *known; i++)
        if (strcmp(known[i], key) == 0)
            return true;
    return false;
}

/* { run = { "visudo", "-cf", "-" }, like = "…(?<line>\\d+)…" } */
static bool read_program(Check *c, const PlainValue *v, const PlainReport *r)
{
    const char *instead, *name, *hints;
    enum { LIST_MOST = 200 };
    for (const PlainValue *i = v->first; i; i = i->next)
        if (!is_known_part(i->key))
            return plain_wrong(r, i->line, "“%s” means nothing in a checker", i->key ? i->key : "");
    bool right = kind_words(v, "run", CHECK_WORDS, &c->run, r) && read_text(v, "instead_of", &instead, r) &&
                 read_text(v, "name", &name, r) && read_text(v, "in_folder", &c->in_folder, r) &&
                 read_like(v, "like", &c->like, &c->like_code, r) &&
                 read_like(v, "reads", &c->reads, &c->reads_code, r) &&
                 read_like(v, "given", &c->given, &c->given_code, r) &&
                 read_like(v, "knows", &c->knows, &c->knows_code, r) &&
                 read_like(v, "uses", &c->uses, &c->uses_code, r) &&
                 read_like(v, "unsure_like", &c->unsure_like, &c->unsure_code, r) &&
                 read_like(v, "writes", &c->writes, &c->writes_code, r) &&
                 read_like(v, "hints", &hints, &c->hint_code, r) && read_numbers(v, "right", &c->right, r) &&
                 read_numbers(v, "unsure", &c->unsure, r) &&
                 kind_words(v, "first_line", LIST_MOST, &c->first_line, r) &&
                 kind_words(v, "only_paths", LIST_MOST, &c->only_paths, r) &&
                 kind_words(v, "not_paths", LIST_MOST, &c->not_paths, r) &&
                 kind_truth(v, "as_root", &c->as_root, r) && kind_truth(v, "loads", &c->loads, r) &&
                 kind_truth(v, "as_in_place", &c->as_in_place, r) && kind_truth(v, "free", &c->free, r) &&
                 kind_truth(v, "binds", &c->binds, r);
    if (!right)
        return false;
    if (!c->run || (!c->like && !(c->knows && c->uses)))
        return plain_wrong(r, v->line,
                           "run = { … } and like = … are expected in a checker that is a program");
    if (c->in_folder && c->in_folder[0] != '/')
        return plain_wrong(r, v->line, "in_folder: a full path is expected");
    c->name = name ? name : c->run[0];
    c->spare = instead && checker_named(instead);
    return true;
}

static KindChecks *read_checks(const Kind *k, const PlainValue *v, const PlainReport *r)
{
    KindChecks *all = mem_get(sizeof *all);
    if (v && v->type != PLAIN_TABLE)
        plain_wrong(r, v->line, "check: a list of checkers is expected");
    for (const PlainValue *i = v ? v->first : NULL; i; i = i->next) {
        Check c = {0};
        if (i->type != PLAIN_TABLE || i->key) {
            plain_wrong(r, i->line, "a checker such as { with = \"json\" } is expected");
            continue;
        }
        const PlainValue *with = plain_data_find(i, "with"), *run = plain_data_find(i, "run");
        bool ok = with  ? read_part(k, &c, with, r)
                  : run ? read_program(&c, i, r)
                        : plain_wrong(r, i->line, "a checker has with = … or run = { … }");
        if (!ok) {
            free_check(&c);
            continue;
        }
        all->at = array_room(all->at, all->n, sizeof *all->at);
        all->at[all->n++] = c;
    }
    return all;
}

static void free_checks(void *what)
{
    KindChecks *all = what;
    for (size_t i = 0; i < all->n; i++)
        free_check(&all->at[i]);
    free(all->at);
    free(all);
}

const Check *checks_of(const Kind *k, size_t *n, const PlainReport *r)
{
    const PlainValue *found = NULL;
    for (const Kind *owner = k; !k->made[KIND_CHECKS].what && !found && owner; owner = owner->base) {
        const PlainValue *all = kind_source_all(owner, r);
        found = all ? plain_data_find(all, "check") : NULL;
    }
    if (!k->made[KIND_CHECKS].what)
        kind_keep(k, KIND_CHECKS, read_checks(k, found, r), free_checks);
    const KindChecks *checks = k->made[KIND_CHECKS].what;
    *n = checks->n;
    return checks->at;
}

static bool begins_with(const char *path, const char *folder)
{
    size_t n = folder ? strlen(folder) : 0;
    return n && strncmp(path, folder, n) == 0 && path[n] == '/';
}

/* Is it in that folder, by its name or by where a link of that name leads? */
static bool lies_in(const char *path, const char *folder)
{
    char *real = realpath(folder, NULL);
    bool in = path && (begins_with(path, folder) || begins_with(path, real));
    free(real);
    return in;
}

static bool fits_one(KindWords patterns, const char *path)
{
    for (KindWords p = patterns; path && p && *p; p++)
        if (fnmatch(*p, path, 0) == 0)
            return true;
    return false;
}

bool check_fits(const Check *c, const char *path, const char *head, size_t n)
{
    const char *end = memchr(head, '\n', n);
    size_t len = end ? (size_t)(end - head) : n;
    if (c->in_folder && !lies_in(path, c->in_folder))
        return false;
    if ((c->only_paths && !fits_one(c->only_paths, path)) || fits_one(c->not_paths, path))
        return false;
    if (!c->first_line)
        return true;
    if (len < 2 || memcmp(head, "#!", 2) != 0) {
        KindWords w = c->first_line;
        while (*w && strcmp(*w, "none") != 0)
            w++;
        return *w != NULL;
    }
    while (len && (head[len - 1] == ' ' || head[len - 1] == '\r'))
        len--;
    for (KindWords w = c->first_line; *w; w++) { /* as the last part of a path, or after it and a blank */
        size_t k = strlen(*w);
        for (size_t at = 2; at + k <= len; at++)
            if (memcmp(head + at, *w, k) == 0 && strchr("/ !", head[at - 1]) &&
                (at + k == len || head[at + k] == ' '))
                return true;
    }
    return false;
}

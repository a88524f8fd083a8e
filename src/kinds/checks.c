#include "kinds/checks.h"

#include "base/array.h"
#include "base/mem.h"
#include "kinds/kind_data.h"
#include "kinds/kind_file.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <fnmatch.h>
#include <stdlib.h>
#include <string.h>

struct KindChecks {
    Check *at;
    size_t n;
};

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

static const char *text_in(const PlainValue *v, const char *name)
{
    const PlainValue *found = plain_data_find(v, name);
    return found && found->type == PLAIN_TEXT ? found->text : NULL;
}

/* Is it a part of a checker that is a program? */
static bool is_known_part(const char *key)
{
    static const char *const known[] = {"run",        "like",       "reads",     "given",      "knows",
                                        "uses",       "name",       "in_folder", "instead_of", "as_root",
                                        "first_line", "only_paths", "not_paths"};
    for (size_t i = 0; key && i < sizeof known / sizeof *known; i++)
        if (strcmp(known[i], key) == 0)
            return true;
    return false;
}

/* { run = { "visudo", "-cf", "-" }, like = "…(?<line>\\d+)…" } */
static bool read_program(Check *c, const PlainValue *v, const PlainReport *r)
{
    const char *instead = text_in(v, "instead_of"), *name = text_in(v, "name");
    for (const PlainValue *i = v->first; i; i = i->next)
        if (!is_known_part(i->key))
            return plain_wrong(r, i->line, "“%s” means nothing in a checker", i->key ? i->key : "");
    c->run = kind_words(plain_data_find(v, "run"));
    bool right = read_like(v, "like", &c->like, &c->like_code, r) &&
                 read_like(v, "reads", &c->reads, &c->reads_code, r) &&
                 read_like(v, "given", &c->given, &c->given_code, r) &&
                 read_like(v, "knows", &c->knows, &c->knows_code, r) &&
                 read_like(v, "uses", &c->uses, &c->uses_code, r);
    if (!right)
        return false;
    if (!c->run || !c->run[0] || (!c->like && !(c->knows && c->uses)))
        return plain_wrong(r, v->line,
                           "run = { … } and like = … are expected in a checker that is a program");
    c->name = name ? name : c->run[0];
    c->in_folder = text_in(v, "in_folder");
    c->spare = instead && checker_named(instead);
    c->as_root = kind_truth(v, "as_root");
    c->first_line = kind_words(plain_data_find(v, "first_line"));
    c->only_paths = kind_words(plain_data_find(v, "only_paths"));
    c->not_paths = kind_words(plain_data_find(v, "not_paths"));
    return true;
}

static struct KindChecks *read_checks(const Kind *k, const PlainValue *v, const PlainReport *r)
{
    struct KindChecks *all = mem_get(sizeof *all);
    for (const PlainValue *i = v ? v->first : NULL; i; i = i->next) {
        Check c = {0};
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

const Check *checks_of(const Kind *k, size_t *n, const PlainReport *r)
{
    for (const Kind *owner = k; !k->checks && owner; owner = owner->base) {
        const PlainValue *all = kind_source_all(owner, r), *v = all ? plain_data_find(all, "check") : NULL;
        if (v)
            ((Kind *)k)->checks = read_checks(k, v, r);
    }
    if (!k->checks)
        ((Kind *)k)->checks = read_checks(k, NULL, r);
    *n = k->checks->n;
    return k->checks->at;
}

void checks_free(struct KindChecks *all)
{
    for (size_t i = 0; all && i < all->n; i++)
        free_check(&all->at[i]);
    if (all)
        free(all->at);
    free(all);
}

/* Is it in that folder, whatever is above the folder's name? */
static bool lies_in(const char *path, const char *folder)
{
    size_t n = strlen(folder);
    return path && strncmp(path, folder, n) == 0 && path[n] == '/';
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

/* ---- what a program said ---- */

/* Matches one expression again and again in an output. */
typedef struct Reader {
    const pcre2_code *code;
    pcre2_match_data *data;
    const char *bytes;
    size_t n, at;
} Reader;

static Reader reader_of(const void *code, const char *bytes, size_t n)
{
    return (Reader){code, pcre2_match_data_create_from_pattern(code, NULL), bytes, n, 0};
}

static bool read_next(Reader *r)
{
    if (r->at >= r->n || pcre2_match(r->code, (PCRE2_SPTR)r->bytes, r->n, r->at, 0, r->data, NULL) < 0)
        return false;
    const size_t *o = pcre2_get_ovector_pointer(r->data);
    r->at = o[1] > r->at ? o[1] : r->at + 1;
    return true;
}

/* Its length, 0 when it is not there. */
static size_t group(const Reader *r, const char *name, const char **at)
{
    int number = pcre2_substring_number_from_name(r->code, (PCRE2_SPTR)name);
    const size_t *o = pcre2_get_ovector_pointer(r->data);
    *at = "";
    if (number < 0 || o[2 * number] == PCRE2_UNSET)
        return 0;
    *at = r->bytes + o[2 * number];
    return o[2 * number + 1] - o[2 * number];
}

static size_t number_group(const Reader *r, const char *name)
{
    const char *at;
    size_t n = group(r, name, &at), value = 0;
    for (size_t i = 0; i < n && i < 9 && at[i] >= '0' && at[i] <= '9'; i++)
        value = value * 10 + (size_t)(at[i] - '0');
    return value;
}

/* Does the group name that file? By the end of its path, as programs name it by several. */
static bool names_file(const char *at, size_t n, const char *file)
{
    char *path = mem_string_n(at, n), *real = realpath(path, NULL), *other = realpath(file, NULL);
    bool same = strcmp(path, file) == 0 || (real && other && strcmp(real, other) == 0);
    free(path);
    free(real);
    free(other);
    return same;
}

void check_read_output(const Check *c, const char *bytes, size_t n, const char *file, Problems *out,
                       Problems *elsewhere)
{
    if (!c->like_code)
        return;
    Reader r = reader_of(c->like_code, bytes, n);
    out->checker = c->name;
    while (out->n < PROBLEMS_MOST && read_next(&r)) {
        const char *words, *name;
        size_t len = group(&r, "words", &words), name_len = group(&r, "file", &name);
        size_t line = number_group(&r, "line");
        words = len ? words : "it is not right";
        len = len == 0 ? strlen(words) : len < 300 ? len : 300;
        if (file && name_len && !names_file(name, name_len, file)) {
            if (elsewhere && elsewhere->n == 0)
                problems_add(elsewhere, line, 0, "finds in %.*s: %.*s",
                             (int)(name_len < 200 ? name_len : 200), name, (int)len, words);
            continue;
        }
        Problem *p = problems_add(out, line, number_group(&r, "column"), "%.*s", (int)len, words);
        const char *about;
        size_t about_len = group(&r, "about", &about);
        p->about = about_len ? mem_string_n(about, about_len) : NULL;
    }
    pcre2_match_data_free(r.data);
}

static int by_letters(const void *a, const void *b)
{
    return strcmp(*(char *const *)a, *(char *const *)b);
}

/* All words that an expression finds, sorted; the caller frees them. */
static char **words_found(const void *code, const char *bytes, size_t n, size_t *count)
{
    char **all = NULL;
    const char *at;
    Reader r = reader_of(code, bytes, n);
    for (*count = 0; read_next(&r);) {
        size_t len = group(&r, "word", &at);
        all = array_room(all, *count, sizeof *all);
        all[(*count)++] = mem_string_n(at, len);
    }
    if (all)
        qsort(all, *count, sizeof *all, by_letters);
    pcre2_match_data_free(r.data);
    return all;
}

bool check_unknown(const Check *c, const char *said, size_t n, const char *text, size_t len, Problems *out)
{
    size_t known, line = 1, counted = 0;
    char **words = words_found(c->knows_code, said, n, &known);
    Reader r = reader_of(c->uses_code, text, len);
    out->checker = c->name;
    while (known && read_next(&r)) {
        const char *at;
        size_t w = group(&r, "word", &at);
        char *word = mem_string_n(at, w);
        for (; w && counted < (size_t)(at - text); counted++)
            line += text[counted] == '\n';
        size_t start = counted;
        while (start && text[start - 1] != '\n')
            start--;
        if (w && !bsearch(&word, words, known, sizeof *words, by_letters))
            problems_add(out, line, counted - start + 1, "“%.60s” is unknown to %s", word, c->name);
        free(word);
    }
    for (size_t i = 0; i < known; i++)
        free(words[i]);
    free(words);
    pcre2_match_data_free(r.data);
    return known > 0;
}

char *check_value(const Check *c, const char *bytes, size_t n)
{
    const char *at;
    if (!c->given_code)
        return mem_string("");
    Reader r = reader_of(c->given_code, bytes, n);
    size_t len = read_next(&r) ? group(&r, "value", &at) : 0;
    char *value = len && *at != '-' ? mem_string_n(at, len) : mem_string("example");
    pcre2_match_data_free(r.data);
    return value;
}

bool check_has_read(const Check *c, const char *bytes, size_t n, const char *file)
{
    const char *name;
    bool found = false, any = false;
    if (!c->reads_code)
        return true;
    Reader r = reader_of(c->reads_code, bytes, n);
    while (!found && read_next(&r)) {
        size_t len = group(&r, "file", &name);
        any = any || len;
        found = len && names_file(name, len, file);
    }
    pcre2_match_data_free(r.data);
    return found || !any;
}

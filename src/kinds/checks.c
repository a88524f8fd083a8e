#include "kinds/checks.h"

#include "base/array.h"
#include "base/mem.h"
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

static KindWords words_of(const PlainValue *v)
{
    size_t n = 0;
    for (const PlainValue *i = v->first; i; i = i->next)
        n++;
    const char **list = mem_get((n + 1) * sizeof *list);
    n = 0;
    for (const PlainValue *i = v->first; i; i = i->next)
        if (i->type == PLAIN_TEXT)
            list[n++] = i->text;
    return list;
}

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

/* { run = { "visudo", "-cf", "-" }, like = "…(?<line>\\d+)…" } */
static bool read_program(Check *c, const PlainValue *v, const PlainValue *run, const PlainReport *r)
{
    const PlainValue *like = plain_data_find(v, "like"), *first = plain_data_find(v, "first_line"),
                     *not_paths = plain_data_find(v, "not_paths");
    int code;
    PCRE2_SIZE at;
    if (run->type != PLAIN_TABLE || !run->first || !like || like->type != PLAIN_TEXT)
        return plain_wrong(r, v->line,
                           "run = { … } and like = … are expected in a checker that is a program");
    c->like_code =
        pcre2_compile((PCRE2_SPTR)like->text, PCRE2_ZERO_TERMINATED, PCRE2_MULTILINE, &code, &at, NULL);
    if (!c->like_code) {
        PCRE2_UCHAR words[120];
        pcre2_get_error_message(code, words, sizeof words);
        return plain_wrong(r, like->line, "like: %s", (const char *)words);
    }
    c->run = words_of(run);
    if (!c->run[0]) {
        free((void *)c->run);
        pcre2_code_free(c->like_code);
        return plain_wrong(r, run->line, "run: a program and its arguments are expected");
    }
    c->like = like->text;
    c->name = c->run[0];
    c->first_line = first && first->type == PLAIN_TABLE ? words_of(first) : NULL;
    c->not_paths = not_paths && not_paths->type == PLAIN_TABLE ? words_of(not_paths) : NULL;
    return true;
}

static struct KindChecks *read_checks(const Kind *k, const PlainValue *v, const PlainReport *r)
{
    struct KindChecks *all = mem_get(sizeof *all);
    for (const PlainValue *i = v ? v->first : NULL; i; i = i->next) {
        Check c = {0};
        const PlainValue *with = plain_data_find(i, "with"), *run = plain_data_find(i, "run");
        bool ok = with  ? read_part(k, &c, with, r)
                  : run ? read_program(&c, i, run, r)
                        : plain_wrong(r, i->line, "a checker has with = … or run = { … }");
        if (!ok)
            continue;
        all->at = array_room(all->at, all->n, sizeof *all->at);
        all->at[all->n++] = c;
    }
    return all;
}

const Check *checks_of(const Kind *k, size_t *n, const PlainReport *r)
{
    for (const Kind *owner = k; owner && !k->checks; owner = owner->base) {
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
    for (size_t i = 0; all && i < all->n; i++) {
        pcre2_code_free(all->at[i].like_code);
        free((void *)all->at[i].run);
        free((void *)all->at[i].first_line);
        free((void *)all->at[i].not_paths);
    }
    if (all)
        free(all->at);
    free(all);
}

bool check_fits(const Check *c, const char *path, const char *head, size_t n)
{
    const char *end = memchr(head, '\n', n);
    size_t len = end ? (size_t)(end - head) : n;
    for (KindWords p = c->not_paths; path && p && *p; p++)
        if (fnmatch(*p, path, 0) == 0)
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

static size_t group(const pcre2_code *code, pcre2_match_data *d, const char *s, const char *name,
                    const char **at)
{
    int number = pcre2_substring_number_from_name(code, (PCRE2_SPTR)name);
    const size_t *o = pcre2_get_ovector_pointer(d);
    if (number < 0 || o[2 * number] == PCRE2_UNSET)
        return 0;
    *at = s + o[2 * number];
    return o[2 * number + 1] - o[2 * number];
}

static size_t number_group(const pcre2_code *code, pcre2_match_data *d, const char *s, const char *name)
{
    const char *at;
    size_t n = group(code, d, s, name, &at), value = 0;
    for (size_t i = 0; i < n && i < 9 && at[i] >= '0' && at[i] <= '9'; i++)
        value = value * 10 + (size_t)(at[i] - '0');
    return value;
}

void check_read_output(const Check *c, const char *bytes, size_t n, Problems *out)
{
    pcre2_match_data *d = pcre2_match_data_create_from_pattern(c->like_code, NULL);
    out->checker = c->name;
    for (size_t at = 0; at < n && out->n < PROBLEMS_MOST;) {
        if (pcre2_match(c->like_code, (PCRE2_SPTR)bytes, n, at, 0, d, NULL) < 0)
            break;
        const char *words = "";
        size_t len = group(c->like_code, d, bytes, "words", &words);
        problems_add(out, number_group(c->like_code, d, bytes, "line"),
                     number_group(c->like_code, d, bytes, "column"), "%.*s", (int)(len < 300 ? len : 300),
                     len ? words : "it is not right");
        const size_t *o = pcre2_get_ovector_pointer(d);
        at = o[1] > at ? o[1] : at + 1;
    }
    pcre2_match_data_free(d);
}

#include "kinds/key_values.h"

#include "base/array.h"
#include "base/mem.h"
#include "kinds/expression.h"
#include "kinds/kind_data.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum { NAMES_MOST = 2000, SECTION_MOST = 200, SHOWN = 40 };

static const char usual[] = "^\\s*(?<name>[\\w.-]+)\\s*[=:\\s]\\s*(?<value>.*?)\\s*$";

/* ---- reading the data ---- */

/* { { "Port", "Other" }, is = "port" } or { "Port", is = "port" } */
static bool read_names(KindWords *to, const PlainValue *v, const PlainReport *r)
{
    const PlainValue *first = v->first && !v->first->key ? v->first : NULL;
    bool many = first && first->type == PLAIN_TABLE;
    size_t n = 0;
    for (const PlainValue *i = many ? first->first : first; i; i = many ? i->next : NULL, n++)
        if (i->type != PLAIN_TEXT || !i->text[0] || (many && i->key) || n == NAMES_MOST)
            return plain_wrong(r, i->line, "a setting begins with its name, or a list of names");
    if (!n)
        return plain_wrong(r, v->line, "a setting's name is missing: { \"Port\", is = \"port\" }");
    const char **names = mem_get((n + 1) * sizeof *names);
    *to = names;
    for (const PlainValue *i = many ? first->first : first; i; i = many ? i->next : NULL)
        *names++ = i->text;
    return true;
}

static bool read_list(KeyValues *k, const PlainValue *v, const char *section, const PlainReport *r)
{
    for (const PlainValue *i = v->first; i; i = i->next) {
        const PlainValue *inner = plain_data_find(i, "section");
        if (i->key && strcmp(i->key, "section") == 0)
            continue;
        if (i->type != PLAIN_TABLE || i->key)
            return plain_wrong(r, i->line,
                               "settings: a list such as { { \"Port\", is = \"port\" } } is expected");
        if (inner && (inner->type != PLAIN_TEXT || section))
            return plain_wrong(r, inner->line, "section: the name of a section is expected");
        if (inner) {
            if (!read_list(k, i, inner->text, r))
                return false;
            continue;
        }
        k->at = array_room(k->at, k->n, sizeof *k->at);
        KeyValue *s = &k->at[k->n++];
        *s = (KeyValue){.section = section};
        if (!read_names(&s->names, i, r) || !value_rule_read(&s->rule, i, r))
            return false;
        s->rule.any_case = s->rule.any_case || k->any_case;
    }
    return true;
}

static bool read_all(KeyValues *k, const PlainValue *all, const PlainValue *v, const PlainReport *r)
{
    const PlainValue *in = plain_data_find(all, "settings_in"), *more = plain_data_find(all, "settings_more"),
                     *section = plain_data_find(all, "settings_section"),
                     *sign = plain_data_find(all, "settings_sign");
    if (v->type != PLAIN_TABLE)
        return plain_wrong(r, v->line, "settings: a list of settings is expected");
    if (sign && sign->type != PLAIN_TEXT)
        return plain_wrong(r, sign->line, "settings_sign: a text in quotes is expected");
    k->sign = sign ? sign->text : " ";
    k->in = in ? kind_expression(in, 0, r) : expression_compile(usual, 0, NULL);
    k->more = kind_expression(more, 0, r);
    k->section = kind_expression(section, 0, r);
    return k->in && (k->more || !more) && (k->section || !section) &&
           kind_truth(all, "settings_all", &k->all, r) && read_list(k, v, NULL, r);
}

static KeyValues none; /* of kinds without */

static void free_key_values(void *what)
{
    KeyValues *k = what;
    if (k == &none)
        return;
    for (size_t i = 0; i < k->n; i++) {
        free((void *)k->at[i].names);
        value_rule_free(&k->at[i].rule);
    }
    free(k->at);
    expression_free(k->in);
    expression_free(k->more);
    expression_free(k->section);
    free(k);
}

const KeyValues *key_values_of(const Kind *k, const PlainReport *r)
{
    const KindMade *made = &k->made[KIND_KEY_VALUES];
    for (const Kind *owner = k; !made->what && owner; owner = owner->base) {
        const PlainValue *all = kind_source_all(owner, r), *v = all ? plain_data_find(all, "settings") : NULL;
        if (!v)
            continue;
        KeyValues *values = mem_get(sizeof *values);
        values->any_case = k->any_case;
        if (!read_all(values, all, v, r)) { /* all or nothing, as with fields */
            free_key_values(values);
            break;
        }
        kind_keep(k, KIND_KEY_VALUES, values, free_key_values);
    }
    if (!made->what)
        kind_keep(k, KIND_KEY_VALUES, &none, free_key_values);
    const KeyValues *values = made->what;
    return values && values->n ? values : NULL;
}

/* ---- lines ---- */

bool key_values_line(const KeyValues *k, const char *line, size_t n, KeyLine *l)
{
    const char *const groups[] = {"name", "value"};
    size_t from[2], to[2];
    if (!expression_groups(k->in, line, n, groups, 2, from, to) || to[0] == from[0])
        return false;
    *l = (KeyLine){from[0], to[0], from[1], to[1]};
    return true;
}

bool key_values_section(const KeyValues *k, const char *line, size_t n, size_t *from, size_t *to)
{
    const char *const group = "section";
    return k->section && expression_groups(k->section, line, n, &group, 1, from, to);
}

static bool is_named(const KeyValues *k, KindWords names, const char *name, size_t n)
{
    for (KindWords w = names; *w; w++)
        if (strlen(*w) == n && (k->any_case ? strncasecmp(*w, name, n) : memcmp(*w, name, n)) == 0)
            return true;
    return false;
}

static bool is_in(const KeyValue *s, const char *section)
{
    return !s->section || strcasecmp(s->section, section) == 0;
}

const KeyValue *key_values_find(const KeyValues *k, const char *section, const char *name, size_t n)
{
    for (size_t i = 0; i < k->n; i++)
        if (is_in(&k->at[i], section) && is_named(k, k->at[i].names, name, n))
            return &k->at[i];
    return NULL;
}

void key_values_each(const KeyValues *k, const char *section, bool (*each)(void *ctx, const char *name),
                     void *ctx)
{
    for (size_t i = 0; i < k->n; i++)
        for (KindWords w = k->at[i].names; is_in(&k->at[i], section) && *w; w++)
            if (!each(ctx, *w))
                return;
}

/* ---- checking ---- */

typedef struct Checking {
    const KeyValues *k;
    bool machine;
    char section[SECTION_MOST];
    const KeyValue *last; /* the setting before, for further values */
    Problems *out;
} Checking;

static int shown(size_t n)
{
    return (int)(n < SHOWN ? n : SHOWN);
}

/* What only counts when it is used: a variable, a part to be filled in. */
static bool is_open(const char *s, size_t n)
{
    return memchr(s, '$', n) || memchr(s, '%', n) || memchr(s, '{', n) || memchr(s, '@', n) == s;
}

static void check_value(const Checking *c, const char *line, const KeyValue *s, const char *name, int name_n,
                        size_t number, size_t from, size_t to)
{
    size_t at, n;
    char about[200];
    if (to == from || is_open(line + from, to - from))
        return;
    ValueVerdict v = value_judge(&s->rule, line + from, to - from, c->machine, &at, &n);
    if (v == VALUE_RIGHT)
        return;
    value_about(&s->rule, about, sizeof about);
    if (v == VALUE_WRONG)
        problems_add(c->out, number, from + at + 1, "%.*s is “%.*s”%s%s", name_n, name, shown(n),
                     line + from + at, *about ? ", and may be " : ", which it cannot be", about);
    else
        problems_hint(c->out, number, from + at + 1, "%.*s: this machine has no “%.*s”", name_n, name,
                      shown(n), line + from + at);
}

static void check_line(Checking *c, const char *line, size_t n, size_t number)
{
    size_t from, to;
    const char *const value = "value";
    KeyLine l;
    if (n && line[n - 1] == '\r')
        n--;
    if (key_values_section(c->k, line, n, &from, &to)) {
        snprintf(c->section, sizeof c->section, "%.*s", (int)(to - from < SECTION_MOST ? to - from : 0),
                 line + from);
        c->last = NULL;
    } else if (c->k->more && expression_groups(c->k->more, line, n, &value, 1, &from, &to)) {
        if (c->last)
            check_value(c, line, c->last, c->last->names[0], shown(strlen(c->last->names[0])), number, from,
                        to);
    } else if (key_values_line(c->k, line, n, &l)) {
        const char *name = line + l.name_from;
        size_t name_n = l.name_to - l.name_from;
        const KeyValue *found = key_values_find(c->k, c->section, name, name_n);
        if (found)
            check_value(c, line, found, name, shown(name_n), number, l.value_from, l.value_to);
        else if (c->k->all && !is_open(name, name_n))
            problems_add(c->out, number, l.name_from + 1, "there is no setting “%.*s”%s%s", shown(name_n),
                         name, *c->section ? " in " : "", c->section);
        c->last = l.value_to > l.value_from ? NULL : found;
    }
}

void key_values_check(const char *bytes, size_t n, const KeyValues *k, bool machine, Stop stop, Problems *out)
{
    Checking c = {.k = k, .machine = machine, .out = out};
    size_t number = 1;
    for (size_t at = 0; at < n && !stop_wanted(stop); number++) {
        const char *end = memchr(bytes + at, '\n', n - at);
        size_t len = end ? (size_t)(end - bytes) - at : n - at;
        check_line(&c, bytes + at, len, number);
        at += len + 1;
    }
}

#include "kinds/outline.h"

#include "base/letters.h"
#include "base/mem.h"
#include "kinds/expression.h"
#include "kinds/kind_data.h"

#include <stdlib.h>
#include <string.h>

/* ---- reading the data ---- */

static bool read_rule(Outline *o, const PlainValue *v, const PlainReport *r)
{
    const PlainValue *like = v->type == PLAIN_TABLE ? plain_data_find(v, "like") : NULL;
    OutlineRule *rule = &o->at[o->n];
    if (!like || o->n == OUTLINE_MOST)
        return plain_wrong(r, v->line,
                           "outline: up to %d of { like = EXPRESSION, level = NUMBER } are expected",
                           OUTLINE_MOST);
    *rule = (OutlineRule){.level = 1};
    if (!kind_number_in(v, "level", 0, OUTLINE_LEVELS, &rule->level, r))
        return false;
    rule->like = kind_expression(like, 0, r);
    if (!rule->like)
        return false;
    expression_quicken(rule->like);
    o->by_indent = o->by_indent || rule->level == 0;
    o->n++;
    return true;
}

static bool read_all(Outline *o, const Kind *k, const PlainValue *all, const PlainValue *v,
                     const PlainReport *r)
{
    const PlainValue *ends = plain_data_find(all, "outline_ends");
    if (v->type != PLAIN_TABLE)
        return plain_wrong(r, v->line, "outline: a list of expressions is expected");
    o->step = k->indentation > 0 ? (unsigned)k->indentation : 4;
    for (const PlainValue *i = v->first; i; i = i->next)
        if (!read_rule(o, i, r))
            return false;
    o->ends = kind_expression(ends, 0, r);
    return o->ends || !ends;
}

static Outline none; /* of kinds without */

static void free_outline(void *what)
{
    Outline *o = what;
    if (o == &none)
        return;
    for (size_t i = 0; i < o->n; i++)
        expression_free(o->at[i].like);
    expression_free(o->ends);
    free(o);
}

const Outline *outline_of(const Kind *k, const PlainReport *r)
{
    const KindMade *made = &k->made[KIND_OUTLINE];
    for (const Kind *owner = k; !made->what && owner; owner = owner->base) {
        const PlainValue *all = kind_source_all(owner, r), *v = all ? plain_data_find(all, "outline") : NULL;
        if (!v)
            continue;
        Outline *o = mem_get(sizeof *o);
        if (!read_all(o, k, all, v, r)) {
            free_outline(o);
            break;
        }
        kind_keep(k, KIND_OUTLINE, o, free_outline);
    }
    if (!made->what)
        kind_keep(k, KIND_OUTLINE, &none, free_outline);
    const Outline *o = made->what;
    return o && o->n ? o : NULL;
}

/* ---- lines ---- */

static int level_of(const Outline *o, const OutlineRule *rule, const char *line, size_t n)
{
    size_t cells = 0, indent = letters_blank(line, n);
    if (rule->level)
        return (int)rule->level;
    for (size_t i = 0; i < indent; i++)
        cells += line[i] == '\t' ? o->step : 1;
    size_t level = 1 + cells / o->step;
    return level < OUTLINE_LEVELS ? (int)level : OUTLINE_LEVELS;
}

bool outline_line(const Outline *o, const char *line, size_t n, OutlineLine *l)
{
    static const char *const group = "name";
    for (size_t i = 0; i < o->n; i++)
        if (expression_groups(o->at[i].like, line, n, &group, 1, &l->from, &l->to)) {
            l->level = level_of(o, &o->at[i], line, n);
            return true;
        }
    return false;
}

bool outline_ends(const Outline *o, const char *line, size_t n, size_t indent)
{
    size_t here = letters_blank(line, n);
    if (o->ends)
        return expression_finds(o->ends, line, n, false);
    return o->by_indent && here < n && line[here] != '\r' && here <= indent;
}

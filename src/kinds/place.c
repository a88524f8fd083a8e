#include "kinds/place.h"

#include <string.h>

static bool is_blank(char c)
{
    return c == ' ' || c == '\t';
}

/* Where the last one of a list begins. */
static size_t item_from(const ValueRule *r, const char *line, size_t from, size_t n)
{
    for (size_t i = n; r->each && i > from; i--)
        if (strchr(r->each, line[i - 1])) {
            from = i;
            break;
        }
    while (from < n && (is_blank(line[from]) || line[from] == '"' || line[from] == '\''))
        from++;
    return from;
}

static bool offers(const ValueRule *r)
{
    return r->one_of || r->such_as || r->types;
}

static bool setting_place(const Kind *k, const char *section, const char *line, size_t n, Place *p)
{
    const KeyValues *all = key_values_of(k, NULL);
    KeyLine l;
    size_t begin = 0;
    if (!all)
        return false;
    if (key_values_line(all, line, n, &l) && l.name_to < n) {
        const KeyValue *s = key_values_find(all, section, line + l.name_from, l.name_to - l.name_from);
        size_t from = l.value_from ? l.value_from : n;
        if (s && offers(&s->rule)) {
            *p = (Place){.from = item_from(&s->rule, line, from, n), .sign = "", .value = &s->rule};
            return true;
        }
    }
    while (begin < n && is_blank(line[begin]))
        begin++;
    if (begin + 2 < n && line[begin] == '-' && line[begin + 1] == ' ') /* an item of YAML */
        begin += 2;
    *p = (Place){.from = begin, .sign = all->sign, .names = all};
    return true;
}

static bool field_place(const Kind *k, const char *line, size_t n, Place *p)
{
    const Fields *f = fields_of(k, NULL);
    size_t from[FIELDS_MOST], to[FIELDS_MOST];
    if (!f)
        return false;
    size_t count = fields_split(f, line, n, from, to);
    bool behind = count && (f->between ? n && line[n - 1] == f->between : n && is_blank(line[n - 1]));
    size_t i = count == 0 ? 0 : behind && to[count - 1] < n ? count : count - 1;
    size_t begin = count && i < count ? from[i] : n;
    if (i >= f->n)
        return false;
    const Field *field = &f->at[i];
    if (field->list || !offers(&field->rule))
        return false;
    *p = (Place){.from = item_from(&field->rule, line, begin, n), .sign = "", .value = &field->rule};
    return true;
}

bool place_of(const Kind *k, const char *section, const char *line, size_t n, Place *p)
{
    return field_place(k, line, n, p) || setting_place(k, section, line, n, p);
}

void place_each(const Place *p, const char *section, bool machine, bool (*each)(void *ctx, const char *name),
                void *ctx)
{
    if (p->names)
        key_values_each(p->names, section, each, ctx);
    else if (p->value)
        value_each(p->value, machine, each, ctx);
}

#include "kinds/kind_data.h"

#include "base/mem.h"
#include "kinds/expression.h"

void *kind_expression(const PlainValue *v, uint32_t options, const PlainReport *r)
{
    Err e;
    if (!v)
        return NULL;
    if (v->type != PLAIN_TEXT) {
        plain_wrong(r, v->line, "%s: an expression in quotes is expected", v->key);
        return NULL;
    }
    void *code = expression_compile(v->text, options, &e);
    if (!code)
        plain_wrong(r, v->line, "%s: %s", v->key, e.text);
    return code;
}

bool kind_words(const PlainValue *table, const char *name, size_t most, KindWords *to, const PlainReport *r)
{
    const PlainValue *v = plain_data_find(table, name), *first = v && v->type == PLAIN_TABLE ? v->first : v;
    const char **list;
    size_t n = 0;
    *to = NULL;
    for (const PlainValue *i = first; i; i = i->next) {
        if (i->type != PLAIN_TEXT || !i->text[0] || (i->key && i != v))
            return plain_wrong(r, i->line, "%s: a list of texts is expected", name);
        n++;
        if (i == v)
            break;
    }
    if (n > most)
        return plain_wrong(r, v->line, "%s: there are %zu words, and %zu are the most", name, n, most);
    if (n == 0)
        return true;
    *to = list = mem_get((n + 1) * sizeof *list);
    for (size_t i = 0; i < n; i++, first = first->next)
        list[i] = first->text;
    return true;
}

bool kind_truth(const PlainValue *table, const char *name, bool *to, const PlainReport *r)
{
    const PlainValue *v = plain_data_find(table, name);
    if (v && v->type != PLAIN_TRUTH)
        return plain_wrong(r, v->line, "%s: true or false is expected", name);
    *to = v ? v->number != 0 : *to;
    return true;
}

bool kind_number_in(const PlainValue *table, const char *name, long least, long most, long *to,
                    const PlainReport *r)
{
    const PlainValue *v = plain_data_find(table, name);
    if (!v)
        return true;
    if (v->type != PLAIN_NUMBER || !(v->number >= (double)least && v->number <= (double)most) ||
        v->number != (double)(long)v->number)
        return plain_wrong(r, v->line, "%s: a whole number from %ld to %ld is expected", name, least, most);
    *to = (long)v->number;
    return true;
}

#include "kinds/kind_data.h"

#include "base/mem.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

void *kind_expression(const PlainValue *v, uint32_t options, const PlainReport *r)
{
    int code;
    PCRE2_SIZE at;
    PCRE2_UCHAR words[120];
    if (!v)
        return NULL;
    if (v->type != PLAIN_TEXT) {
        plain_wrong(r, v->line, "%s: an expression in quotes is expected", v->key);
        return NULL;
    }
    pcre2_code *c = pcre2_compile((PCRE2_SPTR)v->text, PCRE2_ZERO_TERMINATED, options, &code, &at, NULL);
    if (c)
        return c;
    pcre2_get_error_message(code, words, sizeof words);
    plain_wrong(r, v->line, "%s: %s", v->key, (const char *)words);
    return NULL;
}

KindWords kind_words(const PlainValue *table)
{
    size_t n = 0;
    for (const PlainValue *i = table && table->type == PLAIN_TABLE ? table->first : NULL; i; i = i->next)
        n++;
    if (n == 0)
        return NULL;
    const char **list = mem_get((n + 1) * sizeof *list);
    n = 0;
    for (const PlainValue *i = table->first; i; i = i->next)
        if (i->type == PLAIN_TEXT)
            list[n++] = i->text;
    return list;
}

bool kind_truth(const PlainValue *table, const char *name)
{
    const PlainValue *v = plain_data_find(table, name);
    return v && v->type == PLAIN_TRUTH && v->number != 0;
}

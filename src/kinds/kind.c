#include "kinds/kind.h"

#include "base/mem.h"
#include "kinds/expression.h"
#include "kinds/kind_data.h"

#include <stdlib.h>
#include <string.h>

typedef struct KindSource {
    const char *bytes;
    size_t n;
    PlainData *data;
    bool whole;
    const char *like; /* the kind it builds on */
    unsigned like_line;
    KindWords *lists; /* to be freed */
    size_t n_lists;
} KindSource;

/* ---- simple values ---- */

typedef enum FieldType {
    FIELD_NAME,
    FIELD_TEXT,
    FIELD_SHORT, /* a few characters that can be seen */
    FIELD_LIKE,  /* an expression */
    FIELD_SIGN,
    FIELD_TRUTH,
    FIELD_WORDS,
    FIELD_INDENT,
    FIELD_LOOKS, /* a list of { like = …, weight = … } */
    FIELD_PARTS
} FieldType;

/* Everything a file may say. How a kind is recognised is never inherited; all else is, unless given. */
static const struct {
    const char *name;
    FieldType type;
    size_t offset;
    bool own;
} kind_fields[] = {
    {"name", FIELD_NAME, offsetof(Kind, name), true},
    {"about", FIELD_TEXT, offsetof(Kind, about), true},
    {"names", FIELD_WORDS, offsetof(Kind, names), true},
    {"paths", FIELD_WORDS, offsetof(Kind, paths), true},
    {"endings", FIELD_WORDS, offsetof(Kind, endings), true},
    {"own_folders", FIELD_TRUTH, offsetof(Kind, own_folders), true},
    {"programs", FIELD_WORDS, offsetof(Kind, programs), true},
    {"first_line", FIELD_LIKE, offsetof(Kind, first_line), true},
    {"first_lines", FIELD_LIKE, offsetof(Kind, first_lines), true},
    {"looks_like", FIELD_LOOKS, offsetof(Kind, looks_like), true},
    {"last", FIELD_TRUTH, offsetof(Kind, last), true},
    {"prose", FIELD_TRUTH, offsetof(Kind, prose), false},
    {"comment_sign", FIELD_SHORT, offsetof(Kind, comment_sign), false},
    {"comment_also", FIELD_WORDS, offsetof(Kind, comment_also), false},
    {"comment_open", FIELD_SHORT, offsetof(Kind, comment_open), false},
    {"comment_close", FIELD_SHORT, offsetof(Kind, comment_close), false},
    {"line_end_character", FIELD_SIGN, offsetof(Kind, line_end_character), false},
    {"indentation", FIELD_INDENT, offsetof(Kind, indentation), false},
    {"any_case", FIELD_TRUTH, offsetof(Kind, any_case), false},
    {"word", FIELD_LIKE, offsetof(Kind, word), false},
    {"deeper", FIELD_LIKE, offsetof(Kind, deeper), false},
    {"back", FIELD_LIKE, offsetof(Kind, back), false},
    {"deeper_once", FIELD_LIKE, offsetof(Kind, deeper_once), false},
    {"back_always", FIELD_LIKE, offsetof(Kind, back_always), false},
    {"leaves", FIELD_LIKE, offsetof(Kind, leaves), false},
    {"manual", FIELD_WORDS, offsetof(Kind, manual), false},
    {"after_saving", FIELD_TEXT, offsetof(Kind, after_saving), false},
    {"risky", FIELD_TRUTH, offsetof(Kind, risky), false},
    {"check", FIELD_PARTS, 0, true},
    {"fields", FIELD_PARTS, 0, true},
    {"fields_least", FIELD_PARTS, 0, true},
    {"fields_exact", FIELD_PARTS, 0, true},
    {"fields_between", FIELD_PARTS, 0, true},
    {"fields_in", FIELD_PARTS, 0, true},
    {"fields_brackets", FIELD_PARTS, 0, true},
    {"fields_go_on", FIELD_PARTS, 0, true},
    {"fields_remarks", FIELD_PARTS, 0, true},
    {"settings", FIELD_PARTS, 0, true},
    {"outline", FIELD_PARTS, 0, true},
    {"outline_ends", FIELD_PARTS, 0, true},
    {"settings_in", FIELD_PARTS, 0, true},
    {"settings_more", FIELD_PARTS, 0, true},
    {"settings_section", FIELD_PARTS, 0, true},
    {"settings_sign", FIELD_PARTS, 0, true},
    {"settings_all", FIELD_PARTS, 0, true},
    {"like", FIELD_PARTS, 0, true},
    {"parts", FIELD_PARTS, 0, true},
    {"sets", FIELD_PARTS, 0, true},
    {"first", FIELD_PARTS, 0, true},
};
enum { N_FIELDS = sizeof kind_fields / sizeof *kind_fields };

static KindWords keep_list(Kind *k, const PlainValue *v, const PlainReport *r)
{
    enum { LIST_MOST = 5000 };
    KindWords list;
    KindSource *s = k->source;
    if (!kind_words(plain_data_all(s->data), v->key, LIST_MOST, &list, r) || !list)
        return NULL;
    s->lists = mem_grow(s->lists, (s->n_lists + 1) * sizeof *s->lists);
    s->lists[s->n_lists++] = list;
    return list;
}

/* It stands in lists with commas between, in completions and on the status line. */
static bool is_name(const char *s)
{
    enum { NAME_MOST = 40 };
    return strlen(s) <= NAME_MOST &&
           strspn(s, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_+.") == strlen(s);
}

static bool is_short(const char *s)
{
    enum { SHORT_MOST = 20 };
    for (const char *c = s; *c; c++)
        if ((unsigned char)*c < ' ' || *c == 127)
            return false;
    return strlen(s) <= SHORT_MOST;
}

static bool is_like(const PlainValue *v, const PlainReport *r)
{
    if (!r || !r->problem) /* the program's own are tested */
        return true;
    void *code = kind_expression(v, 0, r);
    expression_free(code);
    return code != NULL;
}

static bool take_indent(int *to, const PlainValue *v, const PlainReport *r)
{
    if (v->type == PLAIN_TEXT && strcmp(v->text, "tab") == 0)
        *to = KIND_INDENT_TAB;
    else if (v->type == PLAIN_NUMBER && v->number >= 1 && v->number <= 16)
        *to = (int)v->number;
    else
        return plain_wrong(r, v->line, "indentation: a number from 1 to 16 or \"tab\" is expected");
    return true;
}

static bool are_looks(const PlainValue *v, const PlainReport *r)
{
    enum { WEIGHT_MOST = 100 };
    if (!r || !r->problem)
        return true;
    if (v->type != PLAIN_TABLE)
        return plain_wrong(r, v->line, "%s: a list such as { { like = \"^zone\", weight = 2 } } is expected",
                           v->key);
    for (const PlainValue *i = v->first; i; i = i->next) {
        long weight = 1;
        const PlainValue *like = i->type == PLAIN_TABLE ? plain_data_find(i, "like") : NULL;
        if (!like || !kind_number_in(i, "weight", -WEIGHT_MOST, WEIGHT_MOST, &weight, r) || !is_like(like, r))
            return like ? false
                        : plain_wrong(r, i->line,
                                      "looks_like: { like = EXPRESSION, weight = NUMBER } is expected");
    }
    return true;
}

static void take_field(Kind *k, size_t i, const PlainValue *v, const PlainReport *r)
{
    void *to = (char *)k + kind_fields[i].offset;
    bool text = v->type == PLAIN_TEXT && v->text[0];
    switch (kind_fields[i].type) {
    case FIELD_NAME:
        if (text && is_name(v->text))
            *(const char **)to = v->text;
        else
            plain_wrong(r, v->line, "%s: a word of letters, digits, - _ + and . is expected", v->key);
        break;
    case FIELD_SHORT:
        if (text && is_short(v->text))
            *(const char **)to = v->text;
        else
            plain_wrong(r, v->line, "%s: a few characters in quotes are expected", v->key);
        break;
    case FIELD_LIKE:
        if (!text)
            plain_wrong(r, v->line, "%s: an expression in quotes is expected", v->key);
        else if (is_like(v, r))
            *(const char **)to = v->text;
        break;
    case FIELD_TEXT:
        if (text)
            *(const char **)to = v->text;
        else
            plain_wrong(r, v->line, "%s: a text in quotes is expected", v->key);
        break;
    case FIELD_SIGN:
        if (text && !v->text[1] && v->text[0] > ' ' && v->text[0] < 127)
            *(const char **)to = v->text;
        else
            plain_wrong(r, v->line, "%s: one ASCII character in quotes is expected", v->key);
        break;
    case FIELD_TRUTH:
        if (v->type == PLAIN_TRUTH)
            *(bool *)to = v->number != 0;
        else
            plain_wrong(r, v->line, "%s: true or false is expected", v->key);
        break;
    case FIELD_WORDS:
        *(KindWords *)to = keep_list(k, v, r);
        break;
    case FIELD_INDENT:
        take_indent(to, v, r);
        break;
    case FIELD_LOOKS:
        if (are_looks(v, r))
            *(const PlainValue **)to = v;
        break;
    case FIELD_PARTS: /* read when they are needed */
        break;
    }
}

static bool take_fields(Kind *k, const PlainValue *all, const PlainReport *r)
{
    for (const PlainValue *v = all->first; v; v = v->next) {
        size_t i = 0;
        while (i < N_FIELDS &&
               (kind_fields[i].name[0] != v->key[0] || strcmp(kind_fields[i].name, v->key) != 0))
            i++;
        if (i == N_FIELDS)
            plain_wrong(r, v->line, "“%s” means nothing in a kind", v->key);
        else
            take_field(k, i, v, r);
    }
    const PlainValue *like = plain_data_find(all, "like");
    if (like && like->type != PLAIN_TEXT)
        plain_wrong(r, like->line, "like: the name of a kind is expected");
    else if (like) {
        k->source->like = like->text;
        k->source->like_line = like->line;
    }
    if (!k->comment_open != !k->comment_close) {
        plain_wrong(r, 1, "comment_open and comment_close belong together");
        k->comment_open = k->comment_close = NULL;
    }
    return k->name || plain_wrong(r, 1, "a line such as name = \"harbour\" is expected");
}

/* ---- the kind ---- */

Kind *kind_read(const char *bytes, size_t n, bool head_only, const PlainReport *r)
{
    Err e;
    unsigned line;
    PlainData *data = plain_data_read(bytes, n, head_only ? "parts" : NULL, &e, &line);
    if (!data) {
        plain_wrong(r, line, "%s", e.text);
        return NULL;
    }
    Kind *k = mem_get(sizeof *k);
    k->source = mem_get(sizeof *k->source);
    *k->source = (KindSource){.bytes = bytes, .n = n, .data = data, .whole = !head_only};
    if (take_fields(k, plain_data_all(data), r))
        return k;
    kind_free(k);
    return NULL;
}

bool kind_build_on(Kind *k, const Kind *(*named)(const char *name), const PlainReport *r)
{
    KindSource *s = k->source;
    if (!s->like || k->base)
        return true;
    const Kind *base = named(s->like);
    for (const Kind *b = base; b; b = b->base)
        if (b == k)
            base = NULL;
    if (!base)
        return plain_wrong(r, s->like_line, "like: there is no kind “%s” before this one", s->like);
    kind_build_on((Kind *)base, named, NULL);
    k->base = base;
    for (size_t i = 0; i < N_FIELDS; i++) {
        void *to = (char *)k + kind_fields[i].offset;
        const void *from = (const char *)base + kind_fields[i].offset;
        if (kind_fields[i].own)
            continue;
        if (kind_fields[i].type == FIELD_TRUTH)
            *(bool *)to = *(bool *)to || *(const bool *)from;
        else if (kind_fields[i].type == FIELD_INDENT)
            *(int *)to = *(int *)to ? *(int *)to : *(const int *)from;
        else if (!*(const void **)to)
            *(const void **)to = *(const void *const *)from;
    }
    return true;
}

const PlainValue *kind_source_all(const Kind *k, const PlainReport *r)
{
    KindSource *s = k->source;
    Err e;
    unsigned line;
    if (!s->whole) { /* what was read of it stays, as the kind points into it */
        PlainData *data = plain_data_read(s->bytes, s->n, NULL, &e, &line);
        if (!data) {
            plain_wrong(r, line, "%s", e.text);
            return NULL;
        }
        plain_data_join(data, s->data);
        s->data = data;
        s->whole = true;
    }
    return plain_data_all(s->data);
}

void kind_keep(const Kind *k, KindMadeId id, void *what, void (*free_it)(void *what))
{
    KindMade *m = &((Kind *)k)->made[id];
    if (m->what && m->free)
        m->free(m->what);
    *m = (KindMade){what, free_it};
}

void kind_free(Kind *k)
{
    KindSource *s = k->source;
    for (int i = 0; i < KIND_MADE_N; i++)
        kind_keep(k, (KindMadeId)i, NULL, NULL);
    for (size_t i = 0; i < s->n_lists; i++)
        free((void *)s->lists[i]);
    free(s->lists);
    plain_data_free(s->data);
    free(s);
    free(k);
}

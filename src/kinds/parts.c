#include "kinds/parts.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "kinds/expression.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum { SETS_MOST = 200, PARTS_MOST = 300, USES_MOST = 8, PASSED_OVER = 8, FAST_AFTER = 1000 /* matches */ };

static const char usual_word[] = "[A-Za-z_\\x80-\\xff][\\w\\x80-\\xff]*";

/* ---- expressions ---- */

static void add_literal(Bytes *out, const char *s)
{
    for (; *s; s++) {
        if (!isalnum((unsigned char)*s) && (unsigned char)*s < 0x80)
            bytes_add(out, "\\", 1);
        bytes_add(out, s, 1);
    }
}

static pcre2_code *compile(const char *like, bool any_case, uint32_t options, Err *e)
{
    return expression_compile(like, options | (any_case ? PCRE2_CASELESS : 0), e);
}

static void alternative(Bytes *out, const char *like, int number)
{
    bytes_printf(out, "%s(?:%s)(*MARK:%d)", out->len ? "|" : "(?|", like, number);
}

static PartCode *code_of(const Kind *k, Bytes *out, uint32_t options)
{
    if (!out->len)
        return NULL;
    bytes_add_str(out, ")");
    pcre2_code *c = compile(out->at, k->any_case, options, NULL);
    bytes_free(out);
    if (!c)
        return NULL;
    PartCode *code = mem_get(sizeof *code);
    code->code = c;
    return code;
}

PartCode *part_code_single(const Kind *k, const char *like)
{
    Bytes out = {0};
    alternative(&out, like, ALTERNATIVE_CLOSE);
    return code_of(k, &out, 0);
}

PartCode *part_code_new(const Kind *k, const PartSet *set, const Part *in, const char *to)
{
    Bytes out = {0}, later = {0};
    bool words = set && set->n_words;
    size_t n = set ? set->n : 0, words_at = words ? set->words_at : n;
    if (to)
        alternative(&out, to, ALTERNATIVE_CLOSE);
    for (size_t i = 0; i <= n; i++) {
        /* Where none are listed, too: so a word is passed over at once. For a few parts it is not worth it.
         */
        if (i == words_at && (words || n >= PASSED_OVER))
            alternative(&out, k->word ? k->word : usual_word, ALTERNATIVE_WORD);
        if (i < n && set->parts[i].like)
            alternative(&out, set->parts[i].like, (int)i);
        if (words && i < n && i >= words_at && set->parts[i].like)
            alternative(&later, set->parts[i].like, (int)i);
    }
    if (in && in->escape) {
        Bytes sign = {0};
        add_literal(&sign, (const char[]){in->escape, 0});
        bytes_add_str(&sign, ".");
        alternative(&out, sign.at, ALTERNATIVE_ESCAPE);
        bytes_free(&sign);
    }
    PartCode *code = code_of(k, &out, 0);
    if (code)
        code->later = code_of(k, &later, PCRE2_ANCHORED);
    bytes_free(&later);
    return code;
}

void part_code_use(PartCode *c, size_t n)
{
    enum { LONG = 256, STEP = 8 /* bytes */ };
    if (c->fast || c->used >= FAST_AFTER)
        return;
    c->used += 1 + (n > LONG ? (unsigned)(n / STEP) : 0);
    if (c->used < FAST_AFTER)
        return;
    size_t size = 0;
    pcre2_jit_compile(c->code, PCRE2_JIT_COMPLETE);
    c->fast = pcre2_pattern_info(c->code, PCRE2_INFO_JITSIZE, &size) == 0 && size > 0;
}

void part_code_free(PartCode *c)
{
    if (!c)
        return;
    part_code_free(c->later);
    pcre2_code_free(c->code);
    free(c);
}

/* ---- words ---- */

static size_t word_hash(const char *word, size_t n, bool any_case)
{
    size_t h = 2166136261u;
    for (size_t i = 0; i < n; i++)
        h = (h ^ (size_t)(any_case ? tolower((unsigned char)word[i]) : word[i])) * 16777619u;
    return h;
}

Role part_word(const PartSet *s, const char *word, size_t n, bool any_case)
{
    if (!s->n_slots)
        return ROLE_PLAIN;
    for (size_t i = word_hash(word, n, any_case) % s->n_slots; s->words[i].word; i = (i + 1) % s->n_slots) {
        const char *w = s->words[i].word;
        bool same = any_case ? strncasecmp(w, word, n) == 0 : strncmp(w, word, n) == 0;
        if (same && !w[n])
            return s->words[i].as;
    }
    return ROLE_PLAIN;
}

static void put_word(PartSet *s, const char *word, Role as, bool any_case)
{
    size_t n = strlen(word), i = word_hash(word, n, any_case) % s->n_slots;
    while (s->words[i].word)
        i = (i + 1) % s->n_slots;
    s->words[i] = (PartWord){word, as};
    s->n_words++;
}

/* ---- reading ---- */

typedef struct Reading {
    KindParts *parts;
    const PlainReport *report;
} Reading;

static bool text_of(const Reading *r, const PlainValue *v, const char **to)
{
    if (v->type != PLAIN_TEXT || !v->text[0])
        return plain_wrong(r->report, v->line, "%s: a text in quotes is expected", v->key);
    *to = v->text;
    return true;
}

static bool truth_of(const Reading *r, const PlainValue *v, bool *to)
{
    if (v->type != PLAIN_TRUTH)
        return plain_wrong(r->report, v->line, "%s: true or false is expected", v->key);
    *to = v->number != 0;
    return true;
}

static bool sign_of(const Reading *r, const PlainValue *v, char *to)
{
    if (v->type != PLAIN_TEXT || !v->text[0] || v->text[1])
        return plain_wrong(r->report, v->line, "%s: one character in quotes is expected", v->key);
    *to = v->text[0];
    return true;
}

static bool role_of(const Reading *r, const PlainValue *v, Role *role)
{
    if (v->type == PLAIN_TEXT && role_named(v->text, role))
        return true;
    return plain_wrong(
        r->report, v->line,
        "as: comment, quoted, number, keyword, name, value, section, sign, variable, command, added, "
        "removed, wrong or plain is expected");
}

static bool roles_of(const Reading *r, const PlainValue *v, Part *p)
{
    if (v->type != PLAIN_TABLE)
        return role_of(r, v, &p->as);
    for (const PlainValue *i = v->first; i; i = i->next) {
        if (p->n_groups == PART_GROUPS)
            return plain_wrong(r->report, i->line, "as: at most %d roles are expected", PART_GROUPS);
        if (!role_of(r, i, &p->groups[++p->n_groups]))
            return false;
    }
    return true;
}

/* The texts of a part become expressions; they belong to the kind from then on. */
static const char *keep_expression(Reading *r, Bytes *out)
{
    KindParts *p = r->parts;
    p->texts = mem_grow(p->texts, (p->n_texts + 1) * sizeof *p->texts);
    p->texts[p->n_texts++] = mem_string(bytes_str(out));
    bytes_free(out);
    return p->texts[p->n_texts - 1];
}

static const char *literal(Reading *r, const char *text)
{
    Bytes out = {0};
    add_literal(&out, text);
    return keep_expression(r, &out);
}

static bool check_expression(const Reading *r, const PlainValue *v, const char *like)
{
    Err e = {""};
    if (!r->report || !r->report->problem) /* the program's own are tested */
        return true;
    pcre2_code *c = compile(like, false, 0, &e);
    uint32_t groups = 0;
    if (!c)
        return plain_wrong(r->report, v->line, "%s: not a valid expression: %s", v->key, e.text);
    pcre2_pattern_info(c, PCRE2_INFO_CAPTURECOUNT, &groups);
    pcre2_code_free(c);
    return groups <= PART_GROUPS ||
           plain_wrong(r->report, v->line, "%s: more than %d groups", v->key, PART_GROUPS);
}

static bool expression_of(Reading *r, const PlainValue *v, bool is_literal, const char **to)
{
    const char *text = NULL;
    if (!text_of(r, v, &text) || !text)
        return false;
    *to = is_literal ? literal(r, text) : text;
    return is_literal || check_expression(r, v, text);
}

/* `%1` stands for a group; the rest must be an expression. */
static bool closing_of(Reading *r, const PlainValue *v, Part *p)
{
    const char *text = NULL;
    if (!text_of(r, v, &text) || !text)
        return false;
    p->to = text;
    for (const char *at = text; (at = strchr(at, '%')); at++)
        p->takes_groups = p->takes_groups || (at[1] >= '1' && at[1] <= '8');
    return p->takes_groups || check_expression(r, v, text);
}

static const PartSet *set_of_value(Reading *r, const PlainValue *v);

static const PartSet *set_named(const KindParts *p, const char *name)
{
    for (size_t i = 0; i < p->n_sets; i++)
        if (p->sets[i]->name && strcmp(p->sets[i]->name, name) == 0)
            return p->sets[i];
    return NULL;
}

static bool inside_of(Reading *r, const PlainValue *v, Part *p)
{
    if (v->type == PLAIN_TABLE)
        p->inside = set_of_value(r, v);
    else if (v->type == PLAIN_TEXT)
        p->inside = set_named(r->parts, v->text);
    return p->inside ||
           plain_wrong(r->report, v->line,
                       "inside: a list of parts, \"parts\" or a name that is listed in sets is expected");
}

static bool holds_of(const Reading *r, const PlainValue *v, Part *p)
{
    if (v->type == PLAIN_NUMBER && v->number >= 1 && v->number <= PART_GROUPS)
        p->holds_group = (int)v->number;
    else if (v->type == PLAIN_TEXT)
        p->holds = v->text;
    else
        return plain_wrong(r->report, v->line,
                           "holds: the name of a kind, or the number of a group, is expected");
    return true;
}

static bool part_key(Reading *r, const PlainValue *v, Part *p)
{
    const char *k = v->key ? v->key : "";
    if (strcmp(k, "like") == 0)
        return expression_of(r, v, false, &p->like);
    if (strcmp(k, "from") == 0 || strcmp(k, "from_like") == 0) {
        p->opens = true;
        return expression_of(r, v, k[4] == 0, &p->like);
    }
    if (strcmp(k, "to") == 0 && v->type == PLAIN_TEXT && strcmp(v->text, "line end") == 0)
        return p->one_line = p->opens = true;
    if (strcmp(k, "to") == 0)
        return expression_of(r, v, true, &p->to);
    if (strcmp(k, "to_like") == 0)
        return closing_of(r, v, p);
    if (strcmp(k, "as") == 0)
        return roles_of(r, v, p);
    if (strcmp(k, "body") == 0)
        return role_of(r, v, &p->body);
    if (strcmp(k, "one_line") == 0)
        return truth_of(r, v, &p->one_line);
    if (strcmp(k, "next_line") == 0)
        return truth_of(r, v, &p->next_line);
    if (strcmp(k, "escape") == 0)
        return sign_of(r, v, &p->escape);
    if (strcmp(k, "goes_on") == 0)
        return sign_of(r, v, &p->goes_on);
    if (strcmp(k, "inside") == 0)
        return inside_of(r, v, p);
    if (strcmp(k, "holds") == 0)
        return holds_of(r, v, p);
    return plain_wrong(
        r->report, v->line,
        "“%s” means nothing in a part: like, from, from_like, to, to_like, words, use, as, body, "
        "inside, holds, escape, one_line, next_line or goes_on is expected",
        k);
}

static void add_part(Reading *r, PartSet *s, const PlainValue *v)
{
    Part p = {.line = v->line, .body = ROLE_COUNT};
    for (const PlainValue *i = v->first; i; i = i->next)
        if (!part_key(r, i, &p))
            return;
    if (p.body == ROLE_COUNT)
        p.body = p.as;
    if (!p.like) {
        plain_wrong(r->report, v->line, "like, from, from_like, words or use is expected in a part");
    } else if (p.opens && !p.to && !p.one_line) {
        plain_wrong(r->report, v->line, "to or to_like is expected: a text, or \"line end\"");
    } else if (!p.opens && (p.to || p.inside || p.holds || p.holds_group || p.next_line)) {
        plain_wrong(r->report, v->line, "from or from_like is expected in a part that ends somewhere else");
    } else if (s->n >= PARTS_MOST) {
        plain_wrong(r->report, v->line, "there are too many parts");
    } else {
        s->parts = array_room(s->parts, s->n, sizeof *s->parts);
        s->parts[s->n++] = p;
    }
}

static void add_words(Reading *r, PartSet *s, const PlainValue *words, const PlainValue *part)
{
    Role as = ROLE_KEYWORD;
    const PlainValue *role = plain_data_find(part, "as");
    if (role && !role_of(r, role, &as))
        return;
    if (words->type != PLAIN_TABLE) {
        plain_wrong(r->report, words->line, "words: a list of texts is expected");
        return;
    }
    if (!s->n_words)
        s->words_at = s->n;
    size_t n = s->n_words;
    for (const PlainValue *i = words->first; i; i = i->next)
        n++;
    PartWord *old = s->words;
    size_t n_old = s->n_slots;
    s->n_slots = n * 2 + 1;
    s->words = mem_get(s->n_slots * sizeof *s->words);
    s->n_words = 0;
    for (size_t i = 0; i < n_old; i++)
        if (old[i].word)
            put_word(s, old[i].word, old[i].as, r->parts->kind->any_case);
    free(old);
    for (const PlainValue *i = words->first; i; i = i->next)
        if (i->type == PLAIN_TEXT && i->text[0])
            put_word(s, i->text, as, r->parts->kind->any_case);
        else
            plain_wrong(r->report, i->line, "words: a list of texts is expected");
}

static void add_parts(Reading *r, PartSet *s, const PlainValue *list, int depth);

/* What is wrong in them is reported where they stand. */
static void use_parts(Reading *r, PartSet *s, const PartSet *used, int depth)
{
    const PlainReport *report = r->report;
    r->report = NULL;
    add_parts(r, s, used->value, depth);
    r->report = report;
}

static void add_parts(Reading *r, PartSet *s, const PlainValue *list, int depth)
{
    for (const PlainValue *v = list->first; v; v = v->next) {
        const PlainValue *use = v->type == PLAIN_TABLE ? plain_data_find(v, "use") : NULL;
        const PlainValue *words = v->type == PLAIN_TABLE ? plain_data_find(v, "words") : NULL;
        const PartSet *used = use && use->type == PLAIN_TEXT ? set_named(r->parts, use->text) : NULL;
        if (v->type != PLAIN_TABLE || v->key)
            plain_wrong(r->report, v->line, "a part such as { like = \"…\", as = \"name\" } is expected");
        else if (use && (!used || depth >= USES_MOST))
            plain_wrong(r->report, use->line, "use: a name that is listed in sets is expected");
        else if (use)
            use_parts(r, s, used, depth + 1);
        else if (words)
            add_words(r, s, words, v);
        else
            add_part(r, s, v);
    }
}

/* The set with its name only: others may refer to it before it is read. */
static PartSet *begin_set(Reading *r, const PlainValue *v, const char *name)
{
    KindParts *p = r->parts;
    PartSet *s = mem_get(sizeof *s);
    s->name = name;
    s->value = v;
    p->sets = mem_grow(p->sets, (p->n_sets + 1) * sizeof *p->sets);
    p->sets[p->n_sets++] = s;
    return s;
}

/* The set of a list that stands inside a part. It is there already when that part is used once more, also
 * within itself. */
static const PartSet *set_of_value(Reading *r, const PlainValue *v)
{
    KindParts *p = r->parts;
    for (size_t i = 0; i < p->n_sets; i++)
        if (p->sets[i]->value == v)
            return p->sets[i];
    if (p->n_sets >= SETS_MOST) {
        plain_wrong(r->report, v->line, "there are too many lists of parts");
        return NULL;
    }
    PartSet *s = begin_set(r, v, NULL);
    add_parts(r, s, v, 0);
    return s;
}

/* Begins the sets that a file names, and those of what it builds on under names that it does not have. */
static void begin_sets(Reading *r, const PlainValue *all)
{
    const PlainValue *sets = plain_data_find(all, "sets"), *first = plain_data_find(all, "first");
    for (const PlainValue *v = sets && sets->type == PLAIN_TABLE ? sets->first : NULL; v; v = v->next)
        if (v->key && v->type == PLAIN_TABLE && !set_named(r->parts, v->key))
            begin_set(r, v, v->key);
        else if (!v->key || v->type != PLAIN_TABLE)
            plain_wrong(r->report, v->line, "sets: lists of parts, each with a name, are expected");
    if (first && first->type == PLAIN_TABLE && !r->parts->first)
        r->parts->first = begin_set(r, first, NULL);
}

static bool crosses_lines(const KindParts *p)
{
    for (size_t i = 0; i < p->n_sets; i++)
        for (size_t k = 0; k < p->sets[i]->n; k++) {
            const Part *part = &p->sets[i]->parts[k];
            if (part->opens && (!part->one_line || part->goes_on || part->next_line))
                return true;
        }
    return p->first != NULL;
}

static KindParts *parts_read(const Kind *k, const PlainReport *report)
{
    KindParts *p = mem_get(sizeof *p);
    Reading r = {.parts = p, .report = report};
    p->kind = k;
    PartSet *common = begin_set(&r, NULL, "parts");
    p->common = common;
    for (const Kind *from = k; from; from = from->base) {
        const PlainValue *all = kind_source_all(from, report);
        if (all)
            begin_sets(&r, all);
    }
    size_t named = p->n_sets;
    for (const Kind *from = k; from; from = from->base) { /* its own parts go first */
        const PlainValue *all = kind_source_all(from, report);
        const PlainValue *parts = all ? plain_data_find(all, "parts") : NULL;
        if (parts && parts->type == PLAIN_TABLE) {
            if (!common->value)
                common->value = parts;
            add_parts(&r, common, parts, 0);
        } else if (parts) {
            plain_wrong(report, parts->line, "parts: a list of parts is expected");
        }
    }
    for (size_t i = 1; i < named; i++)
        add_parts(&r, p->sets[i], p->sets[i]->value, 0);
    p->lines_alone = !crosses_lines(p);
    return p;
}

static void parts_free(void *what)
{
    KindParts *p = what;
    for (size_t i = 0; i < p->n_sets; i++) {
        free(p->sets[i]->parts);
        free(p->sets[i]->words);
        free(p->sets[i]);
    }
    for (size_t i = 0; i < p->n_texts; i++)
        free(p->texts[i]);
    free(p->texts);
    free(p->sets);
    free(p);
}

KindParts *parts_of(const Kind *k)
{
    if (!k->made[KIND_PARTS].what)
        kind_keep(k, KIND_PARTS, parts_read(k, NULL), parts_free);
    return k->made[KIND_PARTS].what;
}

void parts_check(const Kind *k, const PlainReport *r)
{
    if (!k->made[KIND_PARTS].what)
        kind_keep(k, KIND_PARTS, parts_read(k, r), parts_free);
}

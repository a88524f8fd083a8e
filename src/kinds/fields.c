#include "kinds/fields.h"

#include "base/array.h"
#include "base/mem.h"
#include "kinds/expression.h"
#include "kinds/kind_data.h"
#include "kinds/kind.h"

#include <stdlib.h>
#include <string.h>
#include <strings.h>

/* ---- reading the data ---- */

enum { NUMBER_MOST = 999999999, NAMES_MOST = 2000 };

/* { "month", "1 to 12 or jan to dec", from = 1, to = 12, list = true, names = { … }, like = … } */
static bool read_field(Field *f, const PlainValue *v, const PlainReport *r)
{
    const PlainValue *name = v->first, *about = name ? name->next : NULL;
    bool from = plain_data_find(v, "from"), to = plain_data_find(v, "to");
    if (v->type != PLAIN_TABLE || !name || name->key || name->type != PLAIN_TEXT || !about || about->key ||
        about->type != PLAIN_TEXT)
        return plain_wrong(r, v->line,
                           "a field begins with its name and what it holds: { \"month\", \"1 to 12\" }");
    *f = (Field){.name = name->text, .about = about->text, .number = from && to, .to = NUMBER_MOST};
    return kind_truth(v, "list", &f->list, r) && kind_number_in(v, "from", 0, NUMBER_MOST, &f->from, r) &&
           kind_number_in(v, "to", f->from, NUMBER_MOST, &f->to, r) &&
           kind_words(v, "names", NAMES_MOST, &f->names, r) && kind_truth(v, "once", &f->once, r) &&
           kind_truth(v, "once_hint", &f->once_hint, r) && value_rule_read(&f->rule, v, r);
}

/* All or nothing: with one left out, the others would be taken for what they are not. */
static bool read_all(Fields *f, const PlainValue *all, const PlainValue *v, const PlainReport *r)
{
    const PlainValue *between = plain_data_find(all, "fields_between"),
                     *lines = plain_data_find(all, "fields_in");
    long least = 0;
    if (v->type != PLAIN_TABLE)
        return plain_wrong(r, v->line, "fields: a list of fields is expected");
    for (const PlainValue *i = v->first; i; i = i->next) {
        if (f->n == FIELDS_MOST)
            return plain_wrong(r, i->line, "there are more than %d fields", FIELDS_MOST);
        if (!read_field(&f->at[f->n++], i, r))
            return false;
    }
    least = (long)f->n;
    if (between && (between->type != PLAIN_TEXT || !between->text[0] || between->text[1]))
        return plain_wrong(r, between->line, "fields_between: one character in quotes is expected");
    f->between = between ? between->text[0] : 0;
    if (!kind_number_in(all, "fields_least", 0, (long)f->n, &least, r) ||
        !kind_truth(all, "fields_exact", &f->exact, r) ||
        !kind_truth(all, "fields_remarks", &f->remarks, r) ||
        !kind_truth(all, "fields_brackets", &f->brackets, r) ||
        !kind_truth(all, "fields_go_on", &f->goes_on, r))
        return false;
    f->least = (size_t)least;
    f->lines = kind_expression(lines, 0, r);
    return f->lines || !lines;
}

static Fields no_fields; /* of kinds without */

static void free_fields(void *what)
{
    Fields *f = what;
    if (f == &no_fields)
        return;
    for (size_t i = 0; i < f->n; i++) {
        free((void *)f->at[i].names);
        value_rule_free(&f->at[i].rule);
    }
    expression_free(f->lines);
    free(f);
}

const Fields *fields_of(const Kind *k, const PlainReport *r)
{
    const KindMade *made = &k->made[KIND_FIELDS];
    for (const Kind *owner = k; !made->what && owner; owner = owner->base) {
        const PlainValue *all = kind_source_all(owner, r), *v = all ? plain_data_find(all, "fields") : NULL;
        if (!v)
            continue;
        Fields *f = mem_get(sizeof *f);
        f->comment = k->comment_sign;
        f->comment_also = k->comment_also;
        if (!read_all(f, all, v, r)) {
            free_fields(f);
            break;
        }
        kind_keep(k, KIND_FIELDS, f, free_fields);
    }
    if (!made->what)
        kind_keep(k, KIND_FIELDS, &no_fields, free_fields);
    const Fields *f = made->what;
    return f && f->n ? f : NULL;
}

/* ---- lines ---- */

static bool is_blank(char c)
{
    return c == ' ' || c == '\t' || c == '\r';
}

static bool has_fields(const Fields *f, const char *line, size_t n)
{
    size_t i = 0;
    while (i < n && is_blank(line[i]))
        i++;
    size_t sign = f->comment ? strlen(f->comment) : 0;
    if (i == n || (sign && n - i >= sign && memcmp(line + i, f->comment, sign) == 0))
        return false;
    for (KindWords also = f->comment_also; also && *also; also++)
        if (n - i >= strlen(*also) && memcmp(line + i, *also, strlen(*also)) == 0)
            return false;
    return !f->lines || expression_finds(f->lines, line, n, false);
}

/* A remark after the fields is none of them. */
static size_t without_remark(const Fields *f, const char *line, size_t n)
{
    if (!f->comment || f->between || (!f->exact && !f->remarks))
        return n;
    for (size_t i = 1; i < n; i++)
        if (line[i] == f->comment[0] && is_blank(line[i - 1]))
            return i;
    return n;
}

size_t fields_split(const Fields *f, const char *line, size_t n, size_t *from, size_t *to)
{
    size_t count = 0, at = 0;
    n = without_remark(f, line, n);
    while (n && is_blank(line[n - 1]) && (!f->between || line[n - 1] == '\r'))
        n--;
    if (!has_fields(f, line, n))
        return 0;
    while (count < FIELDS_MOST) {
        while (!f->between && at < n && is_blank(line[at]))
            at++;
        if (at >= n && (!f->between || at > n))
            break;
        from[count] = at;
        bool rest = count + 1 == f->n && !f->exact;
        const char *close = f->brackets && line[at] == '[' ? memchr(line + at, ']', n - at) : NULL;
        at = close ? (size_t)(close - line) : at;
        while (at < n && (rest || (f->between ? line[at] != f->between : !is_blank(line[at]))))
            at++;
        to[count++] = at;
        if (f->between)
            at++;
    }
    return count;
}

/* ---- what a field may hold ---- */

static bool value_of(const Field *f, const char *s, size_t n, long *value)
{
    for (size_t i = 0; f->names && f->names[i]; i++)
        if (strlen(f->names[i]) == n && strncasecmp(f->names[i], s, n) == 0) {
            *value = f->from + (long)i;
            return true;
        }
    *value = 0;
    if (n == 0 || n > 9)
        return false;
    for (size_t i = 0; i < n; i++) {
        if (s[i] < '0' || s[i] > '9')
            return false;
        *value = *value * 10 + (s[i] - '0');
    }
    return true;
}

/* A number, a name, a range of such, or *, and perhaps a step. NULL: it is fine; or what there is to say
 * more. */
static const char *wrong_item(const Field *f, const char *s, size_t n)
{
    long first, last;
    const char *slash = memchr(s, '/', n);
    size_t head = slash ? (size_t)(slash - s) : n;
    const char *dash = memchr(s, '-', head);
    size_t left = dash ? (size_t)(dash - s) : head;
    Field plain = {.from = 1, .to = 1000000};
    if (slash && (!value_of(&plain, slash + 1, n - head - 1, &first) || first < 1))
        return " (what follows / is no step)";
    if (head == 1 && *s == '*')
        return NULL;
    if (!value_of(f, s, left, &first) || (dash && !value_of(f, dash + 1, head - left - 1, &last)))
        return "";
    if (first < f->from || first > f->to || (dash && (last < f->from || last > f->to)))
        return "";
    if (dash && last < first)
        return " (the range goes backwards)";
    return slash && !dash ? " (a step is for a range or *)" : NULL;
}

const char *field_wrong(const Field *f, const char *s, size_t n)
{
    long value;
    if (!f->number)
        return NULL;
    if (!f->list)
        return !value_of(f, s, n, &value) || value < f->from || value > f->to ? "" : NULL;
    for (size_t at = 0; at <= n;) {
        const char *comma = memchr(s + at, ',', n - at);
        size_t len = comma ? (size_t)(comma - s) - at : n - at;
        const char *why = wrong_item(f, s + at, len);
        if (why)
            return why;
        at += len + 1;
    }
    return NULL;
}

static bool item_fits(const Field *f, const char *s, size_t n, long value)
{
    long first = f->from, last = f->to, step = 1;
    const char *slash = memchr(s, '/', n);
    size_t head = slash ? (size_t)(slash - s) : n;
    const char *dash = memchr(s, '-', head);
    size_t left = dash ? (size_t)(dash - s) : head;
    Field plain = {.from = 1};
    if (slash && (!value_of(&plain, slash + 1, n - head - 1, &step) || step < 1))
        return false;
    if (head != 1 || *s != '*') {
        if (!value_of(f, s, left, &first) || (dash && !value_of(f, dash + 1, head - left - 1, &last)))
            return false;
        last = dash || slash ? last : first;
    }
    return value >= first && value <= last && (value - first) % step == 0;
}

bool field_fits(const Field *f, const char *list, size_t n, long value)
{
    for (size_t at = 0; at <= n;) {
        const char *comma = memchr(list + at, ',', n - at);
        size_t len = comma ? (size_t)(comma - list) - at : n - at;
        if (item_fits(f, list + at, len, value))
            return true;
        at += len + 1;
    }
    return false;
}

enum { SHOWN = 40 /* bytes of a value in a message */ };

static int shown(size_t n)
{
    return (int)(n < SHOWN ? n : SHOWN);
}

/* False: it is no such field at all. */
static bool check_field(const Field *f, const char *s, size_t n, size_t line, size_t column, bool machine,
                        Problems *out)
{
    size_t at = 0, len = n;
    bool times = f->list || f->names;
    const char *why = times ? field_wrong(f, s, n) : NULL;
    ValueVerdict v = times ? VALUE_RIGHT : value_judge(&f->rule, s, n, machine, &at, &len);
    if (why || v == VALUE_WRONG)
        problems_add(out, line, column + at, "“%.*s” is no %s: %s%s", shown(len), s + at, f->name, f->about,
                     why ? why : "");
    else if (v == VALUE_NOT_HERE)
        problems_hint(out, line, column + at, "%s: this machine has no “%.*s”", f->name, shown(len), s + at);
    return !why && v != VALUE_WRONG;
}

/* Where a field that may stand once only was seen. */
typedef struct Seen {
    const char *at;
    size_t n, line, column, field;
} Seen;

typedef struct FieldsCheck {
    const Fields *f;
    bool machine;
    Seen *seen;
    size_t n_seen;
    Problems *out;
} FieldsCheck;

static void check_line(FieldsCheck *c, const char *line, size_t n, size_t number)
{
    const Fields *f = c->f;
    size_t from[FIELDS_MOST], to[FIELDS_MOST], count = fields_split(f, line, n, from, to);
    if (count == 0)
        return;
    bool few = count < f->least, right = true;
    size_t looked_at = few ? 1 : count; /* one that begins with something else is no such line at all */
    for (size_t i = 0; i < looked_at && i < f->n; i++) {
        while (f->between == '=' && from[i] < to[i] && is_blank(line[from[i]]))
            from[i]++;
        while (f->between == '=' && to[i] > from[i] && is_blank(line[to[i] - 1]))
            to[i]--;
        if (!few || !f->between)
            right = check_field(&f->at[i], line + from[i], to[i] - from[i], number, from[i] + 1, c->machine,
                                c->out);
        if (f->at[i].once && to[i] > from[i] &&
            !value_is_listed(&f->at[i].rule, line + from[i], to[i] - from[i])) {
            c->seen = array_room(c->seen, c->n_seen, sizeof *c->seen);
            c->seen[c->n_seen++] = (Seen){line + from[i], to[i] - from[i], number, from[i] + 1, i};
        }
        few = few && right;
    }
    if (few)
        problems_add(c->out, number, to[count - 1] + 1, "field %zu (%s) is missing", count + 1,
                     f->at[count].name);
    if (f->exact && count > f->n)
        problems_add(c->out, number, from[f->n] + 1, "there are %zu fields, and %zu are expected", count,
                     f->n);
}

static int by_content(const void *a, const void *b)
{
    const Seen *x = a, *y = b;
    if (x->field != y->field)
        return x->field < y->field ? -1 : 1;
    int order = memcmp(x->at, y->at, x->n < y->n ? x->n : y->n);
    if (order == 0 && x->n != y->n)
        order = x->n < y->n ? -1 : 1;
    return order ? order : (x->line > y->line) - (x->line < y->line);
}

/* What stands twice where it must not. */
static void check_seen(const FieldsCheck *c)
{
    if (c->n_seen)
        qsort(c->seen, c->n_seen, sizeof *c->seen, by_content);
    for (size_t i = 1; i < c->n_seen; i++) {
        const Seen *a = &c->seen[i - 1], *b = &c->seen[i];
        const Field *f = &c->f->at[b->field];
        if (a->field != b->field || a->n != b->n || memcmp(a->at, b->at, a->n) != 0)
            continue;
        (f->once_hint ? problems_hint : problems_add)(c->out, b->line, b->column,
                                                      "%s: “%.*s” stands in line %zu already", f->name,
                                                      shown(b->n), b->at, a->line);
    }
}

void fields_check(const char *bytes, size_t n, const Fields *f, bool machine, Stop stop, Problems *out)
{
    FieldsCheck c = {.f = f, .machine = machine, .out = out};
    size_t number = 1;
    bool goes_on = false; /* the line is the rest of the one before */
    for (size_t at = 0; at < n && !stop_wanted(stop); number++) {
        const char *end = memchr(bytes + at, '\n', n - at);
        size_t len = end ? (size_t)(end - bytes) - at : n - at;
        bool more = f->goes_on && len && bytes[at + len - 1] == '\\';
        if (!goes_on && !more)
            check_line(&c, bytes + at, len, number);
        goes_on = more;
        at += len + 1;
    }
    check_seen(&c);
    free(c.seen);
}

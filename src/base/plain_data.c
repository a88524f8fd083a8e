#include "base/plain_data.h"

#include "base/bytes.h"
#include "base/mem.h"

#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { DEPTH_MOST = 20, NUMBER_MOST = 40 };

/* All that is read lies in pieces that are freed together. */
typedef struct Piece {
    struct Piece *next;
    max_align_t bytes[];
} Piece;

enum { PIECE_BYTES = 1500, ALIGNED = _Alignof(PlainValue) };

struct PlainData {
    PlainValue all;
    Piece *pieces;
    char *room; /* what is left of the last piece */
    size_t left;
};

typedef struct Reader {
    PlainData *data;
    const char *p, *end;
    unsigned line;
    Err *e;
} Reader;

/* Zeroed memory. */
static void *keep(PlainData *d, size_t n)
{
    n = (n + ALIGNED - 1) / ALIGNED * ALIGNED;
    if (n > d->left) {
        d->left = n > PIECE_BYTES ? n : PIECE_BYTES;
        Piece *piece = mem_get(sizeof *piece + d->left);
        piece->next = d->pieces;
        d->pieces = piece;
        d->room = (char *)piece->bytes;
    }
    void *kept = d->room;
    d->room += n;
    d->left -= n;
    return kept;
}

/* The length of "[==[" at p, 0 if there is none. */
static size_t long_bracket(const char *p, const char *end, char sign)
{
    size_t n = 1;
    while (p + n < end && p[n] == '=')
        n++;
    return p < end && *p == sign && p + n < end && p[n] == sign ? n + 1 : 0;
}

/* Where the closing bracket to an opening one of `n` signs begins; NULL: nowhere. */
static const char *long_end(const char *p, const char *end, size_t n)
{
    while ((p = memchr(p, ']', (size_t)(end - p))) && long_bracket(p, end, ']') != n)
        p++;
    return p;
}

static void count_lines(Reader *r, const char *to)
{
    for (; r->p < to; r->p++)
        r->line += *r->p == '\n';
}

/* Blanks, line ends and comments. */
static void skip(Reader *r)
{
    for (;;) {
        for (; r->p < r->end && (*r->p == ' ' || (*r->p >= '\t' && *r->p <= '\r')); r->p++)
            r->line += *r->p == '\n';
        if (r->end - r->p < 2 || r->p[0] != '-' || r->p[1] != '-')
            return;
        size_t n = long_bracket(r->p + 2, r->end, '[');
        const char *stop =
            n ? long_end(r->p + 2 + n, r->end, n) : memchr(r->p, '\n', (size_t)(r->end - r->p));
        count_lines(r, !stop ? r->end : n ? stop + n : stop);
    }
}

static bool letter(char c)
{
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
}

static bool digit(char c)
{
    return c >= '0' && c <= '9';
}

static size_t name_length(const Reader *r)
{
    size_t n = 0;
    while (r->p + n < r->end && (letter(r->p[n]) || (n && digit(r->p[n]))))
        n++;
    return n;
}

static bool is_word(const Reader *r, size_t n, const char *word)
{
    return strlen(word) == n && memcmp(r->p, word, n) == 0;
}

static const char *kept_text(Reader *r, const char *bytes, size_t n)
{
    char *text = keep(r->data, n + 1);
    memcpy(text, bytes, n);
    return text;
}

/* One escape after its backslash; adds what it stands for. */
static bool read_escape(Reader *r, Bytes *out)
{
    static const char signs[] = "abfnrtv\\\"'\n", stands[] = "\a\b\f\n\r\t\v\\\"'\n";
    char c = *r->p, *stop;
    const char *at = c ? strchr(signs, c) : NULL;
    if (at) {
        bytes_add(out, &stands[at - signs], 1);
        count_lines(r, r->p + 1);
    } else if (c == 'x' && r->end - r->p >= 3) {
        char hex[3] = {r->p[1], r->p[2], 0}, byte = (char)strtol(hex, &stop, 16);
        if (stop != hex + 2 || !byte)
            return err_set(r->e, "after \\x two hexadecimal digits are expected");
        bytes_add(out, &byte, 1);
        r->p += 3;
    } else if (digit(c)) {
        int n = 0;
        unsigned code = 0;
        for (; n < 3 && r->p < r->end && digit(*r->p); n++)
            code = code * 10 + (unsigned)(*r->p++ - '0');
        if (code == 0 || code > 255)
            return err_set(r->e, "\\%u is no byte from 1 to 255", code);
        bytes_add(out, &(char){(char)code}, 1);
    } else {
        return err_set(r->e, "\\%c means nothing in a text; for a backslash write \\\\ or use [[ ]]",
                       c >= ' ' && c < 127 ? c : '?');
    }
    return true;
}

/* Does it stand for itself in a text in quotes? */
static bool is_plain(char c)
{
    return c && c != '\\' && c != '\n';
}

static bool read_quoted(Reader *r, const char **text)
{
    char quote = *r->p++;
    size_t plain = 0; /* most have nothing to be replaced */
    while (r->p + plain < r->end && is_plain(r->p[plain]) && r->p[plain] != quote)
        plain++;
    if (r->p + plain < r->end && r->p[plain] == quote) {
        *text = kept_text(r, r->p, plain);
        r->p += plain + 1;
        return true;
    }
    Bytes out = {0};
    bool ok = true;
    while (ok && r->p < r->end && *r->p != quote && *r->p != '\n') {
        if (*r->p == '\\' && ++r->p < r->end)
            ok = read_escape(r, &out);
        else if (*r->p)
            bytes_add(&out, r->p++, 1);
        else
            ok = err_set(r->e, "there is a byte 0 in it");
    }
    if (ok && (r->p >= r->end || *r->p != quote))
        ok = err_set(r->e, "the text is not closed: %c is expected", quote);
    if (ok) {
        r->p++;
        *text = kept_text(r, bytes_str(&out), out.len);
    }
    bytes_free(&out);
    return ok;
}

static bool read_text(Reader *r, const char **text)
{
    size_t n = long_bracket(r->p, r->end, '[');
    if (!n)
        return read_quoted(r, text);
    const char *from = r->p + n, *to = long_end(from, r->end, n);
    if (!to)
        return err_set(r->e, "the text is not closed: ]] is expected");
    if (memchr(from, 0, (size_t)(to - from)))
        return err_set(r->e, "there is a byte 0 in it");
    count_lines(r, to + n);
    if (*from == '\n')
        from++;
    *text = kept_text(r, from, (size_t)(to - from));
    return true;
}

static bool read_number(Reader *r, double *number)
{
    char text[NUMBER_MOST + 1], *stop;
    size_t n = 0;
    while (r->p + n < r->end && n < NUMBER_MOST &&
           (letter(r->p[n]) || digit(r->p[n]) || strchr("+-.", r->p[n])) && r->p[n])
        n++;
    memcpy(text, r->p, n);
    text[n] = 0;
    *number = strtod(text, &stop);
    if (!n || *stop)
        return err_set(r->e, "a text in quotes, a number, true, false or a table in { } is expected");
    r->p += n;
    return true;
}

static bool read_table(Reader *r, PlainValue *table, int depth);

static bool read_value(Reader *r, PlainValue *v, int depth)
{
    skip(r);
    v->line = r->line;
    size_t n = name_length(r);
    if (is_word(r, n, "true") || is_word(r, n, "false")) {
        v->type = PLAIN_TRUTH;
        v->number = n == 4;
        r->p += n;
        return true;
    }
    if (r->p < r->end && (*r->p == '"' || *r->p == '\'' || *r->p == '[')) {
        v->type = PLAIN_TEXT;
        return read_text(r, &v->text);
    }
    if (r->p < r->end && *r->p == '{') {
        v->type = PLAIN_TABLE;
        return read_table(r, v, depth + 1);
    }
    v->type = PLAIN_NUMBER;
    return read_number(r, &v->number);
}

/* "name =" or ["name"] =; *key stays NULL where there is no name. */
static bool read_key(Reader *r, const char **key)
{
    const Reader before = *r;
    size_t n = name_length(r);
    *key = NULL;
    if (n) {
        const char *name = r->p;
        r->p += n;
        skip(r);
        if (r->p < r->end && *r->p == '=')
            *key = kept_text(r, name, n);
    } else if (r->p < r->end && *r->p == '[' && !long_bracket(r->p, r->end, '[')) {
        r->p++;
        skip(r);
        if (r->p >= r->end || (*r->p != '"' && *r->p != '\'') || !read_quoted(r, key))
            return err_set(r->e, "a name in quotes is expected after [");
        skip(r);
        if (r->p >= r->end || *r->p++ != ']')
            return err_set(r->e, "] is expected");
        skip(r);
        if (r->p >= r->end || *r->p != '=')
            return err_set(r->e, "= is expected");
    }
    if (*key)
        r->p++; /* the = */
    else
        r->p = before.p, r->line = before.line;
    return true;
}

static bool read_table(Reader *r, PlainValue *table, int depth)
{
    PlainValue **last = &table->first;
    if (depth > DEPTH_MOST)
        return err_set(r->e, "tables lie too deep in each other");
    r->p++; /* the opening one */
    for (;;) {
        skip(r);
        if (r->p >= r->end)
            return err_set(r->e, "the table that begins in line %u is not closed: } is expected",
                           table->line);
        if (*r->p == '}') {
            r->p++;
            return true;
        }
        PlainValue *v = keep(r->data, sizeof *v);
        if (!read_key(r, &v->key) || !read_value(r, v, depth))
            return false;
        *last = v;
        last = &v->next;
        skip(r);
        if (r->p < r->end && (*r->p == ',' || *r->p == ';'))
            r->p++;
        else if (r->p < r->end && *r->p != '}')
            return err_set(r->e, "a comma or } is expected");
    }
}

static bool read_all(Reader *r, const char *until)
{
    PlainValue **last = &r->data->all.first;
    for (;;) {
        skip(r);
        while (r->p < r->end && *r->p == ';') {
            r->p++;
            skip(r);
        }
        size_t n = name_length(r);
        if (r->p >= r->end || (until && is_word(r, n, until)))
            return true;
        const char *key;
        if (!n || !read_key(r, &key))
            return err_set(r->e, "a line such as name = \"value\" is expected");
        if (!key)
            return err_set(r->e, "= is expected");
        PlainValue *v = keep(r->data, sizeof *v);
        v->key = key;
        if (!read_value(r, v, 0))
            return false;
        *last = v;
        last = &v->next;
    }
}

PlainData *plain_data_read(const char *bytes, size_t n, const char *until, Err *e, unsigned *line)
{
    PlainData *d = mem_get(sizeof *d);
    Reader r = {.data = d, .p = bytes, .end = bytes + n, .line = 1, .e = e};
    d->all.type = PLAIN_TABLE;
    d->all.line = 1;
    if (read_all(&r, until))
        return d;
    *line = r.line;
    plain_data_free(d);
    return NULL;
}

bool plain_wrong(const PlainReport *r, unsigned line, const char *format, ...)
{
    char words[512];
    va_list args;
    va_start(args, format);
    vsnprintf(words, sizeof words, format, args);
    va_end(args);
    if (r && r->problem)
        r->problem(r->ctx, line, words);
    return false;
}

const PlainValue *plain_data_all(const PlainData *d)
{
    return &d->all;
}

void plain_data_free(PlainData *d)
{
    for (Piece *p = d ? d->pieces : NULL, *next; p; p = next) {
        next = p->next;
        free(p);
    }
    free(d);
}

void plain_data_join(PlainData *d, PlainData *other)
{
    Piece **last = &d->pieces;
    while (*last)
        last = &(*last)->next;
    *last = other->pieces; /* what room is left in them stays unused */
    free(other);
}

const PlainValue *plain_data_find(const PlainValue *table, const char *name)
{
    const PlainValue *found = NULL;
    for (const PlainValue *v = table->first; v; v = v->next)
        if (v->key && strcmp(v->key, name) == 0)
            found = v;
    return found;
}

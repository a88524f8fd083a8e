#include "input/recorded.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/utf8.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>

void recorded_add(Recorded *r, RecordedKind kind, Key key, const char *bytes, size_t n)
{
    r->steps = array_room(r->steps, r->n, sizeof *r->steps);
    r->steps[r->n] = (RecordedStep){.kind = kind, .key = key, .n = n};
    if (bytes) {
        r->steps[r->n].bytes = mem_get(n + 1);
        memcpy(r->steps[r->n].bytes, bytes, n);
    }
    r->n++;
}

void recorded_cut(Recorded *r, size_t n)
{
    while (r->n > n)
        free(r->steps[--r->n].bytes);
}

void recorded_copy(Recorded *to, const Recorded *from)
{
    for (size_t i = 0; i < from->n; i++) {
        const RecordedStep *s = &from->steps[i];
        recorded_add(to, s->kind, s->key, s->bytes, s->n);
    }
}

void recorded_free(Recorded *r)
{
    recorded_cut(r, 0);
    free(r->steps);
    *r = (Recorded){0};
}

/* ---- writing ---- */

static void write_byte(char c, char next, Bytes *out)
{
    static const char plain[] = "\"\\\n\t", names[] = "\"\\nt";
    const char *at = c ? strchr(plain, c) : NULL;
    /* What would end the brackets of a data file never stands there. */
    bool odd = (unsigned char)c < ' ' || c == 127 || (c == ']' && next == ']');
    if (at)
        bytes_printf(out, "\\%c", names[at - plain]);
    else if (odd)
        bytes_printf(out, "\\x%02x", (unsigned char)c);
    else
        bytes_add(out, &c, 1);
}

/* Adds n bytes in quotation marks; what is not UTF-8 by its number. */
static void write_quoted(const char *bytes, size_t n, Bytes *out)
{
    bytes_add(out, "\"", 1);
    for (size_t i = 0; i < n;) {
        int32_t code;
        size_t k = utf8_decode(bytes + i, n - i, &code);
        if (code < 0) {
            bytes_printf(out, "\\x%02x", (unsigned char)bytes[i++]);
        } else if (k > 1) {
            bytes_add(out, bytes + i, k);
            i += k;
        } else {
            write_byte(bytes[i], i + 1 < n ? bytes[i + 1] : 0, out);
            i++;
        }
    }
    bytes_add(out, "\"", 1);
}

static bool is_typed(const RecordedStep *s)
{
    return s->kind == RECORDED_KEY && key_types(s->key) && s->key.mods == 0;
}

static void add_typed(const RecordedStep *s, Bytes *out)
{
    char bytes[4] = {(char)s->key.ch};
    bytes_add(out, bytes, s->key.code == K_CHAR ? utf8_write(s->key.ch, bytes) : 1);
}

static void write_step(const RecordedStep *s, Bytes *out)
{
    char name[KEY_NAME_MAX];
    Bytes typed = {0};
    if (is_typed(s)) {
        add_typed(s, &typed);
        write_quoted(typed.at, typed.len, out);
    } else if (s->kind == RECORDED_KEY) {
        bytes_add_str(out, key_written(s->key, name));
    } else if (s->kind == RECORDED_PAUSE) {
        bytes_add_str(out, "pause");
    } else {
        bytes_add_str(out, s->kind == RECORDED_PASTE ? "paste " : "answer ");
        write_quoted(s->bytes, s->n, out);
    }
    bytes_free(&typed);
}

void recorded_write(const Recorded *r, Bytes *out)
{
    Bytes typed = {0};
    for (size_t i = 0; i < r->n; i++) {
        if (!is_typed(&r->steps[i])) {
            write_step(&r->steps[i], out);
        } else {
            bytes_clear(&typed);
            for (; i < r->n && is_typed(&r->steps[i]); i++)
                add_typed(&r->steps[i], &typed);
            write_quoted(typed.at, typed.len, out);
            i--;
        }
        bytes_add(out, "\n", 1);
    }
    bytes_free(&typed);
}

enum { SHOWN = 40 /* bytes of a step in messages */ };

void recorded_words(const RecordedStep *s, Bytes *out)
{
    RecordedStep part = *s;
    part.n = s->n > SHOWN ? SHOWN : s->n;
    while (part.n && part.n < s->n && ((unsigned char)s->bytes[part.n] & 0xc0) == 0x80)
        part.n--;
    write_step(&part, out);
    if (part.n < s->n)
        bytes_add_str(out, "…");
}

/* ---- reading ---- */

static int hex(const char *p)
{
    char digits[3] = {p[0], p[0] ? p[1] : 0, 0};
    return isxdigit((unsigned char)digits[0]) && isxdigit((unsigned char)digits[1])
               ? (int)strtol(digits, NULL, 16)
               : -1;
}

/* Takes what is in quotation marks at *p, and moves *p past it. */
static bool read_quoted(const char **p, const char *end, Bytes *out, Err *e)
{
    const char *s = *p + 1;
    for (; s < end && *s != '"'; s++) {
        char c = *s;
        if (c == '\\' && s + 1 < end) {
            static const char names[] = "\"\\nt", plain[] = "\"\\\n\t";
            const char *at = strchr(names, *++s);
            int byte = *s == 'x' ? hex(s + 1) : -1;
            if (byte < 0 && !at)
                return err_set(e, "after a backslash stands \", \\, n, t, or x and two digits");
            c = byte < 0 ? plain[at - names] : (char)byte;
            s += byte < 0 ? 0 : 2;
        }
        bytes_add(out, &c, 1);
    }
    if (s >= end)
        return err_set(e, "the quotation mark at the end is missing");
    *p = s + 1;
    return true;
}

static void add_keys(Recorded *r, const char *bytes, size_t n)
{
    for (size_t i = 0; i < n;) {
        int32_t code;
        size_t k = utf8_decode(bytes + i, n - i, &code);
        Key key = {.code = K_CHAR, .ch = (uint32_t)code};
        if (code < 0)
            key = (Key){.code = K_BYTE, .ch = (unsigned char)bytes[i]};
        else if (code == '\n' || code == '\t')
            key = (Key){.code = code == '\n' ? K_ENTER : K_TAB};
        recorded_add(r, RECORDED_KEY, key, NULL, 0);
        i += code < 0 ? 1 : k;
    }
}

static bool read_words(const char **p, const char *end, RecordedKind kind, Recorded *r, Err *e)
{
    Bytes words = {0};
    *p += strspn(*p, " \t");
    bool ok = (*p < end && **p == '"') || err_set(e, "what follows stands in quotation marks");
    ok = ok && read_quoted(p, end, &words, e);
    if (ok)
        recorded_add(r, kind, (Key){0}, bytes_str(&words), words.len);
    bytes_free(&words);
    return ok;
}

static bool read_step(const char **p, const char *end, Recorded *r, Err *e)
{
    Bytes typed = {0};
    Key key;
    if (**p == '"') {
        bool ok = read_quoted(p, end, &typed, e);
        if (ok)
            add_keys(r, bytes_str(&typed), typed.len);
        bytes_free(&typed);
        return ok;
    }
    size_t n = strcspn(*p, " \t\r\n");
    const char *word = *p;
    *p += n;
    if (n == 5 && memcmp(word, "paste", n) == 0)
        return read_words(p, end, RECORDED_PASTE, r, e);
    if (n == 6 && memcmp(word, "answer", n) == 0)
        return read_words(p, end, RECORDED_ANSWER, r, e);
    if (n == 5 && memcmp(word, "pause", n) == 0)
        recorded_add(r, RECORDED_PAUSE, (Key){0}, NULL, 0);
    else if (key_parse(word, n, &key))
        recorded_add(r, RECORDED_KEY, key, NULL, 0);
    else
        return err_set(e, "there is no key “%.*s”; what is typed stands in quotation marks",
                       (int)(n < 40 ? n : 40), word);
    return true;
}

bool recorded_read(const char *text, Recorded *out, Err *e, unsigned *line)
{
    *line = 0;
    for (const char *p = text, *end; *p; p = *end ? end + 1 : end) {
        end = p + strcspn(p, "\n");
        ++*line;
        for (;;) {
            p += strspn(p, " \t\r");
            bool remark = p + 1 < end && p[0] == '-' && p[1] == '-';
            if (p >= end || remark)
                break;
            if (!read_step(&p, end, out, e))
                return false;
            if (out->n > RECORDED_MOST)
                return err_set(e, "there are more than %d steps", RECORDED_MOST);
        }
    }
    return true;
}

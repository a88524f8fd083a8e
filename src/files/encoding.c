#include "files/encoding.h"

#include "base/glyph.h"
#include "base/mem.h"
#include "text/builder.h"
#include "text/text_line.h"

#include <ctype.h>
#include <errno.h>
#include <iconv.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#ifdef HAVE_UCHARDET
#include <dlfcn.h>
#include <uchardet/uchardet.h>
#endif

enum {
    CHUNK = 64 * 1024,
    FEW = 16,                       /* letters beyond ASCII that are too few for statistics */
    JUDGED = 256 * 1024,            /* bytes that a guess looks at */
    GUESSED_MOST = 64 * 1024 * 1024 /* larger files are taken as they are */
};

const char *const encoding_names[] = {
    "utf-8",      "iso-8859-1",   "iso-8859-15",  "windows-1252", "utf-16le",  "utf-16be",
    "iso-8859-2", "windows-1250", "windows-1251", "koi8-r",       "shift_jis", "euc-jp",
    "gb18030",    "big5",         "euc-kr",       "ibm850",       "us-ascii",  NULL};

static const struct {
    const char *bytes;
    size_t n;
    const char *encoding;
} byte_order_marks[] = {{"\xef\xbb\xbf", 3, ""}, {"\xff\xfe", 2, "utf-16le"}, {"\xfe\xff", 2, "utf-16be"}};

static size_t mark_of(const Encoding *x, const char **bytes)
{
    for (size_t i = 0; x->mark && i < sizeof byte_order_marks / sizeof *byte_order_marks; i++)
        if (strcmp(byte_order_marks[i].encoding, x->name) == 0) {
            *bytes = byte_order_marks[i].bytes;
            return byte_order_marks[i].n;
        }
    return 0;
}

/* ---- converting ---- */

#if defined(__GNUC__) && !defined(__clang__)
/* gcc's analyzer takes (iconv_t)-1 for a converter that is lost. */
#pragma GCC diagnostic ignored "-Wanalyzer-malloc-leak"
#endif
static bool open_converter(const char *to, const char *from, iconv_t *how)
{
    *how = iconv_open(to, from);
    return *how != (iconv_t)-1;
}

/* Adds [from, end) of `t` converted; false at a place that does not convert, *from is then that. */
static bool convert(iconv_t how, Text t, size_t *from, TextBuilder *b, bool *no_memory)
{
    char *in = mem_get(CHUNK), *out = mem_get(2 * CHUNK);
    size_t len = text_len(t);
    bool ok = true;
    while (ok && *from < len) {
        size_t n = text_read(t, *from, in, CHUNK);
        char *p = in;
        while (ok && n) {
            char *q = out;
            size_t room = 2 * CHUNK;
            size_t done = iconv(how, &p, &n, &q, &room);
            int code = done == (size_t)-1 ? errno : 0;
            *no_memory = !builder_bytes(b, out, (size_t)(q - out));
            ok = !*no_memory && code != EILSEQ && !(code == EINVAL && *from + (size_t)(p - in) + n >= len);
            if (code == EINVAL || code == EILSEQ)
                break; /* a character is cut by the chunk's end: it is read again from its start */
        }
        *from += (size_t)(p - in);
    }
    if (ok) { /* an encoding that keeps a state has something left to write */
        char *q = out;
        size_t room = 2 * CHUNK;
        ok = iconv(how, NULL, NULL, &q, &room) != (size_t)-1;
        *no_memory = ok && !builder_bytes(b, out, (size_t)(q - out));
        ok = ok && !*no_memory;
    }
    free(in);
    free(out);
    return ok;
}

static bool convert_all(const char *to, const char *from_name, Text t, size_t *at, const char *head,
                        size_t n_head, Text *out, Err *e)
{
    *out = (Text){0};
    e->text[0] = 0;
    iconv_t how;
    if (!open_converter(to, from_name, &how))
        return err_set(e, "This system cannot convert between %s and %s", from_name, to);
    TextBuilder b = {0};
    bool no_memory = !builder_bytes(&b, head, n_head);
    bool ok = !no_memory && convert(how, t, at, &b, &no_memory);
    iconv_close(how);
    ok = ok && builder_finish(&b, out);
    if (!ok)
        builder_drop(&b);
    if (no_memory)
        err_set(e, "There is not enough memory for converting it");
    return ok;
}

bool encoding_read(Text raw, const Encoding *x, Text *out, Err *e)
{
    const char *mark;
    size_t at = mark_of(x, &mark);
    if (!x->name[0])
        return text_slice(raw, at, text_len(raw) - at, out) || err_set(e, "There is not enough memory");
    if (convert_all("utf-8", x->name, raw, &at, "", 0, out, e))
        return true;
    if (!e->text[0])
        err_set(e, "Byte %zu is not %s", at + 1, x->name);
    return false;
}

/* Some conversions change letters without a word: what was written must read as what it was. *at is the first
 * place that does not. */
static bool comes_back(Text t, const Encoding *x, Text bytes, size_t mark, size_t *at)
{
    Err ignored;
    Text back;
    size_t from = mark;
    if (!convert_all("utf-8", x->name, bytes, &from, "", 0, &back, &ignored)) {
        *at = 0;
        return false;
    }
    size_t n = text_common_start(t, back);
    bool same = n == text_len(t) && n == text_len(back);
    while (n && (n == text_len(t) || (text_byte(t, n) & 0xc0) == 0x80))
        n--;
    text_drop(&back);
    *at = n;
    return same;
}

bool encoding_write(Text t, const Encoding *x, Text *out, size_t *at, Err *e)
{
    const char *mark = "";
    size_t n = mark_of(x, &mark);
    *at = 0;
    if (!x->name[0]) {
        *out = text_keep(t);
        if (n && !text_insert(out, 0, mark, n)) {
            text_drop(out);
            return err_set(e, "There is not enough memory");
        }
        return true;
    }
    if (convert_all(x->name, "utf-8", t, at, mark, n, out, e)) {
        if (comes_back(t, x, *out, n, at))
            return true;
        text_drop(out);
    }
    if (!e->text[0]) {
        char bytes[GLYPH_MAX_BYTES], shown[GLYPH_MAX_BYTES + 1];
        size_t got = text_read(t, *at, bytes, 4);
        int32_t code;
        size_t used = utf8_decode(bytes, got, &code);
        snprintf(shown, sizeof shown, code < 0 ? "\\x%02x" : "%.*s",
                 code < 0 ? (int)(unsigned char)bytes[0] : (int)used, bytes);
        size_t line = text_line_of(t, *at);
        err_set(e, "“%s” in line %zu cannot be written as %s", shown, line + 1, x->name);
    }
    return false;
}

/* ---- guessing ---- */

/* Counts characters of more than one byte, and bytes that belong to none. */
static void tally(const char *s, size_t n, size_t *many, size_t *wrong, size_t *odd)
{
    for (size_t i = 0; i + 4 <= n || (i < n && n < JUDGED);) {
        int32_t code;
        size_t used = utf8_decode(s + i, n - i, &code);
        *many += used > 1;
        *wrong += code < 0;
        bool layout = code == '\n' || code == '\t' || code == '\r' || code == '\f' || code == 27;
        *odd += (code >= 0 && code < 32 && !layout) || (code >= 0x7f && code < 0xa0);
        i += used;
    }
}

#ifdef HAVE_UCHARDET
/* With a few letters to go by, statistics are noise: then the most common alphabet is likeliest. */
static void prefer_western(const char *s, size_t n, char out[ENCODING_NAME_MAX])
{
    size_t high = 0, controls = 0;
    for (size_t i = 0; i < n; i++) {
        high += (unsigned char)s[i] >= 0x80;
        controls += (unsigned char)s[i] >= 0x80 && (unsigned char)s[i] < 0xa0;
    }
    bool latin = strncmp(out, "iso-8859-", 9) == 0 || strncmp(out, "windows-125", 11) == 0 ||
                 strncmp(out, "mac-", 4) == 0 || strncmp(out, "ibm", 3) == 0;
    if (high < FEW && (latin || !out[0]))
        snprintf(out, ENCODING_NAME_MAX, "%s", controls ? "windows-1252" : "iso-8859-1");
}
#endif

#ifdef HAVE_UCHARDET
/* Loaded when it is needed first: with the C++ library below it, it takes its time to start. */
static bool guess_by_library(const char *s, size_t n, char out[ENCODING_NAME_MAX])
{
    static struct {
        bool tried, there;
        __typeof__(&uchardet_new) begin;
        __typeof__(&uchardet_handle_data) handle;
        __typeof__(&uchardet_data_end) end;
        __typeof__(&uchardet_get_charset) charset;
        __typeof__(&uchardet_delete) drop;
    } lib;
    if (!lib.tried) {
        void *library = dlopen("libuchardet.so.0", RTLD_NOW);
        lib.tried = true;
        lib.begin = library ? (__typeof__(lib.begin))dlsym(library, "uchardet_new") : NULL;
        lib.handle = library ? (__typeof__(lib.handle))dlsym(library, "uchardet_handle_data") : NULL;
        lib.end = library ? (__typeof__(lib.end))dlsym(library, "uchardet_data_end") : NULL;
        lib.charset = library ? (__typeof__(lib.charset))dlsym(library, "uchardet_get_charset") : NULL;
        lib.drop = library ? (__typeof__(lib.drop))dlsym(library, "uchardet_delete") : NULL;
        lib.there = lib.begin && lib.handle && lib.end && lib.charset && lib.drop;
    }
    if (!lib.there)
        return false;
    uchardet_t u = lib.begin();
    bool ok = lib.handle(u, s, n) == 0;
    lib.end(u);
    const char *name = ok ? lib.charset(u) : "";
    size_t len = strlen(name);
    ok = len < ENCODING_NAME_MAX;
    for (size_t i = 0; ok && i <= len; i++)
        out[i] = (char)tolower((unsigned char)name[i]);
    lib.drop(u);
    prefer_western(s, n, out);
    return ok;
}
#endif

static bool guess_name(const char *s, size_t n, char out[ENCODING_NAME_MAX])
{
#ifdef HAVE_UCHARDET
    if (guess_by_library(s, n, out))
        return out[0] && strcmp(out, "utf-8") != 0 && strcmp(out, "ascii") != 0;
#endif
    (void)s, (void)n;
    snprintf(out, ENCODING_NAME_MAX, "iso-8859-1");
    return true;
}

static bool same_text(Text a, Text b)
{
    return text_len(a) == text_len(b) && text_same_bytes(a, 0, b, 0, text_len(a));
}

/* Only what comes back byte for byte, and does not read like a program's code, is believed. */
static bool believable(Text raw, const Encoding *x)
{
    Text t = {0}, back = {0};
    Err e;
    size_t at, many = 0, wrong = 0, odd = 0;
    if (!encoding_read(raw, x, &t, &e))
        return false;
    bool ok = encoding_write(t, x, &back, &at, &e) && same_text(raw, back);
    size_t n = text_len(t) < JUDGED ? text_len(t) : JUDGED;
    char *head = mem_get(n + 1);
    tally(head, text_read(t, 0, head, n), &many, &wrong, &odd);
    free(head);
    text_drop(&t);
    text_drop(&back);
    return ok && odd == 0;
}

Encoding encoding_guess(Text raw)
{
    Encoding x = {.name = ""};
    char head[4];
    size_t n = text_read(raw, 0, head, sizeof head);
    for (size_t i = 0; i < sizeof byte_order_marks / sizeof *byte_order_marks; i++)
        if (n >= byte_order_marks[i].n &&
            memcmp(head, byte_order_marks[i].bytes, byte_order_marks[i].n) == 0) {
            x.mark = true;
            snprintf(x.name, sizeof x.name, "%s", byte_order_marks[i].encoding);
            if (x.name[0] && (text_len(raw) > GUESSED_MOST || !believable(raw, &x)))
                x = (Encoding){.name = ""};
            return x;
        }
    size_t many = 0, wrong = 0, odd = 0, judged = text_len(raw) < JUDGED ? text_len(raw) : JUDGED;
    char *bytes = mem_get(judged + 1);
    tally(bytes, text_read(raw, 0, bytes, judged), &many, &wrong, &odd);
    /* Mostly UTF-8 with some broken bytes is not another encoding, nor is what has zeros in it. */
    bool other = wrong > many && odd == 0 && text_len(raw) <= GUESSED_MOST;
    if (other && guess_name(bytes, judged, x.name) && believable(raw, &x))
        x.guessed = true;
    else
        x.name[0] = 0;
    free(bytes);
    return x;
}

bool encoding_named(const char *name, Encoding *out)
{
    *out = (Encoding){.name = ""};
    if (strlen(name) >= ENCODING_NAME_MAX || strchr(name, '/')) /* "//" begins a wish for something looser */
        return false;
    for (size_t i = 0; name[i]; i++)
        out->name[i] = (char)tolower((unsigned char)name[i]);
    if (strcmp(out->name, "utf-8") == 0 || strcmp(out->name, "utf8") == 0) {
        out->name[0] = 0;
        return true;
    }
    iconv_t how;
    if (!open_converter("utf-8", out->name, &how))
        return false;
    iconv_close(how);
    return true;
}

const char *encoding_label(const Encoding *x, bool utf8, char out[ENCODING_LABEL])
{
    snprintf(out, ENCODING_LABEL, "%s%s%s",
             x->name[0] ? x->name
             : utf8     ? "utf-8"
                        : "bytes",
             x->mark ? " with mark" : "", x->guessed ? "?" : "");
    return out;
}

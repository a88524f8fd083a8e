#include "glyph.h"

#include <stdio.h>
#include <string.h>
#include <utf8proc.h>
#include <wchar.h>

size_t utf8_decode(const char *at, size_t n, int32_t *code)
{
    const unsigned char *u = (const unsigned char *)at;
    if (u[0] < 0x80) {
        *code = u[0];
        return 1;
    }
    utf8proc_int32_t c;
    utf8proc_ssize_t len = utf8proc_iterate(u, (utf8proc_ssize_t)(n < 4 ? n : 4), &c);
    if (len <= 0) {
        *code = -1;
        return 1;
    }
    *code = c;
    return (size_t)len;
}

size_t utf8_encode(uint32_t code, char out[4])
{
    return (size_t)utf8proc_encode_char((utf8proc_int32_t)code, (utf8proc_uint8_t *)out);
}

bool code_is_capital(int32_t code)
{
    utf8proc_category_t c = utf8proc_category(code);
    return c == UTF8PROC_CATEGORY_LU || c == UTF8PROC_CATEGORY_LT;
}

int32_t code_to_capital(int32_t code)
{
    return utf8proc_toupper(code);
}

static bool plain_ascii(char c)
{
    return c >= 0x20 && c < 0x7f;
}

/* A code point of its own that can be sent to every terminal: all agree on its width. */
static bool presentable(int32_t code, int *width)
{
    switch (utf8proc_category(code)) {
    case UTF8PROC_CATEGORY_CC:
    case UTF8PROC_CATEGORY_CF:
    case UTF8PROC_CATEGORY_CN:
    case UTF8PROC_CATEGORY_CO:
    case UTF8PROC_CATEGORY_CS:
    case UTF8PROC_CATEGORY_ZL:
    case UTF8PROC_CATEGORY_ZP:
        return false;
    default:
        break;
    }
    *width = utf8proc_charwidth(code);
    return *width == wcwidth((wchar_t)code);
}

/* The width of a letter that neither joins its neighbours nor needs an escape; 0 for all others. What most
 * texts are made of is looked up once. */
static int simple_width(int32_t code)
{
    enum { UNKNOWN, OTHERS, WIDTH_1, WIDTH_2 };
    static uint8_t known[0x10000];
    if (code < 0 || code >= (int32_t)sizeof known)
        return 0;
    if (known[code] == UNKNOWN) {
        int width = 0;
        bool simple = utf8proc_get_property(code)->boundclass == UTF8PROC_BOUNDCLASS_OTHER &&
                      presentable(code, &width) && (width == 1 || width == 2);
        known[code] = simple ? (width == 1 ? WIDTH_1 : WIDTH_2) : OTHERS;
    }
    return known[code] - OTHERS;
}

int glyph_simple(const char *at, size_t n, size_t *len)
{
    int32_t code, next;
    *len = utf8_decode(at, n, &code);
    int width = simple_width(code);
    if (width == 0 || *len == n)
        return width;
    utf8_decode(at + *len, n - *len, &next);
    return simple_width(next) ? width : 0;
}

size_t glyph_length(const char *at, size_t n)
{
    if (n == 0)
        return 0;
    if (plain_ascii(at[0]) && (n == 1 || (unsigned char)at[1] < 0x80))
        return 1;
    if (n > GLYPH_MAX_BYTES)
        n = GLYPH_MAX_BYTES;
    int32_t code, next;
    utf8proc_int32_t state = 0;
    size_t len = utf8_decode(at, n, &code);
    while (code >= 0 && len < n) {
        size_t more = utf8_decode(at + len, n - len, &next);
        if (next < 0 || (simple_width(code) && simple_width(next)) ||
            utf8proc_grapheme_break_stateful(code, next, &state))
            break;
        len += more;
        code = next;
    }
    return len;
}

size_t glyph_before(const char *at, size_t n)
{
    if (n == 0)
        return 0;
    if (n >= 2 && plain_ascii(at[n - 1]) && (unsigned char)at[n - 2] < 0x80)
        return n - 1;
    size_t pos = 0;
    for (;;) {
        size_t len = glyph_length(at + pos, n - pos);
        if (pos + len >= n)
            return pos;
        pos += len;
    }
}

static bool other(int32_t code)
{
    return code >= 0x80 && utf8proc_get_property(code)->boundclass == UTF8PROC_BOUNDCLASS_OTHER;
}

bool character_begins(const char *s, size_t p, size_t n)
{
    unsigned char a = (unsigned char)s[p - 1], b = (unsigned char)s[p];
    if (a < 0x80 && b < 0x80)
        return !(a == '\r' && b == '\n');
    int32_t code, before;
    size_t back = 1;
    while (back < 4 && back < p && ((unsigned char)s[p - back] & 0xc0) == 0x80)
        back++;
    bool whole = utf8_decode(s + p - back, back, &before) == back;
    utf8_decode(s + p, n - p, &code);
    return whole && (other(before) || (before >= 0x20 && before < 0x7f)) &&
           (other(code) || (code >= 0x20 && code < 0x7f)) && n - p >= 4;
}

static void escape_code(Glyph *g, uint32_t code)
{
    g->n_codes = 0;
    g->width = snprintf(g->escape, sizeof g->escape, code < 0x80 ? "\\x%02x" : "\\u{%x}", code);
}

void glyph_read(const char *at, size_t n, Glyph *g)
{
    memset(g, 0, sizeof *g);
    g->bytes = glyph_length(at, n);
    if (g->bytes == 0)
        return;
    if (plain_ascii(at[0]) && g->bytes == 1) {
        g->width = g->n_codes = 1;
        g->codes[0] = (uint32_t)at[0];
        return;
    }
    int32_t code;
    size_t len = utf8_decode(at, g->bytes, &code);
    if (len == g->bytes && simple_width(code)) {
        g->width = simple_width(code);
        g->n_codes = 1;
        g->codes[0] = (uint32_t)code;
        return;
    }
    if (code < 0) {
        g->width = snprintf(g->escape, sizeof g->escape, "\\x%02x", (unsigned char)at[0]);
        return;
    }
    if (code == '\t' || code == '\n' || (code == '\r' && g->bytes == 2)) {
        g->n_codes = 1;
        g->codes[0] = code == '\t' ? '\t' : '\n';
        return;
    }
    int width = 0;
    if (!presentable(code, &width) || width == 0) {
        g->bytes = len;
        escape_code(g, (uint32_t)code);
        return;
    }
    g->width = width;
    g->codes[g->n_codes++] = (uint32_t)code;
    /* Combining characters share the cell of their base. Where a cluster holds more than
     * that, it is shown in parts, so that every terminal counts the same cells. */
    for (size_t pos = len; pos < g->bytes; pos += len) {
        len = utf8_decode(at + pos, g->bytes - pos, &code);
        bool selector = code == 0xfe0e || code == 0xfe0f;
        int w = 0;
        if (selector)
            continue;
        if (!presentable(code, &w) || w != 0 || g->n_codes == GLYPH_MAX_CODES) {
            g->bytes = pos;
            return;
        }
        g->codes[g->n_codes++] = (uint32_t)code;
    }
}

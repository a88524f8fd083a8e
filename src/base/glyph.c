#include "base/glyph.h"

#include <stdio.h>
#include <string.h>
#include <utf8proc.h>
#include <unistd.h>
#include <wchar.h>
#ifdef __SSE2__
#include <emmintrin.h>
#endif

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

/* What most texts are made of is looked up once: letters that join no neighbours, and marks that share the
 * cell of whatever letter stands before them. Everything else is to be looked at closely. */
typedef enum GlyphClass {
    CLASS_UNKNOWN,
    CLASS_OTHER,
    CLASS_LETTER,
    CLASS_WIDE_LETTER,
    CLASS_MARK
} GlyphClass;

static GlyphClass find_class(int32_t code)
{
    const utf8proc_property_t *p = utf8proc_get_property(code);
    int width = 0;
    if (!presentable(code, &width))
        return CLASS_OTHER;
    /* Pictures join others only by what is none of these sorts. */
    bool letter = p->boundclass == UTF8PROC_BOUNDCLASS_OTHER ||
                  p->boundclass == UTF8PROC_BOUNDCLASS_EXTENDED_PICTOGRAPHIC;
    if (letter && (width == 1 || width == 2))
        return width == 1 ? CLASS_LETTER : CLASS_WIDE_LETTER;
    /* A virama (class 9) may join the letter after it too. */
    bool mark = p->boundclass == UTF8PROC_BOUNDCLASS_EXTEND && width == 0 && p->combining_class != 9;
    return mark ? CLASS_MARK : CLASS_OTHER;
}

static inline GlyphClass class_of(int32_t code)
{
    static uint8_t known[0x10000];
    if ((uint32_t)code >= sizeof known)
        return CLASS_OTHER;
    GlyphClass s = (GlyphClass)known[code];
    return s ? s : (GlyphClass)(known[code] = (uint8_t)find_class(code));
}

/* The width of a letter that neither joins its neighbours nor needs an escape; 0 for all others. */
static int simple_width(int32_t code)
{
    GlyphClass s = class_of(code);
    return s == CLASS_LETTER ? 1 : s == CLASS_WIDE_LETTER ? 2 : 0;
}

/* How many of n bytes are plain ASCII, in steps of sixteen. */
static size_t ascii_steps(const char *at, size_t n)
{
    size_t done = 0;
#ifdef __SSE2__
    const __m128i least = _mm_set1_epi8(0x1f), most = _mm_set1_epi8(0x7f);
    for (; done + 16 <= n; done += 16) {
        __m128i b = _mm_loadu_si128((const __m128i *)(const void *)(at + done));
        if (_mm_movemask_epi8(_mm_and_si128(_mm_cmpgt_epi8(b, least), _mm_cmplt_epi8(b, most))) != 0xffff)
            break;
    }
#else
    (void)at, (void)n;
#endif
    return done;
}

/* utf8_decode for what most texts are made of; -1 also for whatever is longer than three bytes. */
static inline size_t decode_short(const char *at, size_t n, int32_t *code)
{
    const unsigned char *u = (const unsigned char *)at;
    *code = u[0] < 0x80 ? u[0] : -1;
    if (u[0] < 0xc2)
        return 1;
    if (n > 1 && u[0] < 0xe0 && (u[1] & 0xc0) == 0x80) {
        *code = (u[0] & 0x1f) << 6 | (u[1] & 0x3f);
        return 2;
    }
    if (n > 2 && (u[0] & 0xf0) == 0xe0 && (u[1] & 0xc0) == 0x80 && (u[2] & 0xc0) == 0x80) {
        int32_t c = (u[0] & 0x0f) << 12 | (u[1] & 0x3f) << 6 | (u[2] & 0x3f);
        *code = c < 0x800 || (c >= 0xd800 && c < 0xe000) ? -1 : c;
        return 3;
    }
    return 1;
}

/* How many letters of one cell may follow, so that no limit is passed. */
static size_t room_for(const GlyphSpan *most, const GlyphSpan *now, size_t p, size_t n)
{
    size_t room = most->bytes < n ? most->bytes : n;
    room = room > p ? room - p : 0;
    room = room < most->cells - now->cells ? room : most->cells - now->cells;
    return room < most->chars - now->chars ? room : most->chars - now->chars;
}

enum { BYTE_CELLS = 4 /* of "\\xff" */ };

GlyphSpan glyph_span(const char *at, size_t n, GlyphSpan most)
{
    GlyphSpan now = {0};
    size_t width = 0, marks = 0; /* of the letter that ends at p, which is taken when its end is sure */
    for (size_t p = 0; p < n;) {
        int32_t code;
        size_t len = decode_short(at + p, n - p, &code);
        if (code < 0 &&
            n - p >= 4) { /* a byte that is no UTF-8 is shown as an escape, and ends what is before it */
            int32_t real;
            utf8_decode(at + p, n - p, &real);
            size_t cells = width + BYTE_CELLS, chars = (width > 0) + 1;
            if (real >= 0 || p + 1 > most.bytes || now.cells + cells > most.cells ||
                now.chars + chars > most.chars)
                code = real; /* looked at closely */
            else {
                now = (GlyphSpan){p + 1, now.cells + cells, now.chars + chars};
                width = marks = 0;
                p++;
                continue;
            }
        }
        GlyphClass s = class_of(code);
        if (s == CLASS_MARK && width && ++marks < GLYPH_MAX_CODES) {
            p += len;
            continue;
        }
        bool ends =
            s == CLASS_LETTER || s == CLASS_WIDE_LETTER || (s == CLASS_OTHER && code >= 0 && code < 0x80);
        if (width && (!ends || p > most.bytes || now.cells + width > most.cells || now.chars == most.chars))
            break;
        now = (GlyphSpan){p, now.cells + width, now.chars + (width > 0)};
        if (!ends || s == CLASS_OTHER)
            break;
        size_t plain = code < 0x80 ? ascii_steps(at + p, room_for(&most, &now, p, n)) : 0;
        if (plain) { /* all but the last, which may still get marks */
            now = (GlyphSpan){p + plain - 1, now.cells + plain - 1, now.chars + plain - 1};
            len = plain;
        }
        width = s == CLASS_LETTER ? 1 : 2;
        marks = 0;
        p += len;
    }
    return now;
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

bool glyph_begins(const char *s, size_t p, size_t n)
{
    unsigned char a = (unsigned char)s[p - 1], b = (unsigned char)s[p];
    if (a < 0x80 && b < 0x80)
        return !(a == '\r' && b == '\n');
    int32_t code, before;
    size_t back = 1;
    if (n - p < 4 || p < 4)
        return false;
    while (back < 4 && ((unsigned char)s[p - back] & 0xc0) == 0x80)
        back++;
    size_t len = utf8_decode(s + p - back, back + n - p, &before);
    if (before >= 0 && len > back) /* in the middle of one */
        return false;
    bool whole = before >= 0 && len == back;
    utf8_decode(s + p, n - p, &code);
    if (!whole || code < 0) /* a byte that is no UTF-8 stands alone */
        return true;
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
    glyph_read_known(at, glyph_length(at, n), g);
}

void glyph_read_known(const char *at, size_t length, Glyph *g)
{
    memset(g, 0, sizeof *g);
    g->bytes = length;
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

void glyph_print(FILE *to, const char *s, size_t n)
{
    if (!isatty(fileno(to))) {
        fwrite(s, 1, n, to);
        return;
    }
    Glyph g;
    for (size_t i = 0; i < n; i += g.bytes) {
        glyph_read(s + i, n - i, &g);
        if (g.n_codes && (g.width || g.codes[0] == '\n' || g.codes[0] == '\t'))
            fwrite(s + i, 1, g.bytes, to);
        else
            fputs(g.escape, to);
    }
}

size_t glyph_cells(const Glyph *g, size_t cells, size_t tab)
{
    if (g->n_codes == 1 && g->codes[0] == '\t')
        return tab - cells % tab;
    return (size_t)g->width;
}

#include "input/decoder.h"

#include "base/bytes.h"
#include "base/glyph.h"
#include "base/mem.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>

enum {
    BETWEEN_BYTES = 500, /* longest pause within a sequence */
    TAKE_BACK = 1000,    /* an Esc is taken back when its tail comes within this time */
    PASTE_STALL = 1000,  /* a paste is shown in parts when it pauses that long */
    SEQUENCE_MAX = 64,
    REPORT_MAX = 4096, /* bytes of an answer that are looked through for its end, each time some come */
    REPORT_LEAST = 12, /* that nobody types within half a second after Alt and a bracket */
    LEARNED_MAX = 64,
    LEARNED_BYTES = 16,
    PARAMS_MAX = 8,
};

static const char paste_end[] = "\033[201~";
enum { PASTE_END = 6 };

struct Decoder {
    Bytes in;
    size_t head; /* bytes of `in` handed out already */
    unsigned esc_wait;
    uint64_t last_byte;
    uint64_t lone_esc; /* when an Esc was reported for want of more; 0: not */
    bool after_esc;    /* the Esc at the head follows another one at once */
    bool take_back;    /* the sequence at the head began with that Esc */
    bool skipping;     /* inside a sequence that is too long, */
    bool answering;    /* or an answer of the terminal that is: nothing of it is a key */
    bool in_paste, paste_shown;
    bool lone_byte; /* the last read was one byte after a silence, within a paste */
    Bytes paste;
    struct {
        char bytes[LEARNED_BYTES];
        size_t n;
        Key key;
    } learned[LEARNED_MAX];
    size_t n_learned;
};

Decoder *decoder_new(unsigned esc_wait)
{
    Decoder *d = mem_get(sizeof *d);
    d->esc_wait = esc_wait;
    return d;
}

void decoder_free(Decoder *d)
{
    if (!d)
        return;
    bytes_free(&d->in);
    bytes_free(&d->paste);
    free(d);
}

void decoder_learn(Decoder *d, const char *bytes, Key key)
{
    size_t n = strlen(bytes);
    if (n < 3 || n >= LEARNED_BYTES || bytes[0] != '\033' || d->n_learned == LEARNED_MAX)
        return;
    memcpy(d->learned[d->n_learned].bytes, bytes, n);
    d->learned[d->n_learned].n = n;
    d->learned[d->n_learned++].key = key;
}

void decoder_discard(Decoder *d)
{
    bytes_clear(&d->in);
    d->head = 0;
    d->take_back = d->skipping = false;
}

/* ---- tables ---- */

typedef struct Named {
    int sign;
    KeyCode code;
    unsigned mods;
} Named;

/* The final byte of "Esc [ …" and "Esc O …". */
static const Named by_final[] = {
    {'A', K_UP, 0},           {'B', K_DOWN, 0},          {'C', K_RIGHT, 0},        {'D', K_LEFT, 0},
    {'H', K_HOME, 0},         {'F', K_END, 0},           {'P', K_F1, 0},           {'Q', K_F1 + 1, 0},
    {'R', K_F1 + 2, 0},       {'S', K_F1 + 3, 0},        {'Z', K_TAB, MOD_SHIFT},  {'a', K_UP, MOD_SHIFT},
    {'b', K_DOWN, MOD_SHIFT}, {'c', K_RIGHT, MOD_SHIFT}, {'d', K_LEFT, MOD_SHIFT},
};

/* The number of "Esc [ number ~". */
static const Named by_number[] = {
    {1, K_HOME, 0},      {2, K_INSERT, 0},  {3, K_DELETE, 0},  {4, K_END, 0},      {5, K_PAGE_UP, 0},
    {6, K_PAGE_DOWN, 0}, {7, K_HOME, 0},    {8, K_END, 0},     {11, K_F1, 0},      {12, K_F1 + 1, 0},
    {13, K_F1 + 2, 0},   {14, K_F1 + 3, 0}, {15, K_F1 + 4, 0}, {17, K_F1 + 5, 0},  {18, K_F1 + 6, 0},
    {19, K_F1 + 7, 0},   {20, K_F1 + 8, 0}, {21, K_F1 + 9, 0}, {23, K_F1 + 10, 0}, {24, K_F1 + 11, 0},
};

/* The keypad's "Esc O letter" in application mode: what is printed on the keys. */
static const char keypad_from[] = "jklmnopqrstuvwxyX";
static const char keypad_to[] = "*+,-./0123456789=";

static bool look_up(const Named *table, size_t n, int sign, Key *k)
{
    for (size_t i = 0; i < n; i++)
        if (table[i].sign == sign) {
            *k = (Key){.code = table[i].code, .mods = table[i].mods};
            return true;
        }
    return false;
}

#define LOOK_UP(table, sign, k) look_up(table, sizeof table / sizeof *table, sign, k)

static bool ss3_key(unsigned char c, Key *k)
{
    const char *pad = strchr(keypad_from, c);
    if (c == 'M') {
        *k = (Key){.code = K_ENTER};
    } else if (pad && c) {
        *k = (Key){.code = K_CHAR, .ch = (uint32_t)keypad_to[pad - keypad_from]};
    } else if (c >= 'a' && c <= 'd') { /* rxvt: Ctrl with the arrows */
        LOOK_UP(by_final, c, k);
        k->mods = MOD_CTRL;
    } else {
        return c != 'Z' && LOOK_UP(by_final, c, k);
    }
    return true;
}

/* A byte below 0x20 or 0x7f, alone. */
static Key control_key(unsigned char c)
{
    switch (c) {
    case 0x08:
    case 0x7f:
        return (Key){.code = K_BACKSPACE};
    case '\t':
        return (Key){.code = K_TAB};
    case '\r':
    case '\n':
        return (Key){.code = K_ENTER};
    case 0x1b:
        return (Key){.code = K_ESC};
    case 0:
        return (Key){.code = K_CHAR, .mods = MOD_CTRL, .ch = ' '};
    default:
        return (Key){.code = K_CHAR, .mods = MOD_CTRL, .ch = (uint32_t)(c < 0x1b ? c + 0x60 : c + 0x40)};
    }
}

/* ---- parsing; each returns the bytes used, 0 when more are needed ---- */

static unsigned mods_of(int parameter)
{
    unsigned bits = parameter > 1 ? (unsigned)parameter - 1 : 0;
    return (bits & 7) | (bits & 8 ? MOD_ALT : 0);
}

/* Keys that a terminal reports by their character ("modified other keys"). */
static bool char_key(int code, unsigned mods, Key *k)
{
    if (code <= 0 || code > 0x10ffff || (code >= 0xd800 && code <= 0xdfff))
        return false;
    if (code < 0x20 || code == 0x7f) {
        *k = control_key((unsigned char)code);
        k->mods |= mods;
        return true;
    }
    if (code >= 57344 && code <= 63743) /* private numbers of keys we do not know */
        return false;
    uint32_t ch = (uint32_t)code;
    if (ch < 128 && (mods & MOD_CTRL))
        ch = (uint32_t)tolower((int)ch);
    else if (ch < 128 && (mods & MOD_SHIFT))
        ch = (uint32_t)toupper((int)ch);
    *k = (Key){.code = K_CHAR, .mods = mods & (MOD_CTRL | MOD_ALT), .ch = ch};
    if (k->mods == MOD_CTRL && ch == 'h')
        *k = (Key){.code = K_BACKSPACE};
    return true;
}

static void mouse_event(int b, int col, int row, bool release, Input *out)
{
    Mouse *m = &out->mouse;
    if (col < 1 || row < 1 || (b & 0xc3) > 0x41)
        return;
    out->kind = INPUT_MOUSE;
    m->row = row - 1;
    m->col = col - 1;
    m->mods = (b & 4 ? MOD_SHIFT : 0u) | (b & 8 ? MOD_ALT : 0u) | (b & 16 ? MOD_CTRL : 0u);
    m->button = (b & 3) + 1;
    if (b & 64)
        m->action = b & 1 ? MOUSE_WHEEL_DOWN : MOUSE_WHEEL_UP;
    else if (release || (b & 3) == 3)
        m->action = MOUSE_RELEASE;
    else
        m->action = b & 32 ? MOUSE_DRAG : MOUSE_PRESS;
}

static int parameters(const char *p, size_t n, int *out)
{
    int count = 0;
    memset(out, 0, PARAMS_MAX * sizeof *out);
    for (size_t i = 0; i < n; i++) {
        if (p[i] == ';') {
            if (++count == PARAMS_MAX - 1)
                break;
        } else if (p[i] == ':') { /* what follows refines the parameter; not needed */
            while (i + 1 < n && p[i + 1] != ';')
                i++;
        } else if (isdigit((unsigned char)p[i]) && out[count] < 10000000) {
            out[count] = out[count] * 10 + (p[i] - '0');
        }
    }
    return count + 1;
}

/* A whole "Esc [ parameters final" of n bytes. Unknown ones leave out->kind INPUT_NONE. */
static void read_csi(Decoder *d, const char *p, size_t n, Input *out)
{
    char final = p[n - 1];
    int a[PARAMS_MAX];
    if (n > 3 && p[2] == '<' && (final == 'M' || final == 'm')) {
        parameters(p + 3, n - 4, a);
        mouse_event(a[0], a[1], a[2], final == 'm', out);
        return;
    }
    if (n > 3 && !isdigit((unsigned char)p[2]) && p[2] != ';')
        return;
    int count = parameters(p + 2, n - 3, a);
    unsigned mods = mods_of(count > 1 ? a[1] : 0);
    Key k = {0};
    bool known = false;
    if (n == 3 && (final == 'I' || final == 'O')) {
        out->kind = INPUT_FOCUS;
        out->focus_gained = final == 'I';
        return;
    }
    if (final == '~' && a[0] == 200) {
        d->in_paste = true;
        d->paste_shown = false;
        bytes_clear(&d->paste); /* of the one before */
        return;
    }
    if (final == '~' && a[0] == 27 && count >= 3)
        known = char_key(a[2], mods, &k);
    else if (final == 'u')
        known = char_key(a[0], mods, &k);
    else if (final == '~' || final == '^' || final == '$' || final == '@')
        known = LOOK_UP(by_number, a[0], &k);
    else if (n == 3 || a[0] == 1)
        known = LOOK_UP(by_final, final, &k);
    if (!known)
        return;
    if (final != 'u' && !(final == '~' && a[0] == 27))
        k.mods |= mods;
    if (final == '^' || final == '@') /* rxvt */
        k.mods |= MOD_CTRL;
    if (final == '$' || final == '@')
        k.mods |= MOD_SHIFT;
    out->kind = INPUT_KEY;
    out->key = k;
}

static size_t parse_csi(Decoder *d, const char *p, size_t n, Input *out)
{
    if (n >= 3 && p[2] == '[') {
        if (n < 4)
            return 0;
        if (p[3] >= 'A' && p[3] <= 'E') {
            out->kind = INPUT_KEY;
            out->key = (Key){.code = (KeyCode)(K_F1 + (p[3] - 'A'))};
        }
        return (unsigned char)p[3] < 0x20 || (unsigned char)p[3] >= 0x7f ? 3 : 4;
    }
    if (n >= 3 && p[2] == 'M') { /* an old mouse report: three bytes follow */
        if (n < 6)
            return 0;
        int b = (unsigned char)p[3] - 32;
        mouse_event(b, (unsigned char)p[4] - 32, (unsigned char)p[5] - 32, (b & 3) == 3, out);
        return 6;
    }
    for (size_t i = 2; i < n; i++) {
        unsigned char c = (unsigned char)p[i];
        if (c >= 0x40 && c < 0x7f) {
            read_csi(d, p, i + 1, out);
            return i + 1;
        }
        if (c == '$' && i > 2) { /* rxvt's Shift ends with a byte that is no final one */
            bool digits = true;
            for (size_t k = 2; k < i; k++)
                digits = digits && isdigit((unsigned char)p[k]);
            if (digits) {
                read_csi(d, p, i + 1, out);
                return i + 1;
            }
        }
        if (c < 0x20 || c >= 0x7f)
            return i; /* broken: dropped up to here */
        if (i == SEQUENCE_MAX) {
            d->skipping = true;
            return i + 1;
        }
    }
    return 0;
}

/* "Esc ] 11 ; … Bel", "Esc P 1 … Esc \\": what the terminal answered to a program before us. Nobody types
 * that; a letter with Alt is not followed by a number. */
static bool begins_report(const char *p, size_t n)
{
    return n > 2 && (p[1] == ']' || p[1] == 'P') &&
           ((p[2] >= '0' && p[2] <= '9') || (p[1] == 'P' && p[2] == '>'));
}

/* One part of "rgb:1c1c/1c1c/1c1c", of one to four digits; in 0..255. */
static bool colour_part(const char **p, const char *end, unsigned *to)
{
    unsigned value = 0, most = 0;
    int digits = 0;
    for (; *p < end && isxdigit((unsigned char)**p) && digits < 5; ++*p, digits++) {
        value = value * 16 + (unsigned)(isdigit((unsigned char)**p) ? **p - '0' : (**p | 0x20) - 'a' + 10);
        most = most * 16 + 15;
    }
    *to = most ? value * 255 / most : 0;
    return digits > 0 && digits < 5;
}

/* The ground's colour, "11;rgb:RRRR/GGGG/BBBB" (xterm's control sequences); anything else says nothing. */
static void read_ground(const char *p, const char *end, Input *out)
{
    static const char begins[] = "\033]11;rgb:";
    unsigned red, green, blue;
    if ((size_t)(end - p) < sizeof begins - 1 || memcmp(p, begins, sizeof begins - 1) != 0)
        return;
    p += sizeof begins - 1;
    if (!colour_part(&p, end, &red) || p == end || *p++ != '/' || !colour_part(&p, end, &green) || p == end ||
        *p++ != '/' || !colour_part(&p, end, &blue) || p != end)
        return;
    out->kind = INPUT_GROUND;
    out->ground = red << 16 | green << 8 | blue;
}

static size_t parse_report(Decoder *d, const char *p, size_t n, Input *out)
{
    for (size_t i = 3; i < n; i++) {
        bool st = p[i] == '\033' && i + 1 < n && p[i + 1] == '\\';
        if (p[i] == '\007' || st) {
            read_ground(p, p + i, out);
            return i + (st ? 2 : 1);
        }
    }
    d->answering = n >= REPORT_MAX; /* the rest is dropped as it comes, see skip_answer */
    return d->answering ? p[n - 1] == '\033' ? n - 1 : n : 0;
}

/* One character or control byte. */
static size_t parse_char(const char *p, size_t n, bool late, Input *out)
{
    unsigned char c = (unsigned char)p[0];
    out->kind = INPUT_KEY;
    if (c < 0x20 || c == 0x7f) {
        out->key = control_key(c);
        return 1;
    }
    size_t want = c < 0x80                ? 1
                  : c >= 0xf0 && c < 0xf5 ? 4
                  : c >= 0xe0 && c < 0xf0 ? 3
                  : c >= 0xc2 && c < 0xe0 ? 2
                                          : 1;
    size_t have = 1;
    while (have < want && have < n && ((unsigned char)p[have] & 0xc0) == 0x80)
        have++;
    if (have < want && have == n && !late) {
        out->kind = INPUT_NONE;
        return 0;
    }
    int32_t code = -1;
    size_t len = utf8_decode(p, have, &code);
    out->key = code < 0 ? (Key){.code = K_BYTE, .ch = c} : (Key){.code = K_CHAR, .ch = (uint32_t)code};
    return len;
}

static size_t parse_learned(const Decoder *d, const char *p, size_t n, Input *out)
{
    for (size_t i = 0; i < d->n_learned; i++)
        if (d->learned[i].n <= n && memcmp(d->learned[i].bytes, p, d->learned[i].n) == 0) {
            out->kind = INPUT_KEY;
            out->key = d->learned[i].key;
            return d->learned[i].n;
        }
    return 0;
}

/* What begins at an Esc byte. `late`: no more bytes are coming for it. */
static size_t parse_esc(Decoder *d, const char *p, size_t n, bool late, Input *out)
{
    out->kind = INPUT_KEY;
    out->key = (Key){.code = K_ESC};
    if (n == 1)
        return late ? 1 : 0;
    if (p[1] == '\033') {
        if (n == 2)
            return late ? 1 : 0;
        /* "Esc Esc Home" in one piece is that, and no Esc with Alt+Home. */
        if (d->after_esc || (p[2] != '[' && p[2] != 'O')) {
            d->after_esc = !d->after_esc;
            return 1;
        }
        size_t used = parse_esc(d, p + 1, n - 1, late, out);
        if (used && out->kind == INPUT_KEY)
            out->key.mods |= MOD_ALT;
        return used ? used + 1 : 0;
    }
    /* On a slow line "Esc Esc Ctrl+Q" comes in one piece: that is no Alt+Ctrl+Q. */
    bool twice = d->after_esc;
    d->after_esc = false;
    if (twice && (unsigned char)p[1] < 0x20)
        return 1;
    out->kind = INPUT_NONE;
    size_t used = parse_learned(d, p, n, out);
    if (used)
        return used;
    if (p[1] == '[') {
        used = parse_csi(d, p, n, out);
        return used || !late ? used : n;
    }
    if (n == 2 && !late && (p[1] == 'O' || p[1] == ']' || p[1] == 'P'))
        return 0;
    if (begins_report(p, n)) {
        used = parse_report(d, p, n, out);
        if (used || !late)
            return used;
        if (n >= REPORT_LEAST) /* its end got lost */
            return n;
    }
    if (p[1] == 'O' && n > 2 && ss3_key((unsigned char)p[2], &out->key)) {
        out->kind = INPUT_KEY;
        return 3;
    }
    used = parse_char(p + 1, n - 1, late, out);
    if (used)
        out->key.mods |= MOD_ALT;
    return used ? used + 1 : 0;
}

/* ---- pastes ---- */

static bool next_of_paste(Decoder *d, uint64_t now, Input *out)
{
    const char *p = bytes_str(&d->in) + d->head;
    size_t n = d->in.len - d->head;
    if (d->paste_shown) { /* handed out before; begin again */
        bytes_clear(&d->paste);
        d->paste_shown = false;
    }
    const char *end = n ? memmem(p, n, paste_end, PASTE_END) : NULL;
    bool silent = now - d->last_byte >= PASTE_STALL;
    /* The way out when the end of a paste got lost: Esc, alone, after a silence. */
    bool way_out = n == 1 && *p == '\033' && d->lone_byte && now - d->last_byte >= d->esc_wait;
    size_t take = end ? (size_t)(end - p) : way_out ? 0 : n;
    if (!end && !way_out && !silent) { /* the head of an end marker waits for the rest of it */
        for (size_t keep = n < PASTE_END - 1 ? n : PASTE_END - 1; keep; keep--)
            if (memcmp(p + n - keep, paste_end, keep) == 0) {
                take = n - keep;
                break;
            }
    }
    bytes_add(&d->paste, p, take);
    d->head += take + (end ? PASTE_END : way_out ? 1 : 0);
    if (end || way_out)
        d->in_paste = false;
    else if (!silent || d->paste.len == 0)
        return false;
    *out = (Input){.kind = INPUT_PASTE, .bytes = bytes_str(&d->paste), .n_bytes = d->paste.len};
    out->paste_goes_on = d->in_paste;
    d->paste_shown = true;
    return true;
}

/* ---- the public calls ---- */

void decoder_feed(Decoder *d, const void *bytes, size_t n, uint64_t now)
{
    if (n == 0)
        return;
    const char *p = bytes;
    if (d->head == d->in.len) {
        bytes_clear(&d->in);
        d->head = 0;
        if (d->lone_esc && now - d->lone_esc <= TAKE_BACK && !d->in_paste && n >= 2 &&
            (*p == '[' || *p == 'O')) {
            /* Only the whole tail of a sequence we know takes the Esc back. */
            Input probe = {0};
            Bytes whole = {0};
            bytes_add(&whole, "\033", 1);
            bytes_add(&whole, p, n);
            bool was_in_paste = d->in_paste, was_skipping = d->skipping;
            size_t used = parse_esc(d, whole.at, whole.len, true, &probe);
            bool opens_paste = d->in_paste;
            d->in_paste = was_in_paste;
            d->skipping = was_skipping;
            bytes_free(&whole);
            bool plain = (probe.key.mods & MOD_ALT) == 0 || *p == '[';
            if (used && (opens_paste || (probe.kind != INPUT_NONE && plain))) {
                bytes_add(&d->in, "\033", 1);
                d->take_back = true;
            }
        }
        d->after_esc = d->lone_esc && now - d->lone_esc <= TAKE_BACK && *p == '\033';
        d->lone_esc = 0;
    }
    d->answering = d->answering && now - d->last_byte < BETWEEN_BYTES;
    d->lone_byte = n == 1 && now - d->last_byte >= PASTE_STALL;
    d->last_byte = now;
    bytes_add(&d->in, p, n);
}

/* How long the bytes at the head may wait for more. */
static unsigned patience(const Decoder *d)
{
    const char *p = bytes_str(&d->in) + d->head;
    size_t n = d->in.len - d->head;
    bool esc_only = p[0] == '\033' && (n == 1 || (n == 2 && p[1] == '\033'));
    return esc_only && !d->answering ? d->esc_wait : BETWEEN_BYTES;
}

/* Drops the rest of a sequence that is too long. */
static void skip(Decoder *d)
{
    while (d->skipping && d->head < d->in.len) {
        unsigned char c = (unsigned char)d->in.at[d->head];
        if (c >= 0x20 && c < 0x7f)
            d->head++;
        if (c < 0x20 || c >= 0x40)
            d->skipping = false;
    }
}

/* Drops the rest of an answer that is too long to be kept; what cannot be part of one ends it, and so does a
 * silence. */
static void skip_answer(Decoder *d, bool late)
{
    while (d->answering && d->head < d->in.len) {
        const char *p = d->in.at + d->head;
        size_t n = d->in.len - d->head;
        unsigned char c = (unsigned char)*p;
        if (c == '\033' && n == 1 && !late)
            return;
        bool st = c == '\033' && n > 1 && p[1] == '\\';
        d->head += st ? 2 : c == '\007' || c >= 0x20;
        d->answering = c >= 0x20;
    }
}

bool decoder_next(Decoder *d, uint64_t now, Input *out)
{
    for (;;) {
        *out = (Input){0};
        if (d->in_paste)
            return next_of_paste(d, now, out);
        skip(d);
        if (d->answering && d->head < d->in.len)
            skip_answer(d, now - d->last_byte >= BETWEEN_BYTES);
        if (d->answering)
            return false;
        const char *p = bytes_str(&d->in) + d->head;
        size_t n = d->in.len - d->head;
        if (n == 0)
            return false;
        bool late = now - d->last_byte >= patience(d);
        size_t used = *p == '\033' ? parse_esc(d, p, n, late, out) : parse_char(p, n, late, out);
        if (used == 0)
            return false;
        if (out->kind == INPUT_KEY && out->key.code == K_ESC && n == used && !d->take_back)
            d->lone_esc = now ? now : 1;
        out->n_raw = used < INPUT_RAW_MAX ? used : INPUT_RAW_MAX;
        memcpy(out->raw, p, out->n_raw);
        out->takes_back_esc = d->take_back;
        d->take_back = false;
        d->head += used;
        if (out->kind != INPUT_NONE || out->takes_back_esc)
            return true;
    }
}

int decoder_wait(const Decoder *d, uint64_t now)
{
    size_t n = d->in.len - d->head;
    uint64_t limit;
    if (d->in_paste) {
        bool esc = n == 1 && d->in.at[d->head] == '\033' && d->lone_byte;
        if (n == 0 && (d->paste.len == 0 || d->paste_shown))
            return -1;
        limit = esc ? d->esc_wait : PASTE_STALL;
    } else if (n == 0) {
        return -1;
    } else {
        limit = patience(d);
    }
    uint64_t due = d->last_byte + limit;
    return due > now ? (int)(due - now) : 0;
}

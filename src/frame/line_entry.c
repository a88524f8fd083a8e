#include "frame/line_entry.h"

#include <ctype.h>
#include <string.h>

void line_entry_set(LineEntry *l, const char *text)
{
    bytes_clear(&l->text);
    bytes_add_str(&l->text, text);
    l->at = l->text.len;
    l->selected = false;
    l->left = 0;
}

void line_entry_insert(LineEntry *l, const char *bytes, size_t n)
{
    if (l->selected)
        line_entry_set(l, "");
    for (size_t i = 0; i < n; i++) { /* an answer is one line and no string within has a zero */
        if (bytes[i] == '\n' || bytes[i] == '\r' || bytes[i] == 0)
            continue;
        bytes_insert(&l->text, l->at++, bytes + i, 1);
    }
}

static void cut(LineEntry *l, size_t from, size_t to)
{
    bytes_delete(&l->text, from, to - from);
    l->at = from;
}

static size_t left_of(const LineEntry *l)
{
    return l->at ? glyph_before(bytes_str(&l->text), l->at) : 0;
}

static size_t right_of(const LineEntry *l)
{
    return l->at + glyph_length(bytes_str(&l->text) + l->at, l->text.len - l->at);
}

/* Paths are what is mostly typed here: a word ends at a slash too. */
static bool word_byte(char c)
{
    return isalnum((unsigned char)c) || (unsigned char)c >= 0x80 || c == '_' || c == '-' || c == '.';
}

static size_t word_left(const LineEntry *l)
{
    size_t p = l->at;
    while (p && !word_byte(l->text.at[p - 1]))
        p--;
    while (p && word_byte(l->text.at[p - 1]))
        p--;
    return p;
}

static size_t word_right(const LineEntry *l)
{
    size_t p = l->at;
    while (p < l->text.len && !word_byte(l->text.at[p]))
        p++;
    while (p < l->text.len && word_byte(l->text.at[p]))
        p++;
    return p;
}

static bool chord(LineEntry *l, uint32_t ch)
{
    switch (ch) {
    case 'a':
        l->at = 0;
        return true;
    case 'e':
        l->at = l->text.len;
        return true;
    case 'w':
        cut(l, word_left(l), l->at);
        return true;
    case 'u':
        cut(l, 0, l->at);
        return true;
    case 'k':
        cut(l, l->at, l->text.len);
        return true;
    case 'd':
        cut(l, l->at, right_of(l));
        return true;
    default:
        return false;
    }
}

bool line_entry_key(LineEntry *l, Key k)
{
    if (key_types(k)) {
        char bytes[4] = {(char)k.ch};
        line_entry_insert(l, bytes, k.code == K_CHAR ? utf8_write(k.ch, bytes) : 1);
        return true;
    }
    bool was_selected = l->selected;
    l->selected = false;
    if (k.code == K_CHAR && k.mods == MOD_CTRL)
        return chord(l, k.ch);
    bool words = (k.mods & MOD_CTRL) != 0;
    switch (k.code) {
    case K_BACKSPACE:
        if (was_selected)
            line_entry_set(l, "");
        else
            cut(l, left_of(l), l->at);
        return true;
    case K_DELETE:
        if (was_selected)
            line_entry_set(l, "");
        else
            cut(l, l->at, right_of(l));
        return true;
    case K_LEFT:
        l->at = words ? word_left(l) : left_of(l);
        return true;
    case K_RIGHT:
        l->at = words ? word_right(l) : right_of(l);
        return true;
    case K_HOME:
        l->at = 0;
        return true;
    case K_END:
        l->at = l->text.len;
        return true;
    default:
        l->selected = was_selected;
        return false;
    }
}

void line_entry_paint(LineEntry *l, Frame *f, int row, int from, int to, Style style)
{
    int room = to - from > 1 ? to - from - 1 : 0, cursor = 0, cells = 0;
    const char *s = bytes_str(&l->text);
    Glyph g;
    cursor = line_entry_column(l, l->left, l->at);
    if (cursor < l->left)
        l->left = cursor;
    if (cursor > l->left + room)
        l->left = cursor - room;
    if (l->selected)
        style = ST_MARK;
    for (size_t p = 0; p < l->text.len; p += g.bytes) {
        frame_read(s + p, l->text.len - p, &g);
        int col = from + cells - l->left;
        cells += g.width;
        if (col >= from && col + g.width <= to)
            frame_glyph(f, row, col, to, &g, style);
    }
    f->cursor_row = row;
    f->cursor_col = from + cursor - l->left;
}

int line_entry_column(const LineEntry *l, int from, size_t at)
{
    int cells = 0;
    Glyph g;
    for (size_t p = 0; p < at && p < l->text.len; p += g.bytes) {
        frame_read(bytes_str(&l->text) + p, l->text.len - p, &g);
        cells += g.width;
    }
    return from + cells - l->left;
}

void line_entry_go(LineEntry *l, int from, int col)
{
    size_t at = 0;
    Glyph g;
    while (at < l->text.len && line_entry_column(l, from, at) < col) {
        frame_read(bytes_str(&l->text) + at, l->text.len - at, &g);
        if (line_entry_column(l, from, at + g.bytes) > col)
            break;
        at += g.bytes;
    }
    l->at = at;
    l->selected = false;
}

void line_entry_free(LineEntry *l)
{
    bytes_free(&l->text);
}

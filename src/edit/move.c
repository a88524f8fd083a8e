#include "edit/move.h"

#include "base/letters.h"

#include "edit/glyph_reader.h"
#include "text/text_line.h"

#include <string.h>
#include <utf8proc.h>

size_t move_to_sure_start(Text t, size_t from, size_t to)
{
    char bytes[256];
    if (from == 0)
        return 0;
    size_t n = text_read(t, from - 1, bytes, sizeof bytes), sure = 0;
    n = from - 1 + n > to ? to - (from - 1) : n;
    for (size_t i = 1; i + 3 < n; i++) {
        if (!glyph_begins(bytes, i, n))
            continue;
        if (bytes[i - 1] == ' ')
            return from - 1 + i;
        sure = sure ? sure : i;
    }
    return sure ? from - 1 + sure : to;
}

size_t move_right(Text t, size_t at)
{
    GlyphReader r = {.text = t};
    return at + glyph_reader_length(&r, at);
}

size_t move_left(Text t, size_t at)
{
    char buffer[4 * GLYPH_MAX_BYTES];
    if (at == 0)
        return 0;
    size_t n = at < sizeof buffer ? at : sizeof buffer;
    text_read(t, at - n, buffer, n);
    /* Begin after the nearest line end or between two plain letters: a character begins there. */
    size_t from = n - 1;
    if (from > 0 && buffer[from] == '\n')
        from--;
    while (
        from > 0 && buffer[from - 1] != '\n' &&
        !(buffer[from] >= 0x20 && buffer[from] < 0x7f && buffer[from - 1] >= 0x20 && buffer[from - 1] < 0x7f))
        from--;
    /* Where the window cuts a character, its rest is no character of its own. */
    for (int i = 0;
         i < 3 && from == (size_t)i && at > n && from + 1 < n && ((unsigned char)buffer[from] & 0xc0) == 0x80;
         i++)
        from++;
    return at - n + from + glyph_before(buffer + from, n - from);
}

size_t move_line_start(Text t, size_t at)
{
    return text_line_start(t, text_line_of(t, at));
}

size_t move_end_of_line(Text t, size_t line, size_t *next)
{
    size_t end = text_line_end(t, line);
    *next = end < text_len(t) ? end + 1 : end;
    bool crlf = *next > end && text_byte(t, end - 1) == '\r' && end > text_line_start(t, line);
    return crlf ? end - 1 : end;
}

size_t move_line_end(Text t, size_t at)
{
    size_t next;
    return move_end_of_line(t, text_line_of(t, at), &next);
}

size_t move_past_blanks(Text t, size_t at)
{
    size_t p = move_line_start(t, at);
    for (int c = text_byte(t, p); letter_is_blank(c);)
        c = text_byte(t, ++p);
    return p;
}

typedef enum Class { CLASS_BLANK, CLASS_WORD, CLASS_OTHER } Class;

static Class class_at(Text t, size_t at)
{
    char buffer[4];
    int32_t code;
    size_t n = text_read(t, at, buffer, 4);
    if (n == 0)
        return CLASS_BLANK;
    utf8_decode(buffer, n, &code);
    if (code == ' ' || code == '\t' || code == '\n' || code == '\r' || code == 0xa0)
        return CLASS_BLANK;
    if (code == '_')
        return CLASS_WORD;
    if (code < 0)
        return CLASS_OTHER;
    utf8proc_category_t c = utf8proc_category(code);
    return c >= UTF8PROC_CATEGORY_LU && c <= UTF8PROC_CATEGORY_NO ? CLASS_WORD : CLASS_OTHER;
}

size_t move_word_right(Text t, size_t at)
{
    size_t end = text_len(t);
    while (at < end && class_at(t, at) == CLASS_BLANK)
        at = move_right(t, at);
    if (at == end)
        return at;
    Class c = class_at(t, at);
    while (at < end && class_at(t, at) == c)
        at = move_right(t, at);
    return at;
}

size_t move_word_left(Text t, size_t at)
{
    while (at > 0 && class_at(t, move_left(t, at)) == CLASS_BLANK)
        at = move_left(t, at);
    if (at == 0)
        return 0;
    Class c = class_at(t, move_left(t, at));
    while (at > 0 && class_at(t, move_left(t, at)) == c)
        at = move_left(t, at);
    return at;
}

bool move_word_at(Text t, size_t at, size_t *from, size_t *to)
{
    Class here = at < text_len(t) ? class_at(t, at) : CLASS_BLANK;
    Class before = at > 0 ? class_at(t, move_left(t, at)) : CLASS_BLANK;
    Class c = here == CLASS_WORD || (here != CLASS_BLANK && before != CLASS_WORD) ? here : before;
    if (c == CLASS_BLANK)
        return false;
    *from = *to = at;
    while (*from > 0 && class_at(t, move_left(t, *from)) == c)
        *from = move_left(t, *from);
    while (*to < text_len(t) && class_at(t, *to) == c)
        *to = move_right(t, *to);
    return true;
}

#include "edit/shelf.h"

#include "base/array.h"

#include <stdlib.h>
#include <string.h>

enum { SHELF_BYTES = 256 * 1024 * 1024 };

static void drop_last(Shelf *s)
{
    Clip *c = &s->clips[--s->n];
    text_drop(&c->text);
    free(c->pieces);
}

void shelf_put(Shelf *s, Text t, bool lines)
{
    if (s->n == SHELF_CLIPS)
        drop_last(s);
    memmove(s->clips + 1, s->clips, s->n * sizeof *s->clips);
    s->clips[0] = (Clip){.text = t, .lines = lines};
    s->n++;
    size_t bytes = 0, keep = 0;
    while (keep < s->n && (keep == 0 || bytes + text_len(s->clips[keep].text) <= SHELF_BYTES))
        bytes += text_len(s->clips[keep++].text);
    while (s->n > keep)
        drop_last(s);
}

bool shelf_gather(Shelf *s, Text t, bool in_front)
{
    Clip *c = &s->clips[0];
    bool ok = text_insert_text(&c->text, in_front ? 0 : text_len(c->text), t);
    text_drop(&t);
    return ok;
}

static void note_piece(Clip *c, size_t from, size_t to)
{
    c->pieces = array_room(c->pieces, c->n_pieces, sizeof *c->pieces);
    c->pieces[c->n_pieces++] = (struct ClipPiece){from, to};
}

bool shelf_add_piece(Shelf *s, Text t, const char *line_end)
{
    Clip *c = &s->clips[0];
    size_t len = text_len(c->text);
    bool own_line = c->lines || (text_insert(&c->text, len, line_end, strlen(line_end)));
    size_t from = text_len(c->text);
    bool ok = own_line && text_insert_text(&c->text, from, t);
    if (ok && !c->n_pieces)
        note_piece(c, 0, len);
    if (ok)
        note_piece(c, from, text_len(c->text));
    text_drop(&t);
    return ok;
}

bool shelf_piece(const Clip *c, size_t i, size_t n, Text *out)
{
    *out = (Text){0};
    if (n != c->n_pieces || i >= n) {
        *out = text_keep(c->text);
        return true;
    }
    return text_slice(c->text, c->pieces[i].from, c->pieces[i].to - c->pieces[i].from, out);
}

void shelf_free(Shelf *s)
{
    while (s->n)
        drop_last(s);
}

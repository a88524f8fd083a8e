#include "edit/shelf.h"

#include <string.h>

enum { SHELF_BYTES = 256 * 1024 * 1024 };

void shelf_put(Shelf *s, Text t, bool lines)
{
    if (s->n == SHELF_CLIPS)
        text_drop(&s->clips[--s->n].text);
    memmove(s->clips + 1, s->clips, s->n * sizeof *s->clips);
    s->clips[0] = (Clip){.text = t, .lines = lines};
    s->n++;
    size_t bytes = 0, keep = 0;
    while (keep < s->n && (keep == 0 || bytes + text_len(s->clips[keep].text) <= SHELF_BYTES))
        bytes += text_len(s->clips[keep++].text);
    while (s->n > keep)
        text_drop(&s->clips[--s->n].text);
}

bool shelf_gather(Shelf *s, Text t, bool in_front)
{
    Clip *c = &s->clips[0];
    bool ok = text_insert_text(&c->text, in_front ? 0 : text_len(c->text), t);
    text_drop(&t);
    return ok;
}

void shelf_free(Shelf *s)
{
    while (s->n)
        text_drop(&s->clips[--s->n].text);
}

#include "view/bookmarks.h"

#include "base/mem.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "view/shown.h"

#include <stdlib.h>

typedef struct Bookmark {
    Anchor at;
    struct Bookmark *next;
} Bookmark;

static void remove_first(OpenFile *f, Bookmark **first)
{
    Bookmark *gone = *first;
    *first = gone->next;
    doc_remove_anchor(f->doc, &gone->at);
    free(gone);
}

bool bookmarks_flip(OpenFile *f, size_t line)
{
    Text t = doc_text(f->doc);
    for (Bookmark **b = &f->shown->bookmarks; *b; b = &(*b)->next)
        if (text_line_of(t, (*b)->at.at) == line) {
            remove_first(f, b);
            return false;
        }
    Bookmark *fresh = mem_get(sizeof *fresh);
    doc_add_anchor(f->doc, &fresh->at, text_line_start(t, line), true);
    fresh->next = f->shown->bookmarks;
    f->shown->bookmarks = fresh;
    return true;
}

bool bookmarks_next(const OpenFile *f, size_t at, size_t *found)
{
    const size_t none = (size_t)-1;
    size_t start = move_line_start(doc_text(f->doc), at), best = none, first = none;
    for (const Bookmark *b = f->shown->bookmarks; b; b = b->next) {
        if (b->at.at > start && b->at.at < best)
            best = b->at.at;
        if (b->at.at < first)
            first = b->at.at;
    }
    *found = best == none ? first : best;
    return first != none;
}

bool bookmarks_in(const OpenFile *f, size_t start, size_t end)
{
    for (const Bookmark *b = f->shown->bookmarks; b; b = b->next)
        if (b->at.at >= start && b->at.at <= end)
            return true;
    return false;
}

bool bookmarks_any(const OpenFile *f)
{
    return f->shown->bookmarks != NULL;
}

void bookmarks_free(OpenFile *f)
{
    while (f->shown->bookmarks)
        remove_first(f, &f->shown->bookmarks);
}

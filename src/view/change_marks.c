#include "view/change_marks.h"

#include "base/mem.h"
#include "base/system.h"
#include "edit/diff.h"
#include "view/shown.h"

#include <stdlib.h>

enum { CHEAP = 4 /* ms */, REST = 300 };

typedef struct ChangeMarks {
    DiffRun *runs;
    size_t n;
    Text saved, now; /* what was compared; kept, so that their memory is not taken for others */
    uint64_t cost;   /* ms it took */
    size_t lines;
} ChangeMarks;

static Text before(const OpenFile *f)
{
    return f->shown->has_since ? f->shown->since : doc_saved_text(f->doc);
}

static void compare(OpenFile *f, ChangeMarks *b)
{
    uint64_t begin = system_now_ms();
    text_drop(&b->saved);
    text_drop(&b->now);
    free(b->runs);
    b->saved = text_keep(before(f));
    b->now = text_keep(doc_text(f->doc));
    b->n = diff_lines(b->saved, b->now, &b->runs);
    b->lines = text_newlines(b->now) + 1;
    b->cost = system_now_ms() - begin;
}

unsigned change_marks_look(OpenFile *f, unsigned long long rested)
{
    if (!f->disk.exists || (!openfile_changed(f) && !f->shown->change_marks && !f->shown->has_since))
        return 0;
    if (!f->shown->change_marks)
        f->shown->change_marks = mem_get(sizeof *f->shown->change_marks);
    ChangeMarks *b = f->shown->change_marks;
    if (text_same(b->saved, before(f)) && text_same(b->now, doc_text(f->doc)))
        return 0;
    if (b->cost > CHEAP && rested < REST)
        return (unsigned)(REST - rested);
    compare(f, b);
    return 0;
}

/* The first run that ends at or after a line. */
static size_t run_at(const ChangeMarks *b, size_t line)
{
    size_t low = 0, high = b->n;
    while (low < high) {
        size_t middle = (low + high) / 2;
        if (b->runs[middle].b_to < line || (b->runs[middle].b_to == line && b->runs[middle].b_from < line))
            low = middle + 1;
        else
            high = middle;
    }
    return low;
}

const char *change_marks_sign(const OpenFile *f, size_t line)
{
    const ChangeMarks *b = f->shown->change_marks;
    if (!b || b->n == 0)
        return NULL;
    for (size_t i = run_at(b, line); i < b->n && b->runs[i].b_from <= line + 1; i++) {
        DiffRun r = b->runs[i];
        if (line >= r.b_from && line < r.b_to)
            return "▎";
        if (r.b_from == r.b_to && r.b_from == line && (line + 1 < b->lines || b->lines == 1))
            return "▔"; /* something was removed above it */
        if (r.b_from == r.b_to && r.b_from == line + 1 && line + 2 >= b->lines)
            return "▁"; /* and here below it, at the end */
    }
    return NULL;
}

bool change_marks_next(const OpenFile *f, size_t line, size_t *found)
{
    const ChangeMarks *b = f->shown->change_marks;
    if (!b || b->n == 0)
        return false;
    size_t i = 0;
    while (i < b->n && b->runs[i].b_from <= line)
        i++;
    *found = b->runs[i < b->n ? i : 0].b_from;
    return true;
}

void change_marks_free(OpenFile *f)
{
    if (!f->shown->change_marks)
        return;
    text_drop(&f->shown->change_marks->saved);
    text_drop(&f->shown->change_marks->now);
    free(f->shown->change_marks->runs);
    free(f->shown->change_marks);
    f->shown->change_marks = NULL;
}

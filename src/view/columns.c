#include "view/columns.h"

#include "edit/cells.h"
#include "text/text_line.h"

#include <string.h>

bool columns_marked(const View *v, Columns *c)
{
    if (v->marking == MARK_NONE || !v->columns)
        return false;
    Text t = view_text(v);
    size_t a = cells_before(t, v->mark.at, view_tab(v)), b = cells_before(t, v->cursor.at, view_tab(v));
    size_t x = text_line_of(t, v->mark.at), y = text_line_of(t, v->cursor.at);
    *c = (Columns){x < y ? x : y, x < y ? y : x, a < b ? a : b, a < b ? b : a};
    return true;
}

void columns_part(const View *v, const Columns *c, size_t line, size_t *from, size_t *to)
{
    Text t = view_text(v);
    *from = cells_place(t, line, c->left, view_tab(v));
    *to = cells_place(t, line, c->right, view_tab(v));
}

/* Marks a block by its cells again, after its lines changed. */
static void mark_again(View *v, Columns c, size_t cells)
{
    Text t = view_text(v);
    view_go(v, cells_place(t, c.last, cells, view_tab(v)));
    v->mark.at = cells_place(t, c.first, cells, view_tab(v));
    v->marking = MARK_KEY;
    v->columns = true;
}

/* Replaces every line's part, from the last line up, as one step. A line too short for the block is left
 * alone, but for typing at its very end. */
static bool replace_parts(View *v, const Columns *c, const char *bytes, size_t n)
{
    bool ok = true;
    doc_begin(v->file->doc);
    for (size_t line = c->last + 1; ok && line-- > c->first;) {
        size_t from, to;
        columns_part(v, c, line, &from, &to);
        bool reaches = cells_before(view_text(v), from, view_tab(v)) == c->left;
        if (reaches && (to > from || n))
            ok = doc_replace(v->file->doc, from, to - from, bytes, n, STEP_WHOLE, v->cursor.at);
    }
    doc_end(v->file->doc);
    return ok;
}

bool columns_text(const View *v, Text *out)
{
    Columns c = {0};
    *out = (Text){0};
    bool ok = columns_marked(v, &c);
    for (size_t line = c.first; ok && line <= c.last; line++) {
        size_t from, to;
        Text part;
        columns_part(v, &c, line, &from, &to);
        ok = text_slice(view_text(v), from, to - from, &part);
        ok = ok && text_insert_text(out, text_len(*out), part);
        text_drop(&part);
        ok = ok && (line == c.last || text_insert(out, text_len(*out), "\n", 1));
    }
    if (!ok)
        text_drop(out);
    return ok;
}

bool columns_type(View *v, const char *bytes, size_t n)
{
    Columns c;
    if (!columns_marked(v, &c) || !replace_parts(v, &c, bytes, n))
        return false;
    Glyph g;
    size_t cells = c.left;
    for (size_t p = 0; p < n; p += g.bytes) {
        glyph_read(bytes + p, n - p, &g);
        cells += glyph_cells(&g, cells, view_tab(v));
    }
    mark_again(v, c, cells);
    return true;
}

bool columns_delete(View *v, bool left)
{
    Columns c;
    if (!columns_marked(v, &c))
        return false;
    if (c.left == c.right && left && c.left > 0)
        c.left--;
    else if (c.left == c.right)
        c.right++;
    if (!replace_parts(v, &c, "", 0))
        return false;
    mark_again(v, c, c.left);
    return true;
}

bool columns_paste(View *v, Text lines)
{
    Doc *d = v->file->doc;
    size_t cells = cells_before(view_text(v), v->cursor.at, view_tab(v)), cursor = v->cursor.at;
    size_t line = text_line_of(view_text(v), v->cursor.at);
    bool ok = true;
    doc_begin(d);
    for (size_t i = 0; ok && i <= text_newlines(lines); i++, line++) {
        Text t = view_text(v);
        if (line > text_newlines(t)) {
            const char *end = text_format_line_end(&v->file->format);
            ok = doc_replace(d, text_len(t), 0, end, strlen(end), STEP_WHOLE, cursor);
        }
        size_t at = cells_place(view_text(v), line, cells, view_tab(v));
        size_t have = cells_before(view_text(v), at, view_tab(v));
        for (; ok && have < cells; have++, at++)
            ok = doc_replace(d, at, 0, " ", 1, STEP_WHOLE, cursor);
        Text part;
        size_t from = text_line_start(lines, i), to = text_line_end(lines, i);
        ok = ok && text_slice(lines, from, to - from, &part);
        if (ok) {
            ok = doc_replace_text(d, at, 0, part, cursor);
            if (i == 0)
                view_go(v, at + text_len(part));
            text_drop(&part);
        }
    }
    doc_end(d);
    return ok;
}

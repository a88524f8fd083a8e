#include "commands/lines/indenting.h"

#include "base/bytes.h"
#include "base/letters.h"
#include "commands/edits.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/brackets.h"
#include "view/colours.h"
#include "view/cursors.h"

#include <string.h>

enum { LINE_MOST = 2000 /* bytes of a line that are looked at */ };

/* A line up to some place. */
typedef struct LineStart {
    size_t from, n, indent; /* bytes; blanks that it begins with */
    char bytes[LINE_MOST];
} LineStart;

/* False when it is too long to be judged. */
static bool line_start(Text t, size_t to, LineStart *l)
{
    l->from = move_line_start(t, to);
    l->n = to - l->from;
    if (l->n > sizeof l->bytes)
        return false;
    text_read(t, l->from, l->bytes, l->n);
    l->indent = 0;
    while (l->indent < l->n && letter_is_blank(l->bytes[l->indent]))
        l->indent++;
    return true;
}

/* Is its end code, and no comment or quoted text? */
static bool ends_in_code(const View *v, const LineStart *l)
{
    uint8_t roles[LINE_MOST];
    size_t last = l->n;
    while (last > l->indent && strchr(" \t", l->bytes[last - 1]))
        last--;
    if (last == 0)
        return true;
    colours_between(v->file, l->from, l->from + l->n, roles);
    return roles[last - 1] != ROLE_COMMENT && roles[last - 1] != ROLE_QUOTED;
}

static bool line_fits(const View *v, const LineStart *l, const char *like)
{
    const Kind *k = colours_kind(v->file, l->from);
    return like && kind_line_fits(k, like, l->bytes, l->n) && ends_in_code(v, l);
}

/* The line above that is not blank. */
static bool line_above(Text t, const LineStart *l, LineStart *above)
{
    size_t end = l->from;
    do {
        if (end == 0 || !line_start(t, move_line_end(t, end - 1), above))
            return false;
        end = above->from;
    } while (above->indent == above->n);
    return true;
}

static void add_step(const View *v, Bytes *out)
{
    const TextFormat *f = &v->file->format;
    for (unsigned i = 0; i < (f->tabs ? 1 : f->indent); i++)
        bytes_add_str(out, f->tabs ? "\t" : " ");
}

/* A step less at the end of some blanks. */
static void drop_step(const View *v, Bytes *blanks)
{
    const TextFormat *f = &v->file->format;
    size_t n = 0;
    if (blanks->len && blanks->at[blanks->len - 1] == '\t')
        n = 1;
    while (!f->tabs && n < f->indent && n < blanks->len && blanks->at[blanks->len - 1 - n] == ' ')
        n++;
    bytes_delete(blanks, blanks->len - n, n);
}

/* How the line after one is indented; the blanks of that one are in `put` already. */
static void indent_after(const View *v, const LineStart *l, bool may_open, Bytes *put)
{
    LineStart above;
    const Kind *k = colours_kind(v->file, l->from);
    bool once = line_fits(v, l, k->deeper_once);
    if (once || line_fits(v, l, k->deeper)) {
        if (may_open)
            add_step(v, put);
    } else if (line_fits(v, l, k->leaves) ||
               (l->indent < l->n && k->deeper_once && line_above(view_text(v), l, &above) &&
                above.indent < l->indent && line_fits(v, &above, k->deeper_once))) {
        drop_step(v, put);
    }
}

/* Takes one step from the indentation of a line. */
static void step_back(Editor *ed, const LineStart *l)
{
    View *v = ed->panes.view;
    const TextFormat *f = &v->file->format;
    size_t n = 0, cursor = v->cursor.at;
    if (l->indent && l->bytes[l->indent - 1] == '\t')
        n = 1;
    while (!f->tabs && n < f->indent && n < l->indent && l->bytes[l->indent - 1 - n] == ' ')
        n++;
    if (n && doc_replace(v->file->doc, l->from + l->indent - n, n, NULL, 0, STEP_WHOLE, cursor))
        view_go(v, cursor - n);
}

/* A line that is done, such as "fi" or "end", and stands where the automatic indentation had put it, belongs
 * a step further out. */
static bool closes(const View *v, LineStart *l)
{
    LineStart above;
    Text t = view_text(v);
    size_t at = v->cursor.at;
    if (v->file->look_only || move_line_end(t, at) != at || !line_start(t, at, l) || l->indent == l->n ||
        strchr(")]}", l->bytes[l->n - 1]))
        return false;
    const Kind *k = colours_kind(v->file, l->from);
    if (!kind_line_fits(k, k->back, l->bytes, l->n))
        return false;
    if (!line_above(t, l, &above) || (line_fits(v, &above, k->leaves) &&
                                      !(k->back_always && kind_line_fits(k, k->back_always, l->bytes, l->n))))
        return false;
    Bytes put = {0};
    bytes_add(&put, above.bytes, above.indent);
    indent_after(v, &above, true, &put);
    bool as_put = put.len == l->indent && memcmp(bytes_str(&put), l->bytes, l->indent) == 0;
    bytes_free(&put);
    return as_put;
}

void indenting_new_line(Editor *ed)
{
    View *v = ed->panes.view;
    FreshIndent *fresh = &v->file->fresh;
    size_t from, to;
    bool indents = ed->config.settings.auto_indent && !view_marked(v, &from, &to);
    LineStart l;
    bool closed = indents && closes(v, &l);
    if (closed) {
        doc_begin(v->file->doc);
        step_back(ed, &l);
    }
    Text t = view_text(v);
    Bytes b = {0};
    bytes_add_str(&b, text_format_line_end(&v->file->format));
    size_t end = b.len, at = v->cursor.at;
    if (indents) {
        size_t start = move_line_start(t, at), text = move_past_blanks(t, at);
        for (size_t p = start; p < (text < at ? text : at); p++)
            bytes_add(&b, &(char){(char)text_byte(t, p)}, 1);
        int next = text_byte(t, at);
        Bytes blanks = {0};
        bytes_add(&blanks, bytes_str(&b) + end, b.len - end);
        if (line_start(t, at, &l))
            indent_after(v, &l, !(next > 0 && strchr(")]}", next)), &blanks);
        bytes_delete(&b, end, b.len - end);
        bytes_add(&b, bytes_str(&blanks), blanks.len);
        bytes_free(&blanks);
    }
    if (indents && edit_indent_is_fresh(v)) /* the blanks of an empty line go on to the next */
        edit_replace(ed, fresh->at, fresh->n, b.at, b.len, STEP_TYPE);
    else
        edit_type(ed, b.at, b.len);
    if (closed)
        doc_end(v->file->doc);
    if (indents && move_line_end(view_text(v), v->cursor.at) == v->cursor.at)
        *fresh = (FreshIndent){v->cursor.at - (b.len - end), b.len - end, doc_version(v->file->doc)};
    bytes_free(&b);
}

/* A closing bracket that is the first of its line stands under the line that opened it. */
static void close_bracket(Editor *ed)
{
    View *v = ed->panes.view;
    LineStart l, opening;
    size_t partner, cursor = v->cursor.at;
    Text t = view_text(v);
    if (!line_start(t, cursor, &l) || !brackets_partner(v, cursor - 1, &partner) || partner >= l.from ||
        !line_start(t, partner, &opening))
        return;
    if (l.indent == opening.indent && memcmp(l.bytes, opening.bytes, l.indent) == 0)
        return;
    if (doc_replace(v->file->doc, l.from, l.indent, opening.bytes, opening.indent, STEP_WHOLE, cursor))
        view_go(v, l.from + opening.indent + 1);
}

typedef struct Typed {
    Editor *ed;
    const char *bytes;
    size_t n;
} Typed;

static void type_at(void *ctx, size_t i, size_t n)
{
    const Typed *t = ctx;
    (void)i, (void)n;
    indenting_type(t->ed, t->bytes, t->n);
}

void indenting_type(Editor *ed, const char *bytes, size_t n)
{
    View *v = ed->panes.view;
    LineStart l;
    size_t from, to;
    cursors_follow(v);
    if (v->cursors && n == 1 && strchr(")]}", bytes[0]) && ed->config.settings.auto_indent &&
        v->file->kind->back) {
        Typed typed = {ed, bytes, n};
        command_run_each(ed, CMD_CHANGES | CMD_TYPING | CMD_EACH, type_at, &typed);
        return;
    }
    bool bracket =
        n == 1 && strchr(")]}", bytes[0]) && ed->config.settings.auto_indent && !view_marked(v, &from, &to);
    const Kind *k = v->file->kind;
    if (!bracket || !k->back || !line_start(view_text(v), v->cursor.at, &l) || l.indent < l.n ||
        !kind_line_fits(k, k->back, bytes, n)) {
        edit_type(ed, bytes, n);
        return;
    }
    doc_begin(v->file->doc);
    edit_type(ed, bytes, n);
    close_bracket(ed);
    doc_end(v->file->doc);
}

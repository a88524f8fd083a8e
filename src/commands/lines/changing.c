#include "commands/lines/changing.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/command.h"

#include <stdlib.h>

void changing_meant(const View *v, size_t *from, size_t *to)
{
    Text t = view_text(v);
    if (!view_marked(v, from, to))
        *from = *to = v->cursor.at;
    else if (*to > *from && text_byte(t, *to - 1) == '\n')
        --*to; /* a mark that ends at a line's start does not mean that line */
    *from = move_line_start(t, *from);
    *to = text_line_start(t, text_line_of(t, *to) + 1);
}

enum { AT_ONCE = 256 * 1024 * 1024 /* bytes that may be changed by one of these commands */ };

/* They need their bytes in one piece, and more than once. */
static bool fits_at_once(Editor *ed, size_t n)
{
    void *probe = n <= AT_ONCE ? mem_try(4 * n + 1) : NULL;
    if (!probe)
        warn(ed, n <= AT_ONCE ? "There is not enough memory for that; nothing was changed"
                              : "That is too much at once; mark less than 256 MiB");
    free(probe);
    return probe != NULL;
}

bool changing_range(Editor *ed, size_t from, size_t to, LinesFn fn, const void *ctx)
{
    View *v = ed->panes.view;
    if (!fits_at_once(ed, to - from))
        return false;
    char *old = text_string(view_text(v), from, to);
    size_t n = to - from, same = 0, tail = 0;
    Bytes out = {0};
    fn(old, n, ctx, &out);
    while (same < n && same < out.len && old[same] == out.at[same])
        same++;
    while (tail < n - same && tail < out.len - same && old[n - 1 - tail] == out.at[out.len - 1 - tail])
        tail++;
    bool differs = same < n || same < out.len;
    bool ok = differs && edit_allowed(ed);
    if (ok && !doc_replace(v->file->doc, from + same, n - same - tail, bytes_str(&out) + same,
                           out.len - same - tail, STEP_WHOLE, v->cursor.at)) {
        warn(ed, "There is not enough memory for that; nothing was changed");
        ok = false;
    }
    bytes_free(&out);
    free(old);
    return ok;
}

void changing_lines(Editor *ed, LinesFn fn, const void *ctx, const char *done)
{
    View *v = ed->panes.view;
    size_t from, to;
    changing_meant(v, &from, &to);
    ed->notices.warning = false;
    size_t lines = text_line_of(view_text(v), to) - text_line_of(view_text(v), from);
    lines = lines ? lines : 1;
    v->goal_kept = false;
    if (changing_range(ed, from, to, fn, ctx))
        say(ed, "%s %s", done, AMOUNT(lines, "line"));
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "Nothing to change");
}

void changing_block(Editor *ed, size_t *from, size_t *to)
{
    View *v = ed->panes.view;
    size_t cursor = v->cursor.at;
    bool marked = view_marked(v, from, to);
    if (!marked)
        command_run(ed, command_named(ed, "mark-block"), 1, false, "");
    changing_meant(v, from, to);
    if (!marked) {
        view_drop_mark(v);
        view_go(v, cursor);
    }
}

#include "ui/status_line.h"

#include "base/words.h"
#include "edit/cells.h"
#include "edit/move.h"
#include "session/following.h"
#include "session/checking.h"
#include "session/reading.h"
#include "session/writing.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/shown.h"
#include "view/columns.h"
#include "view/cursors.h"
#include "view/hiding.h"
#include "view/outlining.h"
#include "view/told.h"

#include <stdio.h>
#include <string.h>
#include <time.h>

enum {
    MARKED_MOST = 1000000, /* characters of a mark that are counted while it is shown */
    ROWS_MOST = 3
};

const char *status_line_state(const View *v)
{
    const OpenFile *f = v->file;
    if (v->looks.title)
        return "Esc goes back";
    if (f->incomplete)
        return "incomplete";
    if (f->reading && !filesystem_can(f->path, FILES_ARE_HERE))
        return "";
    if (f->shown && f->shown->on_trial[0])
        return f->shown->on_trial;
    if (f->following)
        return following_waits(f)                           ? "waited for"
               : view_at_end(v, text_len(doc_text(f->doc))) ? "following"
                                                            : "following, held";
    if (openfile_gone(f))
        return "no longer on disk";
    if (f->news != DISK_SAME && f->purpose == FOR_WORK)
        return openfile_changed(f) ? "changed, also on disk" : "changed on disk";
    if (f->look_only)
        return "look only";
    if (openfile_changed(f))
        return f->disk.exists ? "changed" : "new, changed";
    return f->disk.exists ? "" : "new";
}

/* How many cursors there are, and how many of them are not on the screen. */
static void cursor_words(const View *v, Bytes *out)
{
    size_t n = cursors_count(v), seen = cursors_after(v, v->shown_to + 1) - cursors_after(v, v->top.at);
    if (n < 2)
        return;
    bytes_printf(out, "%zu cursors", n);
    if (seen < n)
        bytes_printf(out, ", %zu not on the screen", n - seen);
    bytes_add_str(out, " · ");
}

/* `brief`: 9:1 instead of the counts. */
static void position_words(const View *v, bool brief, Bytes *out)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), lines = view_lines(v), from, to;
    if (brief)
        bytes_printf(out, "%zu:%zu", line + 1, cells_chars_before(t, v->cursor.at) + 1);
    else if (line < lines)
        bytes_printf(out, "Line %zu of %zu · Column %zu · %zu%%", line + 1, lines,
                     cells_chars_before(t, v->cursor.at) + 1,
                     (size_t)((double)(line + 1) * 100 / (double)lines));
    else
        bytes_printf(out, "After line %zu of %zu · Column 1 · 100%%", lines, lines);
    Columns c;
    if (columns_marked(v, &c)) {
        bytes_printf(out, " · marked %s of %s", AMOUNT(c.right - c.left, "column"),
                     AMOUNT(c.last - c.first + 1, "line"));
    } else if (!v->cursors && view_marked(v, &from, &to)) {
        size_t chars = cells_chars_between(t, from, to, MARKED_MOST);
        size_t marked = text_line_of(t, to) - text_line_of(t, from) + (text_byte(t, to - 1) != '\n');
        bytes_printf(out, " · marked %zu line%s, %zu%s character%s", marked, marked == 1 ? "" : "s", chars,
                     chars == MARKED_MOST ? "+" : "", chars == 1 ? "" : "s");
        size_t hidden = hiding_within(v, from, to);
        if (hidden)
            bytes_printf(out, ", %zu of them hidden", hidden);
    }
}

/* What is wrong at the cursor, or else how much there is and what is known of the place. */
static void about_words(const View *v, Bytes *out)
{
    size_t n, wrong, at = v->cursor.at;
    Text t = view_text(v);
    checking_problems(v->file, &n);
    checking_wrong(v->file, &wrong);
    const FileProblem *here =
        n ? checking_problem_in(v->file, text_line_start(t, text_line_of(t, at)), move_line_end(t, at))
          : NULL;
    if (here)
        bytes_printf(out, "%s (%s)", here->words, here->checker);
    else if (n)
        bytes_printf(out, "%s", wrong ? AMOUNT(wrong, "problem") : AMOUNT(n, "hint"));
    if (v->file->shown && v->file->shown->fresh)
        bytes_printf(out, "%s%zu new match%s", out->len ? " · " : "", v->file->shown->fresh,
                     v->file->shown->fresh == 1 ? "" : "es");
    size_t from, to;
    Bytes told = {0};
    if (!here && !view_marked(v, &from, &to)) /* then how much is marked says more */
        told_words(v, (long long)time(NULL), &told);
    if (told.len)
        bytes_printf(out, "%s%s", out->len ? " · " : "", told.at);
    bytes_free(&told);
}

/* The section or function that the cursor is in, if there is room beside the form. */
static void section_words(View *v, const Frame *f, Bytes *out)
{
    enum { LINES = 400, NAME = 40, FORM = 33 /* cells that are left to the form */ };
    const Outline *o = v->looks.title ? NULL : outline_of(v->file->kind, NULL);
    Text t = view_text(v);
    char name[NAME + 1];
    Heading h;
    Bytes all = {0};
    if (!o || !outlining_of_view(v, o, LINES, &h))
        return;
    size_t n = text_read(t, h.from, name, h.to - h.from < NAME ? h.to - h.from : NAME);
    while (n && (name[n - 1] == ' ' || name[n - 1] == '('))
        n--;
    name[n] = 0;
    bool brackets = h.from > 0 && text_byte(t, h.from - 1) == '[', calls = text_byte(t, h.from + n) == '(';
    bytes_printf(&all, "%s · in %s%s%s", out->at, brackets ? "[" : "", name,
                 brackets ? "]"
                 : calls  ? "()"
                          : "");
    if (n && frame_width(f, all.at) + FORM < f->cols) {
        bytes_clear(out);
        bytes_add(out, all.at, all.len);
    }
    bytes_free(&all);
}

/* All of it but the form. What is said about the place comes before the counts where there is no room for
 * both. */
static void all_words(const Editor *ed, const Frame *f, const Bytes *about, Bytes *out)
{
    const View *v = ed->panes.view;
    char words[TASK_WORDS_MAX];
    tasks_words(&ed->session->tasks, words);
    if (words[0])
        bytes_printf(out, "%s · ", words);
    writing_words(v->file, words);
    if (v->file->reading)
        reading_unready(v->file, words);
    if (words[0])
        bytes_printf(out, "%s · ", words);
    cursor_words(v, out);
    if (about->len)
        bytes_printf(out, "%s · ", about->at);
    size_t before = out->len, from, to;
    position_words(v, false, out);
    if ((about->len || v->cursors || view_marked(v, &from, &to)) && frame_width(f, out->at) > f->cols - 2) {
        out->len = before;
        position_words(v, true, out);
    }
    if (!about->len && !v->cursors && !view_marked(v, &from, &to))
        section_words(ed->panes.view, f, out);
}

/* The fields at the right, as many as fit between two columns; each opens its own chooser. */
static void paint_form(Editor *ed, Frame *f, int row, int from, int to, Style style)
{
    const OpenFile *file = ed->panes.view->file;
    char indent[32], route[ROUTE_MAX];
    snprintf(indent, sizeof indent, "%s %u", file->format.tabs ? "tabs" : "spaces", file->format.indent);
    const struct {
        const char *words, *command;
    } fields[] = {{ed->overtype ? "overtype" : "", "overtype"},
                  {file->kind->name, "file-kind"},
                  {ENCODING_LABEL_OF(&file->encoding, file->format.utf8), "encoding"},
                  {text_format_ends_name(&file->format), "line-ends"},
                  {indent, "indentation"}};
    size_t n = sizeof fields / sizeof *fields, shown = 0;
    int width = 0;
    for (; shown < n; shown++) {
        int more = frame_width(f, fields[shown].words) + (width && fields[shown].words[0] ? 3 : 0);
        if (width + more > to - from)
            break;
        width += more;
    }
    int col = to - width;
    for (size_t i = 0, first = 1; i < shown; i++) {
        if (!fields[i].words[0])
            continue;
        if (!first)
            col = frame_text(f, row, col, to, style, " · ");
        first = 0;
        int end = frame_text(f, row, col, to, style, fields[i].words);
        const Command *c = command_named(ed, fields[i].command);
        if (c)
            spots_add(&ed->spots, row, col, end, registry_route(&ed->config.registry, c, route));
        col = end;
    }
}

/* A mark, and a message from before it was made: the mark is what counts now. */
static bool outdated(const Editor *ed)
{
    size_t from, to;
    return ed->notices.since < ed->clock.last_key && view_marked(ed->panes.view, &from, &to);
}

/* Rows for all of the message; 0: none is shown here. */
static int message_rows(const Editor *ed, const Frame *f)
{
    const Notices *m = &ed->notices;
    if (!m->text[0] || outdated(ed) || (ed->layer && ed->layer->kind->asks))
        return 0;
    return frame_wrapped((Frame *)f, 0, 1, f->cols - 1, 0, ST_STATUS, m->text);
}

static int rows_most(const Frame *f)
{
    return f->rows < 8 ? 1 : ROWS_MOST;
}

/* The same without a message: more than one only for what is said about the place. As many under a menu: a
 * screen down by a route is as far as by its key. */
static int place_rows(const Editor *ed, const Frame *f)
{
    enum { NARROW = 60 /* columns, in which what is marked may need a second row */ };
    Bytes about = {0}, all = {0};
    size_t from, to;
    bool marked = f->cols < NARROW && (ed->panes.view->cursors || view_marked(ed->panes.view, &from, &to));
    int rows = 1;
    if (ed->strip || panes_many(&ed->panes))
        return 1;
    about_words(ed->panes.view, &about);
    if (about.len || marked) {
        all_words(ed, f, &about, &all);
        rows = frame_wrapped((Frame *)f, 0, 1, f->cols - 1, 0, ST_STATUS, bytes_str(&all));
    }
    bytes_free(&about);
    bytes_free(&all);
    return rows;
}

int status_line_rows(const Editor *ed, const Frame *f)
{
    int rows = message_rows(ed, f), most = rows_most(f);
    if (rows < 1)
        rows = place_rows(ed, f);
    return rows < 1 ? 1 : rows < most ? rows : most;
}

bool status_line_is_cut(const Editor *ed, const Frame *f)
{
    return message_rows(ed, f) > rows_most(f);
}

static bool paint_message(const Editor *ed, Frame *f, int row)
{
    const Notices *m = &ed->notices;
    if (!m->text[0] || outdated(ed))
        return false;
    int rows = status_line_rows(ed, f);
    for (int r = 0; r < rows; r++)
        frame_blank(f, row + r, 0, f->cols, m->warning ? ST_WARNING : ST_STATUS);
    frame_wrapped(f, row, 1, f->cols - 1, rows, m->warning ? ST_WARNING : ST_MESSAGE, m->text);
    return true;
}

void status_line_paint(Editor *ed, Frame *f, int row)
{
    const View *v = ed->panes.view;
    const Command *go_line = command_named(ed, "go-line");
    char route[ROUTE_MAX];
    if (paint_message(ed, f, row))
        return;
    Bytes about = {0}, all = {0};
    about_words(v, &about);
    all_words(ed, f, &about, &all);
    int rows = status_line_rows(ed, f), end = f->cols;
    for (int r = 0; r < rows; r++)
        frame_blank(f, row + r, 0, f->cols, ST_STATUS);
    if (rows > 1)
        frame_wrapped(f, row, 1, f->cols - 1, rows, ST_STATUS, bytes_str(&all));
    else
        end = frame_text(f, row, 1, f->cols, ST_STATUS, bytes_str(&all));
    if (go_line)
        spots_add(&ed->spots, row + rows - 1, 1, end, registry_route(&ed->config.registry, go_line, route));
    if (rows == 1)
        paint_form(ed, f, row, end + 3, f->cols - 1, ST_STATUS);
    bytes_free(&about);
    bytes_free(&all);
}

void status_line_paint_pane(Editor *ed, Frame *f, Pane *p)
{
    const View *v = panes_shown(p);
    int row = p->row + p->rows - 1, end = p->col + p->cols;
    bool now = v == ed->panes.view;
    Style style = now ? ST_STATUS : ST_STATUS_OTHER;
    Bytes words = {0};
    const char *state = status_line_state(v);
    bytes_printf(&words, "%s%s%s%s · ", now ? "▸" : " ",
                 v->looks.title  ? v->looks.title
                 : v->file->path ? openfile_name(v->file)
                                 : "(no name yet)",
                 *state ? ", " : "", state);
    cursor_words(v, &words);
    position_words(v, false, &words);
    frame_blank(f, row, p->col, end, style);
    int at = frame_text(f, row, p->col, end, style, bytes_str(&words));
    if (now)
        paint_form(ed, f, row, at + 2, end - 1, style);
    bytes_free(&words);
}

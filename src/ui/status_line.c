#include "ui/status_line.h"

#include "base/words.h"
#include "edit/cells.h"
#include "session/reading.h"
#include "session/writing.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/columns.h"

#include <stdio.h>

enum { MARKED_MOST = 1000000 /* characters of a mark that are counted while it is shown */ };

const char *status_line_state(const View *v)
{
    const OpenFile *f = v->file;
    if (v->looks.title)
        return "Esc goes back";
    if (f->incomplete)
        return "incomplete";
    if (f->look_only)
        return "look only";
    if (openfile_changed(f))
        return f->disk.exists ? "changed" : "new, changed";
    return f->disk.exists ? "" : "new";
}

static void position_words(const View *v, Bytes *out)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), lines = view_lines(v), from, to;
    bytes_printf(out, "Line %zu of %zu · Column %zu · %zu%%", line + 1, lines,
                 cells_chars_before(t, v->cursor.at) + 1, (size_t)((double)(line + 1) * 100 / (double)lines));
    Columns c;
    if (columns_marked(v, &c)) {
        bytes_printf(out, " · marked %s of %s", AMOUNT(c.right - c.left, "column"),
                     AMOUNT(c.last - c.first + 1, "line"));
    } else if (view_marked(v, &from, &to)) {
        size_t chars = cells_chars_between(t, from, to, MARKED_MOST);
        size_t marked = text_line_of(t, to) - text_line_of(t, from) + (text_byte(t, to - 1) != '\n');
        bytes_printf(out, " · marked %zu line%s, %zu%s character%s", marked, marked == 1 ? "" : "s", chars,
                     chars == MARKED_MOST ? "+" : "", chars == 1 ? "" : "s");
    }
}

/* The fields at the right, as many as fit into `room` cells. */
static void form_words(const Editor *ed, const Frame *frame, int room, Bytes *out)
{
    const OpenFile *f = ed->panes.view->file;
    char indent[32];
    snprintf(indent, sizeof indent, "%s %u", f->format.tabs ? "tabs" : "spaces", f->format.indent);
    const char *const fields[] = {ed->overtype ? "overtype" : "", f->kind->name,
                                  encoding_label(&f->encoding, f->format.utf8),
                                  text_format_ends_name(&f->format), indent};
    for (size_t i = 0; i < sizeof fields / sizeof *fields; i++) {
        size_t before = out->len;
        if (!fields[i][0])
            continue;
        bytes_printf(out, "%s%s", before ? " · " : "", fields[i]);
        if (frame_width(frame, bytes_str(out)) > room) {
            bytes_delete(out, before, out->len - before);
            return;
        }
    }
}

static bool paint_message(const Editor *ed, Frame *f, int row)
{
    const Notices *m = &ed->notices;
    if (!m->text[0])
        return false;
    frame_blank(f, row, 0, f->cols, m->warning ? ST_WARNING : ST_STATUS);
    frame_text(f, row, 1, f->cols, m->warning ? ST_WARNING : ST_MESSAGE, m->text);
    return true;
}

void status_line_paint(Editor *ed, Frame *f, int row)
{
    const View *v = ed->panes.view;
    const Command *go_line = command_named(ed, "go-line"), *format = command_named(ed, "properties");
    char route[ROUTE_MAX], words[TASK_WORDS_MAX];
    if (paint_message(ed, f, row))
        return;
    frame_blank(f, row, 0, f->cols, ST_STATUS);
    Bytes left = {0}, right = {0};
    tasks_words(&ed->session->tasks, words);
    if (words[0])
        bytes_printf(&left, "%s · ", words);
    writing_words(v->file, words);
    if (v->file->reading)
        reading_unready(v->file, words);
    if (words[0])
        bytes_printf(&left, "%s · ", words);
    position_words(v, &left);
    int end = frame_text(f, row, 1, f->cols, ST_STATUS, bytes_str(&left));
    form_words(ed, f, f->cols - end - 4, &right);
    int width = frame_width(f, bytes_str(&right));
    if (go_line)
        spots_add(&ed->spots, row, 1, end, registry_route(&ed->config.registry, go_line, route));
    if (width) {
        frame_text(f, row, f->cols - width - 1, f->cols, ST_STATUS, bytes_str(&right));
        if (format)
            spots_add(&ed->spots, row, f->cols - width - 1, f->cols,
                      registry_route(&ed->config.registry, format, route));
    }
    bytes_free(&left);
    bytes_free(&right);
}

void status_line_paint_pane(Editor *ed, Frame *f, Pane *p)
{
    const View *v = panes_shown(p);
    int row = p->row + p->rows - 1, end = p->col + p->cols;
    bool now = v == ed->panes.view;
    Style style = now ? ST_STATUS : ST_STATUS_OTHER;
    Bytes words = {0}, right = {0};
    const char *state = status_line_state(v);
    bytes_printf(&words, "%s%s%s%s · ", now ? "▸" : " ",
                 v->looks.title  ? v->looks.title
                 : v->file->path ? openfile_name(v->file)
                                 : "(no name yet)",
                 *state ? ", " : "", state);
    position_words(v, &words);
    frame_blank(f, row, p->col, end, style);
    int at = frame_text(f, row, p->col, end, style, bytes_str(&words));
    if (now) {
        form_words(ed, f, end - at - 3, &right);
        int width = frame_width(f, bytes_str(&right));
        frame_text(f, row, end - width - 1, end, style, bytes_str(&right));
    }
    bytes_free(&words);
    bytes_free(&right);
}

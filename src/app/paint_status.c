/* Laying out status lines. */
#include "app/columns.h"
#include "app/loading.h"
#include "app/paint.h"
#include "app/search.h"
#include "app/shown.h"
#include "edit/move.h"
#include "session/writing.h"

#include <stdio.h>

enum { MARKED_MOST = 1000000 /* characters of a mark that are counted while it is shown */ };

static void position_words(const View *v, Bytes *out)
{
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), lines = view_lines(v), from, to;
    bytes_printf(out, "Line %zu of %zu · Column %zu · %zu%%", line + 1, lines,
                 chars_before(t, v->cursor.at) + 1, (size_t)((double)(line + 1) * 100 / (double)lines));
    Columns c;
    if (columns_marked(v, &c)) {
        bytes_printf(out, " · marked %s of %s", AMOUNT(c.right - c.left, "column"),
                     AMOUNT(c.last - c.first + 1, "line"));
    } else if (view_marked(v, &from, &to)) {
        size_t chars = chars_between(t, from, to, MARKED_MOST);
        size_t marked = text_line_of(t, to) - text_line_of(t, from) + (text_byte(t, to - 1) != '\n');
        bytes_printf(out, " · marked %zu line%s, %zu%s character%s", marked, marked == 1 ? "" : "s", chars,
                     chars == MARKED_MOST ? "+" : "", chars == 1 ? "" : "s");
    }
}

/* The fields at the right, as many as fit into `room` cells. */
static void form_words(const Editor *ed, const Frame *frame, int room, Bytes *out)
{
    const OpenFile *f = ed->view->file;
    char indent[32];
    snprintf(indent, sizeof indent, "%s %u", f->format.tabs ? "tabs" : "spaces", f->format.indent);
    const char *const fields[] = {ed->overtype ? "overtype" : "", f->kind->name, indent,
                                  encoding_label(&f->encoding, f->format.utf8),
                                  text_format_ends_name(&f->format)};
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
    const Notices *m = &ed->message;
    if (!m->text[0])
        return false;
    frame_blank(f, row, 0, f->cols, m->warning ? ST_WARNING : ST_STATUS);
    frame_text(f, row, 1, f->cols, m->warning ? ST_WARNING : ST_MESSAGE, m->text);
    return true;
}

void paint_status(Editor *ed, Frame *f, int row)
{
    const View *v = ed->view;
    const Command *go_line = command_named("go-line", 7), *form = command_named("properties", 10);
    char route[ROUTE_MAX];
    if (paint_message(ed, f, row))
        return;
    frame_blank(f, row, 0, f->cols, ST_STATUS);
    Bytes left = {0}, right = {0};
    if (ed->search && ed->search->seek.active)
        bytes_printf(&left, "Searching, %zu%%; Esc stops it · ",
                     text_len(view_text(v)) ? ed->search->seek.at / (text_len(view_text(v)) / 100 + 1) : 0);
    char words[FILE_WORDS_MAX];
    writing_words(v->file, words);
    if (v->file->loader)
        file_unready(v->file, words);
    if (words[0])
        bytes_printf(&left, "%s · ", words);
    position_words(v, &left);
    int end = frame_text(f, row, 1, f->cols, ST_STATUS, bytes_str(&left));
    form_words(ed, f, f->cols - end - 4, &right);
    int width = frame_width(f, bytes_str(&right));
    if (go_line)
        add_spot(ed, row, 1, end, command_route(go_line, route));
    if (width) {
        frame_text(f, row, f->cols - width - 1, f->cols, ST_STATUS, bytes_str(&right));
        if (form)
            add_spot(ed, row, f->cols - width - 1, f->cols, command_route(form, route));
    }
    bytes_free(&left);
    bytes_free(&right);
}

void paint_pane_status(Editor *ed, Frame *f, const Pane *p)
{
    const View *v = &p->view;
    int row = p->row + p->rows - 1, end = p->col + p->cols;
    bool now = v == ed->view;
    Style style = now ? ST_STATUS : ST_STATUS_OTHER;
    Bytes words = {0}, right = {0};
    const char *state = state_words(v->file);
    bytes_printf(&words, "%s%s%s%s · ", now ? "▸" : " ",
                 v->file->shown->page ? "Help"
                 : v->file->path      ? file_name(v->file)
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

#include "ui/hints.h"

#include "session/checking.h"
#include "ui/command.h"
#include "ui/status_line.h"
#include "view/hiding.h"
#include "view/shown.h"

#include <string.h>

size_t hints_add_command(const Editor *ed, const char *name, bool always, Hint *out)
{
    const Command *c = command_named(ed, name);
    if (!c || !c->hint)
        return 0;
    command_key(ed, c, out->key);
    out->label = c->hint;
    out->always = always;
    return 1;
}

typedef struct HintList {
    const char *title; /* in the column at the right */
    const char *commands[8];
} HintList;

/* The most useful first. */
static const HintList plain_hints[] = {
    {"File", {"save", "leave", "open", "save-as"}}, {"Edit", {"undo", "redo", "paste", "cut"}},
    {"Search", {"find", "find-next", "replace"}},   {"Mark", {"mark", "mark-all"}},
    {"Go", {"go-line", "go-top", "go-bottom"}},
};
static const HintList mark_hints[] = {
    {"With the mark", {"cut", "copy", "paste", "delete-right", "indent", "unindent"}},
    {"Mark", {"mark", "mark-line", "mark-swap"}},
    {"File", {"save", "leave", "undo"}},
};

/* The hint line's order: not by groups, but by use. */
static const char *const line_plain[] = {"save", "leave", "find",    "undo",
                                         "mark", "paste", "go-line", "replace"};
static const char *const line_mark[] = {"cut", "copy", "mark", "paste", "delete-right", "undo", "leave"};
static const char *const line_many[] = {"mark-next-same", "cut", "copy", "paste", "undo", "save", "leave"};

/* Is something marked, or about to be? */
static bool is_marked(const Editor *ed)
{
    size_t from, to;
    const View *v = ed->panes.view;
    return view_marked(v, &from, &to) || v->marking == MARK_KEY;
}

/* The commands that the message names. */
static size_t message_hints(const Editor *ed, Hint *out)
{
    size_t n = 0;
    for (int i = 0; i < NOTICE_WAYS && ed->notices.text[0]; i++) {
        const Command *c = command_named(ed, ed->notices.ways[i]);
        if (!c)
            continue;
        command_key(ed, c, out[n].key);
        out[n].label = c->hint ? c->hint : c->label;
        out[n++].always = false;
    }
    return n;
}

static size_t text_hints(const Editor *ed, Hint *out)
{
    size_t n = 0;
    OpenFile *f = ed->panes.view->file;
    bool marked = is_marked(ed), awaited = !marked && openfile_is_awaited(f);
    bool many = ed->panes.view->cursors != NULL;
    const char *const *names = many ? line_many : marked ? line_mark : line_plain;
    size_t count = many     ? sizeof line_many / sizeof *line_many
                   : marked ? sizeof line_mark / sizeof *line_mark
                            : sizeof line_plain / sizeof *line_plain;
    if (many)
        out[n++] = (Hint){"Esc Esc", "One cursor", true};
    if (ed->recording)
        n += hints_add_command(ed, "record-keys", true, out + n);
    if (status_line_is_cut(ed, &ed->frame) && hints_add_command(ed, "help", true, out + n))
        out[n++].label = "All of the message";
    n += message_hints(ed, out + n);
    size_t problems;
    checking_problems(f, &problems);
    if (problems && !marked && f->purpose == FOR_WORK) {
        n += hints_add_command(ed, "next-problem", false, out + n);
        n += hints_add_command(ed, "problems", false, out + n);
    }
    static const char *const only[] = {"", "only-what-counts", "only-matches", "only-changes",
                                       "only-problems"};
    HidingWhat hidden = hiding_what(ed->panes.view);
    n += hidden != SHOW_ALL ? hints_add_command(ed, only[hidden], true, out + n) : 0;
    if (f->shown && f->shown->on_trial[0])
        n += hints_add_command(ed, "save-on-trial", true, out + n);
    if (f->following && !marked) {
        if (!view_at_end(ed->panes.view, text_len(doc_text(f->doc))) &&
            hints_add_command(ed, "go-bottom", true, out + n))
            out[n++].label = "Go on at the end";
        n += hints_add_command(ed, "follow", false, out + n);
    }
    for (size_t i = 0; i < count; i++) {
        bool leave = strcmp(names[i], "leave") == 0;
        if (f->look_only && strcmp(names[i], "save") == 0)
            continue;
        n += hints_add_command(ed, names[i], leave, out + n);
        if (leave && awaited)
            n += hints_add_command(ed, "leave-with-failure", true, out + n);
        if (names == line_mark && strcmp(names[i], "mark") == 0)
            out[n - 1].label = "Drop the mark";
    }
    /* On a narrow screen the way to call it off, which names Esc too, comes before the others. */
    out[n++] = (Hint){"Esc", "Commands", !awaited || ed->frame.cols >= 60};
    n += hints_add_command(ed, "help", !awaited || ed->frame.cols >= 40, out + n);
    return n;
}

static size_t hints_now(Editor *ed, Hint *out)
{
    if (!ed->layer)
        return text_hints(ed, out);
    return ed->layer->kind->hints ? ed->layer->kind->hints(ed, ed->layer, out) : 0;
}

static int hint_width(const Frame *f, const Hint *h)
{
    return frame_width(f, h->key) + 1 + frame_width(f, h->label);
}

enum { HINT_GAP = 3, NARROW = 52 /* columns */, LOW = 10 /* rows */ };

/* Lays out the chosen ones, in rows of the screen; places[i] is where each begins. False when they do not
 * fit. */
static bool lay_out(const Frame *f, const Hint *hints, const bool *chosen, size_t n, int rows,
                    int (*places)[2])
{
    int row = 0, col = 1;
    for (size_t i = 0; i < n; i++) {
        if (!chosen[i])
            continue;
        int width = hint_width(f, &hints[i]);
        if (col > 1 && col + width >= f->cols) {
            row++;
            col = 1;
        }
        places[i][0] = row;
        places[i][1] = col;
        if (row == rows || col + width > f->cols)
            return false;
        col += width + HINT_GAP;
    }
    return true;
}

int hints_rows(Editor *ed, const Frame *f)
{
    Hint hints[HINTS_MAX];
    bool chosen[HINTS_MAX] = {false};
    int places[HINTS_MAX][2], rows = f->cols < NARROW ? 2 : 1;
    if (f->rows < LOW)
        return 1;
    size_t n = hints_now(ed, hints);
    for (size_t i = 0; i < n; i++)
        chosen[i] = hints[i].always;
    while (rows < f->rows / 2 && !lay_out(f, hints, chosen, n, rows, places))
        rows++;
    return rows;
}

/* Those that must be there, the way back before all; then as many others as there is room for. */
static void choose(const Frame *f, const Hint *hints, bool *chosen, size_t n, int rows, int (*places)[2])
{
    for (size_t i = 0; i < n; i++)
        chosen[i] = hints[i].always;
    for (size_t i = n; i-- > 0 && !lay_out(f, hints, chosen, n, rows, places);)
        chosen[i] = chosen[i] && strcmp(hints[i].key, "Esc") == 0;
    for (size_t i = 0; i < n; i++)
        if (!hints[i].always) {
            chosen[i] = true;
            chosen[i] = lay_out(f, hints, chosen, n, rows, places);
        }
    lay_out(f, hints, chosen, n, rows, places);
}

void hints_paint_line(Editor *ed, Frame *f, int row, int rows)
{
    Hint hints[HINTS_MAX];
    bool chosen[HINTS_MAX] = {false};
    int places[HINTS_MAX][2];
    size_t n = hints_now(ed, hints);
    choose(f, hints, chosen, n, rows, places);
    for (int r = 0; r < rows; r++)
        frame_blank(f, row + r, 0, f->cols, ST_HINT);
    for (size_t i = 0; i < n; i++) {
        const Hint *h = &hints[i];
        int at = row + places[i][0], from = places[i][1];
        if (!chosen[i])
            continue;
        int col = frame_text(f, at, from, f->cols, ST_HINT_KEY, h->key) + 1;
        col = frame_text(f, at, col, f->cols, ST_HINT, h->label);
        spots_add(&ed->spots, at, from, col, h->key);
    }
}

static int paint_side_hint(Editor *ed, Frame *f, int row, int col, const Hint *h)
{
    if (row >= f->status_row)
        return row;
    frame_text(f, row, col + 2, col + 14, ST_HINT_KEY, h->key);
    frame_text(f, row, col + 14, f->cols, ST_HINT, h->label);
    spots_add(&ed->spots, row, col, f->cols, h->key);
    return row + 1;
}

void hints_paint_side(Editor *ed, Frame *f, int col)
{
    Hint hints[HINTS_MAX];
    int row = 1;
    for (int r = 1; r < f->status_row; r++) {
        frame_blank(f, r, col, f->cols, ST_HINT);
        frame_text(f, r, col, col + 1, ST_GUTTER, "│");
    }
    if (ed->layer) {
        size_t n = hints_now(ed, hints);
        for (size_t i = 0; i < n; i++)
            row = paint_side_hint(ed, f, row, col, &hints[i]);
        return;
    }
    bool marked = is_marked(ed);
    const HintList *lists = marked ? mark_hints : plain_hints;
    size_t n = marked ? sizeof mark_hints / sizeof *mark_hints : sizeof plain_hints / sizeof *plain_hints;
    Hint always[] = {{"Esc", "Commands", true}, {"Esc Esc", "Plain text", true}};
    for (size_t i = 0; i < 2; i++)
        row = paint_side_hint(ed, f, row, col, &always[i]);
    if (hints_add_command(ed, "help", true, hints))
        row = paint_side_hint(ed, f, row, col, hints);
    for (size_t i = 0; i < n; i++) {
        if (row + 2 >= f->status_row)
            return;
        frame_text(f, ++row, col + 2, f->cols, ST_PROMPT, lists[i].title);
        row++;
        for (size_t k = 0; k < 8 && lists[i].commands[k]; k++)
            if (hints_add_command(ed, lists[i].commands[k], false, hints))
                row = paint_side_hint(ed, f, row, col, hints);
    }
}

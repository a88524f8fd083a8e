#include "ui/text_rows.h"

#include "base/words.h"
#include "edit/cells.h"
#include "edit/glyph_reader.h"
#include "session/checking.h"
#include "text/text_line.h"
#include "view/aligned.h"
#include "view/bookmarks.h"
#include "view/brackets.h"
#include "edit/merge.h"
#include "view/change_marks.h"
#include "view/colours.h"
#include "view/columns.h"
#include "view/cursors.h"
#include "view/hiding.h"
#include "view/rows.h"

#include <stdio.h>
#include <string.h>

enum {
    MATCH_REACH = 1024 * 1024, /* how far ahead a match is looked for to be shown */
    ROW_KEPT = 2048,           /* bytes; a longer row is painted each time */
    ROLES_AT_ONCE = 1024
};

#define NO_PARTNER SIZE_MAX

static int digits(size_t n)
{
    int d = 1;
    while (n >= 10) {
        n /= 10;
        d++;
    }
    return d;
}

int text_rows_gutter(const Editor *ed, const View *v)
{
    const Settings *set = &ed->config.settings;
    if (ed->bare || v->looks.title)
        return 0;
    if (!set->line_numbers) {
        size_t problems;
        checking_problems(v->file, &problems);
        bool signs =
            problems || bookmarks_any(v->file) || v->wrap || (set->change_bars && v->file->disk.exists);
        return signs ? 2 : 0;
    }
    int d = digits(text_newlines(view_text(v)) + 1);
    int width = (d < 3 ? 3 : d) + 2;
    return width * 4 < v->cols ? width : 0;
}

typedef struct TextRow {
    Editor *ed;
    View *view;
    Frame *frame;
    int start, limit; /* columns of the screen where the text begins and must end */
    int row;
    size_t mark_from, mark_to; /* of this row; equal: no mark */
    bool block;                /* the mark is a block of columns */
    Columns columns;
    size_t cursor, n_cursors; /* the next of many; all of them */
    Match match;              /* the next one to be shown */
    bool matches;
    bool coloured;
    bool marker;                        /* of a merge */
    const FileProblem *problem;         /* the first one in this row, hints after others; or NULL */
    const FileProblem *first, *all_end; /* those of the text that end in this row or later */
    size_t partner;   /* the place of the bracket that belongs to the one at the cursor; NO_PARTNER: none */
    size_t line_from; /* of this row's line */
    size_t row_to;    /* where the row ends */
    size_t roles_from, roles_to; /* the bytes whose roles are known */
    uint8_t roles[ROLES_AT_ONCE];
} TextRow;

_Static_assert((int)ST_WRONG - (int)ST_COMMENT == (int)ROLE_WRONG - (int)ROLE_COMMENT,
               "one style for each role");

static Style role_style(TextRow *r, size_t at)
{
    if (at < r->roles_from || at >= r->roles_to) {
        r->roles_from = at;
        r->roles_to = at + ROLES_AT_ONCE < r->row_to ? at + ROLES_AT_ONCE : r->row_to;
        colours_of(r->view->file, r->line_from, r->roles_from, r->roles_to, r->roles);
    }
    int role = r->roles[at - r->roles_from];
    return role == ROLE_PLAIN ? ST_TEXT : (Style)(ST_COMMENT + role - ROLE_COMMENT);
}

/* Of what one of many cursors marks, or stands on. The terminal's own shows where the view's stands. */
static Style cursor_style(TextRow *r, size_t at)
{
    const View *v = r->view;
    size_t n, from, to;
    const Cursor *all = cursors_all(v, &n);
    while (r->cursor < n && all[r->cursor].at < at && all[r->cursor].mark <= at)
        r->cursor++;
    for (size_t i = r->cursor; i < n && i < r->cursor + 2; i++) {
        cursors_marked(v, i, &from, &to);
        if (all[i].at == at && (at != v->cursor.at || v != r->ed->panes.view))
            return ST_CURSOR;
        if (at >= from && at < to)
            return ST_MARK;
    }
    return ST_TEXT;
}

/* What a byte is found wrong for, or else what a hint is about; NULL: nothing. */
static const FileProblem *problem_at(const TextRow *r, size_t at)
{
    const FileProblem *hint = NULL;
    for (const FileProblem *p = r->first; p < r->all_end && p->from <= at; p++)
        if (at < p->to && !p->hint)
            return p;
        else if (at < p->to)
            hint = p;
    return hint;
}

static Style style_at(TextRow *r, size_t at, Style plain)
{
    Matches *m = &r->ed->matches;
    const Looks *looks = &r->view->looks;
    if (at >= r->mark_from && at < r->mark_to && !r->n_cursors)
        return ST_MARK;
    if (r->n_cursors && cursor_style(r, at) != ST_TEXT)
        return cursor_style(r, at);
    while (r->matches && at >= r->match.to && at > r->match.from)
        r->matches = matches_from(m, at, at + MATCH_REACH, &r->match);
    if (r->matches && at >= r->match.from && at < r->match.to)
        return r->match.from == m->now.from ? ST_MATCH_NOW : ST_MATCH;
    if (plain != ST_TEXT)
        return plain;
    if (r->marker)
        return ST_WRONG;
    const FileProblem *problem = r->problem ? problem_at(r, at) : NULL;
    if (problem)
        return problem->hint ? ST_DOUBTFUL : ST_WRONG;
    if (at == r->partner)
        return ST_PARTNER;
    return looks->at ? looks->at(looks->ctx, at) : r->coloured ? role_style(r, at) : plain;
}

/* What stands at the line's end when it is an odd one for this file. */
static const char *odd_line_end(const OpenFile *f, Text t, size_t end)
{
    bool cr = text_byte(t, end) == '\r';
    return cr && f->format.ends != ENDS_CRLF ? "\\r" : NULL;
}

/* A blank, a tab or a line end as a sign, where that is wanted. */
static void paint_sign(const TextRow *r, int col, const char *sign, Style style)
{
    if (r->ed->config.settings.show_blanks && !r->ed->bare && col < r->limit)
        frame_text(r->frame, r->row, col, r->limit, style == ST_TEXT ? ST_GUTTER : style, sign);
}

/* What the mark covers of this row. */
static void set_row_mark(TextRow *r, size_t start)
{
    const View *v = r->view;
    if (!r->block)
        return;
    size_t line = text_line_of(view_text(v), start);
    r->mark_from = r->mark_to = 0;
    if (line >= r->columns.first && line <= r->columns.last)
        columns_part(v, &r->columns, line, &r->mark_from, &r->mark_to);
}

/* A character that looks like a blank and is none: no-break spaces, those of typesetting and of wide scripts.
 */
static bool looks_blank(const Glyph *g)
{
    uint32_t c = g->n_codes == 1 ? g->codes[0] : 0;
    return c == 0xa0 || c == 0x1680 || (c >= 0x2000 && c <= 0x200a) || c == 0x202f || c == 0x205f ||
           c == 0x3000;
}

/* At the right edge, where a line goes on beyond it. */
static void paint_more(const TextRow *r)
{
    int col = r->limit - 1;
    if (frame_cell(r->frame, r->row, col)->width == 0 && col > r->start) /* the right half of a wide one */
        frame_blank(r->frame, r->row, col - 1, col + 1, ST_TEXT);
    frame_text(r->frame, r->row, col, r->limit, ST_GUTTER, "›");
}

/* The first character of a row that is on the screen, the cells before it, and the next separator of a table;
 * what lies left of the screen is not looked at. */
static void find_start(const View *v, const Row *row, const AlignedRow *a, size_t *p, size_t *cells,
                       size_t *separator)
{
    size_t left = v->left + row->origin;
    if (v->aligned) {
        *p = row_place(v, row, left);
        *cells = row_cells(v, row, *p);
        while (*separator < a->n && a->at[*separator] < *p)
            ++*separator;
    } else if (left > *cells) {
        *p = cells_place(view_text(v), row->line, left, view_tab(v));
        *cells = cells_before(view_text(v), *p, view_tab(v));
    }
}

static void paint_row(TextRow *r, const Row *row)
{
    const View *v = r->view;
    Text t = view_text(v);
    Frame *f = r->frame;
    size_t cells = row->origin, left = v->left + cells, right = left + (size_t)(v->cols - v->gutter);
    size_t p = row->from, end = row->to;
    Glyph g;
    GlyphReader reader = {.text = t};
    AlignedRow aligned = {0};
    size_t separator = 0;
    if (v->aligned)
        aligned_row(v, row->line_from, row->line_to, &aligned);
    find_start(v, row, &aligned, &p, &cells, &separator);
    for (; p < end && cells < right; p += g.bytes) {
        glyph_reader_next(&reader, p, &g);
        size_t width = glyph_cells(&g, cells, view_tab(v));
        bool separates = separator < aligned.n && aligned.at[separator] == p;
        if (separates)
            width = aligned.after[separator++] - cells;
        bool alike = looks_blank(&g), wrong = alike && !v->file->kind->prose;
        Style style = style_at(r, p, g.n_codes && !wrong ? ST_TEXT : ST_ESCAPE);
        if (cells + width > left) {
            int col = r->start + (int)(cells > left ? cells - left : 0);
            int end_col = r->start + (int)(cells + width - left);
            end_col = end_col < r->limit ? end_col : r->limit;
            if (g.n_codes == 1 && g.codes[0] == '\t') {
                frame_blank(f, r->row, col, end_col, style);
                paint_sign(r, col, "→", style);
            } else if (separates && cells < left) {
                frame_blank(f, r->row, col, end_col, style);
            } else if (cells >= left) {
                frame_blank(f, r->row, col, end_col, style);
                frame_glyph(f, r->row, col, r->limit, &g, style);
                if (g.codes[0] == ' ' || alike)
                    paint_sign(r, col, alike ? "␣" : "·", style);
            } else if (g.n_codes == 0) { /* an escape that begins left of the screen */
                frame_blank(f, r->row, col, end_col, style);
                frame_text(f, r->row, col, r->limit, style, g.escape + (left - cells));
            } else { /* the right half of a wide one */
                frame_blank(f, r->row, col, col + 1, style);
            }
        }
        cells += width;
    }
    int col = r->start + (int)(cells > left ? cells - left : 0);
    frame_blank(f, r->row, col, r->limit, ST_TEXT);
    if (p < end && cells >= right && !v->wrap && !r->ed->bare && r->limit > r->start + 1)
        paint_more(r);
    if (p < end || cells < left)
        return;
    if (end < row->line_to) { /* a wrapped line goes on below */
        if (!v->looks.title)
            frame_text(f, r->row, r->limit - 1, r->limit, ST_GUTTER, "↵");
        return;
    }
    const char *odd = odd_line_end(v->file, t, end);
    if (odd && col < r->limit)
        col = frame_text(f, r->row, col, r->limit, ST_ESCAPE, odd);
    bool marked = end >= r->mark_from && end < r->mark_to && !r->block && !r->n_cursors;
    Style at_end = r->n_cursors ? cursor_style(r, end) : marked ? ST_MARK : ST_TEXT;
    marked = at_end == ST_MARK;
    if (at_end != ST_TEXT && col < r->limit)
        frame_blank(f, r->row, col, col + 1, at_end); /* the line end is marked too */
    if (text_byte(t, end) >= 0)
        paint_sign(r, col, "¶", marked ? ST_MARK : ST_TEXT);
    if (r->block && r->columns.left == r->columns.right && r->mark_from == r->mark_to &&
        r->mark_from >= row->from && r->mark_from <= end) /* a block of no width shows as a thin bar */
        frame_restyle(f, r->row, r->start + (int)(r->columns.left - left),
                      r->start + (int)(r->columns.left - left) + 1, ST_MATCH);
}

static bool bookmarked(const TextRow *r, const Row *row)
{
    return row->from == row->line_from && bookmarks_in(r->view->file, row->line_from, row->line_to);
}

static const char *bar_of(const TextRow *r, const Row *row)
{
    return r->ed->config.settings.change_bars ? change_marks_sign(r->view->file, row->line) : NULL;
}

/* What is hidden beside a row, "⋯ 14 lines"; "" if nothing is. */
static void hidden_words(const View *v, const Row *row, char out[80])
{
    size_t before = row->from == row->line_from ? hiding_before(v, row->line_from) : 0;
    size_t after = row->to == row->line_to ? hiding_after(v, row->line_from) : 0;
    out[0] = 0;
    if (before && after)
        snprintf(out, 80, "⋯ %zu before, %zu after", before, after);
    else if (before || after)
        snprintf(out, 80, "⋯ %s%s", AMOUNT(before + after, "line"), before ? " before" : "");
}

/* At the right end, over what is longest there: what is hidden is not to be missed. */
static void paint_hidden(const TextRow *r, const Row *row)
{
    char words[80];
    if (!r->view->hiding)
        return;
    hidden_words(r->view, row, words);
    int width = frame_width(r->frame, words), col = r->limit - width - 1;
    if (width && col > r->start)
        frame_text(r->frame, r->row, col, r->limit, ST_GUTTER, words);
}

/* The column of the ruler on the screen; -1: there is none in sight. */
static int ruler_column(const TextRow *r)
{
    const View *v = r->view;
    size_t width = editor_text_width(r->ed, v->file);
    if (!r->ed->config.settings.ruler || r->ed->bare || v->looks.title || width < v->left)
        return -1;
    int col = r->start + (int)(width - v->left);
    return col < r->limit ? col : -1;
}

/* Only where nothing else stands. */
static void paint_ruler(const TextRow *r)
{
    int col = ruler_column(r);
    const Cell *c = col < 0 ? NULL : frame_cell(r->frame, r->row, col);
    if (c && c->width == 1 && c->style == ST_TEXT && c->n_codes == 1 && c->codes[0] == ' ')
        frame_text(r->frame, r->row, col, col + 1, ST_GUTTER, "│");
}

static bool cursors_in(const TextRow *r, size_t from, size_t to)
{
    size_t i = r->n_cursors ? cursors_after(r->view, from) : 0, a, b;
    if (i >= r->n_cursors)
        return false;
    cursors_marked(r->view, i, &a, &b);
    return a <= to;
}

/* Are there more than one? */
static bool many_problems(const TextRow *r, const Row *row)
{
    return r->problem && r->first + 1 < r->all_end && r->first[1].from <= row->to;
}

/* Is it the cursor's line, in the pane with the cursor? */
static bool is_now(const TextRow *r, const Row *row)
{
    const View *v = r->view;
    return v == r->ed->panes.view && v->cursor.at >= row->line_from && v->cursor.at <= row->line_to;
}

/* All that the picture of a row depends on; nothing if that is too much to tell. */
static void row_source(const TextRow *r, const Row *row, Bytes *out)
{
    const View *v = r->view;
    struct {
        size_t line, bytes, aligned, partner, wrong_from, wrong_to, mark_from, mark_to, origin, left, tab;
        const char *bar;
        char hidden[80];
        const Kind *kind;
        ColourState state;
        int start, limit, gutter, ruler;
        bool now, first, wrapped, numbered, blanks, bookmark, bare, ends, problem, hint, marker;
    } s;
    char bytes[ROW_KEPT];
    size_t n = row->to - row->from, end = row->to + 1;
    bytes_clear(out);
    if (n >= sizeof bytes || v->looks.at || r->block || many_problems(r, row) ||
        cursors_in(r, row->from, end) || (r->matches && r->match.from < end))
        return;
    memset(&s, 0, sizeof s); /* its gaps too */
    s.line = row->line;
    s.bytes = n;
    s.partner = r->partner >= row->from && r->partner < end ? r->partner - row->from : NO_PARTNER;
    if (r->problem) {
        s.problem = true;
        s.hint = r->problem->hint;
        s.wrong_from = r->problem->from < row->from ? 0 : r->problem->from - row->from;
        s.wrong_to = (r->problem->to < end ? r->problem->to : end) - row->from;
    }
    if (r->mark_from < end && r->mark_to > row->from) {
        s.mark_from = r->mark_from < row->from ? 0 : r->mark_from - row->from;
        s.mark_to = (r->mark_to < end ? r->mark_to : end) - row->from;
    }
    s.origin = row->origin;
    s.left = v->left;
    s.aligned = aligned_stamp(v) + (v->aligned != NULL);
    s.tab = view_tab(v);
    s.bar = bar_of(r, row);
    s.start = r->start;
    s.limit = r->limit;
    s.gutter = v->gutter;
    s.ruler = ruler_column(r);
    if (v->hiding)
        hidden_words(v, row, s.hidden);
    s.now = is_now(r, row);
    s.first = row->from == row->line_from;
    s.wrapped = row->to < row->line_to;
    s.numbered = r->ed->config.settings.line_numbers;
    s.blanks = r->ed->config.settings.show_blanks;
    s.bookmark = bookmarked(r, row);
    s.bare = r->ed->bare;
    s.marker = r->marker;
    s.ends = v->file->format.ends == ENDS_CRLF;
    if (r->coloured) {
        s.kind = v->file->kind;
        s.state = colours_state(v->file, row->line_from);
    }
    bytes_add(out, &s, sizeof s);
    bytes_add(out, bytes, text_read(view_text(v), row->from, bytes, n + 1)); /* with what ends the line */
    if (r->coloured && (!s.first || s.wrapped)) { /* its colours follow from other rows too */
        colours_of(v->file, row->line_from, row->from, row->to, (uint8_t *)bytes);
        bytes_add(out, bytes, n);
    }
}

static void paint_gutter(const TextRow *r, const Row *row)
{
    const View *v = r->view;
    bool first_row = row->from == row->line_from;
    char number[32] = "";
    if (!v->gutter)
        return;
    frame_blank(r->frame, r->row, v->col, r->start, ST_TEXT);
    if (first_row && r->ed->config.settings.line_numbers)
        snprintf(number, sizeof number, "%*zu", v->gutter - 2, row->line + 1);
    frame_text(r->frame, r->row, v->col, r->start, is_now(r, row) ? ST_GUTTER_NOW : ST_GUTTER, number);
    const char *bar = bar_of(r, row);
    if (bar)
        frame_text(r->frame, r->row, r->start - 2, r->start - 1, ST_CHANGED, bar);
    if (r->problem)
        frame_text(r->frame, r->row, r->start - 1, r->start, r->problem->hint ? ST_CHANGED : ST_WRONG,
                   r->problem->hint ? "?" : "!");
    else if (bookmarked(r, row))
        frame_text(r->frame, r->row, r->start - 1, r->start, ST_CHANGED, "•");
    else if (!first_row)
        frame_text(r->frame, r->row, r->start - 1, r->start, ST_GUTTER, "↳");
    else if (v->left && row->line_to > row->line_from) /* it begins left of the screen */
        frame_text(r->frame, r->row, r->start - 1, r->start, ST_GUTTER, "‹");
}

/* Comparing may take long; then it is left until the keys rest. */
static void look_for_changes(Editor *ed, OpenFile *f)
{
    if (!ed->config.settings.change_bars)
        return;
    unsigned rest = change_marks_look(f, ed->clock.now - ed->clock.last_key);
    if (rest)
        ed->clock.marks_due = ed->clock.now + rest;
}

/* Of the sign at the cursor, or of a closing one right before it; as far as it can be seen. */
static size_t shown_partner(const View *v)
{
    size_t at = v->cursor.at, from = v->top.at, to = view_end(v), partner;
    int before = at > 0 ? text_byte(view_text(v), at - 1) : -1;
    if (v->left > 0 || at < from || at > to)
        return NO_PARTNER;
    if (brackets_partner_between(v, at, from, to, &partner))
        return partner;
    bool closes = before == ')' || before == ']' || before == '}';
    return closes && brackets_partner_between(v, at - 1, from, to, &partner) ? partner : NO_PARTNER;
}

static void set_row_problems(TextRow *r, const Row *row)
{
    size_t n;
    bool none = r->view->looks.title || r->ed->bare;
    const FileProblem *all = none ? NULL : checking_problems(r->view->file, &n);
    r->problem = all ? checking_problem_in(r->view->file, row->from, row->to) : NULL;
    r->first = all;
    r->all_end = all ? all + n : NULL;
    while (r->first < r->all_end && r->first->to < row->from)
        r->first++;
}

void text_rows_paint(Editor *ed, Frame *f, View *v)
{
    bool now = v == ed->panes.view;
    look_for_changes(ed, v->file);
    hiding_follow(v);
    cursors_follow(v);
    TextRow r = {.ed = ed, .view = v, .frame = f, .start = v->col + v->gutter, .limit = v->col + v->cols};
    view_marked(v, &r.mark_from, &r.mark_to);
    r.block = columns_marked(v, &r.columns);
    cursors_all(v, &r.n_cursors);
    r.cursor = cursors_after(v, v->top.at);
    r.matches = now && matches_from(&ed->matches, v->top.at, v->top.at + MATCH_REACH, &r.match);
    r.partner = now && !ed->bare && !v->looks.at ? shown_partner(v) : NO_PARTNER;
    size_t last = view_lines(v) - 1, at = text_line_of(view_text(v), v->cursor.at);
    last = at > last ? at : last; /* the place after the last newline shows while the cursor stands there */
    Row row = row_at(v, v->top.at);
    r.coloured = !ed->bare && !v->looks.at && colours_begin(v->file, row.line_from, view_end(v));
    bool more = true;
    Bytes source = {0};
    if (now)
        f->cursor_row = -1;
    for (int i = 0; i < v->rows; i++) {
        r.row = v->row + i;
        if (!more || row.line > last) {
            frame_blank(f, r.row, v->col, r.limit, ST_TEXT);
            paint_ruler(&r);
            continue;
        }
        set_row_mark(&r, row.from);
        r.line_from = row.line_from;
        r.row_to = row.to;
        set_row_problems(&r, &row);
        r.marker = !v->looks.title && !ed->bare && conflict_marks(view_text(v), row.line_from);
        r.roles_from = r.roles_to = 0;
        row_source(&r, &row, &source);
        if (!frame_kept(f, r.row, &source)) {
            paint_gutter(&r, &row);
            paint_row(&r, &row);
            paint_ruler(&r);
            paint_hidden(&r, &row);
            frame_keep(f, r.row, &source);
        }
        if (now && row_holds(&row, v->cursor.at)) {
            f->cursor_row = r.row;
            f->cursor_col = r.start + (int)(row_cells(v, &row, v->cursor.at) - v->left);
        }
        v->shown_to = row.to;
        more = row_forward(v, &row);
    }
    bytes_free(&source);
}

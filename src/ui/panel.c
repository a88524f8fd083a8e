#include "ui/panel.h"

#include "base/array.h"
#include "base/mem.h"
#include "frame/line_entry.h"
#include "ui/fuzzy.h"
#include "ui/line_keys.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct Row {
    long id;
    char *text, *note, *keys;
    size_t from, to; /* bytes of the note that were looked for; equal: none */
    int score;
    size_t order;
} Row;

struct Panel {
    Layer layer;
    PanelSpec spec;
    LineEntry filter;
    Row *rows;
    size_t n;
    size_t now, top;
    int widest, of_cols;  /* the longest text of the rows, on a screen so wide; of_cols 0: not known */
    bool completing;      /* Tab puts one row after the other into the filter */
    int first_row, shown; /* where the list stands, for the mouse */
};

static void free_rows(Panel *p)
{
    p->of_cols = 0;
    for (size_t i = 0; i < p->n; i++) {
        free(p->rows[i].text);
        free(p->rows[i].note);
        free(p->rows[i].keys);
    }
    p->n = 0;
}

static void add_row(Panel *p, long id, const char *text, const char *note, const char *keys, int score)
{
    p->rows = array_room(p->rows, p->n, sizeof *p->rows);
    p->rows[p->n] = (Row){
        id, mem_string(text), mem_string(note ? note : ""), mem_string(keys ? keys : ""), 0, 0, score, p->n};
    p->n++;
}

void panel_add(Panel *p, long id, const char *text, const char *note, const char *keys)
{
    int score = p->spec.plain ? 0 : fuzzy_score(bytes_str(&p->filter.text), text);
    if (score >= 0)
        add_row(p, id, text, note, keys, score);
}

void panel_add_scored(Panel *p, long id, const char *text, const char *note, const char *keys, int score)
{
    if (score >= 0)
        add_row(p, id, text, note, keys, score);
}

void panel_mark(Panel *p, size_t from, size_t to)
{
    if (!p->n)
        return;
    p->rows[p->n - 1].from = from;
    p->rows[p->n - 1].to = to;
}

size_t panel_rows(const Panel *p)
{
    return p->n;
}

void panel_exact(Panel *p, long id, const char *text, const char *note)
{
    add_row(p, id, text, note, NULL, 0);
}

static int better(const void *a, const void *b)
{
    const Row *x = a, *y = b;
    if (x->score != y->score)
        return y->score - x->score;
    return x->order < y->order ? -1 : 1;
}

static void preview(Editor *ed, Panel *p)
{
    if (p->spec.preview && p->n)
        p->spec.preview(ed, p->rows[p->now].id, p->spec.ctx);
}

static void fill(Editor *ed, Panel *p)
{
    free_rows(p);
    p->spec.fill(ed, p, bytes_str(&p->filter.text), p->spec.ctx);
    if (p->n > 1)
        qsort(p->rows, p->n, sizeof *p->rows, better);
    if (p->now >= p->n)
        p->now = p->n ? p->n - 1 : 0;
}

static void choose(Editor *ed, Panel *p)
{
    PanelSpec spec = p->spec;
    long id = p->n ? p->rows[p->now].id : -1;
    if (id < 0 && !spec.plain)
        return;
    char *typed = mem_string(spec.takes_row && p->n ? p->rows[p->now].text : bytes_str(&p->filter.text));
    if (!spec.stays) {
        p->spec.free_ctx = NULL;
        layers_pop(ed);
    }
    spec.chosen(ed, id, typed, spec.ctx);
    if (!spec.stays && spec.free_ctx)
        spec.free_ctx(spec.ctx);
    free(typed);
}

/* ---- keys ---- */

static bool move(Editor *ed, Panel *p, long by)
{
    long last = (long)p->n - 1, to = (long)p->now + by;
    p->now = (size_t)(to < 0 || last < 0 ? 0 : to > last ? last : to);
    preview(ed, p);
    return true;
}

/* Puts the highlighted row into the filter, or by a further Tab the one after it. A single one is complete.
 */
static bool complete(Editor *ed, Panel *p)
{
    bool single = p->n == 1;
    if (p->completing || strcmp(p->rows[p->now].text, bytes_str(&p->filter.text)) == 0)
        p->now = (p->now + 1) % p->n;
    p->completing = !single;
    line_entry_set(&p->filter, p->rows[p->now].text);
    if (single) {
        line_entry_insert(&p->filter, " ", 1);
        p->now = p->top = 0;
        fill(ed, p);
    }
    return true;
}

static bool panel_key(Editor *ed, Layer *l, const Input *in)
{
    Panel *p = (Panel *)l;
    Key k = line_keys_meaning(&ed->config, in->key);
    long page = p->shown > 1 ? p->shown - 1 : 1;
    switch (in->key.mods ? K_NONE : in->key.code) { /* not the chords of a line, which move in the filter */
    case K_HOME:
        return move(ed, p, -(long)p->n);
    case K_END:
        return move(ed, p, (long)p->n);
    default:
        break;
    }
    switch (k.mods ? K_NONE : k.code) {
    case K_UP:
        if (p->spec.takes_row && p->n && p->now == 0 && !p->filter.text.len)
            return complete(ed, p); /* what was given last stands on top */
        return move(ed, p, -1);
    case K_DOWN:
        return move(ed, p, 1);
    case K_PAGE_UP:
        return move(ed, p, -page);
    case K_PAGE_DOWN:
        return move(ed, p, page);
    case K_ENTER:
        choose(ed, p);
        return true;
    default:
        break;
    }
    if (k.code == K_TAB && p->spec.takes_row && p->n)
        return complete(ed, p);
    p->completing = false;
    if (p->spec.key && p->spec.key(ed, k, p->n ? p->rows[p->now].id : -1, p->spec.ctx))
        return true;
    if (!line_keys_take_clip(ed, &p->filter, in->key) && !line_entry_key(&p->filter, k))
        return false;
    p->now = p->top = 0;
    fill(ed, p);
    preview(ed, p);
    return true;
}

static void panel_paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    Panel *p = (Panel *)l;
    line_entry_insert(&p->filter, bytes, n);
    fill(ed, p);
}

static void panel_mouse(Editor *ed, Layer *l, const Mouse *m)
{
    Panel *p = (Panel *)l;
    if (m->action == MOUSE_WHEEL_UP || m->action == MOUSE_WHEEL_DOWN) {
        move(ed, p, m->action == MOUSE_WHEEL_UP ? -1 : 1);
        return;
    }
    if (m->action != MOUSE_PRESS || m->button != 1)
        return;
    int row = m->row - p->first_row;
    if (row < 0 || row >= p->shown || p->top + (size_t)row >= p->n)
        return;
    p->now = p->top + (size_t)row;
    choose(ed, p);
}

/* ---- painting ---- */

enum {
    LOW = 16 /* rows of a screen */,
    NARROW = 60 /* columns */,
    DETAIL_MOST = 5 /* rows */,
    DETAIL_LOOK = 400 /* rows of the list that are measured for it */
};

/* All that a row says; its columns are not wide enough on narrow screens. */
static char *detail_of(const Row *r)
{
    Bytes b = {0};
    bytes_printf(&b, "%s: %s", r->text, r->note);
    return b.at;
}

static bool is_cut(const Frame *f, const Row *r, int text_width)
{
    int keys = frame_width(f, r->keys), limit = f->cols - 1 - (keys ? keys + 2 : 0);
    int text = frame_width(f, r->text), note = 2 + text_width + 3;
    if (note < 2 + text + 2)
        note = 2 + text + 2;
    return r->note[0] && (2 + text > limit || note + frame_width(f, r->note) > limit);
}

static int widest_text(Panel *p, const Frame *f)
{
    int widest = 0;
    if (p->of_cols == f->cols)
        return p->widest;
    for (size_t i = 0; i < p->n; i++) {
        int w = frame_width(f, p->rows[i].text);
        widest = w > widest && w < f->cols / 2 ? w : widest;
    }
    p->widest = widest;
    p->of_cols = f->cols;
    return widest;
}

/* Rows below the list that say in full what its columns cut off; as many for each row, so that nothing jumps.
 */
static int detail_rows(Panel *p, const Frame *f)
{
    int widest = widest_text(p, f), most = 0;
    for (size_t i = 0; i < p->n && i < DETAIL_LOOK; i++) {
        if (!is_cut(f, &p->rows[i], widest))
            continue;
        char *all = detail_of(&p->rows[i]);
        int n = frame_wrapped((Frame *)f, 0, 2, f->cols - 1, 0, ST_BOX, all);
        most = n > most ? n : most;
        free(all);
    }
    int room = f->rows < 14 ? f->rows / 4 : f->rows / 3;
    most = most < DETAIL_MOST ? most : DETAIL_MOST;
    return most < room ? most : room;
}

static int panel_height(Editor *ed, Layer *l, const Frame *f)
{
    (void)ed;
    Panel *p = (Panel *)l;
    int most = (f->status_row - 1) * 3 / 5, want = (int)(p->n < 100 ? p->n : 100) + 1,
        detail = detail_rows(p, f);
    if (f->rows < LOW)
        most = f->status_row - 1;
    else if (!p->spec.preview) /* nothing of the text need be seen */
        most = f->status_row - 3;
    if (p->n == 0)
        want = 2;
    int height = want + detail < most ? want + detail : most;
    return height > 2 ? height : 2;
}

static void paint_note(Frame *f, int row, int col, int limit, Style style, const Row *r)
{
    if (r->to <= r->from) {
        frame_text(f, row, col, limit, style, r->note);
        return;
    }
    char *before = mem_string_n(r->note, r->from), *found = mem_string_n(r->note + r->from, r->to - r->from);
    col = frame_text(f, row, col, limit, style, before);
    col = frame_text(f, row, col, limit, ST_MATCH, found);
    frame_text(f, row, col, limit, style, r->note + r->to);
    free(before);
    free(found);
}

static void paint_row(Frame *f, int row, const Row *r, bool now, int text_width)
{
    Style style = now ? ST_BOX_NOW : ST_BOX;
    frame_blank(f, row, 0, f->cols, style);
    if (now)
        frame_text(f, row, 0, f->cols, style, "▸");
    int keys = frame_width(f, r->keys), limit = f->cols - 1 - (keys ? keys + 2 : 0);
    int end = frame_text(f, row, 2, limit, style, r->text);
    int note = 2 + text_width + 3, width = frame_width(f, r->note);
    if (note < end + 2)
        note = end + 2;
    if (f->cols < NARROW && note + width > limit &&
        end + 2 + width <= limit) /* short ones at the edge, rather than cut */
        note = limit - width;
    if (r->note[0] && (note + 6 < limit || note + width <= limit))
        paint_note(f, row, note, limit, style, r);
    frame_text(f, row, f->cols - 1 - keys, f->cols, style, r->keys);
}

static void panel_paint(Editor *ed, Layer *l, Frame *f)
{
    Panel *p = (Panel *)l;
    int height = panel_height(ed, l, f), row = f->status_row - height;
    int widest = widest_text(p, f), detail = detail_rows(p, f);
    char count[48];
    frame_blank(f, row, 0, f->cols, ST_BOX_TITLE);
    int col = frame_text(f, row, 1, f->cols, ST_BOX_TITLE, p->spec.title);
    col = frame_text(f, row, col, f->cols, ST_BOX_TITLE, ": ");
    snprintf(count, sizeof count, "%zu of %zu", p->n ? p->now + 1 : 0, p->n);
    int width = frame_width(f, count);
    frame_text(f, row, f->cols - width - 1, f->cols, ST_BOX_TITLE, count);
    line_entry_paint(&p->filter, f, row, col, f->cols - width - 3, ST_BOX_TITLE);
    p->first_row = row + 1;
    p->shown = height - 1 - detail >= 1 ? height - 1 - detail : height - 1;
    if (p->now < p->top)
        p->top = p->now;
    if (p->now >= p->top + (size_t)p->shown)
        p->top = p->now + 1 - (size_t)p->shown;
    if (p->top + (size_t)p->shown > p->n) /* the screen has grown, or the list become shorter */
        p->top = p->n > (size_t)p->shown ? p->n - (size_t)p->shown : 0;
    for (int i = 0; i < p->shown; i++) {
        size_t r = p->top + (size_t)i;
        frame_blank(f, row + 1 + i, 0, f->cols, ST_BOX);
        if (r < p->n)
            paint_row(f, row + 1 + i, &p->rows[r], r == p->now, widest);
    }
    for (int r = p->first_row + p->shown; r < row + height; r++)
        frame_blank(f, r, 0, f->cols, ST_BOX_TITLE);
    if (p->n && p->shown < height - 1) {
        char *all = detail_of(&p->rows[p->now]);
        frame_wrapped(f, p->first_row + p->shown, 2, f->cols - 1, height - 1 - p->shown, ST_BOX_TITLE, all);
        free(all);
    }
    if (p->n == 0)
        frame_text(f, row + 1, 2, f->cols, ST_BOX_DIM, p->spec.empty ? p->spec.empty : "Nothing fits");
}

static size_t panel_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed;
    const Panel *p = (const Panel *)l;
    size_t n = 0;
    out[n++] = (Hint){"Enter", p->spec.enter && p->n ? p->spec.enter(p->rows[p->now].id) : "Choose", true};
    if (p->spec.takes_row)
        out[n++] = (Hint){"Tab", "Complete", false};
    for (const Hint *h = p->spec.hints; h && h->key[0]; h++)
        out[n++] = *h;
    out[n++] = (Hint){"Up Down", "Move", false};
    out[n++] = (Hint){"letters", "Type to filter", false};
    out[n++] = (Hint){"Esc", "Back", true};
    return n;
}

static void panel_cancel(Editor *ed, Layer *l)
{
    Panel *p = (Panel *)l;
    if (p->spec.cancelled)
        p->spec.cancelled(ed, p->spec.ctx);
}

static void panel_free(Editor *ed, Layer *l)
{
    (void)ed;
    Panel *p = (Panel *)l;
    free_rows(p);
    free(p->rows);
    line_entry_free(&p->filter);
    if (p->spec.free_ctx)
        p->spec.free_ctx(p->spec.ctx);
}

static void panel_topic(Editor *ed, Layer *l, Bytes *out)
{
    const Panel *p = (const Panel *)l;
    if (p->spec.topic && p->n)
        p->spec.topic(ed, p->rows[p->now].id, out);
}

static const LayerKind panel_kind = {
    .help = "panels",
    .topic = panel_topic,
    .key = panel_key,
    .paste = panel_paste,
    .mouse = panel_mouse,
    .height = panel_height,
    .paint = panel_paint,
    .hints = panel_hints,
    .cancel = panel_cancel,
    .free = panel_free,
};

void panel_open(Editor *ed, const PanelSpec *spec)
{
    Panel *p = mem_get(sizeof *p);
    p->layer.kind = &panel_kind;
    p->spec = *spec;
    line_entry_set(&p->filter, spec->initial ? spec->initial : "");
    layers_push(ed, &p->layer);
    fill(ed, p);
}

void panel_go(Editor *ed, long id)
{
    if (!ed->layer || ed->layer->kind != &panel_kind)
        return;
    Panel *p = (Panel *)ed->layer;
    for (size_t i = 0; i < p->n; i++)
        if (p->rows[i].id == id)
            p->now = i;
}

long panel_now(const Editor *ed)
{
    const Panel *p = (const Panel *)ed->layer;
    return p->n ? p->rows[p->now].id : -1;
}

bool panel_shows(const Editor *ed, const void *ctx)
{
    return ed->layer && ed->layer->kind == &panel_kind && ((const Panel *)ed->layer)->spec.ctx == ctx;
}

void panel_preview(Editor *ed)
{
    preview(ed, (Panel *)ed->layer);
}

void panel_go_now(Editor *ed)
{
    const Panel *p = (const Panel *)ed->layer;
    for (size_t i = 0; i < p->n; i++)
        if (strcmp(p->rows[i].keys, "now") == 0)
            panel_go(ed, p->rows[i].id);
}

void panel_refresh(Editor *ed)
{
    if (!ed->layer || ed->layer->kind != &panel_kind)
        return;
    Panel *p = (Panel *)ed->layer;
    long id = p->n ? p->rows[p->now].id : -1;
    fill(ed, p);
    panel_go(ed, id);
}

const char *panel_filter(const Editor *ed)
{
    return bytes_str(&((const Panel *)ed->layer)->filter.text);
}

void panel_set_filter(Editor *ed, const char *text)
{
    Panel *p = (Panel *)ed->layer;
    line_entry_set(&p->filter, text);
    p->now = p->top = 0;
    fill(ed, p);
}

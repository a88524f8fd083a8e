#include "ui/prompt.h"

#include "base/array.h"
#include "base/mem.h"
#include "files/location.h"
#include "frame/line_entry.h"
#include "ui/line_keys.h"
#include "ui/folders.h"
#include "session/session_memory.h"

#include <stdlib.h>
#include <string.h>

typedef struct Prompt {
    Layer layer;
    PromptSpec spec;
    char *label;
    LineEntry line;
    char **history; /* newest first */
    size_t n_history;
    size_t at; /* 0: the answer being typed; i: history[i - 1] is shown */
    char *typed;
    Offers offers; /* shown when several fit */
    size_t offer;  /* which one stands in the answer; n: none yet */
    /* where they were painted, for the mouse */
    int line_row, line_from;
    int offers_row, offers_rows, offers_first, offers_columns, offers_width;
} Prompt;

static void take_history(const char *answer, void *ctx)
{
    Prompt *p = ctx;
    p->history = array_room(p->history, p->n_history, sizeof *p->history);
    p->history[p->n_history++] = mem_string(answer);
}

static void show_history(Prompt *p, size_t at)
{
    if (at > p->n_history)
        return;
    if (p->at == 0) {
        free(p->typed);
        p->typed = mem_string(bytes_str(&p->line.text));
    }
    p->at = at;
    line_entry_set(&p->line, at ? p->history[at - 1] : p->typed);
}

static void put_offer(Prompt *p, const char *item)
{
    bytes_delete(&p->line.text, p->offers.from, p->line.at - p->offers.from);
    p->line.at = p->offers.from;
    line_entry_insert(&p->line, item, strlen(item));
}

/* Tab: as far as it is certain; again: one offer after the other. */
static void complete(Editor *ed, Prompt *p, int by)
{
    if (p->offers.n > 1) {
        size_t n = p->offers.n;
        p->offer = p->offer >= n ? (by > 0 ? 0 : n - 1) : (p->offer + n + (size_t)by) % n;
        put_offer(p, p->offers.items[p->offer]);
        return;
    }
    offers_free(&p->offers);
    char *before = mem_string_n(bytes_str(&p->line.text), p->line.at);
    bool on_host = p->spec.offer == offers_files && location_is_remote(before);
    if (on_host && !folders_offer(ed, before, &p->offers)) {
        free(before);
        return;
    }
    if (!on_host)
        p->spec.offer(before, &p->offers);
    Offers *o = &p->offers;
    if (o->n == 0) {
        say(ed, "Nothing begins with “%s”", before + (o->from < p->line.at ? o->from : 0));
    } else {
        offers_sort(o);
        size_t sure = offers_common(o);
        if (sure >= p->line.at - o->from) {
            char *start = mem_string_n(o->items[0], sure);
            put_offer(p, start);
            free(start);
        }
        p->offer = o->n;
    }
    if (o->n == 1)
        offers_free(o);
    free(before);
}

static void answer(Editor *ed, Prompt *p)
{
    PromptSpec spec = p->spec;
    char *text = mem_string(bytes_str(&p->line.text));
    if (spec.history && *text && session_store(ed->session))
        store_add(session_store(ed->session), spec.history, text);
    p->spec.free_ctx = NULL; /* the answer's taker still needs it */
    layers_pop(ed);
    spec.done(ed, text, spec.ctx);
    if (spec.free_ctx)
        spec.free_ctx(spec.ctx);
    free(text);
}

static bool prompt_key(Editor *ed, Layer *l, const Input *in)
{
    Prompt *p = (Prompt *)l;
    Key k = line_keys_meaning(&ed->config, in->key);
    if (p->spec.key && p->spec.key(ed, in, p->spec.ctx))
        return true;
    if (k.code == K_ENTER) {
        answer(ed, p);
        return true;
    }
    if (k.code == K_TAB && p->spec.offer) {
        complete(ed, p, k.mods & MOD_SHIFT ? -1 : 1);
    } else if (k.code == K_UP && !k.mods && p->at < p->n_history) {
        show_history(p, p->at + 1);
    } else if (k.code == K_DOWN && !k.mods && p->at > 0) {
        show_history(p, p->at - 1);
    } else if (line_keys_take_clip(ed, &p->line, in->key) || line_entry_key(&p->line, k)) {
        offers_free(&p->offers);
    } else {
        return k.code == K_UP || k.code == K_DOWN || k.code == K_TAB;
    }
    if (p->spec.changed)
        p->spec.changed(ed, bytes_str(&p->line.text), p->spec.ctx);
    return true;
}

static void prompt_paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    Prompt *p = (Prompt *)l;
    line_entry_insert(&p->line, bytes, n);
    if (p->spec.changed)
        p->spec.changed(ed, bytes_str(&p->line.text), p->spec.ctx);
}

/* A click into the line moves the cursor, one on an offer takes it. */
static void prompt_mouse(Editor *ed, Layer *l, const Mouse *m)
{
    Prompt *p = (Prompt *)l;
    if (m->action != MOUSE_PRESS || m->button != 1)
        return;
    int row = m->row - p->offers_row;
    if (m->row == p->line_row) {
        line_entry_go(&p->line, p->line_from, m->col);
    } else if (p->offers.n > 1 && row >= 0 && row < p->offers_rows) {
        int column = m->col / p->offers_width, number = (p->offers_first + row) * p->offers_columns + column;
        size_t i = (size_t)number;
        if (i >= p->offers.n || column >= p->offers_columns)
            return;
        p->offer = i;
        put_offer(p, p->offers.items[i]);
        if (p->spec.changed)
            p->spec.changed(ed, bytes_str(&p->line.text), p->spec.ctx);
    }
}

/* The list shows only the last part of a path. */
static const char *short_offer(const char *item)
{
    size_t n = strlen(item);
    for (size_t i = n > 1 ? n - 1 : 0; i-- > 0;)
        if (item[i] == '/')
            return item + i + 1;
    return item;
}

static void paint_offers(Prompt *p, Frame *f, int bottom)
{
    int width = 0, most = f->rows / 3;
    for (size_t i = 0; i < p->offers.n; i++) {
        int w = frame_width(f, short_offer(p->offers.items[i])) + 3;
        width = w > width ? w : width;
    }
    if (width == 0)
        return;
    if (width > f->cols)
        width = f->cols;
    int columns = f->cols / width, n = (int)p->offers.n;
    int rows = (n + columns - 1) / columns;
    int shown = rows < most ? rows : most > 1 ? most : 1;
    int first = p->offer < p->offers.n ? (int)p->offer / columns - shown + 1 : 0;
    first = first > 0 ? first : 0;
    p->offers_row = bottom - shown;
    p->offers_rows = shown;
    p->offers_first = first;
    p->offers_columns = columns;
    p->offers_width = width;
    for (int r = 0; r < shown; r++) {
        frame_blank(f, bottom - shown + r, 0, f->cols, ST_BOX);
        for (int c = 0; c < columns; c++) {
            int i = (first + r) * columns + c;
            if (i < n)
                frame_text(f, bottom - shown + r, 1 + c * width, (c + 1) * width,
                           (size_t)i == p->offer ? ST_BOX_NOW : ST_BOX, short_offer(p->offers.items[i]));
        }
    }
    if (rows > shown)
        frame_text(f, bottom - 1, f->cols - 2, f->cols, ST_BOX_TITLE, "v");
}

/* What is said above the prompt, in as many rows as it takes. */
static void paint_above(Frame *f, int row, bool warning, const char *words)
{
    int rows = frame_wrapped(f, 0, 1, f->cols - 1, 0, ST_STATUS, words),
        first = row - rows > 0 ? row - rows : 1;
    for (int r = first; r < row; r++)
        frame_blank(f, r, 0, f->cols, warning ? ST_WARNING : ST_STATUS);
    frame_wrapped(f, first, 1, f->cols - 1, row - first, warning ? ST_WARNING : ST_MESSAGE, words);
}

/* The note at the right of the prompt, if there is room for it or for its first part; else above it. The
 * column where it begins. */
static int paint_note(Prompt *p, Editor *ed, Frame *f, int row, int col)
{
    enum { LINE_LEAST = 12 };
    Bytes note = {0};
    int end = f->cols;
    p->spec.note(ed, &note, p->spec.ctx);
    char *words = mem_string(bytes_str(&note)), *cut = strstr(words, " · ");
    if (frame_width(f, words) + LINE_LEAST + col >= f->cols && cut)
        *cut = 0;
    int width = frame_width(f, words);
    if (width && width + LINE_LEAST + col < f->cols) {
        end = f->cols - width - 3;
        frame_text(f, row, f->cols - width - 1, f->cols, ST_PROMPT, words);
    } else if (width && row > 1 && !ed->notices.text[0]) {
        paint_above(f, row, false, words);
    }
    free(words);
    bytes_free(&note);
    return end;
}

static void prompt_paint(Editor *ed, Layer *l, Frame *f)
{
    Prompt *p = (Prompt *)l;
    int row = f->status_row, end = f->cols;
    frame_blank(f, row, 0, f->cols, ST_TEXT);
    int limit = f->cols > 24 ? f->cols / 2 : f->cols - 12;
    int col = frame_text(f, row, 1, limit, ST_PROMPT, p->label);
    col = frame_text(f, row, col, f->cols, ST_PROMPT, ": ");
    if (p->spec.note)
        end = paint_note(p, ed, f, row, col);
    if (ed->notices.text[0] && row > 1) /* the answer stays in sight below it */
        paint_above(f, row, ed->notices.warning, ed->notices.text);
    else if (p->offers.n > 1)
        paint_offers(p, f, row);
    p->line_row = row;
    p->line_from = col;
    line_entry_paint(&p->line, f, row, col, end, ST_TEXT);
    long fault = p->spec.fault ? p->spec.fault(ed, p->spec.ctx) : -1;
    if (fault >= 0) { /* where it is wrong; after the end: the place where something is missing */
        int at = line_entry_column(&p->line, col, (size_t)fault);
        if (at >= col && at < end)
            frame_restyle(f, row, at, at + 1, ST_WARNING);
    }
}

static size_t prompt_hints(Editor *ed, Layer *l, Hint *out)
{
    const Prompt *p = (const Prompt *)l;
    size_t n = p->spec.hints ? p->spec.hints(ed, out, p->spec.ctx) : 0;
    if (n > 3) /* its own options are what counts now */
        return n;
    memmove(out + 1, out, n++ * sizeof *out);
    out[0] = (Hint){"Enter", p->spec.enter ? p->spec.enter : "OK", true};
    if (p->spec.offer)
        out[n++] = (Hint){"Tab", "Complete", true};
    if (p->n_history)
        out[n++] = (Hint){"Up", "Earlier ones", false};
    out[n++] = (Hint){"Esc", "Back", true};
    out[n++] = (Hint){"Ctrl+U", "Clear to the left", false};
    out[n++] = (Hint){"Ctrl+A", "To the start", false};
    return n;
}

static void prompt_cancel(Editor *ed, Layer *l)
{
    Prompt *p = (Prompt *)l;
    if (p->spec.cancelled)
        p->spec.cancelled(ed, p->spec.ctx);
}

static void prompt_free(Editor *ed, Layer *l)
{
    (void)ed;
    Prompt *p = (Prompt *)l;
    line_entry_free(&p->line);
    free(p->label);
    offers_free(&p->offers);
    for (size_t i = 0; i < p->n_history; i++)
        free(p->history[i]);
    free(p->history);
    free(p->typed);
    if (p->spec.free_ctx)
        p->spec.free_ctx(p->spec.ctx);
}

static const LayerKind prompt_kind = {
    .help = "prompts",
    .asks = true,
    .key = prompt_key,
    .paste = prompt_paste,
    .mouse = prompt_mouse,
    .paint = prompt_paint,
    .hints = prompt_hints,
    .cancel = prompt_cancel,
    .free = prompt_free,
};

void prompt_ask(Editor *ed, const PromptSpec *spec)
{
    Prompt *p = mem_get(sizeof *p);
    p->layer.kind = &prompt_kind;
    p->spec = *spec;
    p->label = mem_string(spec->label);
    line_entry_set(&p->line, spec->initial ? spec->initial : "");
    p->line.selected = spec->select && p->line.text.len;
    if (spec->history && session_store(ed->session))
        store_each(session_store(ed->session), spec->history, 200, take_history, p);
    layers_push(ed, &p->layer);
}

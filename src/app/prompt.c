/* The prompt line and the question line. */
#include "app/editor.h"
#include "app/lineedit.h"
#include "base/mem.h"
#include "base/sys.h"

#include <ctype.h>
#include <dirent.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

/* ---- what keys mean in a line ---- */

Key line_meaning(const Editor *ed, Key k)
{
    static const struct {
        const char *command;
        Key key;
    } meanings[] = {
        {"go-left", {.code = K_LEFT}},
        {"go-right", {.code = K_RIGHT}},
        {"go-up", {.code = K_UP}},
        {"go-down", {.code = K_DOWN}},
        {"go-line-start", {.code = K_HOME}},
        {"go-line-end", {.code = K_END}},
        {"go-word-left", {.code = K_LEFT, .mods = MOD_CTRL}},
        {"go-word-right", {.code = K_RIGHT, .mods = MOD_CTRL}},
        {"go-screen-up", {.code = K_PAGE_UP}},
        {"go-screen-down", {.code = K_PAGE_DOWN}},
        {"delete-right", {.code = K_DELETE}},
        {"delete-left", {.code = K_BACKSPACE}},
        {"delete-word-left", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'w'}},
        {"cut-to-line-start", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'u'}},
        {"cut-to-line-end", {.code = K_CHAR, .mods = MOD_CTRL, .ch = 'k'}},
    };
    const Binding *b = key_types(k) ? NULL : keymap_find(&ed->keys, k);
    for (size_t i = 0; b && b->command && i < sizeof meanings / sizeof *meanings; i++)
        if (strcmp(b->command->name, meanings[i].command) == 0)
            return meanings[i].key;
    return k;
}

bool line_takes_clip(Editor *ed, LineEdit *l, Key k)
{
    const Binding *b = keymap_find(&ed->keys, k);
    if (!b || b->command != command_named("paste", 5))
        return false;
    char bytes[1024];
    if (ed->shelf.n)
        line_insert(l, bytes, text_read(ed->shelf.clips[0].text, 0, bytes, sizeof bytes));
    else
        say(ed, "Nothing was cut or copied yet");
    return true;
}

/* ---- prompts ---- */

typedef struct Prompt {
    Layer layer;
    PromptSpec spec;
    LineEdit line;
    char **history; /* newest first */
    size_t n_history, cap_history;
    size_t at; /* 0: the answer being typed; i: history[i - 1] is shown */
    char *typed;
    Offers offers; /* shown when several fit */
    size_t offer;  /* which one stands in the answer; n: none yet */
} Prompt;

void offers_free(Offers *o)
{
    for (size_t i = 0; i < o->n; i++)
        free(o->items[i]);
    free(o->items);
    *o = (Offers){0};
}

void offers_add(Offers *o, const char *item)
{
    if (o->n == o->cap) {
        o->cap = o->cap ? 2 * o->cap : 16;
        o->items = mem_grow(o->items, o->cap * sizeof *o->items);
    }
    o->items[o->n++] = mem_string(item);
}

static void take_history(const char *answer, void *ctx)
{
    Prompt *p = ctx;
    if (p->n_history == p->cap_history) {
        p->cap_history = p->cap_history ? 2 * p->cap_history : 32;
        p->history = mem_grow(p->history, p->cap_history * sizeof *p->history);
    }
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
    line_set(&p->line, at ? p->history[at - 1] : p->typed);
}

static void put_offer(Prompt *p, const char *item)
{
    bytes_delete(&p->line.text, p->offers.from, p->line.at - p->offers.from);
    p->line.at = p->offers.from;
    line_insert(&p->line, item, strlen(item));
}

static size_t common_start(const Offers *o)
{
    size_t n = strlen(o->items[0]);
    for (size_t i = 1; i < o->n; i++) {
        size_t k = 0;
        while (k < n && o->items[i][k] == o->items[0][k])
            k++;
        n = k;
    }
    while (n && ((unsigned char)o->items[0][n] & 0xc0) == 0x80)
        n--;
    return n;
}

static int by_name(const void *a, const void *b)
{
    return strcmp(*(char *const *)a, *(char *const *)b);
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
    p->spec.offer(ed, before, &p->offers);
    Offers *o = &p->offers;
    if (o->n == 0) {
        say(ed, "Nothing begins with “%s”", before + (o->from < p->line.at ? o->from : 0));
    } else {
        qsort(o->items, o->n, sizeof *o->items, by_name);
        size_t sure = common_start(o);
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
    if (!spec.keep_open) {
        p->spec.free_ctx = NULL; /* the answer's taker still needs it */
        layer_pop(ed);
    }
    spec.done(ed, text, spec.ctx);
    if (!spec.keep_open && spec.free_ctx)
        spec.free_ctx(spec.ctx);
    free(text);
}

static bool prompt_key(Editor *ed, Layer *l, const Input *in)
{
    Prompt *p = (Prompt *)l;
    Key k = line_meaning(ed, in->key);
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
    } else if (line_takes_clip(ed, &p->line, in->key) || line_key(&p->line, k)) {
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
    line_insert(&p->line, bytes, n);
    if (p->spec.changed)
        p->spec.changed(ed, bytes_str(&p->line.text), p->spec.ctx);
}

/* Only the last part of a path is told apart in the list. */
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
    if (width > f->cols)
        width = f->cols;
    int columns = f->cols / width, n = (int)p->offers.n;
    int rows = (n + columns - 1) / columns;
    int shown = rows < most ? rows : most > 1 ? most : 1;
    int first = p->offer < p->offers.n ? (int)p->offer / columns - shown + 1 : 0;
    first = first > 0 ? first : 0;
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

static void prompt_paint(Editor *ed, Layer *l, Frame *f)
{
    Prompt *p = (Prompt *)l;
    int row = status_row(f), end = f->cols;
    frame_blank(f, row, 0, f->cols, ST_TEXT);
    int limit = f->cols > 24 ? f->cols / 2 : f->cols - 12;
    int col = frame_text(f, row, 1, limit, ST_PROMPT, p->spec.label);
    col = frame_text(f, row, col, f->cols, ST_PROMPT, ": ");
    if (p->spec.note) {
        Bytes note = {0};
        p->spec.note(ed, &note, p->spec.ctx);
        int width = frame_width(f, bytes_str(&note));
        if (width && width + 12 + col < f->cols) {
            end = f->cols - width - 3;
            frame_text(f, row, f->cols - width - 1, f->cols, ST_PROMPT, bytes_str(&note));
        }
        bytes_free(&note);
    }
    if (ed->message.text[0] && row > 1) { /* the answer stays in sight below it */
        frame_blank(f, row - 1, 0, f->cols, ed->message.warning ? ST_WARNING : ST_STATUS);
        frame_text(f, row - 1, 1, f->cols, ed->message.warning ? ST_WARNING : ST_MESSAGE, ed->message.text);
    } else if (p->offers.n > 1) {
        paint_offers(p, f, row);
    }
    line_paint(&p->line, f, row, col, end, ST_TEXT);
    long fault = p->spec.fault ? p->spec.fault(ed, p->spec.ctx) : -1;
    if (fault >= 0) { /* where it is wrong; behind the end: the place where something is missing */
        int at = line_column(&p->line, col, (size_t)fault);
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
    out[0] = (Hint){"Enter", "OK", true};
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

static void prompt_free(Layer *l)
{
    Prompt *p = (Prompt *)l;
    line_free(&p->line);
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
    .key = prompt_key,
    .paste = prompt_paste,
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
    line_set(&p->line, spec->initial ? spec->initial : "");
    p->line.selected = spec->select && p->line.text.len;
    if (spec->history && session_store(ed->session))
        store_each(session_store(ed->session), spec->history, 200, take_history, p);
    layer_push(ed, &p->layer);
}

/* ---- what Tab offers ---- */

void offer_words(const char *words, const char *start, Offers *out)
{
    while (words && *words) {
        size_t n = strcspn(words, "|");
        if (strncmp(words, start, strlen(start)) == 0) {
            char *word = mem_string_n(words, n);
            offers_add(out, word);
            free(word);
        }
        words += n + (words[n] == '|');
    }
}

void offer_files(Editor *ed, const char *before, Offers *out)
{
    (void)ed;
    const char *slash = strrchr(before, '/');
    if (!slash && strcmp(before, "~") == 0) {
        offers_add(out, "~/");
        return;
    }
    char *head = mem_string_n(before, slash ? (size_t)(slash - before) + 1 : 0);
    char *folder = sys_expand_home(*head ? head : ".");
    const char *start = slash ? slash + 1 : before;
    DIR *d = opendir(folder);
    Bytes item = {0}, full = {0};
    for (struct dirent *e; d && (e = readdir(d));) {
        struct stat st;
        if (strncmp(e->d_name, start, strlen(start)) != 0 || (e->d_name[0] == '.' && start[0] != '.'))
            continue;
        if (strcmp(e->d_name, ".") == 0 || strcmp(e->d_name, "..") == 0)
            continue;
        bytes_clear(&full);
        bytes_printf(&full, "%s/%s", folder, e->d_name);
        bool is_folder = stat(full.at, &st) == 0 && S_ISDIR(st.st_mode);
        bytes_clear(&item);
        bytes_printf(&item, "%s%s%s", head, e->d_name, is_folder ? "/" : "");
        offers_add(out, item.at);
    }
    if (d)
        closedir(d);
    bytes_free(&item);
    bytes_free(&full);
    free(folder);
    free(head);
}

/* ---- questions ---- */

enum { LETTERS_COUNT_AFTER = 300 }; /* ms: nobody reads faster than that */

typedef struct Question {
    Layer layer;
    QuestionSpec spec;
    char text[256];
    uint64_t since;
    /* where the answers were painted, for the mouse; the last place is for the one that stays */
    int rows[ANSWERS_MAX + 1], froms[ANSWERS_MAX + 1], ends[ANSWERS_MAX + 1];
} Question;

static void give_answer(Editor *ed, Question *q, char letter)
{
    QuestionSpec spec = q->spec;
    q->spec.free_ctx = NULL;
    layer_pop(ed);
    spec.done(ed, letter, spec.ctx);
    if (spec.free_ctx)
        spec.free_ctx(spec.ctx);
}

static bool question_key(Editor *ed, Layer *l, const Input *in)
{
    Question *q = (Question *)l;
    Key k = in->key;
    if (!key_types(k))
        return false;
    uint32_t ch = k.ch < 128 ? k.ch : settings_menu_letter(ed, k.ch);
    char letter = ch < 128 ? (char)tolower((int)ch) : 0;
    if (q->spec.can_lose && ed->now - q->since < LETTERS_COUNT_AFTER)
        return true;
    for (size_t i = 0; i < ANSWERS_MAX && q->spec.answers[i].letter; i++)
        if (q->spec.answers[i].letter == letter) {
            give_answer(ed, q, letter);
            return true;
        }
    return true;
}

static void question_mouse(Editor *ed, Layer *l, const Mouse *m)
{
    Question *q = (Question *)l;
    if (m->action != MOUSE_PRESS || m->button != 1)
        return;
    for (size_t i = 0; i <= ANSWERS_MAX; i++) {
        bool is_answer = i == ANSWERS_MAX || q->spec.answers[i].letter;
        if (!is_answer || m->row != q->rows[i] || m->col < q->froms[i] || m->col >= q->ends[i])
            continue;
        if (i == ANSWERS_MAX)
            layer_cancel(ed);
        else
            give_answer(ed, q, q->spec.answers[i].letter);
        return;
    }
}

/* Where the next answer goes: behind the one before, or on the next row. */
typedef struct Pen {
    int row, col;
} Pen;

/* Without painting: only finds out how far it goes. */
static void put_answer(Question *q, size_t i, Frame *f, bool paint, const char *key, const char *label,
                       Pen *p)
{
    int width = frame_width(f, key) + 1 + frame_width(f, label);
    if (p->col > 1 && p->col + width > f->cols) {
        p->row++;
        p->col = 1;
    }
    if (paint) {
        int col = frame_text(f, p->row, p->col, f->cols, ST_HINT_KEY, key);
        frame_text(f, p->row, col + 1, f->cols, ST_HINT, label);
        q->rows[i] = p->row;
        q->froms[i] = p->col;
        q->ends[i] = p->col + width + 1;
    }
    p->col += width + 3;
}

static void put_answers(Question *q, Frame *f, bool paint, Pen *p)
{
    char letter[2] = "";
    for (size_t i = 0; i < ANSWERS_MAX && q->spec.answers[i].letter; i++) {
        letter[0] = q->spec.answers[i].letter;
        put_answer(q, i, f, paint, letter, q->spec.answers[i].label, p);
    }
    put_answer(q, ANSWERS_MAX, f, paint, "Esc", q->spec.stay, p);
}

/* The question on the status line and its answers behind it; where they do not fit, on the rows up to the
 * last. */
static void question_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    Question *q = (Question *)l;
    int row = status_row(f), last = f->rows - 1;
    Pen behind = {row, frame_width(f, q->text) + 4}, below = {0, 1};
    put_answers(q, f, false, &behind);
    if (behind.row > row) {
        put_answers(q, f, false, &below);
        row = last - below.row - 1 > 0 ? last - below.row - 1 : 0;
    }
    bool wraps = behind.row > status_row(f);
    for (int r = row; r <= (wraps ? last : row); r++)
        frame_blank(f, r, 0, f->cols, ST_TEXT);
    int col = frame_text(f, row, 1, f->cols, ST_PROMPT, q->text) + 3;
    Pen p = wraps ? (Pen){row + 1, 1} : (Pen){row, col};
    put_answers(q, f, true, &p);
    f->cursor_row = row;
    f->cursor_col = 0;
}

static size_t question_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed;
    out[0] = (Hint){"Esc", ((Question *)l)->spec.stay, true};
    return 1;
}

static void question_cancel(Editor *ed, Layer *l)
{
    Question *q = (Question *)l;
    q->spec.done(ed, 0, q->spec.ctx);
}

static void question_free(Layer *l)
{
    Question *q = (Question *)l;
    if (q->spec.free_ctx)
        q->spec.free_ctx(q->spec.ctx);
}

static const LayerKind question_kind = {
    .help = "prompts",
    .key = question_key,
    .mouse = question_mouse,
    .paint = question_paint,
    .hints = question_hints,
    .cancel = question_cancel,
    .free = question_free,
};

void question_ask(Editor *ed, const QuestionSpec *spec, const char *format, ...)
{
    Question *q = mem_get(sizeof *q);
    va_list args;
    va_start(args, format);
    vsnprintf(q->text, sizeof q->text, format, args);
    va_end(args);
    q->layer.kind = &question_kind;
    q->spec = *spec;
    q->since = ed->now;
    if (spec->can_lose)
        ed->discard_input = true;
    layer_push(ed, &q->layer);
}

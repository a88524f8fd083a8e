/* The prompt line and the question line. */
#include "editor.h"

#include "lineedit.h"
#include "mem.h"

#include <ctype.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static int status_row(const Frame *f)
{
    return f->rows >= 4 ? f->rows - 2 : f->rows - 1;
}

/* ---- prompts ---- */

typedef struct Prompt {
    Layer layer;
    PromptSpec spec;
    LineEdit line;
} Prompt;

static bool prompt_key(Editor *ed, Layer *l, const Input *in)
{
    Prompt *p = (Prompt *)l;
    Key k = in->key;
    if (k.code == K_ENTER) {
        PromptSpec spec = p->spec;
        char *answer = mem_string(bytes_str(&p->line.text));
        p->spec.free_ctx = NULL; /* the answer's taker still needs it */
        layer_pop(ed);
        spec.done(ed, answer, spec.ctx);
        if (spec.free_ctx)
            spec.free_ctx(spec.ctx);
        free(answer);
        return true;
    }
    return line_key(&p->line, k);
}

static void prompt_paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)ed;
    line_insert(&((Prompt *)l)->line, bytes, n);
}

static void prompt_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    Prompt *p = (Prompt *)l;
    int row = status_row(f);
    frame_blank(f, row, 0, f->cols, ST_TEXT);
    int limit = f->cols > 24 ? f->cols / 2 : f->cols - 12;
    int col = frame_text(f, row, 1, limit, ST_PROMPT, p->spec.label);
    col = frame_text(f, row, col, f->cols, ST_PROMPT, ": ");
    line_paint(&p->line, f, row, col, f->cols, ST_TEXT);
}

static size_t prompt_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed;
    (void)l;
    out[0] = (Hint){"Enter", "OK", true};
    out[1] = (Hint){"Esc", "Back to the text", true};
    out[2] = (Hint){"Ctrl+U", "Clear to the left", false};
    out[3] = (Hint){"Ctrl+A", "To the start", false};
    out[4] = (Hint){"Ctrl+E", "To the end", false};
    return 5;
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
    if (p->spec.free_ctx)
        p->spec.free_ctx(p->spec.ctx);
}

static const LayerKind prompt_kind = {
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
    layer_push(ed, &p->layer);
}

/* ---- questions ---- */

enum { LETTERS_COUNT_AFTER = 300 }; /* ms: nobody reads faster than that */

typedef struct Question {
    Layer layer;
    QuestionSpec spec;
    char text[256];
    uint64_t since;
} Question;

static bool question_key(Editor *ed, Layer *l, const Input *in)
{
    Question *q = (Question *)l;
    Key k = in->key;
    if (!key_types(k))
        return false;
    char letter = k.ch < 128 ? (char)tolower((int)k.ch) : 0;
    if (q->spec.can_lose && ed->now - q->since < LETTERS_COUNT_AFTER)
        return true;
    for (size_t i = 0; i < ANSWERS_MAX && q->spec.answers[i].letter; i++)
        if (q->spec.answers[i].letter == letter) {
            QuestionSpec spec = q->spec;
            q->spec.free_ctx = NULL;
            layer_pop(ed);
            spec.done(ed, letter, spec.ctx);
            if (spec.free_ctx)
                spec.free_ctx(spec.ctx);
            return true;
        }
    return true;
}

static int paint_answer(Frame *f, int row, int col, const char *key, const char *label)
{
    col = frame_text(f, row, col, f->cols, ST_HINT_KEY, key);
    return frame_text(f, row, col + 1, f->cols, ST_HINT, label) + 3;
}

/* The question on the status line, its answers behind it, or on the line below on small screens. */
static void question_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    Question *q = (Question *)l;
    int row = status_row(f), answers_width = 0;
    char letter[2] = "";
    for (size_t i = 0; i < ANSWERS_MAX && q->spec.answers[i].letter; i++)
        answers_width += 5 + frame_width(f, q->spec.answers[i].label);
    answers_width += 4 + frame_width(f, q->spec.stay);
    frame_blank(f, row, 0, f->cols, ST_TEXT);
    int col = 1;
    if (frame_width(f, q->text) + answers_width + 5 > f->cols && f->rows > row + 1) {
        frame_text(f, row++, 1, f->cols, ST_PROMPT, q->text);
        frame_blank(f, row, 0, f->cols, ST_TEXT);
    } else {
        col = frame_text(f, row, 1, f->cols, ST_PROMPT, q->text) + 3;
    }
    for (size_t i = 0; i < ANSWERS_MAX && q->spec.answers[i].letter; i++) {
        letter[0] = q->spec.answers[i].letter;
        col = paint_answer(f, row, col, letter, q->spec.answers[i].label);
    }
    paint_answer(f, row, col, "Esc", q->spec.stay);
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
    .key = question_key,
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

#include "ui/question.h"

#include "base/mem.h"
#include "ui/hints.h"

#include <ctype.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { LETTERS_COUNT_AFTER = 300 }; /* ms without a letter: nobody reads faster than that */

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
    layers_pop(ed);
    spec.done(ed, letter, spec.ctx);
    if (spec.free_ctx)
        spec.free_ctx(spec.ctx);
}

enum { NO_ANSWER = ANSWERS_MAX, STAYS /* as Esc does */ };

static size_t answer_numbered(const QuestionSpec *spec, char letter)
{
    size_t i = 0;
    while (i < ANSWERS_MAX && spec->answers[i].letter && spec->answers[i].letter != letter)
        i++;
    return i < ANSWERS_MAX && spec->answers[i].letter ? i : NO_ANSWER;
}

/* Which answer a key gives. Letters that are none may still be yes or no. */
static size_t answer_of(const Editor *ed, const Question *q, Key k)
{
    uint32_t ch = k.ch < 128 ? k.ch : settings_menu_letter(&ed->config, k.ch);
    char letter = ch < 128 ? (char)tolower((int)ch) : 0;
    if (!key_types(k) || (q->spec.can_lose && ed->clock.now - q->since < LETTERS_COUNT_AFTER))
        return NO_ANSWER;
    size_t i = answer_numbered(&q->spec, letter);
    if (i != NO_ANSWER || !q->spec.yes || (letter != 'y' && letter != 'n'))
        return i;
    return letter == 'y' ? answer_numbered(&q->spec, q->spec.yes)
           : q->spec.no  ? answer_numbered(&q->spec, q->spec.no)
                         : STAYS;
}

static bool question_key(Editor *ed, Layer *l, const Input *in)
{
    Question *q = (Question *)l;
    size_t i = answer_of(ed, q, in->key);
    if (!key_types(in->key))
        return false;
    if (i == STAYS)
        layers_cancel(ed);
    else if (i != NO_ANSWER)
        give_answer(ed, q, q->spec.answers[i].letter);
    else if (q->spec.can_lose && ed->clock.now - q->since < LETTERS_COUNT_AFTER)
        q->since = ed->clock.now; /* somebody who types on has not read it yet */
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
            layers_cancel(ed);
        else
            give_answer(ed, q, q->spec.answers[i].letter);
        return;
    }
}

/* Where the next answer goes: after the one before, or on the next row. */
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

/* The question on the status line and its answers after it; where they do not fit, below it on the rows down
 * to the last, with as many rows for the question as it takes. */
static void question_paint(Editor *ed, Layer *l, Frame *f)
{
    (void)ed;
    Question *q = (Question *)l;
    int row = f->status_row, last = f->rows - 1;
    Pen after = {row, frame_width(f, q->text) + 4}, below = {0, 1};
    put_answers(q, f, false, &after);
    bool wraps = after.row > row || after.col - 3 > f->cols;
    int words = 1;
    if (wraps) {
        put_answers(q, f, false, &below);
        words = frame_wrapped(f, 0, 1, f->cols - 1, 0, ST_PROMPT, q->text);
        row = last - below.row - words;
        if (row < 0) { /* the answers first */
            words += row;
            row = 0;
        }
        words = words > 0 ? words : 1;
    }
    for (int r = row; r <= (wraps ? last : row); r++)
        frame_blank(f, r, 0, f->cols, ST_TEXT);
    Pen p = {row, frame_width(f, q->text) + 4};
    if (wraps) {
        frame_wrapped(f, row, 1, f->cols - 1, words, ST_PROMPT, q->text);
        p = (Pen){row + words, 1};
    } else {
        frame_text(f, row, 1, f->cols, ST_PROMPT, q->text);
    }
    put_answers(q, f, true, &p);
    f->cursor_row = row;
    f->cursor_col = 0;
}

static size_t question_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)l; /* its answers, and what Esc does, stand beside it */
    return hints_add_command(ed, "help", true, out);
}

static void question_cancel(Editor *ed, Layer *l)
{
    Question *q = (Question *)l;
    q->spec.done(ed, 0, q->spec.ctx);
}

static void question_free(Editor *ed, Layer *l)
{
    (void)ed;
    Question *q = (Question *)l;
    if (q->spec.free_ctx)
        q->spec.free_ctx(q->spec.ctx);
}

static const LayerKind question_kind = {
    .help = "prompts",
    .asks = true,
    .key = question_key,
    .mouse = question_mouse,
    .paint = question_paint,
    .hints = question_hints,
    .cancel = question_cancel,
    .free = question_free,
};

bool question_is_asked(const Editor *ed)
{
    return ed->layer && ed->layer->kind == &question_kind;
}

const char *question_answer(const Editor *ed, Key key)
{
    const Question *q = (const Question *)ed->layer;
    size_t i = question_is_asked(ed) ? answer_of(ed, q, key) : NO_ANSWER;
    return i < ANSWERS_MAX ? q->spec.answers[i].label : NULL;
}

bool question_answer_by(Editor *ed, const char *words)
{
    Question *q = (Question *)ed->layer;
    for (size_t i = 0; question_is_asked(ed) && i < ANSWERS_MAX && q->spec.answers[i].letter; i++)
        if (strcmp(q->spec.answers[i].label, words) == 0) {
            give_answer(ed, q, q->spec.answers[i].letter);
            return true;
        }
    return false;
}

void question_ask(Editor *ed, const QuestionSpec *spec, const char *format, ...)
{
    Question *q = mem_get(sizeof *q);
    va_list args;
    va_start(args, format);
    vsnprintf(q->text, sizeof q->text, format, args);
    va_end(args);
    q->layer.kind = &question_kind;
    q->spec = *spec;
    q->since = ed->clock.now;
    if (spec->can_lose)
        ed->host.discard_input = true;
    layers_push(ed, &q->layer);
}

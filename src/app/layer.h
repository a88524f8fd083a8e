/* Layers: what lies over the text until Esc backs out of it: a prompt, a question,
 * a menu, a panel. The uppermost one gets the keys. */
#ifndef LAYER_H
#define LAYER_H
#include "app/decode.h"
#include "app/frame.h"
#include "base/bytes.h"

typedef struct Editor Editor;
typedef struct Layer Layer;

/* One entry of the hint line. */
typedef struct Hint {
    char key[KEY_NAME_MAX];
    const char *label;
    bool always; /* never dropped for want of room */
} Hint;

enum { HINTS_MAX = 24 };

typedef struct LayerKind {
    const char *help; /* the help page on it */
    /* All may be NULL. key: false hands the key on to what every layer does with it. */
    bool (*key)(Editor *ed, Layer *l, const Input *in);
    bool takes_esc; /* Esc goes to `key` too */
    void (*paste)(Editor *ed, Layer *l, const char *bytes, size_t n);
    void (*mouse)(Editor *ed, Layer *l, const Mouse *m);
    /* Rows it takes from the lower end of the text. */
    int (*height)(Editor *ed, Layer *l, const Frame *f);
    void (*paint)(Editor *ed, Layer *l, Frame *f);
    size_t (*hints)(Editor *ed, Layer *l, Hint *out);
    void (*cancel)(Editor *ed, Layer *l); /* backed out of, before it is freed */
    void (*free)(Layer *l);
} LayerKind;

struct Layer {
    const LayerKind *kind;
    Layer *below;
};

/* Lays `l`, from mem_get, on top; it is freed when it goes. */
void layer_push(Editor *ed, Layer *l);
/* Takes the uppermost one away without a word. */
void layer_pop(Editor *ed);
/* Backs out of the uppermost one, as Esc does. */
void layer_cancel(Editor *ed);
void layer_cancel_all(Editor *ed);

/* The row of the status line, which prompts and questions share. */
int status_row(const Frame *f);

/* The key by which a line of text entry knows what `k` does in the text: own keys and layouts
 * count there too. */
Key line_meaning(const Editor *ed, Key k);
/* Puts the newest clip into a line when `k` is the paste key; true then. */
struct LineEdit;
bool line_takes_clip(Editor *ed, struct LineEdit *l, Key k);

/* ---- a prompt: one line of text entry on the status line ---- */

/* What Tab offers in a prompt. */
typedef struct Offers {
    size_t from; /* where in the answer the part begins that they would replace */
    char **items;
    size_t n, cap;
} Offers;

void offers_add(Offers *o, const char *item); /* copied */
void offers_free(Offers *o);
/* Those of "|"-separated words (or NULL) that begin with `start`. */
void offer_words(const char *words, const char *start, Offers *out);

typedef struct PromptSpec {
    const char *label;
    const char *initial;
    const char *history; /* the kind under which answers are remembered, or NULL */
    void (*offer)(Editor *ed, const char *before_cursor, Offers *out); /* or NULL */
    void (*changed)(Editor *ed, const char *answer, void *ctx);        /* after each key; or NULL */
    bool (*key)(Editor *ed, const Input *in, void *ctx);               /* keys of its own; or NULL */
    size_t (*hints)(Editor *ed, Hint *out, void *ctx);                 /* further ones; or NULL */
    void (*note)(Editor *ed, Bytes *out, void *ctx);                   /* shown at the right; or NULL */
    long (*fault)(Editor *ed, void *ctx); /* the byte of the answer with a mistake, -1: none; or NULL */
    bool select;                          /* the initial text is replaced by typing */
    bool keep_open;                       /* Enter calls `done` and leaves the prompt where it is */
    void (*done)(Editor *ed, const char *answer, void *ctx);
    void (*cancelled)(Editor *ed, void *ctx); /* or NULL */
    void *ctx;
    void (*free_ctx)(void *); /* or NULL */
} PromptSpec;

void prompt_ask(Editor *ed, const PromptSpec *spec);
/* File names that go on from a path, folders with a slash; hidden ones only when asked for. */
void offer_files(Editor *ed, const char *before_cursor, Offers *out);

/* ---- a question: some letters, each with its words ---- */

enum { ANSWERS_MAX = 6 };

typedef struct AnswerLetter {
    char letter; /* lower case */
    const char *label;
} AnswerLetter;

typedef struct QuestionSpec {
    AnswerLetter answers[ANSWERS_MAX];                /* up to the first without a letter */
    const char *stay;                                 /* what Esc is called */
    bool can_lose;                                    /* typed-ahead letters must not answer it */
    void (*done)(Editor *ed, char letter, void *ctx); /* letter 0: Esc */
    void *ctx;
    void (*free_ctx)(void *);
} QuestionSpec;

void question_ask(Editor *ed, const QuestionSpec *spec, const char *format, ...)
    __attribute__((format(printf, 3, 4)));

#endif

/* Layers: what lies over the text until Esc backs out of it: a prompt, a question, a menu, a panel, a page of
 * help. The uppermost one gets the keys. */
#ifndef LAYER_H
#define LAYER_H

#include "base/bytes.h"
#include "config/registry.h"
#include "frame/frame.h"
#include "input/decoder.h"

typedef struct Layer Layer;

/* One entry of the hint line. */
typedef struct Hint {
    char key[KEY_NAME_MAX];
    const char *label;
    bool always; /* never dropped for want of room */
} Hint;

enum { HINTS_MAX = 24 };

/* All but `free` may be NULL, and that too if there is nothing to free. */
typedef struct LayerKind {
    const char *help; /* the help page on it */
    /* It shows a text of its own in the place of what lies below: keys and clicks that it does not take mean
     * there what they mean in a text. */
    bool has_text;
    bool takes_esc; /* Esc goes to `key` too */
    bool asks;      /* it stands on the status line */
    bool works;     /* it waits for something that goes on; keys that are played wait too */
    bool passing;   /* what it does not take ends it, and means what it means without it */
    /* False hands the key on to what every layer does with it. */
    bool (*key)(Editor *ed, Layer *l, const Input *in);
    void (*paste)(Editor *ed, Layer *l, const char *bytes, size_t n);
    /* With has_text: the panes have their size; lays the text out for it. */
    void (*place)(Editor *ed, Layer *l);
    /* With has_text: after a click in that text. */
    void (*mouse)(Editor *ed, Layer *l, const Mouse *m);
    /* Rows it takes from the lower end of the text. */
    int (*height)(Editor *ed, Layer *l, const Frame *f);
    void (*paint)(Editor *ed, Layer *l, Frame *f);
    size_t (*hints)(Editor *ed, Layer *l, Hint *out);
    /* Writes the page of help on what is chosen in it, "commands#save"; nothing: `help` will do. */
    void (*topic)(Editor *ed, Layer *l, Bytes *out);
    void (*cancel)(Editor *ed, Layer *l); /* backed out of, before it is freed */
    void (*free)(Editor *ed, Layer *l);
} LayerKind;

/* The first part of each kind's own record. */
struct Layer {
    const LayerKind *kind;
    Layer *below;
};

/* The text as it was seen before anything lay over it. */
typedef struct SeenBefore {
    const void *view;
    unsigned long version; /* of its document */
    size_t cursor, top;
} SeenBefore;

/* What stands between the text and the status line as long as it goes on, such as the lesson. */
typedef struct Strip {
    int (*height)(const Editor *ed, const Frame *f);
    void (*paint)(Editor *ed, Frame *f, int row, int rows);
} Strip;

/* Lays `l`, from mem_get, on top; it is freed when it goes. */
void layers_push(Editor *ed, Layer *l);
/* Before painting: when they are gone and nothing came of them, the text is seen as it was before; they may
 * have taken its lower rows. */
void layers_settle(Editor *ed);
/* Takes the uppermost one away without a word. */
void layers_pop(Editor *ed);
/* Something else begins: takes a passing one away. */
void layers_pass(Editor *ed);
/* The same, but it lives on and is the caller's; it need not be the uppermost. */
void layers_take(Editor *ed, Layer *l);
/* Backs out of the uppermost one, as Esc does. */
void layers_cancel(Editor *ed);
void layers_cancel_all(Editor *ed);
/* Does one that has a text of its own lie over the files? And takes it away with all below it. */
bool layers_covered(const Editor *ed);
void layers_uncover(Editor *ed);

/* ---- Esc ---- */

typedef struct EscTimes {
    uint64_t last;  /* when Esc came last, ms; 0: it does not count any more */
    bool second;    /* that one followed another within a burst */
    uint64_t brief; /* when the menu bar goes by itself, as one of a burst woke it; 0: it stays */
} EscTimes;

enum { ESC_BURST = 300, ESC_BRIEF = 500 }; /* ms */

/* Each Esc is one step back, or wakes the menu bar. In a burst, where each comes within ESC_BURST of the one
 * before, the next closes everything that is left. One that finds nothing left wakes the bar for ESC_BRIEF
 * only, until a letter comes: so that a route can follow an Esc that closed something at any speed, and
 * hammering on Esc ends in plain text. The mark stays while a route may come, which may be about it.
 * True when this Esc is dealt with. */
bool layers_esc(Editor *ed);
/* This Esc woke the bar. */
void layers_esc_woke(Editor *ed);
/* The bar that was woken for a moment goes when that is over. ms until then, -1: there is none. */
void layers_end_brief(Editor *ed);
int layers_brief_wait(const Editor *ed, uint64_t now);
/* Does so long a time without a key make a difference to what Esc does? And lets it go by. */
bool layers_esc_pause(const Editor *ed, uint64_t ms);
void layers_pause(Editor *ed);
/* Any other key came. */
void layers_no_esc(Editor *ed);
/* Closes everything that lies over the text and drops the mark, as Esc Esc does. */
void layers_plain_text(Editor *ed);

#endif

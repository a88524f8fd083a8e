/* From the bytes a terminal sends to what a person did. Independent of the kind of
 * terminal and of any clock of its own: the caller gives the time.
 *
 * Nothing that is not certainly typed becomes typed text: unknown and broken sequences
 * are dropped whole, and within a bracketed paste nothing is a key.
 * Sequences are those of ECMA-48 as xterm, the Linux console and their relatives send them. */
#ifndef DECODER_H
#define DECODER_H

#include "input/key.h"

typedef enum InputKind {
    INPUT_NONE,
    INPUT_KEY,
    INPUT_PASTE,
    INPUT_MOUSE,
    INPUT_FOCUS,
    INPUT_GROUND /* the terminal says what colour its ground has */
} InputKind;

typedef enum MouseAction {
    MOUSE_PRESS,
    MOUSE_RELEASE,
    MOUSE_DRAG,
    MOUSE_WHEEL_UP,
    MOUSE_WHEEL_DOWN
} MouseAction;

typedef struct Mouse {
    MouseAction action;
    int button;   /* 1 left, 2 middle, 3 right */
    int row, col; /* from 0 */
    unsigned mods;
} Mouse;

enum { INPUT_RAW_MAX = 32 };

typedef struct Input {
    InputKind kind;
    Key key;
    bool takes_back_esc; /* the Esc reported before was the head of this key's sequence */
    const char *bytes;   /* of a paste; valid until the next call */
    size_t n_bytes;
    bool paste_goes_on; /* more of the same paste will follow */
    Mouse mouse;
    bool focus_gained;
    unsigned ground;         /* 0xRRGGBB */
    char raw[INPUT_RAW_MAX]; /* the first bytes it came as */
    size_t n_raw;
} Input;

typedef struct Decoder Decoder;

/* esc_wait: milliseconds after which an Esc byte with nothing after it is the Esc key. */
Decoder *decoder_new(unsigned esc_wait);
void decoder_free(Decoder *d);
/* Teaches a sequence that a terminal description names. */
void decoder_learn(Decoder *d, const char *bytes, Key key);

/* Takes in the bytes of one read() that happened at time `now` (milliseconds). */
void decoder_feed(Decoder *d, const void *bytes, size_t n, uint64_t now);
/* The next thing that is complete by `now`; false when there is none. */
bool decoder_next(Decoder *d, uint64_t now, Input *out);
/* Milliseconds until decoder_next can tell more without further bytes; -1: never. */
int decoder_wait(const Decoder *d, uint64_t now);
/* Forgets everything not yet handed out, but stays inside a paste that is under way. */
void decoder_discard(Decoder *d);

#endif

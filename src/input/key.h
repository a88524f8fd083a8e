/* Keys, as people press them, and their written names ("Ctrl+S", "Shift+Left"). */
#ifndef KEY_H
#define KEY_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

typedef enum KeyCode {
    K_NONE,
    K_CHAR, /* a letter, sign, or with Ctrl a chord; see Key.ch */
    K_BYTE, /* a byte that is no UTF-8; it is Key.ch */
    K_ENTER,
    K_TAB,
    K_BACKSPACE,
    K_ESC,
    K_UP,
    K_DOWN,
    K_LEFT,
    K_RIGHT,
    K_HOME,
    K_END,
    K_PAGE_UP,
    K_PAGE_DOWN,
    K_INSERT,
    K_DELETE,
    K_F1,
    K_F12 = K_F1 + 11,
    K_COUNT
} KeyCode;

enum { MOD_SHIFT = 1, MOD_ALT = 2, MOD_CTRL = 4 };

typedef struct Key {
    KeyCode code;
    unsigned mods;
    uint32_t ch; /* for K_CHAR the code point; letters of Ctrl chords are lower case */
} Key;

enum { KEY_NAME_MAX = 48 };

bool key_same(Key a, Key b);
/* A character that is typed into a text: no Ctrl, no Alt. */
bool key_types(Key k);
/* Writes the name and returns `out`. */
const char *key_written(Key k, char out[KEY_NAME_MAX]);
/* Reads one written name of n bytes; false when it is none. Letter case of words is ignored. */
bool key_parse(const char *name, size_t n, Key *out);

#endif

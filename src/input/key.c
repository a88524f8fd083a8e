#include "input/key.h"

#include "base/glyph.h"

#include <ctype.h>
#include <stdio.h>
#include <string.h>
#include <strings.h>

static const struct {
    KeyCode code;
    const char *name;
} names[] = {
    {K_ENTER, "Enter"},   {K_TAB, "Tab"},       {K_BACKSPACE, "Backspace"}, {K_ESC, "Esc"},
    {K_UP, "Up"},         {K_DOWN, "Down"},     {K_LEFT, "Left"},           {K_RIGHT, "Right"},
    {K_HOME, "Home"},     {K_END, "End"},       {K_PAGE_UP, "PageUp"},      {K_PAGE_DOWN, "PageDown"},
    {K_INSERT, "Insert"}, {K_DELETE, "Delete"},
};

enum { N_NAMES = sizeof names / sizeof *names };

bool key_same(Key a, Key b)
{
    return a.code == b.code && a.mods == b.mods && a.ch == b.ch;
}

bool key_types(Key k)
{
    return (k.code == K_CHAR || k.code == K_BYTE) && (k.mods & (MOD_CTRL | MOD_ALT)) == 0;
}

const char *key_written(Key k, char out[KEY_NAME_MAX])
{
    char base[16] = "?";
    if (k.code >= K_F1 && k.code <= K_F12) {
        snprintf(base, sizeof base, "F%d", (int)(k.code - K_F1) + 1);
    } else if (k.code == K_BYTE) {
        snprintf(base, sizeof base, "byte %02x", (unsigned)(k.ch & 0xff));
    } else if (k.code == K_CHAR && k.ch == ' ') {
        strcpy(base, "Space");
    } else if (k.code == K_CHAR) {
        uint32_t c = k.ch < 128 && (k.mods & (MOD_CTRL | MOD_ALT)) ? (uint32_t)toupper((int)k.ch) : k.ch;
        base[utf8_write(c, base)] = 0;
    } else {
        for (size_t i = 0; i < N_NAMES; i++)
            if (names[i].code == k.code)
                snprintf(base, sizeof base, "%s", names[i].name);
    }
    snprintf(out, KEY_NAME_MAX, "%s%s%s%s", k.mods & MOD_CTRL ? "Ctrl+" : "", k.mods & MOD_ALT ? "Alt+" : "",
             k.mods & MOD_SHIFT ? "Shift+" : "", base);
    return out;
}

static bool parse_base(const char *s, size_t n, Key *k)
{
    if (n >= 2 && n <= 3 && (s[0] == 'F' || s[0] == 'f') && isdigit((unsigned char)s[1])) {
        int number = s[1] - '0';
        if (n == 3)
            number = number * 10 + (s[2] - '0');
        if (number < 1 || number > 12)
            return false;
        k->code = (KeyCode)(K_F1 + number - 1);
        return true;
    }
    for (size_t i = 0; i < N_NAMES; i++)
        if (strlen(names[i].name) == n && strncasecmp(names[i].name, s, n) == 0) {
            k->code = names[i].code;
            return true;
        }
    k->code = K_CHAR;
    if (n == 5 && strncasecmp(s, "Space", 5) == 0) {
        k->ch = ' ';
        return true;
    }
    int32_t code;
    if (n == 0 || utf8_decode(s, n, &code) != n || code < ' ')
        return false;
    k->ch = (uint32_t)code;
    if (k->ch < 128 && (k->mods & MOD_CTRL))
        k->ch = (uint32_t)tolower((int)k->ch);
    return true;
}

bool key_parse(const char *name, size_t n, Key *out)
{
    static const struct {
        const char *word;
        unsigned mod;
    } mods[] = {{"Ctrl+", MOD_CTRL}, {"Alt+", MOD_ALT}, {"Shift+", MOD_SHIFT}};
    *out = (Key){0};
    for (bool more = true; more;) {
        more = false;
        for (size_t i = 0; i < 3; i++) {
            size_t len = strlen(mods[i].word);
            if (n > len && strncasecmp(name, mods[i].word, len) == 0) {
                out->mods |= mods[i].mod;
                name += len;
                n -= len;
                more = true;
            }
        }
    }
    return parse_base(name, n, out);
}

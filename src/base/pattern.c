#include "base/pattern.h"

#include "base/utf8.h"

#include <stdint.h>
#include <string.h>

/* A piece of a string. */
typedef struct Piece {
    const char *at;
    size_t n;
} Piece;

/* Bytes of the set "[...]" at p, 0: it has no end, and so is no set. */
static size_t set_length(Piece p)
{
    size_t i = 1;
    i += i < p.n && (p.at[i] == '!' || p.at[i] == '^');
    i += i < p.n && p.at[i] == ']'; /* the first one is a letter of the set */
    while (i < p.n && p.at[i] != ']')
        i += p.at[i] == '\\' ? 2 : 1;
    return i < p.n ? i + 1 : 0;
}

static int32_t next_letter(Piece p, size_t *at)
{
    int32_t code;
    if (p.at[*at] == '\\' && *at + 1 < p.n)
        ++*at;
    size_t used = utf8_decode(p.at + *at, p.n - *at, &code);
    code = code < 0 ? -(int32_t)(unsigned char)p.at[*at] : code;
    *at += used;
    return code;
}

static bool in_set(Piece set, int32_t letter)
{
    size_t i = 1, end = set.n - 1;
    bool other = set.at[i] == '!' || set.at[i] == '^', found = false;
    Piece inside = {set.at, end};
    for (i += other; i < end;) {
        int32_t from = next_letter(inside, &i), to = from;
        if (i + 1 < end && set.at[i] == '-') {
            i++;
            to = next_letter(inside, &i);
        }
        found = found || (from <= letter && letter <= to);
    }
    return found != other;
}

/* Does one part of the pattern, which begins at *p, stand for the letter at *s? Moves both on. */
static bool fits_letter(Piece pattern, size_t *p, Piece name, size_t *s)
{
    int32_t letter;
    size_t used = utf8_decode(name.at + *s, name.n - *s, &letter);
    letter = letter < 0 ? -(int32_t)(unsigned char)name.at[*s] : letter;
    size_t set = pattern.at[*p] == '[' ? set_length((Piece){pattern.at + *p, pattern.n - *p}) : 0;
    bool fits;
    if (set) {
        fits = in_set((Piece){pattern.at + *p, set}, letter);
        *p += set;
    } else if (pattern.at[*p] == '?') {
        fits = true;
        ++*p;
    } else {
        fits = next_letter(pattern, p) == letter;
    }
    *s += used;
    return fits;
}

/* Only the last * can have to take more: what stood before it has fitted. */
static bool fits(Piece pattern, Piece name)
{
    size_t p = 0, s = 0, star = SIZE_MAX, from = 0;
    while (s < name.n) {
        if (p < pattern.n && pattern.at[p] == '*') {
            star = ++p;
            from = s;
            continue;
        }
        if (p < pattern.n && fits_letter(pattern, &p, name, &s))
            continue;
        if (star == SIZE_MAX)
            return false;
        p = star;
        s = ++from;
    }
    while (p < pattern.n && pattern.at[p] == '*')
        p++;
    return p == pattern.n;
}

bool pattern_fits(const char *pattern, const char *name)
{
    return fits((Piece){pattern, strlen(pattern)}, (Piece){name, strlen(name)});
}

enum { PARTS = 200 /* of a path; no longer one fits */ };

static bool any_folders(Piece p)
{
    return p.n == 2 && memcmp(p.at, "**", 2) == 0;
}

static size_t split(const char *path, Piece parts[PARTS + 1])
{
    size_t n = 0;
    while (n < PARTS) {
        size_t len = strcspn(path, "/");
        parts[n++] = (Piece){path, len};
        if (!path[len])
            return n;
        path += len + 1;
    }
    return 0;
}

bool pattern_fits_path(const char *pattern, const char *path)
{
    Piece p[PARTS + 1], s[PARTS + 1];
    size_t n = split(pattern, p), n_path = split(path, s), i = 0, k = 0, star = SIZE_MAX, from = 0;
    if (!n || !n_path)
        return false;
    if (any_folders(p[n - 1])) /* at the end: whatever is in them, not they themselves */
        p[n++] = (Piece){"*", 1};
    while (k < n_path) {
        if (i < n && any_folders(p[i])) {
            star = ++i;
            from = k;
        } else if (i < n && fits(p[i], s[k])) {
            i++, k++;
        } else if (star != SIZE_MAX) {
            i = star;
            k = ++from;
        } else {
            return false;
        }
    }
    return i == n;
}

bool pattern_fits_one(const char *patterns, const char *name)
{
    bool any = false;
    while (*patterns) {
        size_t n = strcspn(patterns, ",");
        Piece p = {patterns, n};
        while (p.n && *p.at == ' ')
            p.at++, p.n--;
        any = any || p.n;
        if (p.n && fits(p, (Piece){name, strlen(name)}))
            return true;
        patterns += n + (patterns[n] == ',');
    }
    return !any;
}

bool pattern_is(const char *name)
{
    return strpbrk(name, "*?[") != NULL;
}

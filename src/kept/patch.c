#include "kept/patch.h"

#include "text/builder.h"
#include "text/shared.h"

#include <stdint.h>
#include <stdlib.h>
#include <string.h>

/* A patch is a row of: place in the old text, bytes removed there, bytes that come instead (three
 * numbers of 64 bits, low byte first), and those bytes. Places grow. */
enum { HEAD = 24 };

static void put_number(Bytes *out, uint64_t n)
{
    char bytes[8];
    for (int i = 0; i < 8; i++)
        bytes[i] = (char)(n >> (8 * i));
    bytes_add(out, bytes, 8);
}

/* One that is too large for this machine's memory is as wrong as any. */
static size_t number_at(const unsigned char *p)
{
    uint64_t n = 0;
    for (int i = 7; i >= 0; i--)
        n = n << 8 | p[i];
    return n < SIZE_MAX ? (size_t)n : SIZE_MAX;
}

static void put_change(Bytes *out, size_t at, size_t removed, Text to, size_t from, size_t end)
{
    if (removed == 0 && from == end)
        return;
    put_number(out, at);
    put_number(out, removed);
    put_number(out, end - from);
    text_bytes(to, from, end - from, out);
}

void patch_make(Text from, Text to, Bytes *out)
{
    Shared *shared;
    size_t a = 0, b = 0;
    if (text_same(from, to))
        return;
    size_t n = shared_pieces(from, to, &shared);
    for (size_t i = 0; i < n; i++) {
        put_change(out, a, shared[i].a - a, to, b, shared[i].b);
        a = shared[i].a + shared[i].n;
        b = shared[i].b + shared[i].n;
    }
    put_change(out, a, text_len(from) - a, to, b, text_len(to));
    free(shared);
}

bool patch_apply(Text from, const void *patch, size_t n, Text *out)
{
    const unsigned char *p = patch;
    TextBuilder b = {0};
    size_t at = 0, len = text_len(from);
    bool ok = true;
    while (ok && n) {
        size_t place = n >= HEAD ? number_at(p) : SIZE_MAX, removed = n >= HEAD ? number_at(p + 8) : 0;
        size_t added = n >= HEAD ? number_at(p + 16) : 0;
        ok = n >= HEAD && place >= at && place <= len && removed <= len - place && added <= n - HEAD;
        ok = ok && builder_part(&b, from, at, place) && builder_bytes(&b, p + HEAD, added);
        if (!ok)
            break;
        at = place + removed;
        p += HEAD + added;
        n -= HEAD + added;
    }
    ok = ok && builder_part(&b, from, at, len) && builder_finish(&b, out);
    if (!ok)
        builder_drop(&b);
    return ok;
}

void patch_words(const void *patch, size_t n, Bytes *out)
{
    const unsigned char *p = patch;
    while (n >= HEAD) {
        size_t added = number_at(p + 16);
        if (added > n - HEAD)
            return;
        bytes_printf(out, "---- at byte %zu, instead of %zu bytes:\n", number_at(p) + 1, number_at(p + 8));
        bytes_add(out, p + HEAD, added);
        if (added && p[HEAD + added - 1] != '\n')
            bytes_add_str(out, "\n");
        p += HEAD + added;
        n -= HEAD + added;
    }
}

#include "screen/incoming.h"

#include <errno.h>
#include <iconv.h>
#include <langinfo.h>
#include <stdbool.h>
#include <string.h>

enum {
    BURST = 48, /* bytes; nobody types that many between two looks */
    REST = 8    /* bytes of a character that has not come to its end */
};

/* NULL: the bytes are taken as they are. So they are where the locale says nothing about letters (C, POSIX),
 * as nearly all terminals send UTF-8 then, too. The C library's own reading is not used: it differs between
 * libraries, and in those locales it makes something else of each byte. */
static iconv_t *reader(void)
{
    static iconv_t from;
    static bool known, is_needed;
    if (!known) {
        const char *codes = nl_langinfo(CODESET);
        known = true;
        bool plain = !*codes || strcmp(codes, "UTF-8") == 0 || strcmp(codes, "utf8") == 0 ||
                     strcmp(codes, "ANSI_X3.4-1968") == 0 || strcmp(codes, "US-ASCII") == 0 ||
                     strcmp(codes, "ASCII") == 0 || strcmp(codes, "646") == 0;
        from = plain ? (iconv_t)-1 : iconv_open("UTF-8", codes);
        is_needed = from != (iconv_t)-1;
    }
    return is_needed ? &from : NULL;
}

size_t incoming_utf8(const char *bytes, size_t n, char *out)
{
    static char rest[REST];
    static size_t n_rest;
    iconv_t *from = reader();
    char *to = out;
    if (!from) {
        memcpy(out, bytes, n);
        return n;
    }
    for (size_t i = 0; i < n || n_rest == REST;) {
        if (n_rest < REST) /* a byte more, until it is a character */
            rest[n_rest++] = bytes[i++];
        char *at = rest;
        size_t left = n_rest, room = INCOMING_GROWS * REST;
        errno = 0;
        bool ok = iconv(*from, &at, &left, &to, &room) != (size_t)-1;
        if (!ok && errno == EINVAL && n_rest < REST) /* the rest of it may come with the next read */
            continue;
        if (!ok) { /* none that it knows: as they are */
            iconv(*from, NULL, NULL, NULL, NULL);
            memcpy(to, at, left);
            to += left;
        }
        n_rest = 0;
    }
    return (size_t)(to - out);
}

bool incoming_is_burst(const char *bytes, size_t n, bool goes_on)
{
    bool behind = false, any_end = false;
    for (size_t i = 0; i < n; i++) {
        unsigned char c = (unsigned char)bytes[i];
        if (c == 0x7f || c == 0 || (c < 0x20 && !strchr("\r\n\t", c)))
            return false;
        behind = behind || (any_end && c > ' ');
        any_end = any_end || c == '\r' || c == '\n';
    }
    return goes_on || behind || n >= BURST;
}

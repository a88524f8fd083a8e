#include "screen/incoming.h"

#include "base/utf8.h"

#include <langinfo.h>
#include <stdint.h>
#include <string.h>
#include <wchar.h>

enum { BURST = 48 /* bytes; nobody types that many between two looks */ };

size_t incoming_utf8(const char *bytes, size_t n, char *out)
{
    static mbstate_t state;
    size_t len = 0;
    if (strcmp(nl_langinfo(CODESET), "UTF-8") == 0) {
        memcpy(out, bytes, n);
        return n;
    }
    for (size_t i = 0; i < n;) {
        wchar_t c = 0;
        size_t used = mbrtowc(&c, bytes + i, n - i, &state);
        if (used == (size_t)-2) /* the rest of it comes with the next read */
            break;
        if (used == (size_t)-1 || used == 0) {
            out[len++] = bytes[i];
            memset(&state, 0, sizeof state);
            used = 1;
        } else {
            len += utf8_write((uint32_t)c, out + len);
        }
        i += used;
    }
    return len;
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

#include "base/utf8.h"

#include <string.h>
#include <utf8proc.h>

size_t utf8_decode(const char *at, size_t n, int32_t *code)
{
    const unsigned char *u = (const unsigned char *)at;
    if (u[0] < 0x80) {
        *code = u[0];
        return 1;
    }
    utf8proc_int32_t c;
    utf8proc_ssize_t len = utf8proc_iterate(u, (utf8proc_ssize_t)(n < 4 ? n : 4), &c);
    if (len <= 0) {
        *code = -1;
        return 1;
    }
    *code = c;
    return (size_t)len;
}

size_t utf8_write(uint32_t code, char out[4])
{
    return (size_t)utf8proc_encode_char((utf8proc_int32_t)code, (utf8proc_uint8_t *)out);
}

bool utf8_is_valid(const char *s, size_t n)
{
    for (size_t i = 0; i < n;) {
        uint64_t eight;
        if (i + sizeof eight <= n && (memcpy(&eight, s + i, sizeof eight), !(eight & 0x8080808080808080))) {
            i += sizeof eight;
            continue;
        }
        int32_t code;
        i += utf8_decode(s + i, n - i, &code);
        if (code < 0)
            return false;
    }
    return true;
}

bool utf8_is_letter(int32_t code)
{
    utf8proc_category_t c = utf8proc_category(code);
    return c >= UTF8PROC_CATEGORY_LU && c <= UTF8PROC_CATEGORY_ME;
}

bool utf8_is_capital(int32_t code)
{
    utf8proc_category_t c = utf8proc_category(code);
    return c == UTF8PROC_CATEGORY_LU || c == UTF8PROC_CATEGORY_LT;
}

int32_t utf8_to_capital(int32_t code)
{
    return utf8proc_toupper(code);
}

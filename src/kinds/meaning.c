#include "kinds/meaning.h"

#include <stdbool.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

static bool all_of(const char *s, size_t n, const char *digits)
{
    for (size_t i = 0; i < n; i++)
        if (!s[i] || !strchr(digits, s[i]))
            return false;
    return true;
}

/* 0640 or 4755, as chmod takes it: rw-r----- */
static void mode_words(const char *s, size_t n, Bytes *out)
{
    char letters[10] = "rwxrwxrwx", octal[8];
    snprintf(octal, sizeof octal, "%.*s", (int)n, s);
    unsigned mode = (unsigned)strtoul(octal, NULL, 8);
    for (int i = 0; i < 9; i++)
        if (!(mode >> (8 - i) & 1))
            letters[i] = '-';
    static const char special[] = "sst", lonely[] = "SST";
    for (int i = 0; i < 3; i++)
        if (mode >> (11 - i) & 1) {
            char *x = &letters[2 + 3 * i];
            *x = *x == 'x' ? special[i] : lonely[i];
        }
    bytes_printf(out, "%s is %s", octal, letters);
}

static void put_address(uint32_t a, Bytes *out)
{
    bytes_printf(out, "%u.%u.%u.%u", a >> 24, a >> 16 & 255, a >> 8 & 255, a & 255);
}

/* 10.20.3.17/24: the network, and how many it has. */
static bool network_words(const char *s, size_t n, Bytes *out)
{
    char text[24];
    unsigned a, b, c, d, bits;
    int used = 0;
    if (n >= sizeof text)
        return false;
    snprintf(text, sizeof text, "%.*s", (int)n, s);
    if (sscanf(text, "%3u.%3u.%3u.%3u/%2u%n", &a, &b, &c, &d, &bits, &used) != 5 || (size_t)used != n ||
        a > 255 || b > 255 || c > 255 || d > 255 || bits > 32)
        return false;
    uint32_t address = a << 24 | b << 16 | c << 8 | d, mask = bits ? ~(uint32_t)0 << (32 - bits) : 0;
    put_address(address & mask, out);
    bytes_add_str(out, " to ");
    put_address(address | ~mask, out);
    bytes_printf(out, ", mask ");
    put_address(mask, out);
    return true;
}

/* Ten digits: from 2001 to 2100. */
static void time_words(const char *s, Bytes *out)
{
    char text[12], words[60];
    snprintf(text, sizeof text, "%.10s", s);
    time_t when = (time_t)strtoll(text, NULL, 10);
    struct tm tm;
    if (when >= 1000000000 && when < 4102444800 && localtime_r(&when, &tm) &&
        strftime(words, sizeof words, "%a %e %b %Y %H:%M:%S", &tm))
        bytes_printf(out, "%s is %s", text, words);
}

void meaning_of(const char *word, size_t n, Bytes *out)
{
    bool octal = all_of(word, n, "01234567");
    if (octal && (n == 4 || (n == 5 && word[0] == '0')))
        mode_words(word, n, out);
    else if (n == 10 && all_of(word, n, "0123456789"))
        time_words(word, out);
    else if (memchr(word, '/', n))
        network_words(word, n, out);
}

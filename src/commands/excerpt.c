#include "commands/excerpt.h"

enum { SHOWN = 40 /* bytes of a text that stand for it */ };

void excerpt_add(Text t, size_t from, size_t n, Bytes *out)
{
    char bytes[SHOWN + 1];
    size_t got = text_read(t, from, bytes, n < SHOWN ? n : SHOWN);
    while (got && got < n && ((unsigned char)bytes[got - 1] & 0x80)) /* no half characters */
        got--;
    for (size_t i = 0; i < got; i++)
        bytes_add(out, bytes[i] == '\n' || bytes[i] == '\t' ? " " : bytes + i, bytes[i] == '\r' ? 0 : 1);
    if (got < n)
        bytes_add_str(out, "…");
}

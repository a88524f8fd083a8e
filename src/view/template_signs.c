#include "view/template_signs.h"

#include "kinds/role.h"

#include <ctype.h>
#include <string.h>

enum { LINE_MOST = 4000 /* bytes of a line that are looked at */ };

/* The end of what begins there; 0: nothing does. */
static size_t sign_end(const char *line, size_t n, size_t at)
{
    static const char *const pairs[][2] = {{"{{", "}}"}, {"{%", "%}"}, {"{#", "#}"}, {"<%", "%>"}};
    for (size_t i = 0; i < sizeof pairs / sizeof *pairs; i++)
        if (at + 1 < n && memcmp(line + at, pairs[i][0], 2) == 0)
            for (size_t end = at + 2; end + 1 < n; end++)
                if (memcmp(line + end, pairs[i][1], 2) == 0)
                    return end + 2;
    size_t end = at + 1;
    while (line[at] == '@' && end < n && (isalnum((unsigned char)line[end]) || line[end] == '_'))
        end++;
    return line[at] == '@' && end > at + 1 && end < n && line[end] == '@' ? end + 1 : 0;
}

void template_signs(Text t, size_t line_from, size_t from, size_t to, uint8_t *roles)
{
    char line[LINE_MOST];
    size_t n = text_read(t, line_from, line, sizeof line);
    const char *stop = memchr(line, '\n', n);
    n = stop ? (size_t)(stop - line) : n;
    bool any = false;
    for (size_t at = 0; at < n;) {
        size_t end = sign_end(line, n, at);
        for (size_t i = at; i < end; i++)
            if (line_from + i >= from && line_from + i < to)
                roles[line_from + i - from] = ROLE_VARIABLE;
        any = any || end;
        at = end ? end : at + 1;
    }
    for (size_t i = 0; any && i < to - from; i++)
        roles[i] = roles[i] == ROLE_WRONG ? ROLE_PLAIN : roles[i];
}

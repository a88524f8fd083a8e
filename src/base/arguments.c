#include "base/arguments.h"

#include <string.h>

static bool is_quote(char c)
{
    return c == '"' || c == '\'';
}

/* Bytes up to the closing mark of the one at s[0]; the closing one may be missing. */
static size_t quoted_length(const char *s)
{
    size_t i = 1;
    while (s[i] && s[i] != s[0])
        i += s[0] == '"' && s[i] == '\\' && s[i + 1] ? 2 : 1;
    return i;
}

static void add_quoted(const char *s, size_t n, Bytes *out)
{
    for (size_t i = 1; i < n; i++) {
        char c = s[i];
        if (s[0] == '"' && c == '\\' && i + 1 < n && strchr("\"\\nt", s[i + 1])) {
            c = s[++i];
            c = c == 'n' ? '\n' : c == 't' ? '\t' : c;
        }
        bytes_add(out, &c, 1);
    }
}

bool arguments_word(const char **line, Bytes *out)
{
    const char *p = *line + strspn(*line, " ");
    if (!*p)
        return false;
    size_t n = is_quote(*p) ? quoted_length(p) : strcspn(p, " ");
    if (is_quote(*p))
        add_quoted(p, n, out);
    else
        bytes_add(out, p, n);
    *line = p + n + (is_quote(*p) && p[n]);
    return true;
}

bool arguments_text(const char *line, Bytes *out, const char **surplus)
{
    const char *p = line + strspn(line, " ");
    *surplus = "";
    if (!is_quote(*p)) {
        bytes_add_str(out, p);
        return *p != 0;
    }
    arguments_word(&p, out);
    *surplus = p + strspn(p, " ");
    return true;
}

size_t arguments_command(const char *s)
{
    for (size_t i = 0;; i++) {
        bool begins = is_quote(s[i]) && i > 0 && s[i - 1] == ' ';
        if (begins)
            i += quoted_length(s + i);
        if (!s[i] || s[i] == ';' || s[i] == '\n')
            return i;
    }
}

void arguments_for_shell(const char *word, Bytes *out)
{
    bytes_add_str(out, "'");
    for (; *word; word++)
        if (*word == '\'')
            bytes_add_str(out, "'\\''");
        else
            bytes_add(out, word, 1);
    bytes_add_str(out, "'");
}

#include "edit/match_lines.h"

#include <string.h>

static size_t line_start(const MatchLines *m, size_t at)
{
    const char *before = at ? memrchr(m->bytes, '\n', at) : NULL;
    return before ? (size_t)(before - m->bytes) + 1 : 0;
}

static size_t line_end(const MatchLines *m, size_t at)
{
    const char *end = memchr(m->bytes + at, '\n', m->n - at);
    return end ? (size_t)(end - m->bytes) : m->n;
}

/* Replaces this match and the others that begin before the line's end. */
static void replace_matches(MatchLines *m)
{
    Match now = m->first;
    size_t copied = m->start;
    m->matches = 0;
    for (;;) {
        bytes_add(&m->fresh, m->bytes + copied, now.from - copied);
        finder_expand(m->finder, m->by, &m->fresh);
        copied = now.to;
        m->matches++;
        if (now.to > m->end)
            m->end = line_end(m, now.to);
        m->at = finder_after(m->finder, now);
        Found found = m->at <= m->n ? finder_next(m->finder, m->at, m->n, &now) : FOUND_NONE;
        m->too_hard = found == FOUND_TOO_HARD;
        if (found != FOUND || now.from > m->end)
            break;
    }
    bytes_add(&m->fresh, m->bytes + copied, m->end - copied);
    m->at = m->at > m->end ? m->at : m->end + 1;
}

bool match_lines_next(MatchLines *m)
{
    if (!m->counted && !m->at)
        finder_bytes(m->finder, m->bytes, m->n);
    bytes_clear(&m->fresh);
    Found found = m->ended || m->at > m->n ? FOUND_NONE : finder_next(m->finder, m->at, m->n, &m->first);
    m->too_hard = m->too_hard || found == FOUND_TOO_HARD;
    m->ended = found != FOUND;
    if (m->ended)
        return false;
    /* After the last line end there is no line. */
    if (m->first.from == m->n && m->n && m->bytes[m->n - 1] == '\n' && m->first.to == m->n) {
        m->ended = true;
        return false;
    }
    m->start = line_start(m, m->first.from);
    m->end = line_end(m, m->first.from);
    for (const char *p = m->bytes + m->counted; (p = memchr(p, '\n', (size_t)(m->bytes + m->start - p))); p++)
        m->line++;
    m->counted = m->start;
    m->matches = 1;
    if (m->by) {
        replace_matches(m);
        m->ended = m->too_hard;
    } else {
        m->at = m->first.to > m->end ? m->first.to : m->end + 1;
    }
    return true;
}

void match_lines_end(MatchLines *m)
{
    bytes_free(&m->fresh);
}

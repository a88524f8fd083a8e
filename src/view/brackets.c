#include "view/brackets.h"

#include "base/mem.h"
#include "edit/transform.h"
#include "view/colours.h"

#include <stdlib.h>
#include <string.h>

enum { NEAR = 32 * 1024, FAR = 2 * 1024 * 1024 /* bytes to either side */ };

/* Some of the text, and what sort of place each byte is in. */
typedef struct Piece {
    size_t from, n;
    char *bytes;
    uint8_t *sorts;
} Piece;

static bool begins(const Piece *p, size_t at, size_t to, const char *sign)
{
    size_t n = sign ? strlen(sign) : 0;
    return n && to - at >= n && memcmp(p->bytes + at, sign, n) == 0;
}

/* A comment or text over several lines is one; a comment that ends with its line is not the same as that of
 * the next. */
static void join_lines(Piece *p, const Kind *k)
{
    for (size_t i = 1, next; i < p->n; i = next + 1) {
        next = i;
        if (p->bytes[i] != '\n' || !p->sorts[i - 1])
            continue;
        while (next < p->n && strchr(" \t\r\n", p->bytes[next]))
            next++;
        if (next < p->n && p->sorts[next] == p->sorts[i - 1] && !begins(p, next, p->n, k->comment_sign))
            memset(p->sorts + i, p->sorts[next], next - i);
    }
}

static Piece piece_of(const View *v, size_t from, size_t to)
{
    Piece p = {.from = from, .n = to - from};
    p.bytes = mem_get(p.n + 1);
    p.sorts = mem_get(p.n + 1);
    p.n = text_read(view_text(v), from, p.bytes, p.n);
    colours_between(v->file, from, from + p.n, p.sorts);
    for (size_t i = 0; i < p.n; i++)
        if (p.sorts[i] != ROLE_COMMENT && p.sorts[i] != ROLE_QUOTED)
            p.sorts[i] = 0;
    join_lines(&p, v->file->kind);
    return p;
}

static Piece piece_around(const View *v, size_t at, size_t reach)
{
    size_t len = text_len(view_text(v)), from = at > reach ? at - reach : 0;
    return piece_of(v, from, len - from > 2 * reach ? from + 2 * reach : len);
}

static void piece_free(Piece *p)
{
    free(p->bytes);
    free(p->sorts);
}

static bool is_sign(Text t, size_t at)
{
    int c = text_byte(t, at);
    return c > 0 && strchr("()[]{}\"'`", c) != NULL;
}

static bool find_partner(size_t at, Piece p, size_t *partner)
{
    bool found = transform_matching_sign(p.bytes, p.n, at - p.from, p.sorts, partner);
    *partner += p.from;
    piece_free(&p);
    return found;
}

bool brackets_partner(const View *v, size_t at, size_t *partner)
{
    return is_sign(view_text(v), at) && (find_partner(at, piece_around(v, at, NEAR), partner) ||
                                         find_partner(at, piece_around(v, at, FAR), partner));
}

bool brackets_partner_between(const View *v, size_t at, size_t from, size_t to, size_t *partner)
{
    return at >= from && at < to && is_sign(view_text(v), at) &&
           find_partner(at, piece_of(v, from, to), partner);
}

/* Without what begins and ends a comment, or a text in quotes. */
static void without_signs(const Piece *p, const Kind *k, size_t *from, size_t *to)
{
    static const char *const quotes[] = {"\"\"\"", "'''", "\"", "'", "`"};
    size_t a = *from, b = *to, n;
    if (p->sorts[a] == ROLE_COMMENT && begins(p, a, b, k->comment_open)) {
        n = strlen(k->comment_close);
        a += strlen(k->comment_open);
        b -= b - a >= n && begins(p, b - n, b, k->comment_close) ? n : 0;
    } else if (p->sorts[a] == ROLE_COMMENT && begins(p, a, b, k->comment_sign)) {
        a += strlen(k->comment_sign);
    }
    for (size_t i = 0; p->sorts[a] == ROLE_QUOTED && i < sizeof quotes / sizeof *quotes; i++) {
        n = strlen(quotes[i]);
        if (b - a >= 2 * n && begins(p, a, b, quotes[i]) && begins(p, b - n, b, quotes[i])) {
            a += n;
            b -= n;
            break;
        }
    }
    while (a < b && strchr(" \t", p->bytes[a]))
        a++;
    while (b > a && strchr(" \t\r\n", p->bytes[b - 1]))
        b--;
    *from = a;
    *to = b;
}

static bool find_inside(const View *v, size_t at, size_t reach, size_t *from, size_t *to)
{
    Piece p = piece_around(v, at, reach);
    bool found = transform_inside_signs(p.bytes, p.n, at - p.from, p.sorts, from, to);
    if (found && *from < *to && p.sorts[*from] && (*from == 0 || p.sorts[*from - 1] != p.sorts[*from]))
        without_signs(&p, v->file->kind, from, to);
    *from += p.from;
    *to += p.from;
    piece_free(&p);
    return found;
}

bool brackets_inside(const View *v, size_t at, size_t *from, size_t *to)
{
    return find_inside(v, at, NEAR, from, to) || find_inside(v, at, FAR, from, to);
}

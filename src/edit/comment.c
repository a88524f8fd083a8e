#include "edit/comment.h"

#include "base/letters.h"

#include <stdint.h>
#include <string.h>

/* A line without its end. */
typedef struct Line {
    const char *at;
    size_t n, indent; /* bytes; blanks before what stands in it */
    bool blank;
} Line;

static Line line_of(const char *at, const char *end)
{
    const char *stop = memchr(at, '\n', (size_t)(end - at));
    Line l = {.at = at, .n = (size_t)((stop ? stop : end) - at)};
    if (l.n && at[l.n - 1] == '\r')
        l.n--;
    while (l.indent < l.n && letter_is_blank(at[l.indent]))
        l.indent++;
    l.blank = l.indent == l.n;
    return l;
}

/* Where the line after it begins. */
static const char *after(const Line *l, const char *end)
{
    const char *stop = memchr(l->at, '\n', (size_t)(end - l->at));
    return stop ? stop + 1 : end;
}

static bool begins(const char *at, const char *end, const char *sign)
{
    size_t n = strlen(sign);
    return (size_t)(end - at) >= n && memcmp(at, sign, n) == 0;
}

static bool ends(const char *at, const char *end, const char *sign)
{
    size_t n = strlen(sign);
    return (size_t)(end - at) >= n && memcmp(end - n, sign, n) == 0;
}

static bool has(const char *at, const char *end, const char *sign)
{
    for (; at < end; at++)
        if (begins(at, end, sign))
            return true;
    return false;
}

/* What all lines with something in them have in common. */
typedef struct Survey {
    Line first, last;
    size_t lines, commented;
    size_t spaced,
        blanks;    /* of those, lines with something after the sign; the fewest blanks that follow one */
    size_t indent; /* bytes of indentation that they share */
} Survey;

/* What tells the system who runs the file is no comment. */
static bool is_kept(const Line *l, const char *in, const CommentSigns *signs)
{
    return l->blank || (signs->at_start && l->at == in && begins(l->at, l->at + l->n, "#!"));
}

/* Bytes of the sign that begins a comment there; 0: none does. */
static size_t sign_at(const char *at, const char *end, const CommentSigns *signs)
{
    const char *sign = signs->sign ? signs->sign : signs->open;
    if (begins(at, end, sign))
        return strlen(sign);
    for (const char *const *also = signs->sign ? signs->also : NULL; also && *also; also++)
        if (begins(at, end, *also))
            return strlen(*also);
    return 0;
}

static Survey survey(const char *in, const char *end, const CommentSigns *signs)
{
    Survey s = {.blanks = SIZE_MAX};
    for (const char *p = in; p < end;) {
        Line l = line_of(p, end);
        p = after(&l, end);
        if (is_kept(&l, in, signs))
            continue;
        if (!s.lines++) {
            s.first = l;
            s.indent = l.indent;
        }
        s.last = l;
        size_t same = 0;
        while (same < s.indent && same < l.indent && l.at[same] == s.first.at[same])
            same++;
        s.indent = same;
        size_t sign = sign_at(l.at + l.indent, l.at + l.n, signs), from = l.indent + sign, blanks = 0;
        bool commented = sign > 0;
        s.commented += commented;
        while (commented && from + blanks < l.n && l.at[from + blanks] == ' ')
            blanks++;
        if (commented && from < l.n) {
            s.spaced++;
            s.blanks = blanks < s.blanks ? blanks : s.blanks;
        }
    }
    return s;
}

/* A sign and a blank before what stands in each line, or without them. */
static Commented each_line(const char *in, const char *end, const CommentSigns *signs, Bytes *out)
{
    const char *sign = signs->sign;
    Survey s = survey(in, end, signs);
    bool remove = s.commented == s.lines, blank_too = s.spaced && s.blanks % 2 == 1;
    if (!s.lines)
        return COMMENT_NOTHING;
    for (const char *p = in; p < end;) {
        Line l = line_of(p, end);
        const char *next = after(&l, end);
        if (is_kept(&l, in, signs)) {
            bytes_add(out, p, (size_t)(next - p));
        } else if (remove) {
            size_t n = sign_at(l.at + l.indent, l.at + l.n, signs);
            n += blank_too && l.indent + n < l.n && l.at[l.indent + n] == ' ';
            bytes_add(out, p, l.indent);
            bytes_add(out, p + l.indent + n, (size_t)(next - p) - l.indent - n);
        } else {
            bytes_add(out, p, s.indent);
            bytes_add_str(out, sign);
            bytes_add_str(out, " ");
            bytes_add(out, p + s.indent, (size_t)(next - p) - s.indent);
        }
        p = next;
    }
    return remove ? COMMENT_REMOVED : COMMENT_ADDED;
}

/* One comment around all lines. */
static Commented around(const char *in, const char *end, const CommentSigns *signs, Bytes *out)
{
    const char *open = signs->open, *close = signs->close;
    Survey s = survey(in, end, signs);
    if (!s.lines)
        return COMMENT_NOTHING;
    const char *from = s.first.at + s.first.indent, *to = s.last.at + s.last.n;
    while (to > from && letter_is_blank(to[-1]))
        to--;
    size_t n_open = strlen(open), n_close = strlen(close);
    bool remove = (size_t)(to - from) >= n_open + n_close && begins(from, to, open) && ends(from, to, close);
    bytes_add(out, in, (size_t)(from - in));
    if (remove) {
        const char *a = from + n_open, *b = to - n_close;
        a += a < b && *a == ' ';
        b -= b > a && b[-1] == ' ';
        if (has(a, b, close))
            return COMMENT_INSIDE;
        bytes_add(out, a, (size_t)(b - a));
    } else {
        if (has(from, to, close) || has(from, to, open))
            return COMMENT_INSIDE;
        bytes_add_str(out, open);
        bytes_add_str(out, " ");
        bytes_add(out, from, (size_t)(to - from));
        bytes_add_str(out, " ");
        bytes_add_str(out, close);
    }
    bytes_add(out, to, (size_t)(end - to));
    return remove ? COMMENT_REMOVED : COMMENT_ADDED;
}

Commented comment_lines(const char *in, size_t n, const CommentSigns *signs, Bytes *out)
{
    return signs->sign ? each_line(in, in + n, signs, out) : around(in, in + n, signs, out);
}

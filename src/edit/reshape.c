#include "edit/reshape.h"

#include "base/array.h"
#include "base/glyph.h"
#include "base/letters.h"
#include "base/mem.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>
#include <xxhash.h>

/* ---- lines ---- */

typedef struct Line {
    const char *at;
    size_t n, whole; /* bytes without its end, and with it */
} Line;

static Line line_at(const char *at, const char *end)
{
    const char *stop = memchr(at, '\n', (size_t)(end - at));
    Line l = {at, (size_t)((stop ? stop : end) - at), (size_t)((stop ? stop + 1 : end) - at)};
    if (stop && l.n && at[l.n - 1] == '\r')
        l.n--;
    return l;
}

static Line *lines_of(const char *in, size_t n, size_t *count)
{
    Line *all = NULL;
    *count = 0;
    for (const char *p = in, *end = in + n; p < end;) {
        Line l = line_at(p, end);
        all = array_room(all, *count, sizeof *all);
        all[(*count)++] = l;
        p += l.whole;
    }
    return all;
}

/* What ends the lines, as the first one has it. */
static const char *end_of(const char *in, size_t n)
{
    const char *stop = memchr(in, '\n', n);
    return stop && stop > in && stop[-1] == '\r' ? "\r\n" : "\n";
}

/* Adds a line of the input in another place, where it needs an end. */
static void add_whole(Bytes *out, const Line *l, const char *line_end)
{
    bytes_add(out, l->at, l->whole);
    if (l->n == l->whole)
        bytes_add_str(out, line_end);
}

static void without_last_end(const char *in, size_t n, Bytes *out)
{
    if (n && in[n - 1] != '\n' && out->len && out->at[out->len - 1] == '\n')
        bytes_delete(out, out->len - 1, 1);
    if (n && in[n - 1] != '\n' && out->len && out->at[out->len - 1] == '\r')
        bytes_delete(out, out->len - 1, 1);
}

static size_t cells_of(const char *s, size_t n, size_t before, unsigned tab)
{
    size_t cells = before;
    Glyph g;
    for (size_t at = 0; at < n; at += g.bytes) {
        glyph_read(s + at, n - at, &g);
        if (!g.bytes)
            break;
        cells += glyph_cells(&g, cells, tab);
    }
    return cells - before;
}

/* ---- paragraphs ---- */

/* A line's parts: indentation with a comment's sign and blanks; a list's sign with blanks; what is said. */
typedef struct Parts {
    size_t lead, item, comment; /* bytes; `comment` of the lead up to the sign's end, 0: there is none */
    const char *words;
    size_t n;
} Parts;

static size_t sign_at(const char *s, size_t n, const CommentSigns *signs)
{
    const char *const *also = signs->sign ? signs->also : NULL;
    for (const char *sign = signs->sign; sign; sign = also ? *also++ : NULL) {
        size_t len = strlen(sign);
        if (n >= len && memcmp(s, sign, len) == 0) {
            while (len < n && s[len] == sign[strlen(sign) - 1] && !letter_is_blank(s[len]))
                len++; /* ## and /// too */
            return len;
        }
    }
    return 0;
}

/* "- ", "* ", "• ", "12. ", "a) " */
static size_t item_at(const char *s, size_t n)
{
    size_t i = 0;
    if (n && strchr("-*+", s[0])) {
        i = 1;
    } else if (n >= 3 && memcmp(s, "•", 3) == 0) {
        i = 3;
    } else {
        while (i < n && i < 4 && isdigit((unsigned char)s[i]))
            i++;
        i = i ? i : n > 1 && isalpha((unsigned char)s[0]) && s[1] == ')';
        i = i && i < n && (s[i] == '.' || s[i] == ')') ? i + 1 : 0;
    }
    size_t blanks = i ? letters_blank(s + i, n - i) : 0;
    return blanks && i + blanks < n ? i + blanks : 0;
}

static Parts parts_of(const char *s, size_t n, const CommentSigns *signs)
{
    Parts p = {0};
    p.lead = letters_blank(s, n);
    size_t sign = sign_at(s + p.lead, n - p.lead, signs);
    if (sign) {
        p.comment = p.lead + sign;
        p.lead = p.comment + letters_blank(s + p.comment, n - p.comment);
    }
    p.item = item_at(s + p.lead, n - p.lead);
    p.words = s + p.lead + p.item;
    p.n = n - p.lead - p.item;
    while (p.n && letter_is_blank(p.words[p.n - 1]))
        p.n--;
    return p;
}

/* Of Markdown: headings, tables; nothing that goes on in the next line. */
static bool is_alone(const Parts *p)
{
    return !p->comment && p->n && (p->words[0] == '|' || (p->words[0] == '#' && !p->item));
}

static bool is_fence(const Parts *p)
{
    return p->n >= 3 && (memcmp(p->words, "```", 3) == 0 || memcmp(p->words, "~~~", 3) == 0);
}

bool reshape_has_words(const char *line, size_t n, const CommentSigns *signs)
{
    return parts_of(line, n, signs).n > 0;
}

bool reshape_goes_on(const char *before, size_t m, const char *line, size_t n, const CommentSigns *signs)
{
    Parts a = parts_of(before, m, signs), b = parts_of(line, n, signs);
    bool same_comment = a.comment && b.comment
                            ? a.comment == b.comment && memcmp(before, line, a.comment) == 0
                            : !a.comment && !b.comment;
    return a.n && b.n && !b.item && same_comment && !is_alone(&a) && !is_alone(&b) && !is_fence(&a) &&
           !is_fence(&b);
}

/* Is the word one that begins an item of a list? */
static bool is_item(const char *word, size_t len)
{
    char item[8];
    if (!len || len + 2 >= sizeof item)
        return false;
    memcpy(item, word, len);
    memcpy(item + len, " x", 2);
    return item_at(item, len + 2) > 0;
}

/* Would a word at the beginning of a line be taken for more than a word: a list's sign, a comment, a table?
 */
static bool must_not_begin(const char *word, size_t len, const CommentSigns *signs)
{
    bool fence = len >= 3 && (memcmp(word, "```", 3) == 0 || memcmp(word, "~~~", 3) == 0);
    return fence || sign_at(word, len, signs) || strchr("|#", word[0]) || is_item(word, len);
}

/* The words of a paragraph, filled into lines. */
static void fill(const Line *lines, size_t count, unsigned width, unsigned tab, const CommentSigns *signs,
                 const char *line_end, Bytes *out)
{
    Parts first = parts_of(lines[0].at, lines[0].n, signs), next = first;
    Bytes lead = {0};
    if (count > 1)
        next = parts_of(lines[1].at, lines[1].n, signs);
    bool sign_alone = count > 1 && !first.item && is_item(first.words, first.n);
    size_t hang = cells_of(first.words - first.item, first.item, 0, tab);
    if (sign_alone)
        hang = cells_of(first.words, first.n, 0, tab) + 1;
    if (count > 1 && !first.item && !sign_alone) {
        bytes_add(&lead, lines[1].at, next.lead); /* as the second line has it */
    } else {
        bytes_add(&lead, lines[0].at, first.lead);
        for (; hang > 0; hang--)
            bytes_add_str(&lead, " ");
    }
    bytes_add(out, lines[0].at, first.lead + first.item);
    size_t cells = cells_of(lines[0].at, first.lead + first.item, 0, tab);
    size_t lead_cells = cells_of(bytes_str(&lead), lead.len, 0, tab);
    bool begun = false; /* there is a word in this line */
    for (size_t i = 0; i < count; i++) {
        Parts p = i ? parts_of(lines[i].at, lines[i].n, signs) : first;
        for (size_t at = 0; at < p.n;) {
            size_t len = 0;
            while (at + len < p.n && !letter_is_blank(p.words[at + len]))
                len++;
            size_t wide = cells_of(p.words + at, len, 0, tab);
            if (begun && width && cells + 1 + wide > width && !must_not_begin(p.words + at, len, signs)) {
                bytes_add_str(out, line_end);
                bytes_add(out, lead.at, lead.len);
                cells = lead_cells;
                begun = false;
            }
            if (begun)
                bytes_add_str(out, " ");
            bytes_add(out, p.words + at, len);
            cells += wide + begun;
            begun = true;
            at += len;
            at += letters_blank(p.words + at, p.n - at);
        }
    }
    bytes_add_str(out, line_end);
    bytes_free(&lead);
}

void reshape_wrap(const char *in, size_t n, unsigned width, unsigned tab, const CommentSigns *signs,
                  Bytes *out)
{
    size_t count;
    Line *lines = lines_of(in, n, &count);
    const char *line_end = end_of(in, n);
    bool fenced = false;
    for (size_t i = 0; i < count;) {
        Parts p = parts_of(lines[i].at, lines[i].n, signs);
        size_t to = i + 1;
        bool fence = is_fence(&p);
        if (fenced || fence || !p.n || is_alone(&p)) {
            add_whole(out, &lines[i], line_end);
            fenced = fence ? !fenced : fenced;
        } else {
            while (to < count &&
                   reshape_goes_on(lines[to - 1].at, lines[to - 1].n, lines[to].at, lines[to].n, signs))
                to++;
            fill(lines + i, to - i, width, tab, signs, line_end, out);
        }
        i = to;
    }
    without_last_end(in, n, out);
    free(lines);
}

/* ---- columns ---- */

enum { COLUMNS_MOST = 200 };

static bool stays_left(const char *sign)
{
    return sign && strchr(":,;", sign[0]);
}

static bool counts_once(const char *sign)
{
    return sign && (strcmp(sign, "=") == 0 || strcmp(sign, ":") == 0);
}

static bool at_sign(const char *s, size_t n, const char *sign)
{
    return n >= strlen(sign) && memcmp(s, sign, strlen(sign)) == 0;
}

/* Past what stands in quotes from there on, if a word begins with a quote there; or one byte on. */
static size_t past_quoted(const char *s, size_t at, size_t n)
{
    bool begins = at == 0 || letter_is_blank(s[at - 1]) || strchr("=:,;(|", s[at - 1]);
    const char *close =
        begins && (s[at] == '"' || s[at] == '\'') ? memchr(s + at + 1, s[at], n - at - 1) : NULL;
    return close ? (size_t)(close - s) + 1 : at + 1;
}

/* Where the columns of a line begin and end, after its indentation; how many. */
static size_t columns_of(const char *s, size_t n, const char *sign, size_t *from, size_t *to)
{
    size_t count = 0;
    bool left = stays_left(sign);
    for (size_t at = 0; at < n && count < COLUMNS_MOST; count++) {
        from[count] = at;
        if (sign && !left && at_sign(s + at, n - at, sign))
            at += strlen(sign);
        if ((counts_once(sign) && count == 1) || count + 1 == COLUMNS_MOST)
            at = n;
        while (at < n && (sign ? !at_sign(s + at, n - at, sign) : !letter_is_blank(s[at])))
            at = past_quoted(s, at, n);
        if (sign && left && at < n)
            at += strlen(sign);
        to[count] = at;
        while (to[count] > from[count] && letter_is_blank(s[to[count] - 1]))
            to[count]--;
        at += letters_blank(s + at, n - at);
    }
    return count;
}

/* A line that is to be aligned: without its indentation and what follows it. NULL: it stays. */
static bool is_aligned(const Line *l, const CommentSigns *signs, size_t *indent, size_t *n)
{
    *indent = letters_blank(l->at, l->n);
    *n = l->n - *indent;
    return *n > 0 && !sign_at(l->at + *indent, *n, signs);
}

/* The first one is as wide as it and the indentation. */
static size_t column_cells(const char *line, size_t indent, size_t k, const size_t *from, const size_t *to,
                           unsigned tab)
{
    size_t begin = k ? indent + from[k] : 0;
    return cells_of(line + begin, indent + to[k] - begin, 0, tab);
}

void reshape_align(const char *in, size_t n, const char *sign, unsigned tab, const CommentSigns *signs,
                   Bytes *out)
{
    size_t count, widest[COLUMNS_MOST + 1] = {0}, from[COLUMNS_MOST + 1], to[COLUMNS_MOST + 1], indent, len;
    Line *lines = lines_of(in, n, &count);
    for (size_t i = 0; i < count; i++) {
        if (!is_aligned(&lines[i], signs, &indent, &len))
            continue;
        size_t columns = columns_of(lines[i].at + indent, len, sign, from, to);
        for (size_t k = 0; k + 1 < columns; k++) {
            size_t wide = column_cells(lines[i].at, indent, k, from, to, tab);
            widest[k] = wide > widest[k] ? wide : widest[k];
        }
    }
    for (size_t i = 0; i < count; i++) {
        const Line *l = &lines[i];
        if (!is_aligned(l, signs, &indent, &len)) {
            bytes_add(out, l->at, l->whole);
            continue;
        }
        const char *s = l->at + indent;
        size_t columns = columns_of(s, len, sign, from, to);
        bytes_add(out, l->at, indent);
        for (size_t k = 0; k < columns; k++) {
            bytes_add(out, s + from[k], to[k] - from[k]);
            size_t wide = column_cells(l->at, indent, k, from, to, tab);
            for (size_t gap = k + 1 < columns ? widest[k] - wide + 1 : 0; gap > 0; gap--)
                bytes_add_str(out, " ");
        }
        bytes_add(out, l->at + l->n, l->whole - l->n);
    }
    free(lines);
}

/* ---- indentation ---- */

void reshape_indentation(const char *in, size_t n, const Indentation *to, Bytes *out)
{
    for (const char *p = in, *end = in + n; p < end;) {
        Line l = line_at(p, end);
        size_t blanks = letters_blank(l.at, l.n);
        size_t cells = cells_of(l.at, blanks, 0, to->tab), levels = to->from ? cells / to->from : 0;
        size_t rest = to->from ? cells % to->from : cells;
        bool stays = blanks == l.n || (to->stays && to->stays[p - in]);
        if (stays) {
            bytes_add(out, l.at, blanks);
        } else {
            for (size_t i = 0; i < levels; i++)
                for (size_t k = 0; k < (to->tabs ? 1 : to->to); k++)
                    bytes_add_str(out, to->tabs ? "\t" : " ");
            for (size_t i = 0; i < rest; i++)
                bytes_add_str(out, " ");
        }
        bytes_add(out, l.at + blanks, l.whole - blanks);
        p += l.whole;
    }
}

/* ---- which lines ---- */

typedef struct Seen {
    uint64_t hash;
    size_t line;
} Seen;

static int by_hash(const void *a, const void *b)
{
    const Seen *x = a, *y = b;
    if (x->hash != y->hash)
        return x->hash < y->hash ? -1 : 1;
    return (x->line > y->line) - (x->line < y->line);
}

static bool alike(const Line *a, const Line *b)
{
    return a->n == b->n && memcmp(a->at, b->at, a->n) == 0;
}

/* Of lines with the same hash, those that a line before is like. */
static void mark_doubles(const Line *lines, const Seen *seen, size_t n, bool *gone)
{
    for (size_t i = 1; i < n; i++)
        for (size_t k = 0; k < i && !gone[seen[i].line]; k++)
            gone[seen[i].line] = !gone[seen[k].line] && alike(&lines[seen[i].line], &lines[seen[k].line]);
}

size_t reshape_without_doubles(const char *in, size_t n, Bytes *out)
{
    size_t count, went = 0;
    Line *lines = lines_of(in, n, &count);
    Seen *seen = mem_get((count + 1) * sizeof *seen);
    bool *gone = mem_get(count + 1);
    for (size_t i = 0; i < count; i++)
        seen[i] = (Seen){XXH3_64bits(lines[i].at, lines[i].n), i};
    qsort(seen, count, sizeof *seen, by_hash);
    for (size_t i = 0, to; i < count; i = to) {
        for (to = i + 1; to < count && seen[to].hash == seen[i].hash;)
            to++;
        if (letters_blank(lines[seen[i].line].at, lines[seen[i].line].n) < lines[seen[i].line].n)
            mark_doubles(lines, seen + i, to - i, gone);
    }
    for (size_t i = 0; i < count; i++) {
        went += gone[i];
        if (!gone[i])
            add_whole(out, &lines[i], end_of(in, n));
    }
    without_last_end(in, n, out);
    free(lines);
    free(seen);
    free(gone);
    return went;
}

void reshape_reverse(const char *in, size_t n, Bytes *out)
{
    size_t count;
    Line *lines = lines_of(in, n, &count);
    for (size_t i = count; i > 0; i--)
        add_whole(out, &lines[i - 1], end_of(in, n));
    without_last_end(in, n, out);
    free(lines);
}

size_t reshape_matching(const char *in, size_t n, Finder *f, bool keep, Bytes *out)
{
    size_t count, went = 0;
    Line *lines = lines_of(in, n, &count);
    for (size_t i = 0; i < count; i++) {
        Match m;
        size_t from = (size_t)(lines[i].at - in);
        bool has = finder_next(f, from, from + lines[i].n, &m) == FOUND;
        went += has != keep;
        if (has == keep)
            bytes_add(out, lines[i].at, lines[i].whole);
    }
    free(lines);
    return went;
}

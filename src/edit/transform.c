#include "edit/transform.h"

#include "base/array.h"
#include "base/glyph.h"
#include "base/letters.h"
#include "base/mem.h"
#include "text/builder.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <utf8proc.h>

/* One line: its bytes without the line end, and the end itself. */
typedef struct Line {
    const char *at;
    size_t len, end_len;
} Line;

static Line next_line(const char **p, const char *end)
{
    Line l = {.at = *p};
    const char *newline = memchr(*p, '\n', (size_t)(end - *p));
    const char *stop = newline ? newline : end;
    l.end_len = newline != NULL;
    if (newline && stop > *p && stop[-1] == '\r') {
        stop--;
        l.end_len = 2;
    }
    l.len = (size_t)(stop - *p);
    *p = stop + l.end_len;
    return l;
}

static size_t blanks_at(Line l)
{
    size_t n = 0;
    while (n < l.len && letter_is_blank(l.at[n]))
        n++;
    return n;
}

/* ---- sorting ---- */

static int by_bytes(const Line *a, const Line *b)
{
    size_t n = a->len < b->len ? a->len : b->len;
    int c = memcmp(a->at, b->at, n);
    return c ? c : (a->len > b->len) - (a->len < b->len);
}

static int by_numbers(const Line *a, const Line *b)
{
    size_t i = 0, k = 0;
    while (i < a->len && k < b->len) {
        if (isdigit((unsigned char)a->at[i]) && isdigit((unsigned char)b->at[k])) {
            size_t x = i, y = k;
            while (i < a->len && a->at[i] == '0')
                i++;
            while (k < b->len && b->at[k] == '0')
                k++;
            size_t from_a = i, from_b = k;
            while (i < a->len && isdigit((unsigned char)a->at[i]))
                i++;
            while (k < b->len && isdigit((unsigned char)b->at[k]))
                k++;
            if (i - from_a != k - from_b)
                return i - from_a < k - from_b ? -1 : 1;
            int c = memcmp(a->at + from_a, b->at + from_b, i - from_a);
            if (c)
                return c;
            if (i - x != k - y) /* equal but for leading zeros: the shorter first, at last */
                continue;
        } else if (a->at[i] != b->at[k]) {
            return (unsigned char)a->at[i] < (unsigned char)b->at[k] ? -1 : 1;
        } else {
            i++;
            k++;
        }
    }
    return (a->len - i > b->len - k) - (a->len - i < b->len - k);
}

typedef struct Sorting {
    int (*compare)(const Line *a, const Line *b);
    Line *spare; /* as many as there are */
    Stop stop;
    size_t compared;
    bool stopped;
} Sorting;

/* Is the first line to stand after the second? Equal ones stay as they are; so do all once it is stopped. */
static bool is_behind(Sorting *s, const Line *a, const Line *b)
{
    enum { ASK_EACH = 1 << 18 /* comparisons between two questions whether to stop */ };
    if (!s->stopped && ++s->compared % ASK_EACH == 0)
        s->stopped = stop_wanted(s->stop);
    return !s->stopped && s->compare(a, b) > 0;
}

/* Sorts both halves, and merges them. qsort() has no place for what is compared by, and none to stop. */
static void sort_lines(Sorting *s, Line *lines, size_t n)
{
    size_t half = n / 2, a = 0, b = half, k = 0;
    if (n < 2 || s->stopped)
        return;
    sort_lines(s, lines, half);
    sort_lines(s, lines + half, n - half);
    if (!is_behind(s, &lines[half - 1], &lines[half])) /* in order already, as long parts often are */
        return;
    while (a < half && b < n)
        s->spare[k++] = is_behind(s, &lines[a], &lines[b]) ? lines[b++] : lines[a++];
    memcpy(s->spare + k, lines + a, (half - a) * sizeof *lines);
    memcpy(lines, s->spare, (k + half - a) * sizeof *lines);
}

bool transform_sort(const char *in, size_t n, bool numbers, Stop stop, Bytes *out)
{
    size_t count = 0;
    Line *lines = NULL;
    for (const char *p = in; p < in + n;) {
        lines = array_room(lines, count, sizeof *lines);
        lines[count++] = next_line(&p, in + n);
    }
    /* The ends stay where they are: only what stands before them is sorted. */
    size_t *ends = mem_get((count + 1) * sizeof *ends);
    const char **at = mem_get((count + 1) * sizeof *at);
    for (size_t i = 0; i < count; i++) {
        ends[i] = lines[i].end_len;
        at[i] = lines[i].at + lines[i].len;
    }
    Sorting sorting = {.compare = numbers ? by_numbers : by_bytes, .stop = stop};
    sorting.spare = mem_get((count + 1) * sizeof *sorting.spare);
    sort_lines(&sorting, lines, count);
    for (size_t i = 0; i < count && !sorting.stopped; i++) {
        bytes_add(out, lines[i].at, lines[i].len);
        bytes_add(out, at[i], ends[i]);
    }
    free(at);
    free(ends);
    free(lines);
    free(sorting.spare);
    return !sorting.stopped;
}

/* ---- blanks ---- */

void transform_trim(const char *in, size_t n, Bytes *out)
{
    for (const char *p = in; p < in + n;) {
        Line l = next_line(&p, in + n);
        size_t len = l.len;
        while (len && letter_is_blank(l.at[len - 1]))
            len--;
        bytes_add(out, l.at, len);
        bytes_add(out, l.at + l.len, l.end_len);
    }
}

void transform_indent(const char *in, size_t n, const char *unit, Bytes *out)
{
    for (const char *p = in; p < in + n;) {
        Line l = next_line(&p, in + n);
        if (blanks_at(l) < l.len)
            bytes_add_str(out, unit);
        bytes_add(out, l.at, l.len + l.end_len);
    }
}

void transform_unindent(const char *in, size_t n, size_t width, Bytes *out)
{
    for (const char *p = in; p < in + n;) {
        Line l = next_line(&p, in + n);
        size_t cut = 0;
        while (cut < l.len && cut < width && l.at[cut] == ' ')
            cut++;
        if (cut < width && cut < l.len && l.at[cut] == '\t')
            cut++;
        bytes_add(out, l.at + cut, l.len - cut + l.end_len);
    }
}

void transform_join(const char *in, size_t n, Bytes *out)
{
    Line l = {.at = in};
    for (const char *p = in; p < in + n;) {
        bool first = p == in;
        l = next_line(&p, in + n);
        size_t skip = first ? 0 : blanks_at(l), len = l.len;
        while (len > skip && letter_is_blank(l.at[len - 1]))
            len--;
        if (!first && len > skip && out->len)
            bytes_add(out, " ", 1);
        bytes_add(out, l.at + skip, len - skip);
    }
    bytes_add(out, l.at + l.len, l.end_len);
}

void transform_end_sign(const char *in, size_t n, char sign, Bytes *out)
{
    bool all = true;
    for (const char *p = in; p < in + n;) {
        Line l = next_line(&p, in + n);
        if (blanks_at(l) < l.len)
            all = all && l.at[l.len - 1] == sign;
    }
    for (const char *p = in; p < in + n;) {
        Line l = next_line(&p, in + n);
        bool text = blanks_at(l) < l.len, has = text && l.at[l.len - 1] == sign;
        bytes_add(out, l.at, l.len - (all && has));
        if (!all && text && !has)
            bytes_add(out, &sign, 1);
        bytes_add(out, l.at + l.len, l.end_len);
    }
}

void transform_case(const char *in, size_t n, bool upper, Bytes *out)
{
    for (size_t i = 0; i < n;) {
        int32_t code;
        size_t len = utf8_decode(in + i, n - i, &code);
        char bytes[4];
        if (code < 0)
            bytes_add(out, in + i, 1);
        else if (upper && code == 0xdf) /* the sharp s has no capital of one letter in use */
            bytes_add_str(out, "SS");
        else
            bytes_add(out, bytes,
                      utf8_write((uint32_t)(upper ? utf8proc_toupper(code) : utf8proc_tolower(code)), bytes));
        i += len;
    }
}

/* ---- numbers ---- */

static bool digit_at(const char *s, size_t n, size_t i)
{
    return i < n && isdigit((unsigned char)s[i]);
}

static bool hex_at(const char *s, size_t n, size_t i)
{
    return i < n && isxdigit((unsigned char)s[i]);
}

/* Is [from, to) one of four numbers between dots? */
static bool part_of_address(const char *s, size_t n, size_t from, size_t to)
{
    unsigned before = 0, after = 0;
    size_t i = from;
    while (i >= 2 && s[i - 1] == '.' && isdigit((unsigned char)s[i - 2])) {
        before++;
        for (i -= 1; i > 0 && isdigit((unsigned char)s[i - 1]);)
            i--;
    }
    for (i = to; digit_at(s, n, i + 1) && s[i] == '.';) {
        after++;
        for (i++; digit_at(s, n, i);)
            i++;
    }
    return before + after == 3;
}

static unsigned digit_value(char c)
{
    return c <= '9' ? (unsigned)(c - '0') : (unsigned)((c | 0x20) - 'a' + 10);
}

/* Adds to the value of n digits, most significant first, and returns what is carried out of them. */
static unsigned long long add_to_digits(unsigned char *digits, size_t n, unsigned base, unsigned long long by)
{
    while (n-- > 0 && by) {
        unsigned long long sum = digits[n] + by % base;
        by = by / base + sum / base;
        digits[n] = (unsigned char)(sum % base);
    }
    return by;
}

/* Takes from it, and returns what was more than it, in units of the digit before the first one; the digits
 * are then those of a number that much too high. */
static unsigned long long take_from_digits(unsigned char *digits, size_t n, unsigned base,
                                           unsigned long long by)
{
    while (n-- > 0 && by) {
        unsigned part = (unsigned)(by % base);
        bool borrow = digits[n] < part;
        digits[n] = (unsigned char)(digits[n] + (borrow ? base : 0) - part);
        by = by / base + borrow;
    }
    return by;
}

static void write_digits(const unsigned char *digits, size_t n, const char *signs, Bytes *out)
{
    for (size_t i = 0; i < n; i++)
        bytes_add(out, signs + digits[i], 1);
}

/* n digits of that base, and `by` added: with as many digits at least if `wide`. False: it would be below 0
 * and may not. `negative`: of the number, before and after; NULL: it may not be. */
static bool add_number(const char *s, size_t n, unsigned base, bool wide, long long by, bool *negative,
                       const char *signs, Bytes *out)
{
    enum { MORE = 20 }; /* digits that adding may put before the first one */
    unsigned char *digits = mem_get(MORE + n);
    size_t all = MORE + n, first = 0;
    unsigned long long amount = by < 0 ? -(unsigned long long)by : (unsigned long long)by;
    for (size_t i = 0; i < n; i++)
        digits[MORE + i] = (unsigned char)digit_value(s[i]);
    bool ok = true;
    if ((by < 0) == (negative && *negative)) {
        add_to_digits(digits, all, base, amount);
    } else if (take_from_digits(digits, all, base, amount)) {
        ok = negative != NULL; /* past 0: the other way around, from all nines */
        for (size_t i = 0; i < all; i++)
            digits[i] = (unsigned char)(base - 1 - digits[i]);
        add_to_digits(digits, all, base, 1);
        if (negative)
            *negative = !*negative;
    }
    size_t least = wide ? n : 1;
    while (first < all - least && digits[first] == 0)
        first++;
    bool zero = true;
    for (size_t i = first; i < all; i++)
        zero = zero && digits[i] == 0;
    if (negative && zero)
        *negative = false;
    if (ok)
        write_digits(digits + first, all - first, signs, out);
    free(digits);
    return ok;
}

static NumberFound add_hex(const char *s, size_t n, long long by, Bytes *out)
{
    bool capitals = false;
    for (size_t i = 2; i < n; i++)
        capitals = capitals || isupper((unsigned char)s[i]);
    size_t from = out->len;
    bytes_add(out, s, 2);
    if (add_number(s + 2, n - 2, 16, true, by, NULL, capitals ? "0123456789ABCDEF" : "0123456789abcdef", out))
        return NUMBER_ADDED;
    out->len = from;
    return NUMBER_BELOW;
}

static void add_in_address(const char *s, size_t n, long long by, Bytes *out)
{
    char number[8];
    snprintf(number, sizeof number, "%.*s", (int)(n < 7 ? n : 7), s);
    long long v = strtoll(number, NULL, 10), now = by > 255 ? 255 : by < -255 - v ? 0 : v + by;
    bytes_printf(out, "%0*lld", s[0] == '0' && n > 1 ? (int)n : 1, now < 0 ? 0LL : now > 255 ? 255LL : now);
}

NumberFound transform_number(const char *s, size_t n, size_t at, long long by, size_t *from, size_t *to,
                             Bytes *out)
{
    at = at < n ? at : n;
    size_t start = at;
    while (start > 0 && hex_at(s, n, start - 1)) /* within a number? then from its start */
        start--;
    if (start >= 2 && (s[start - 1] == 'x' || s[start - 1] == 'X') && s[start - 2] == '0')
        start -= 2;
    while (start < n && !digit_at(s, n, start))
        start++;
    /* A number that ends before the cursor is not the one meant, but for the cursor right after it. */
    for (;;) {
        size_t end;
        bool hex =
            start + 2 < n && s[start] == '0' && (s[start + 1] | 0x20) == 'x' && hex_at(s, n, start + 2);
        if (start >= n)
            return NUMBER_NONE;
        for (end = hex ? start + 2 : start; hex ? hex_at(s, n, end) : digit_at(s, n, end);)
            end++;
        if (end < at) {
            for (start = end; start < n && !digit_at(s, n, start);)
                start++;
            continue;
        }
        *from = start;
        *to = end;
        if (hex)
            return add_hex(s + start, end - start, by, out);
        if (part_of_address(s, n, start, end)) {
            add_in_address(s + start, end - start, by, out);
            return NUMBER_ADDED;
        }
        /* A minus is a sign only where no word or number ends before it. */
        bool negative = start > 0 && s[start - 1] == '-' &&
                        (start == 1 || !letter_is_of_word((unsigned char)s[start - 2]));
        *from -= negative;
        Bytes digits = {0};
        add_number(s + start, end - start, 10, s[start] == '0' && end - start > 1, by, &negative,
                   "0123456789", &digits);
        bytes_printf(out, "%s%s", negative ? "-" : "", digits.at);
        bytes_free(&digits);
        return NUMBER_ADDED;
    }
}

/* ---- words ---- */

static void add_in_case(const char *like, size_t n_like, const char *word, size_t n, Bytes *out)
{
    bool first = n_like && isupper((unsigned char)like[0]), all = n_like > 1 && first;
    for (size_t i = 0; i < n_like; i++)
        all = all && !islower((unsigned char)like[i]);
    for (size_t i = 0; i < n; i++) {
        char c = (char)(all || (first && i == 0) ? toupper((unsigned char)word[i]) : word[i]);
        bytes_add(out, &c, 1);
    }
}

bool transform_flip_word(const char *s, size_t n, size_t at, const char *pairs, size_t *from, size_t *to,
                         Bytes *out)
{
    size_t a = at < n ? at : n, b = a;
    while (a > 0 && letter_is_of_word((unsigned char)s[a - 1]))
        a--;
    while (b < n && letter_is_of_word((unsigned char)s[b]))
        b++;
    for (const char *p = pairs; a < b && *p;) {
        size_t len = strcspn(p, "\n"), split = strcspn(p, " \n");
        const char *second = p + split + (p[split] == ' ');
        size_t n_second = len > split ? len - split - 1 : 0;
        bool is_first = split == b - a && strncasecmp(p, s + a, split) == 0;
        bool is_second = n_second == b - a && strncasecmp(second, s + a, n_second) == 0;
        if (n_second && *p != '#' && (is_first || is_second)) {
            *from = a;
            *to = b;
            if (is_first)
                add_in_case(s + a, b - a, second, n_second, out);
            else
                add_in_case(s + a, b - a, p, split, out);
            return true;
        }
        p += len + (p[len] == '\n');
    }
    return false;
}

/* ---- brackets and quotes ---- */

static const char openers[] = "([{", closers[] = ")]}";

/* Signs of one sort of place belong together: those of the code, of a comment, of a text in quotes. */
typedef struct Signs {
    const char *in;
    size_t n;
    const uint8_t *sorts; /* of each byte; NULL: all are alike */
} Signs;

static bool alike(const Signs *s, size_t a, size_t b)
{
    return !s->sorts || s->sorts[a] == s->sorts[b];
}

static bool match_quote(const Signs *s, size_t at, size_t *partner)
{
    /* Quotes pair up within a line, from its start on. */
    const char *in = s->in;
    size_t start = at, open = 0;
    bool is_open = false;
    while (start > 0 && in[start - 1] != '\n')
        start--;
    for (size_t i = start; i < s->n && in[i] != '\n'; i++) {
        if (in[i] == '\\') {
            i++;
            continue;
        }
        if (in[i] != in[at] || !alike(s, i, at))
            continue;
        if (is_open && (i == at || open == at)) {
            *partner = i == at ? open : i;
            return true;
        }
        open = i;
        is_open = !is_open;
    }
    return false;
}

static bool match_sign(const Signs *s, size_t at, size_t *partner)
{
    const char *in = s->in;
    if (at >= s->n || !in[at])
        return false;
    if (in[at] == '"' || in[at] == '\'' || in[at] == '`')
        return match_quote(s, at, partner);
    const char *o = strchr(openers, in[at]), *c = strchr(closers, in[at]);
    size_t depth = 0;
    for (size_t i = at; o && i < s->n; i++) {
        if (!alike(s, i, at))
            continue;
        depth += in[i] == *o;
        depth -= in[i] == closers[o - openers];
        if (depth == 0) {
            *partner = i;
            return true;
        }
    }
    for (size_t i = at + 1; c && i-- > 0;) {
        if (!alike(s, i, at))
            continue;
        depth += in[i] == *c;
        depth -= in[i] == openers[c - closers];
        if (depth == 0) {
            *partner = i;
            return true;
        }
    }
    return false;
}

bool transform_matching_sign(const char *in, size_t n, size_t at, const uint8_t *sorts, size_t *partner)
{
    return match_sign(&(Signs){in, n, sorts}, at, partner);
}

/* The part of one sort around a byte, such as a comment, without blanks at its ends. */
static bool inside_part(const Signs *s, size_t at, size_t *from, size_t *to)
{
    if (!s->sorts || at >= s->n || !s->sorts[at])
        return false;
    size_t a = at, b = at;
    while (a > 0 && s->sorts[a - 1] == s->sorts[at])
        a--;
    while (b < s->n && s->sorts[b] == s->sorts[at])
        b++;
    while (a < b && strchr(" \t\r\n", s->in[a]))
        a++;
    while (b > a && strchr(" \t\r\n", s->in[b - 1]))
        b--;
    *from = a;
    *to = b;
    return a <= at && at <= b;
}

bool transform_inside_signs(const char *in, size_t n, size_t at, const uint8_t *sorts, size_t *from,
                            size_t *to)
{
    const Signs s = {in, n, sorts};
    size_t part_from = 0, part_to = 0;
    bool part = inside_part(&s, at, &part_from, &part_to);
    for (size_t i = at; i-- > 0;) {
        size_t partner;
        bool sign = in[i] == '"' || in[i] == '\'' || in[i] == '`' || (in[i] && strchr(openers, in[i]));
        if (part && i < part_from)
            break; /* the part is nearer */
        if (sign && match_sign(&s, i, &partner) && partner >= at && partner > i) {
            *from = i + 1;
            *to = partner;
            return true;
        }
    }
    *from = part_from;
    *to = part_to;
    return part;
}

/* Where the blanks before `end` begin, looking back to `from` at most. */
static size_t blanks_before(Text t, size_t from, size_t end)
{
    while (end > from && letter_is_blank(text_byte(t, end - 1)))
        end--;
    return end;
}

bool transform_trim_text(Text t, Text *out, size_t *lines)
{
    TextBuilder b = {0};
    size_t kept = 0, len = text_len(t);
    bool ok = true;
    *lines = 0;
    *out = (Text){0};
    for (size_t at = 0; ok && at < len;) {
        TextRun run = text_run(t, at);
        const char *p = run.at, *stop = run.at + run.len;
        for (const char *hit; ok && p < stop && (hit = memchr(p, '\n', (size_t)(stop - p))); p = hit + 1) {
            size_t end = at + (size_t)(hit - run.at);
            end -= end > kept && text_byte(t, end - 1) == '\r';
            if (hit > run.at && end == at + (size_t)(hit - run.at) && !letter_is_blank(hit[-1]))
                continue;
            size_t from = blanks_before(t, kept, end);
            if (from == end)
                continue;
            ok = builder_part(&b, t, kept, from);
            kept = end;
            ++*lines;
        }
        at += run.len;
    }
    size_t from = blanks_before(t, kept, len);
    *lines += from < len;
    ok = ok && builder_part(&b, t, kept, from) && builder_finish(&b, out);
    builder_drop(&b);
    return ok;
}

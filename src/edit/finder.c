#include "edit/finder.h"

#include "base/glyph.h"
#include "base/letters.h"
#include "base/mem.h"
#include "edit/literal.h"
#include "edit/move.h"
#include "text/builder.h"
#include "text/text_line.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <ctype.h>
#include <stdlib.h>
#include <string.h>

enum {
    WINDOW = 1024 * 1024,       /* bytes searched at once, then up to the line's end */
    FIRST_WINDOW = 4 * 1024,    /* of a search that has just begun, */
    GROWS = 8,                  /* and how much larger the next one is */
    MATCH_LIMIT = 10 * 1000000, /* steps; stops an evil expression in some ten ms */
};

struct Finder {
    char *plain; /* bytes that are looked for as they are; NULL: by the expression */
    size_t n_plain;
    Match last; /* found by plain bytes */
    pcre2_code *code;
    pcre2_code
        *inner; /* for windows that do not reach the text's end: there ^ holds at their end too; or NULL */
    pcre2_match_data *data;
    pcre2_match_context *limits;
    bool jit, exact, expression, crosses; /* crosses: may match line ends, or look at what comes after them */
    size_t lookbehind; /* bytes before a place that the expression may look at; 0: none, as plain words do */
    Text text;
    const char *flat; /* bytes that are searched instead of a text; NULL: none */
    size_t len;       /* of what is searched */
    TextRun run;      /* the piece looked at last, which begins at run_from; neighbours mostly lie in it */
    size_t run_from;
    /* the window: bytes [start, end) of the text */
    const char *at;
    size_t start, end;
    size_t grow; /* size of the next one, in bytes */
    Bytes gathered;
};

/* ---- compiling ---- */

static bool has_capital(const char *s, size_t n, bool expression)
{
    for (size_t i = 0; i < n; i++) {
        int32_t code;
        if (expression && s[i] == '\\') { /* \S and its like are no capitals */
            i++;
            continue;
        }
        size_t len = utf8_decode(s + i, n - i, &code);
        if (code > 0 && (code < 128 ? isupper(code) : utf8_is_capital(code)))
            return true;
        i += len - 1;
    }
    return false;
}

static void quote(const char *s, size_t n, Bytes *out)
{
    for (size_t i = 0; i < n; i++) {
        unsigned char c = (unsigned char)s[i];
        if (c == 0) {
            bytes_add_str(out, "\\x00");
        } else if (c == '\n') {
            bytes_add_str(out, "\\r?\\n");
        } else {
            if (c < 128 && !isalnum(c))
                bytes_add(out, "\\", 1);
            bytes_add(out, s + i, 1);
        }
    }
}

static bool word_char(int c)
{
    return c >= 128 || (c >= 0 && letter_is_of_word((unsigned char)c));
}

/* The expression that is compiled; *shift: bytes of it before the person's own. */
static void build(const FindWhat *w, Bytes *out, size_t *shift)
{
    bool left = w->words && (w->expression || word_char((unsigned char)w->what[0]));
    bool right = w->words && (w->expression || word_char((unsigned char)w->what[w->len - 1]));
    if (left)
        bytes_add_str(out, "(?<!\\w)");
    if (w->words)
        bytes_add_str(out, "(?:");
    *shift = out->len;
    if (w->expression)
        bytes_add(out, w->what, w->len);
    else
        quote(w->what, w->len, out);
    if (w->words)
        bytes_add_str(out, ")");
    if (right)
        bytes_add_str(out, "(?!\\w)");
}

/* Could the expression match a line end? Better said too often than too seldom. */
static bool may_cross(const FindWhat *w)
{
    static const char *const signs[] = {
        "\\n", "\\R", "\\s", "\\v", "\\W", "\\D", "\\X", "\\r", "\\N", "\\x", "\\H",
        "\\p", "\\P", "(?s", "[^",  "[[:", "\n",  "\\Z", "\\z", "-m",  "\\C", "(*"};
    char *s = mem_string_n(w->what, w->len);
    bool crosses = false;
    for (size_t i = 0; i < sizeof signs / sizeof *signs; i++)
        if (w->expression || strcmp(signs[i], "\n") == 0)
            crosses = crosses || strstr(s, signs[i]);
    free(s);
    return crosses;
}

static bool explain(int code, size_t offset, size_t shift, size_t len, Err *e, size_t *mistake)
{
    char text[160];
    pcre2_get_error_message(code, (PCRE2_UCHAR *)text, sizeof text);
    *mistake = offset > shift ? offset - shift : 0;
    if (*mistake > len)
        *mistake = len;
    return err_set(e, "%s", text);
}

Finder *finder_new(const FindWhat *w, Err *e, size_t *mistake)
{
    *mistake = 0;
    if (w->len == 0) {
        err_set(e, "There is nothing to look for");
        return NULL;
    }
    Finder *f = mem_get(sizeof *f);
    Bytes built = {0};
    size_t shift, offset = 0;
    int code = 0;
    f->exact =
        w->letters == CASE_EXACT || (w->letters == CASE_AUTO && has_capital(w->what, w->len, w->expression));
    f->expression = w->expression;
    f->crosses = may_cross(w);
    if (f->exact && !w->words && !w->expression && !memchr(w->what, '\n', w->len)) {
        f->plain = mem_string_n(w->what, w->len);
        f->n_plain = w->len;
    }
    build(w, &built, &shift);
    uint32_t options = PCRE2_MULTILINE | (f->exact ? 0 : PCRE2_CASELESS);
    if (utf8_is_valid(w->what, w->len))
        options |= PCRE2_UTF | PCRE2_UCP | PCRE2_MATCH_INVALID_UTF;
    pcre2_compile_context *context = pcre2_compile_context_create(NULL);
    pcre2_set_newline(context, PCRE2_NEWLINE_ANYCRLF);
    f->code = pcre2_compile((PCRE2_SPTR)built.at, built.len, options, &code, &offset, context);
    if (f->code && f->crosses && memchr(w->what, '^', w->len)) {
        f->inner = pcre2_compile((PCRE2_SPTR)built.at, built.len, options | PCRE2_ALT_CIRCUMFLEX, &code,
                                 &offset, context);
        if (f->inner)
            pcre2_jit_compile(f->inner, PCRE2_JIT_COMPLETE | PCRE2_JIT_PARTIAL_HARD);
    }
    pcre2_compile_context_free(context);
    bytes_free(&built);
    if (!f->code) {
        explain(code, offset, shift, w->len, e, mistake);
        finder_free(f);
        return NULL;
    }
    uint32_t characters = 0;
    pcre2_pattern_info(f->code, PCRE2_INFO_MAXLOOKBEHIND, &characters);
    f->lookbehind = 4 * (size_t)characters + 4; /* one more: \A must see that something is there */
    f->jit = pcre2_jit_compile(f->code, PCRE2_JIT_COMPLETE | PCRE2_JIT_PARTIAL_HARD) == 0;
    f->data = pcre2_match_data_create_from_pattern(f->code, NULL);
    f->limits = pcre2_match_context_create(NULL);
    pcre2_set_match_limit(f->limits, MATCH_LIMIT);
    return f;
}

void finder_free(Finder *f)
{
    if (!f)
        return;
    pcre2_match_context_free(f->limits);
    pcre2_match_data_free(f->data);
    pcre2_code_free(f->code);
    pcre2_code_free(f->inner);
    text_drop(&f->text);
    bytes_free(&f->gathered);
    free(f->plain);
    free(f);
}

bool finder_exact(const Finder *f)
{
    return f->exact;
}

void finder_text(Finder *f, Text t)
{
    if (f->text.root && text_same(f->text, t))
        return;
    text_drop(&f->text);
    f->text = text_keep(t);
    f->len = text_len(t);
    f->at = NULL;
    f->grow = FIRST_WINDOW; /* the match may be near */
    f->run = (TextRun){0};
}

void finder_bytes(Finder *f, const char *bytes, size_t n)
{
    f->flat = f->at = n ? bytes : "";
    f->len = f->end = n;
    f->start = 0;
    f->run = (TextRun){f->flat, n};
    f->run_from = 0;
}

/* text_run, but from the piece that was looked at last where that serves. */
static TextRun run_at(Finder *f, size_t at)
{
    if (at < f->run_from || at >= f->run_from + f->run.len) {
        f->run = text_run(f->text, at);
        f->run_from = at;
    }
    size_t skip = at - f->run_from;
    return (TextRun){f->run.at + skip, f->run.len - skip};
}

/* ---- windows ---- */

/* Brings bytes [start, end) into one piece. */
static void set_window(Finder *f, size_t start, size_t end)
{
    f->start = start;
    f->end = end;
    TextRun run = text_run(f->text, start);
    if (run.len >= end - start) {
        f->at = run.at;
        return;
    }
    bytes_clear(&f->gathered);
    text_bytes(f->text, start, end - start, &f->gathered);
    f->at = bytes_str(&f->gathered);
}

static size_t line_end_after(Text t, size_t at)
{
    return at >= text_len(t) ? text_len(t) : text_line_start(t, text_line_of(t, at) + 1);
}

static size_t window = WINDOW;

void finder_set_window(size_t bytes)
{
    window = bytes ? bytes : WINDOW;
}

/* A window of whole lines that holds `from`, and before it as much as the expression may look back at; kept
 * when the present one still serves. */
static void window_from(Finder *f, size_t from)
{
    size_t least = from > f->lookbehind ? from - f->lookbehind : 0;
    if (f->at && least >= f->start && (from < f->end || (from == f->end && f->end == f->len)))
        return;
    size_t start = text_line_start(f->text, text_line_of(f->text, least));
    size_t size = f->grow < window ? f->grow : window;
    set_window(f, start, line_end_after(f->text, from + size));
    f->grow = size < window ? size * GROWS : size;
}

/* ---- matching ---- */

static int match_at(Finder *f, size_t from)
{
    bool more = f->end < f->len;
    uint32_t options = f->crosses && more ? PCRE2_PARTIAL_HARD : 0;
    const pcre2_code *code = f->inner && more ? f->inner : f->code;
    return (f->jit ? pcre2_jit_match : pcre2_match)(code, (PCRE2_SPTR)f->at, f->end - f->start,
                                                    from - f->start, options, f->data, f->limits);
}

/* A plain match that lies across the end of a slice, within `join` of it. */
static bool across(Finder *f, size_t from, size_t border, Match *m)
{
    size_t reach = f->n_plain - 1, start = border > reach ? border - reach : 0;
    start = start < from ? from : start;
    bytes_clear(&f->gathered);
    f->at = NULL;
    text_bytes(f->text, start, border + reach - start, &f->gathered);
    const char *hit = literal_find(bytes_str(&f->gathered), f->gathered.len, f->plain, f->n_plain);
    if (hit)
        m->from = start + (size_t)(hit - f->gathered.at);
    return hit != NULL;
}

static Found next_plain(Finder *f, size_t from, size_t until, size_t end, Match *m)
{
    for (size_t at = from; at < until && at + f->n_plain <= end;) {
        TextRun run = run_at(f, at);
        const char *hit = literal_find(run.at, run.len, f->plain, f->n_plain);
        bool found = hit != NULL;
        if (found)
            m->from = at + (size_t)(hit - run.at);
        else if (f->n_plain > 1 && !f->flat)
            found = across(f, at, at + run.len, m);
        if (found) {
            m->to = m->from + f->n_plain;
            f->last = *m;
            return m->to <= end && m->from < until ? FOUND : FOUND_NONE;
        }
        at += run.len;
    }
    return FOUND_NONE;
}

Found finder_next(Finder *f, size_t from, size_t end, Match *m)
{
    return finder_step(f, from, (size_t)-1, end, m);
}

Found finder_step(Finder *f, size_t from, size_t until, size_t end, Match *m)
{
    size_t len = f->len;
    end = end < len ? end : len;
    if (f->plain)
        return next_plain(f, from, until, end, m);
    while (from <= end && from < until) {
        window_from(f, from);
        int n = match_at(f, from);
        if (n == PCRE2_ERROR_PARTIAL) { /* the match may go on after the window */
            size_t begins = f->start + pcre2_get_ovector_pointer(f->data)[0], size = f->end - from;
            begins = begins > from ? begins : from;
            if (begins >= until || begins > end)
                return FOUND_NONE;
            f->at = NULL;
            if (begins > from &&
                f->end - begins < size / 2) { /* a window that begins there is enough, at first */
                from = begins;
                window_from(f, from);
            } else {
                size_t start = f->start;
                set_window(f, start, line_end_after(f->text, f->end + 3 * size));
            }
            continue;
        }
        if (n == PCRE2_ERROR_NOMATCH) {
            if (f->end >= end || f->end >= until)
                return FOUND_NONE;
            from = f->end;
            continue;
        }
        if (n < 0)
            return FOUND_TOO_HARD;
        const size_t *o = pcre2_get_ovector_pointer(f->data);
        m->from = f->start + o[0];
        m->to = f->start + (o[1] < o[0] ? o[0] : o[1]);
        /* An empty match at the window's end is the next window's. */
        if (m->from == f->end && f->end < len) {
            from = f->end;
            f->at = NULL;
            continue;
        }
        return m->to <= end && m->from < until ? FOUND : FOUND_NONE;
    }
    return FOUND_NONE;
}

size_t finder_after(const Finder *f, Match m)
{
    if (m.to > m.from)
        return m.to;
    if (f->flat)
        return m.to < f->len ? m.to + glyph_length(f->flat + m.to, f->len - m.to) : m.to + 1;
    size_t next = move_right(f->text, m.to);
    return next > m.to ? next : m.to + 1;
}

Found finder_before(Finder *f, size_t start, size_t before, Match *m)
{
    size_t end = before;
    Match last = {0};
    for (;;) {
        size_t from = end > start + window / 4
                          ? text_line_start(f->text, text_line_of(f->text, end - window / 4))
                          : start;
        if (from < start)
            from = start;
        bool any = false;
        Found found = FOUND_NONE;
        for (size_t at = from; at < end || (at == end && at == from);) {
            found = finder_next(f, at, text_len(f->text), m);
            if (found != FOUND || m->from >= end)
                break;
            last = *m;
            any = true;
            at = finder_after(f, *m);
        }
        if (found == FOUND_TOO_HARD)
            return found;
        if (any) {
            *m = last;
            /* Found again, so that its groups can be asked for. */
            return finder_next(f, last.from, text_len(f->text), m);
        }
        if (from <= start)
            return FOUND_NONE;
        end = from;
    }
}

/* ---- replacing ---- */

/* Reads "$1", "${name}" or "$$" at s; returns its length, 0 when it is none of them. */
static size_t group_at(const Finder *f, const char *s, size_t n, int *group)
{
    if (n >= 2 && s[0] == '\\' && s[1] >= '1' && s[1] <= '9') { /* another way to write it */
        *group = s[1] - '0';
        return 2;
    }
    if (n < 2 || s[0] != '$')
        return 0;
    if (isdigit((unsigned char)s[1])) {
        *group = s[1] - '0';
        if (n > 2 && isdigit((unsigned char)s[2])) {
            *group = *group * 10 + (s[2] - '0');
            return 3;
        }
        return 2;
    }
    const char *end = s[1] == '{' ? memchr(s, '}', n) : NULL;
    if (!end)
        return 0;
    char name[64];
    size_t len = (size_t)(end - s) - 2;
    if (len == 0 || len >= sizeof name)
        return 0;
    memcpy(name, s + 2, len);
    name[len] = 0;
    *group = isdigit((unsigned char)name[0]) ? atoi(name)
                                             : pcre2_substring_number_from_name(f->code, (PCRE2_SPTR)name);
    return len + 3;
}

bool finder_accepts(const Finder *f, const char *with, size_t n, Err *e)
{
    uint32_t groups = 0;
    pcre2_pattern_info(f->code, PCRE2_INFO_CAPTURECOUNT, &groups);
    for (size_t i = 0; f->expression && i < n; i++) {
        int group = 0;
        size_t len = group_at(f, with + i, n - i, &group);
        if (len && (group < 0 || (uint32_t)group > groups))
            return err_set(e, "The expression has no group for %.*s", (int)len, with + i);
        if (len) {
            i += len - 1;
        } else if (with[i] == '\\' && i + 1 < n &&
                   (with[i + 1] == '0' || isalpha((unsigned char)with[i + 1])) &&
                   !strchr("ntr", with[i + 1])) {
            return err_set(e, "\\%c means nothing here; for these two signs write \\\\%c", with[i + 1],
                           with[i + 1]);
        } else if (with[i] == '\\' || (with[i] == '$' && i + 1 < n && with[i + 1] == '$')) {
            i++;
        }
    }
    return true;
}

/* The bytes of the match found last. */
static const char *found_bytes(const Finder *f, size_t *n)
{
    const size_t *o = pcre2_get_ovector_pointer(f->data);
    *n = f->plain ? f->n_plain : o[1] > o[0] ? o[1] - o[0] : 0;
    return f->plain ? f->plain : f->at + o[0];
}

/* Gives `word` the letter case of `like`: all capitals, a first capital, or as it is. */
static void follow_case(const char *like, size_t n_like, Bytes *word, size_t from)
{
    bool capital = has_capital(like, n_like, false), small = false;
    int32_t code;
    size_t letters = 0;
    if (!n_like || !capital || word->len == from)
        return;
    utf8_decode(like, n_like, &code);
    for (size_t i = 0; i < n_like; letters++) {
        int32_t c;
        i += utf8_decode(like + i, n_like - i, &c);
        small = small || (c > 0 && !utf8_is_capital(c) && utf8_to_capital(c) != c);
    }
    bool all = !small && letters > 1;
    if (!all && !utf8_is_capital(code))
        return;
    Bytes out = {0};
    for (size_t i = from; i < word->len;) {
        char bytes[4];
        size_t n = utf8_decode(word->at + i, word->len - i, &code);
        if (code < 0 || (!all && i > from))
            bytes_add(&out, word->at + i, n);
        else
            bytes_add(&out, bytes, utf8_write((uint32_t)utf8_to_capital(code), bytes));
        i += n;
    }
    bytes_delete(word, from, word->len - from);
    bytes_add(word, bytes_str(&out), out.len);
    bytes_free(&out);
}

static void expand_groups(Finder *f, const char *with, size_t n, Bytes *out)
{
    const size_t *o = pcre2_get_ovector_pointer(f->data);
    uint32_t pairs = pcre2_get_ovector_count(f->data);
    for (size_t i = 0; i < n; i++) {
        int group = 0;
        size_t len = group_at(f, with + i, n - i, &group);
        if (len) {
            if (group >= 0 && (uint32_t)group < pairs && o[2 * group] != PCRE2_UNSET)
                bytes_add(out, f->at + o[2 * group], o[2 * group + 1] - o[2 * group]);
            i += len - 1;
        } else if (with[i] == '$' && i + 1 < n && with[i + 1] == '$') {
            bytes_add(out, "$", 1);
            i++;
        } else if (with[i] == '\\' && i + 1 < n) {
            char c = with[++i];
            c = c == 'n' ? '\n' : c == 't' ? '\t' : c == 'r' ? '\r' : c;
            bytes_add(out, &c, 1);
        } else {
            bytes_add(out, with + i, 1);
        }
    }
}

void finder_expand(Finder *f, const Replacement *by, Bytes *out)
{
    size_t from = out->len, n;
    if (f->expression)
        expand_groups(f, by->with, by->len, out);
    else
        bytes_add(out, by->with, by->len);
    const char *found = found_bytes(f, &n);
    if (by->follow_case)
        follow_case(found, n, out, from);
}

enum { ASK_EACH = 16 * 1024 * 1024 /* bytes between two questions whether to stop */ };

/* finder_next, by steps between which it may be stopped. */
static Found next_unless(Finder *f, size_t at, size_t to, Stop stop, size_t *asked, bool *stopped, Match *m)
{
    for (;;) {
        size_t until = at + ASK_EACH;
        Found found = finder_step(f, at, until, to, m);
        size_t reached = found == FOUND ? m->from : until;
        if (reached > *asked + ASK_EACH) {
            *asked = reached;
            *stopped = stop_wanted(stop);
        }
        if (found != FOUND_NONE || until > to || *stopped)
            return *stopped ? FOUND_NONE : found;
        at = until;
    }
}

bool finder_replace_all(Finder *f, size_t from, size_t to, const Replacement *by, Stop stop, Text *out,
                        size_t *count, size_t *lines, Err *e)
{
    Text t = f->text;
    TextBuilder b = {0};
    Bytes one = {0};
    size_t copied = 0, asked = from;
    Match m;
    Found found = FOUND_NONE;
    *out = (Text){0};
    bool stopped = false, ok = true, fixed = !f->expression && !by->follow_case;
    *count = *lines = 0;
    for (size_t at = from; ok && (found = next_unless(f, at, to, stop, &asked, &stopped, &m)) == FOUND;) {
        bytes_clear(&one);
        if (!fixed)
            finder_expand(f, by, &one);
        size_t line = b.newlines;
        ok = builder_part(&b, t, copied, m.from);
        *lines += *count == 0 || b.newlines > line;
        ok = ok &&
             (fixed ? builder_bytes(&b, by->with, by->len) : builder_bytes(&b, bytes_str(&one), one.len));
        ++*count;
        copied = m.to;
        at = finder_after(f, m);
    }
    if (!ok)
        err_set(e, "There is not enough memory for that");
    else if (stopped)
        ok = err_set(e, "It was stopped; nothing was replaced");
    else if (found == FOUND_TOO_HARD)
        ok = err_set(e, "This expression takes too long here; nothing was replaced");
    else if (*count)
        ok = (builder_part(&b, t, copied, text_len(t)) && builder_finish(&b, out)) ||
             err_set(e, "There is not enough memory for that");
    else
        *out = text_keep(t);
    builder_drop(&b);
    bytes_free(&one);
    return ok;
}

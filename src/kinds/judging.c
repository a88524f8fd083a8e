#include "kinds/judging.h"

#include "base/array.h"
#include "base/mem.h"
#include "kinds/expression.h"

#define PCRE2_CODE_UNIT_WIDTH 8
#include <pcre2.h>

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* So that reading takes no long time, whatever was said. */
enum {
    STEPS_MOST = 100000, /* of a match at one place */
    LINE_MOST = 1000,    /* bytes of a line that are read, */
    LINES_MOST = 20000,  /* how many lines, */
    WORDS_MOST = 300     /* and bytes of what a problem is called */
};

/* ---- reading ---- */

/* Matches one expression again and again in some bytes. */
typedef struct Reader {
    const pcre2_code *code;
    pcre2_match_data *data;
    pcre2_match_context *limits;
    const char *bytes;
    size_t n, at;
    bool failed; /* it was not read to its end: that is no "no" */
} Reader;

static Reader reader_of(const void *code, const char *bytes, size_t n)
{
    Reader r = {
        code, pcre2_match_data_create_from_pattern(code, NULL), pcre2_match_context_create(NULL), bytes, n, 0,
        false};
    pcre2_set_match_limit(r.limits, STEPS_MOST);
    return r;
}

static void reader_free(Reader *r)
{
    pcre2_match_data_free(r->data);
    pcre2_match_context_free(r->limits);
}

static bool read_next(Reader *r)
{
    if (r->at >= r->n)
        return false;
    int found = pcre2_match(r->code, (PCRE2_SPTR)r->bytes, r->n, r->at, 0, r->data, r->limits);
    r->failed = r->failed || (found < 0 && found != PCRE2_ERROR_NOMATCH);
    if (found < 0)
        return false;
    const size_t *o = pcre2_get_ovector_pointer(r->data);
    r->at = o[1] > r->at ? o[1] : r->at + 1;
    return true;
}

/* Its length, 0 when it is not there. */
static size_t group(const Reader *r, const char *name, const char **at)
{
    int number = pcre2_substring_number_from_name(r->code, (PCRE2_SPTR)name);
    const size_t *o = pcre2_get_ovector_pointer(r->data);
    *at = "";
    if (number < 0 || o[2 * number] == PCRE2_UNSET)
        return 0;
    *at = r->bytes + o[2 * number];
    return o[2 * number + 1] - o[2 * number];
}

static size_t number_group(const Reader *r, const char *name)
{
    const char *at;
    size_t n = group(r, name, &at), value = 0;
    for (size_t i = 0; i < n && i < 9 && at[i] >= '0' && at[i] <= '9'; i++)
        value = value * 10 + (size_t)(at[i] - '0');
    return value;
}

/* Does the group name that file? Links are followed, as programs name it by several paths. */
static bool names_file(const char *at, size_t n, const char *file)
{
    char *path = mem_string_n(at, n), *real = realpath(path, NULL), *other = realpath(file, NULL);
    bool same = strcmp(path, file) == 0 || (real && other && strcmp(real, other) == 0);
    free(path);
    free(real);
    free(other);
    return same;
}

/* What was said, its lines cut, and not too many of them. */
static void take_lines(const CheckSaid *said, Bytes *out)
{
    size_t lines = 0;
    for (size_t at = 0; at < said->n && lines < LINES_MOST; lines++) {
        const char *s = said->bytes + at, *end = memchr(s, '\n', said->n - at);
        size_t len = end ? (size_t)(end - s) : said->n - at;
        bytes_add(out, s, len < LINE_MOST ? len : LINE_MOST);
        bytes_add_str(out, "\n");
        at += len + 1;
    }
}

/* ---- its problems ---- */

/* A complaint without a line that names a word of the text in quotes is about that word. */
static void find_about(Problem *p, const char *text, size_t len)
{
    enum { ABOUT_MOST = 100 };
    static const char *const quotes[][2] = {{"'", "'"}, {"\"", "\""}, {"“", "”"}, {"‘", "’"}, {"`", "'"}};
    for (size_t i = 0; i < sizeof quotes / sizeof *quotes && !p->about; i++) {
        const char *open = strstr(p->words, quotes[i][0]);
        const char *from = open ? open + strlen(quotes[i][0]) : NULL;
        const char *close = from ? strstr(from, quotes[i][1]) : NULL;
        size_t n = close ? (size_t)(close - from) : 0;
        if (n && n < ABOUT_MOST && memmem(text, len, from, n))
            p->about = mem_string_n(from, n);
    }
}

static void find_abouts(Problems *all, size_t first, const char *text, size_t len)
{
    for (size_t i = first; i < all->n; i++)
        if (!all->at[i].line && !all->at[i].about)
            find_about(&all->at[i], text, len);
}

/* Those of other files come as `elsewhere`, the first one only. False: it could not be read. */
static bool read_problems(const Check *c, const Bytes *said, const char *file, Problems *out, Err *elsewhere)
{
    if (!c->like_code)
        return true;
    Reader r = reader_of(c->like_code, bytes_str(said), said->len);
    out->checker = c->name;
    while (out->n < PROBLEMS_MOST && read_next(&r)) {
        const char *words, *name, *about;
        size_t len = group(&r, "words", &words), name_len = group(&r, "file", &name);
        size_t about_len = group(&r, "about", &about), line = number_group(&r, "line");
        words = len ? words : "it is not right";
        len = len == 0 ? strlen(words) : len < WORDS_MOST ? len : WORDS_MOST;
        if (file && name_len && !names_file(name, name_len, file)) {
            if (!elsewhere->text[0])
                err_set(elsewhere, "finds in %.*s: %.*s", (int)(name_len < 200 ? name_len : 200), name,
                        (int)len, words);
            continue;
        }
        const Problem *last = out->n ? &out->at[out->n - 1] : NULL;
        if (last && line && last->line == line && strlen(last->words) == len &&
            memcmp(last->words, words, len) == 0)
            continue; /* some say it at each of several steps */
        bool hint = c->hint_code && expression_finds(c->hint_code, words, len, false);
        Problem *p = (hint ? problems_hint : problems_add)(out, line, number_group(&r, "column"), "%.*s",
                                                           (int)len, words);
        p->about = about_len ? mem_string_n(about, about_len) : NULL;
    }
    reader_free(&r);
    return !r.failed;
}

static int by_letters(const void *a, const void *b)
{
    return strcmp(*(char *const *)a, *(char *const *)b);
}

/* All words that an expression finds, sorted; the caller frees them. */
static char **words_found(const void *code, const char *bytes, size_t n, size_t *count)
{
    char **all = NULL;
    const char *at;
    Reader r = reader_of(code, bytes, n);
    for (*count = 0; read_next(&r);) {
        size_t len = group(&r, "word", &at);
        all = array_room(all, *count, sizeof *all);
        all[(*count)++] = mem_string_n(at, len);
    }
    if (all)
        qsort(all, *count, sizeof *all, by_letters);
    reader_free(&r);
    return all;
}

/* The words of a text that are not in the list that a program said. False when that is none. */
static bool read_unknown(const Check *c, const Bytes *said, const char *text, size_t len, Problems *out)
{
    size_t known, line = 1, counted = 0;
    char **words = words_found(c->knows_code, bytes_str(said), said->len, &known);
    Reader r = reader_of(c->uses_code, text, len);
    out->checker = c->name;
    while (known && read_next(&r)) {
        const char *at;
        size_t w = group(&r, "word", &at);
        char *word = mem_string_n(at, w);
        for (; w && counted < (size_t)(at - text); counted++)
            line += text[counted] == '\n';
        size_t start = counted;
        while (start && text[start - 1] != '\n')
            start--;
        if (w && !bsearch(&word, words, known, sizeof *words, by_letters))
            problems_add(out, line, counted - start + 1, "“%.60s” is unknown to %s", word, c->name);
        free(word);
    }
    for (size_t i = 0; i < known; i++)
        free(words[i]);
    free(words);
    reader_free(&r);
    return known > 0;
}

/* ---- the verdict ---- */

/* Did it say that it read the file? True when it names none. */
static bool has_read(const Check *c, const Bytes *said, const char *file)
{
    const char *name;
    bool found = false, any = false;
    if (!c->reads_code)
        return true;
    Reader r = reader_of(c->reads_code, bytes_str(said), said->len);
    while (!found && read_next(&r)) {
        size_t len = group(&r, "file", &name);
        any = any || len;
        found = len && file && names_file(name, len, file);
    }
    reader_free(&r);
    return found || !any;
}

static bool listed(const KindNumbers *list, int status)
{
    for (size_t i = 0; i < list->n; i++)
        if (list->at[i] == status)
            return true;
    return false;
}

static bool sounds_bad(const char *s, size_t n)
{
    static const char *const words[] = {"emerg", "alert", "error", "fatal"};
    char line[LINE_MOST + 1];
    snprintf(line, sizeof line, "%.*s", (int)n, s);
    for (size_t i = 0; i < sizeof words / sizeof *words; i++)
        if (strcasestr(line, words[i]))
            return true;
    return false;
}

/* The line that says most: the first that speaks of an error, or else the last. */
static void telling_line(const Bytes *said, char *out, size_t cap)
{
    bool bad = false;
    out[0] = 0;
    for (size_t at = 0; at < said->len && !bad;) {
        const char *s = bytes_str(said) + at, *end = memchr(s, '\n', said->len - at);
        size_t n = end ? (size_t)(end - s) : said->len - at;
        at += n + 1;
        while (n && strchr("\r \t", s[n - 1]))
            n--;
        bad = sounds_bad(s, n);
        if (n)
            snprintf(out, cap, "%.*s", (int)(n < WORDS_MOST ? n : WORDS_MOST), s);
    }
}

static Verdict with_why(Verdict v, Err *why, const char *words)
{
    err_set(why, "%s", words);
    return v;
}

/* It says itself that it could not tell. */
static bool says_unsure(const Check *c, const Bytes *said, Err *why)
{
    const char *words;
    if (!c->unsure_code)
        return false;
    Reader r = reader_of(c->unsure_code, bytes_str(said), said->len);
    bool found = read_next(&r);
    size_t n = found ? group(&r, "words", &words) : 0;
    if (found)
        err_set(why, "could not tell: %.*s", n ? (int)(n < WORDS_MOST ? n : WORDS_MOST) : 20,
                n ? words : "something is missing");
    reader_free(&r);
    return found;
}

static Verdict judge_lines(const Check *c, const CheckSaid *said, const Bytes *lines, const char *text,
                           size_t len, const char *file, Problems *out, Err *why)
{
    Err elsewhere = {""};
    size_t before = out->n, wrong_before = problems_wrong(out);
    char last[WORDS_MOST + 1];
    bool right = c->right.n ? listed(&c->right, said->status) : said->status == 0;
    if (said->too_much) /* and was stopped for it */
        return with_why(VERDICT_UNSURE, why, "said more than anybody reads");
    if (said->signal) {
        err_set(why, "was ended by signal %d", said->signal);
        return VERDICT_UNSURE;
    }
    if (said->status == 126 || said->status == 127)
        return with_why(VERDICT_NONE, why, said->status == 127 ? "is not installed" : "could not be run");
    if (c->knows)
        return !read_unknown(c, lines, text, len, out) ? with_why(VERDICT_NONE, why, "is not installed")
               : out->n > before                       ? VERDICT_WRONG
                                                       : VERDICT_RIGHT;
    if (!read_problems(c, lines, file, out, &elsewhere))
        return out->n > before ? VERDICT_WRONG : with_why(VERDICT_UNSURE, why, "said what could not be read");
    if (problems_wrong(out) > wrong_before)
        return VERDICT_WRONG;
    if (elsewhere.text[0] && !right)
        return with_why(VERDICT_UNSURE, why, elsewhere.text);
    if ((!right || c->unsure.n) && (listed(&c->unsure, said->status) || says_unsure(c, lines, why)))
        return why->text[0] ? VERDICT_NONE : with_why(VERDICT_NONE, why, "could not tell");
    if (out->n > before) /* all that it found is no more than a hint */
        return VERDICT_RIGHT;
    if (!has_read(c, lines, file))
        return with_why(VERDICT_NONE, why, "does not read this file");
    if (right)
        return VERDICT_RIGHT;
    telling_line(lines, last, sizeof last);
    out->checker = c->name;
    if (last[0])
        problems_add(out, 0, 0, "%s found it wrong: %s", c->name, last);
    else
        problems_add(out, 0, 0, "%s found it wrong, and did not say why (exit status %d)", c->name,
                     said->status);
    return VERDICT_WRONG;
}

Verdict check_judge(const Check *c, const CheckSaid *said, const char *text, size_t len, const char *file,
                    Problems *out, Err *why)
{
    Bytes lines = {0};
    take_lines(said, &lines);
    *why = (Err){""};
    size_t before = out->n;
    Verdict v = judge_lines(c, said, &lines, text, len, file, out, why);
    find_abouts(out, before, text, len);
    bytes_free(&lines);
    return v;
}

/* ---- before it is asked ---- */

char *check_value(const Check *c, const char *bytes, size_t n)
{
    const char *at;
    if (!c->given_code)
        return mem_string("");
    Reader r = reader_of(c->given_code, bytes, n);
    size_t len = read_next(&r) ? group(&r, "value", &at) : 0;
    char *value = len && *at != '-' ? mem_string_n(at, len) : mem_string("example");
    reader_free(&r);
    return value;
}

static bool has_folder(const char *path, size_t n)
{
    while (n > 1 && path[n - 1] != '/')
        n--;
    char *folder = mem_string_n(path, n);
    bool there = access(folder, F_OK) == 0;
    free(folder);
    return there;
}

bool check_without_writes(const Check *c, const char *bytes, size_t n, Bytes *out)
{
    size_t copied = 0;
    const char *path;
    if (!c->writes_code)
        return false;
    Reader r = reader_of(c->writes_code, bytes, n);
    while (read_next(&r)) {
        size_t len = group(&r, "path", &path);
        if (!len || !has_folder(path, len))
            continue;
        size_t at = (size_t)(path - bytes);
        bytes_add(out, bytes + copied, at - copied);
        bytes_add_str(out, "/dev/null");
        copied = at + len;
    }
    reader_free(&r);
    bytes_add(out, bytes + copied, n - copied);
    return true;
}

#include "kinds/checkers.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/letters.h"
#include "base/mem.h"
#include "kinds/table.h"

#ifdef HAVE_JANSSON
#include <jansson.h>
#endif
#ifdef HAVE_YAML
#include <yaml.h>
#endif
#ifdef HAVE_EXPAT
#include <expat.h>
#endif

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* Nothing yet is no mistake. */
static inline bool is_blank(const char *bytes, size_t n)
{
    size_t blank = 0;
    while (blank < n && bytes[blank] && strchr(" \t\r\n", bytes[blank]))
        blank++;
    return blank == n;
}

#if defined(HAVE_JANSSON) || defined(HAVE_YAML)
/* What a library reads, a few kilobytes at a time, so that it can be stopped. */
typedef struct Source {
    const char *bytes;
    size_t n, at;
    Stop stop;
} Source;

/* False: it is to end. */
static bool take_some(Source *s, void *to, size_t most, size_t *n)
{
    *n = s->n - s->at < most ? s->n - s->at : most;
    memcpy(to, s->bytes + s->at, *n);
    s->at += *n;
    return !stop_wanted(s->stop);
}
#endif

/* ---- JSON (RFC 8259) ---- */

#ifdef HAVE_JANSSON

static size_t json_more(void *buffer, size_t most, void *ctx)
{
    size_t n;
    return take_some(ctx, buffer, most, &n) ? n : (size_t)-1;
}

static void check_json_bytes(const char *bytes, size_t n, Stop stop, Problems *out)
{
    json_error_t e;
    Source source = {bytes, n, 0, stop};
    if (is_blank(bytes, n))
        return;
    json_t *all =
        json_load_callback(json_more, &source, JSON_DECODE_ANY | JSON_REJECT_DUPLICATES | JSON_ALLOW_NUL, &e);
    if (!all) {
        size_t len = strcspn(e.text, "\n");
        problems_add(out, e.line > 0 ? (size_t)e.line : 1, e.column > 0 ? (size_t)e.column : 0, "%.*s",
                     (int)len, e.text);
    }
    json_decref(all);
}

/* The same with comments in the place of blanks: places stay where they are. */
static void check_json_with_comments(const char *bytes, size_t n, Stop stop, Problems *out)
{
    char *plain = mem_get(n + 1);
    memcpy(plain, bytes, n);
    bool quoted = false;
    for (size_t i = 0; i < n; i++) {
        if (quoted) {
            i += plain[i] == '\\';
            quoted = i < n && plain[i] != '"';
        } else if (plain[i] == '"') {
            quoted = true;
        } else if (plain[i] == '/' && i + 1 < n && plain[i + 1] == '/') {
            while (i < n && plain[i] != '\n')
                plain[i++] = ' ';
        } else if (plain[i] == '/' && i + 1 < n && plain[i + 1] == '*') {
            const char *end = memmem(plain + i + 2, n - i - 2, "*/", 2);
            size_t to = end ? (size_t)(end - plain) + 2 : n;
            for (; i < to; i++)
                plain[i] = plain[i] == '\n' ? '\n' : ' ';
            i--;
        }
    }
    /* So has a comma before the end of a list. */
    for (size_t i = 0; i < n; i++)
        if (plain[i] == ',') {
            size_t k = i + 1;
            while (k < n && plain[k] && strchr(" \t\r\n", plain[k]))
                k++;
            if (k < n && (plain[k] == '}' || plain[k] == ']'))
                plain[i] = ' ';
        }
    check_json_bytes(plain, n, stop, out);
    free(plain);
}
#endif

/* ---- YAML 1.1 ---- */

#ifdef HAVE_YAML

/* A level of a document: a mapping whose keys are watched, or a list. */
typedef struct Level {
    bool mapping, wants_key;
    char **keys;
    size_t n;
} Level;

typedef struct Levels {
    Level *at;
    size_t n;
} Levels;

static void level_ends(Levels *l)
{
    if (l->n == 0)
        return;
    Level *last = &l->at[--l->n];
    for (size_t i = 0; i < last->n; i++)
        free(last->keys[i]);
    free(last->keys);
}

/* A value begins: in a mapping every second one is a key. */
static bool takes_key(Levels *l)
{
    Level *last = l->n ? &l->at[l->n - 1] : NULL;
    if (!last || !last->mapping)
        return false;
    last->wants_key = !last->wants_key;
    return !last->wants_key;
}

enum {
    KEYS_MOST = 2000, /* of a mapping that are watched; comparing all of more would take long */
    DEPTH_MOST = 1000 /* the library's time grows with the square of it */
};

static int yaml_more(void *ctx, unsigned char *buffer, size_t most, size_t *n)
{
    return take_some(ctx, buffer, most, n);
}

static void note_key(Levels *l, const yaml_event_t *e, Problems *out)
{
    Level *last = &l->at[l->n - 1];
    const char *key = (const char *)e->data.scalar.value;
    if (strcmp(key, "<<") == 0 || last->n == KEYS_MOST)
        return;
    for (size_t i = 0; i < last->n; i++)
        if (strcmp(last->keys[i], key) == 0) {
            problems_add(out, e->start_mark.line + 1, e->start_mark.column + 1,
                         "the key “%.60s” stands here twice", key);
            return;
        }
    last->keys = array_room(last->keys, last->n, sizeof *last->keys);
    last->keys[last->n++] = mem_string(key);
}

static void level_begins(Levels *l, bool mapping)
{
    takes_key(l);
    l->at = array_room(l->at, l->n, sizeof *l->at);
    l->at[l->n++] = (Level){.mapping = mapping, .wants_key = true};
}

static void take_event(Levels *l, const yaml_event_t *e, Problems *out)
{
    switch (e->type) {
    case YAML_MAPPING_START_EVENT:
        level_begins(l, true);
        break;
    case YAML_SEQUENCE_START_EVENT:
        level_begins(l, false);
        break;
    case YAML_MAPPING_END_EVENT:
    case YAML_SEQUENCE_END_EVENT:
        level_ends(l);
        break;
    case YAML_SCALAR_EVENT:
        if (takes_key(l))
            note_key(l, e, out);
        break;
    case YAML_ALIAS_EVENT:
        takes_key(l);
        break;
    default:
        break;
    }
}

static void check_yaml(const char *bytes, size_t n, Stop stop, Problems *out)
{
    yaml_parser_t parser;
    Source source = {bytes, n, 0, stop};
    yaml_event_t e;
    Levels levels = {0};
    if (!yaml_parser_initialize(&parser))
        return;
    yaml_parser_set_input(&parser, yaml_more, &source);
    for (bool more = true; more;) {
        if (!yaml_parser_parse(&parser, &e)) {
            problems_add(out, parser.problem_mark.line + 1, parser.problem_mark.column + 1, "%s%s%s",
                         parser.context ? parser.context : "", parser.context ? ": " : "",
                         parser.problem ? parser.problem : "this is no YAML");
            break;
        }
        take_event(&levels, &e, out);
        more = e.type != YAML_STREAM_END_EVENT && !stop_wanted(stop);
        if (levels.n > DEPTH_MOST) {
            problems_add(out, e.start_mark.line + 1, e.start_mark.column + 1,
                         "this is more than %d deep; the rest was not looked at", DEPTH_MOST);
            more = false;
        }
        yaml_event_delete(&e);
    }
    while (levels.n)
        level_ends(&levels);
    free(levels.at);
    yaml_parser_delete(&parser);
}
#endif

/* ---- XML ---- */

#ifdef HAVE_EXPAT
static void check_xml(const char *bytes, size_t n, Stop stop, Problems *out)
{
    enum { PIECE = 1 << 16 };
    if (is_blank(bytes, n))
        return;
    XML_Parser p = XML_ParserCreate(NULL);
    if (!p)
        return;
    for (size_t at = 0; (at < n || at == 0) && !stop_wanted(stop); at += PIECE) {
        size_t len = n - at < PIECE ? n - at : PIECE;
        if (XML_Parse(p, bytes + at, (int)len, at + len == n) == XML_STATUS_OK)
            continue;
        problems_add(out, XML_GetCurrentLineNumber(p), XML_GetCurrentColumnNumber(p) + 1, "%s",
                     XML_ErrorString(XML_GetErrorCode(p)));
        break;
    }
    XML_ParserFree(p);
}
#endif

/* ---- sections and names ---- */

typedef struct Seen {
    char *name; /* "section\nname" */
    size_t line;
} Seen;

static int by_name(const void *a, const void *b)
{
    const Seen *x = a, *y = b;
    int order = strcmp(x->name, y->name);
    return order ? order : (x->line > y->line) - (x->line < y->line);
}

static size_t trimmed(const char *s, size_t n)
{
    while (n && strchr(" \t\r", s[n - 1]) && s[n - 1])
        n--;
    return n;
}

/* A [section] that is not closed, and a name that stands in a section twice: only the last one would count.
 */
static void check_sections(const char *bytes, size_t n, Stop stop, Problems *out)
{
    Bytes section = {0}, key = {0};
    Seen *seen = NULL;
    size_t n_seen = 0, line = 1;
    for (size_t at = 0; at < n && !stop_wanted(stop); line++) {
        const char *s = bytes + at, *end = memchr(s, '\n', n - at);
        size_t len = end ? (size_t)(end - s) : n - at;
        at += len + 1;
        while (len && letter_is_blank(*s))
            s++, len--;
        len = trimmed(s, len);
        const char *sign = memchr(s, '=', len);
        if (len == 0 || *s == '#' || *s == ';')
            continue;
        if (*s == '[') {
            if (!memchr(s, ']', len))
                problems_add(out, line, 1, "the section is not closed: ] is missing");
            bytes_clear(&section);
            bytes_add(&section, s, len);
        } else if (sign) {
            bytes_clear(&key);
            bytes_printf(&key, "%s\n%.*s", bytes_str(&section), (int)trimmed(s, (size_t)(sign - s)), s);
            seen = array_room(seen, n_seen, sizeof *seen);
            seen[n_seen++] = (Seen){mem_string(key.at), line};
        }
    }
    if (n_seen)
        qsort(seen, n_seen, sizeof *seen, by_name);
    for (size_t i = 0; i < n_seen; i++) {
        if (i && strcmp(seen[i].name, seen[i - 1].name) == 0)
            problems_hint(out, seen[i].line, 1, "“%.60s” stands in this section already, in line %zu",
                          strchr(seen[i].name, '\n') + 1, seen[i - 1].line);
    }
    for (size_t i = 0; i < n_seen; i++)
        free(seen[i].name);
    free(seen);
    bytes_free(&section);
    bytes_free(&key);
}

/* The message of a commit: lists of commits show 72 characters of the first line, and take all up to the
 * first empty line for it. (git-commit's manual, "DISCUSSION".) */
static void check_message(const char *bytes, size_t n, Stop stop, Problems *out)
{
    enum { WIDTH = 72 };
    (void)stop;
    size_t line = 1, texts = 0;
    for (size_t at = 0; at < n && texts < 2; line++) {
        const char *s = bytes + at, *end = memchr(s, '\n', n - at);
        size_t len = end ? (size_t)(end - s) : n - at, characters = 0, trim = trimmed(s, len);
        at += len + 1;
        if (len && *s == '#') {
            if (trim > 5 && memcmp(s + trim - 5, "-----", 5) == 0 && memchr(s, '>', trim))
                return; /* what follows is the change, to be looked at */
            continue;
        }
        for (size_t i = 0; i < trim; i++)
            characters += ((unsigned char)s[i] & 0xc0) != 0x80;
        if (trim == 0 && texts == 0)
            continue;
        if (texts++ == 0 && characters > WIDTH)
            problems_add(out, line, 0, "the first line has %zu characters; lists show %d", characters, WIDTH);
        else if (texts == 2 && trim)
            problems_add(out, line, 0, "the second line is not empty, so it belongs to the first");
    }
}

/* All rows of a table have as many cells as the first. */
static void check_table(const char *bytes, size_t n, Stop stop, Problems *out)
{
    char separator = table_separator(bytes, n);
    size_t line = 1, wanted = 0;
    for (size_t at = 0; separator && at < n && !stop_wanted(stop);) {
        bool closed;
        size_t len = table_row(bytes + at, n - at, &closed), end = len;
        while (end && (bytes[at + end - 1] == '\n' || bytes[at + end - 1] == '\r'))
            end--;
        size_t cells = table_cells(bytes + at, end, separator, NULL, 0);
        if (!closed) {
            problems_add(out, line, 0, "a quote is open: the rest of the text is one cell");
            return;
        }
        if (end && wanted && cells != wanted)
            problems_add(out, line, 0, "this row has %zu cells, and the first one %zu", cells, wanted);
        wanted = wanted ? wanted : end ? cells : 0;
        for (size_t i = 0; i < len; i++)
            line += bytes[at + i] == '\n';
        at += len;
    }
}

/* ---- by name ---- */

static const struct {
    const char *name;
    CheckBytes check;
} checkers[] = {
#ifdef HAVE_JANSSON
    {"json", check_json_bytes},   {"json-with-comments", check_json_with_comments},
#else
    {"json", NULL},
    {"json-with-comments", NULL},
#endif
#ifdef HAVE_YAML
    {"yaml", check_yaml},
#else
    {"yaml", NULL},
#endif
#ifdef HAVE_EXPAT
    {"xml", check_xml},
#else
    {"xml", NULL},
#endif
    {"sections", check_sections}, {"message", check_message},
    {"table", check_table},
};

enum { N_CHECKERS = sizeof checkers / sizeof *checkers };

CheckBytes checker_named(const char *name)
{
    for (size_t i = 0; i < N_CHECKERS; i++)
        if (strcmp(checkers[i].name, name) == 0)
            return checkers[i].check;
    return NULL;
}

bool checker_is_known(const char *name)
{
    for (size_t i = 0; i < N_CHECKERS; i++)
        if (strcmp(checkers[i].name, name) == 0)
            return true;
    return false;
}

#include "commands/help/help_page.h"

#include "base/array.h"
#include "base/data.h"
#include "base/mem.h"
#include "base/glyph.h"
#include "config/help_text.h"
#include "config/settings_file.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct Span {
    size_t from, to;
    Style style;
    char *link; /* the page it leads to, or NULL */
} Span;

/* Words, and what of them is more than words, in their order. */
typedef struct Marked {
    Bytes text;
    Span *spans;
    size_t n;
} Marked;

struct HelpPage {
    char *title;
    char *name;    /* of one that is shipped or made from the tables, */
    Bytes marking; /* or what it is made of; neither: a text as it is */
    size_t width;
    Marked m;
};

static void marked_free(Marked *m)
{
    for (size_t i = 0; i < m->n; i++)
        free(m->spans[i].link);
    free(m->spans);
    bytes_free(&m->text);
    *m = (Marked){0};
}

/* ---- marked words ---- */

/* Takes over the link. */
static void add_span(Marked *m, size_t from, Style style, char *link)
{
    m->spans = array_room(m->spans, m->n, sizeof *m->spans);
    m->spans[m->n++] = (Span){from, m->text.len, style, link};
}

static void add_command(const Config *cfg, Marked *m, const Command *c)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX], link[96];
    size_t from = m->text.len;
    keymap_key_of(&cfg->keys, c, 0, key);
    registry_route(&cfg->registry, c, route);
    snprintf(link, sizeof link, "commands#%s", c->name);
    bytes_add_str(&m->text, key[0] ? key : route);
    add_span(m, from, ST_HINT_KEY, mem_string(link));
    if (!key[0] || !route[0])
        return;
    bytes_add_str(&m->text, " ");
    from = m->text.len;
    bytes_printf(&m->text, "(%s)", route);
    add_span(m, from, ST_HINT_KEY, mem_string(link));
}

/* One piece of marking at `s`; returns its length, 0 when there is none. */
static size_t marked_piece(const Config *cfg, Marked *m, const char *s, const char *end)
{
    size_t from = m->text.len;
    const char *stop;
    if (*s == '`' && (stop = memchr(s + 1, '`', (size_t)(end - s) - 1)) != NULL) {
        bytes_add(&m->text, s + 1, (size_t)(stop - s) - 1);
        add_span(m, from, ST_HINT_KEY, NULL);
        return (size_t)(stop - s) + 1;
    }
    if (*s == '{' && (stop = memchr(s, '}', (size_t)(end - s))) != NULL) {
        const Command *c = registry_find(&cfg->registry, s + 1, (size_t)(stop - s) - 1);
        if (!c)
            return 0;
        add_command(cfg, m, c);
        return (size_t)(stop - s) + 1;
    }
    if (end - s > 4 && memcmp(s, "[[", 2) == 0 && (stop = memmem(s, (size_t)(end - s), "]]", 2)) != NULL) {
        size_t n = (size_t)(stop - s) - 2;
        bytes_add(&m->text, s + 2, strcspn(s + 2, "?]"));
        add_span(m, from, ST_MATCH, mem_string_n(s + 2, n));
        return n + 4;
    }
    return 0;
}

static Marked marked_words(const Config *cfg, const Bytes *words)
{
    Marked m = {0};
    const char *s = bytes_str(words), *end = s + words->len;
    while (s < end) {
        size_t used = marked_piece(cfg, &m, s, end);
        if (!used) {
            bytes_add(&m.text, s, 1);
            used = 1;
        }
        s += used;
    }
    return m;
}

/* ---- laying them out ---- */

enum {
    WIDTH_LEAST = 20,
    WIDTH_MOST = 84, /* longer lines are hard to read */
    WIDE = 56,       /* from here on a list is a table of two columns, if the first one */
    TERM_MOST = 24,  /* is not wider than this */
    INDENT = 2,
    NARROW_INDENT = 4
};

static size_t cells_of(const char *s, size_t n)
{
    size_t cells = 0;
    Glyph g;
    for (size_t at = 0; at < n; at += g.bytes) {
        glyph_read(s + at, n - at, &g);
        cells += (size_t)g.width;
    }
    return cells;
}

/* Where the piece at `at` ends, which stands in one line: a word, or all words of one key or link if there is
 * room. */
static size_t piece_end(const Marked *m, size_t span, size_t at, size_t room)
{
    size_t end = at;
    while (end < m->text.len && m->text.at[end] != ' ') {
        while (span < m->n && m->spans[span].to <= end)
            span++;
        const Span *s = span < m->n ? &m->spans[span] : NULL;
        bool whole = s && s->from <= end && cells_of(m->text.at + at, s->to - at) <= room;
        end = whole ? s->to : end + 1;
    }
    return end;
}

/* Puts marked words into lines of the page that begin at `indent`, from `column` of the line that is begun
 * on. Takes them over. */
static void flow(HelpPage *p, Marked *words, size_t column, size_t indent)
{
    Bytes *out = &p->m.text;
    size_t span = 0, from = 0;
    bool begun = false;
    for (size_t at = 0; at < words->text.len;) {
        if (words->text.at[at] == ' ') {
            at++;
            continue;
        }
        size_t end = piece_end(words, span, at, p->width - indent);
        size_t cells = cells_of(words->text.at + at, end - at);
        if (begun && column + 1 + cells > p->width) {
            bytes_printf(out, "\n%*s", (int)indent, "");
            column = indent;
        } else if (begun) {
            bytes_add_str(out, " ");
            column++;
        }
        begun = true;
        column += cells;
        for (; at < end; at++) {
            Span *s = span < words->n ? words->spans + span : NULL;
            if (s && s->from == at)
                from = out->len;
            bytes_add(out, words->text.at + at, 1);
            if (s && s->to == at + 1) {
                add_span(&p->m, from, s->style, s->link);
                s->link = NULL;
                span++;
            }
        }
    }
    marked_free(words);
}

/* As it is, whatever its blanks. */
static void add_as_is(HelpPage *p, Marked *words)
{
    size_t from = p->m.text.len;
    bytes_add(&p->m.text, bytes_str(&words->text), words->text.len);
    for (size_t i = 0; i < words->n; i++) {
        p->m.spans = array_room(p->m.spans, p->m.n, sizeof *p->m.spans);
        p->m.spans[p->m.n++] = (Span){from + words->spans[i].from, from + words->spans[i].to,
                                      words->spans[i].style, words->spans[i].link};
        words->spans[i].link = NULL;
    }
    marked_free(words);
}

/* The column of what stands beside the terms of the list that begins at `at`; 0: below them. */
static size_t list_column(const Config *cfg, size_t width, const char *at, const char *end)
{
    HelpBlock b = {0};
    size_t widest = 0;
    while (help_text_next(&at, end, &b) && b.part == HELP_ITEM) {
        Marked term = marked_words(cfg, &b.term);
        size_t cells = cells_of(bytes_str(&term.text), term.text.len);
        if (cells <= TERM_MOST)
            widest = cells > widest ? cells : widest;
        marked_free(&term);
    }
    help_block_free(&b);
    return width < WIDE ? 0 : INDENT + widest + 2;
}

static void add_item(const Config *cfg, HelpPage *p, const HelpBlock *b, size_t column)
{
    Marked term = marked_words(cfg, &b->term), words = marked_words(cfg, &b->words);
    size_t at = INDENT + cells_of(bytes_str(&term.text), term.text.len);
    size_t indent = column ? column : NARROW_INDENT;
    bytes_printf(&p->m.text, "%*s", INDENT, "");
    flow(p, &term, INDENT, NARROW_INDENT);
    if (at + 2 > indent)
        bytes_printf(&p->m.text, "\n%*s", (int)indent, "");
    else
        bytes_printf(&p->m.text, "%*s", (int)(indent - at), "");
    flow(p, &words, indent, indent);
}

static void add_block(const Config *cfg, HelpPage *p, const HelpBlock *b, size_t column)
{
    if (b->part == HELP_ITEM) {
        add_item(cfg, p, b, column);
        return;
    }
    Marked words = marked_words(cfg, &b->words);
    size_t from = p->m.text.len;
    if (b->part == HELP_CODE) {
        bytes_printf(&p->m.text, "%*s", INDENT, "");
        add_as_is(p, &words);
    } else {
        flow(p, &words, 0, 0);
    }
    if (b->part == HELP_HEADING)
        add_span(&p->m, from, ST_PROMPT, NULL);
}

static void lay_out(const Config *cfg, HelpPage *p, const Bytes *marking)
{
    const char *at = bytes_str(marking), *end = at + marking->len;
    HelpBlock b = {0};
    size_t column = 0;
    bool in_list = false;
    for (const char *from = at; help_text_next(&at, end, &b); from = at) {
        if (b.gap && p->m.text.len)
            bytes_add_str(&p->m.text, "\n");
        if (b.part == HELP_ITEM && !in_list)
            column = list_column(cfg, p->width, from, end);
        in_list = b.part == HELP_ITEM;
        add_block(cfg, p, &b, column);
        bytes_add_str(&p->m.text, "\n");
    }
    help_block_free(&b);
}

/* ---- pages made from the tables ---- */

static void pad_to(Bytes *out, size_t line_start, size_t column)
{
    do
        bytes_add_str(out, " ");
    while (out->len - line_start < column);
}

/* Its keys, or a blank. */
static void add_keys(const Config *cfg, const Command *c, Bytes *out)
{
    char key[KEY_NAME_MAX];
    size_t used = 0;
    bytes_add_str(out, "`");
    for (size_t k = 0; *keymap_key_of(&cfg->keys, c, k, key); k++, used++)
        bytes_printf(out, "%s%s", used ? ", " : "", key);
    bytes_add_str(out, used ? "`" : " `");
}

/* A table of three columns where there is room for it, else a list. */
static void make_keys(const Config *cfg, size_t width, Bytes *out)
{
    enum { TABLE_FROM = 76, KEYS_AT = 15, LABEL_AT = 42 };
    char route[ROUTE_MAX];
    bool table = width >= TABLE_FROM;
    bytes_printf(out,
                 "= All keys and routes\n\nThe layout is “%s”. A route is pressed one key after the other, "
                 "at any pace. Digits after `Esc` are a count: `Esc 3 Down` is three lines down, `Esc 3 l d` "
                 "makes three copies of a line ([[menus]]).\n",
                 cfg->settings.layout ? "shell" : "desk");
    for (size_t m = 0; m < cfg->registry.n_menus; m++) {
        const Menu *menu = &cfg->registry.menus[m];
        bytes_printf(out, "\n= %s\n\n", menu->title ? menu->title : "Keys of their own");
        for (size_t i = 0; i < menu->n; i++) {
            const Command *c = menu->commands[i];
            size_t line = out->len;
            registry_route(&cfg->registry, c, route);
            bytes_printf(out, "%s`%s`", table ? "  " : "- ", route[0] ? route : " ");
            if (table) {
                pad_to(out, line, KEYS_AT);
                add_keys(cfg, c, out);
                pad_to(out, line, LABEL_AT);
                bytes_printf(out, "%s\n", c->label);
            } else {
                bytes_printf(out, "  %s ", c->label);
                add_keys(cfg, c, out);
                bytes_add_str(out, "\n");
            }
        }
    }
    if (cfg->n_routes)
        bytes_add_str(out, "\n= Routes of your own\n\n");
    for (size_t i = 0; i < cfg->n_routes; i++)
        bytes_printf(out, "- `Esc %c %c`  %s %s\n", cfg->routes[i].letters[0], cfg->routes[i].letters[1],
                     cfg->routes[i].command->name, cfg->routes[i].args);
}

static void make_commands(const Config *cfg, Bytes *out)
{
    bytes_add_str(out, "= All commands\n\nRun one by its name with {command}. What stands in capitals may "
                       "follow the name.\n");
    for (size_t m = 0; m < cfg->registry.n_menus; m++)
        for (size_t i = 0; i < cfg->registry.menus[m].n; i++) {
            const Command *c = cfg->registry.menus[m].commands[i];
            bytes_printf(out, "\n= %s%s%s\n\n- {%s}  %s.", c->name, c->args ? " " : "",
                         c->args ? c->args : "", c->name, c->help);
            bytes_printf(out, "%s%s\n", c->more ? " " : "", c->more ? c->more : "");
        }
}

static void add_choices(const Setting *s, Bytes *out)
{
    const char *before = "One of ";
    for (const char *p = settings_choices(s); *p; p += strcspn(p, "|"), p += *p == '|', before = ", ")
        bytes_printf(out, "%s%.*s", before, (int)strcspn(p, "|"), p);
    bytes_printf(out, "; the standard is %s.\n", s->standard);
}

static void make_settings(const Config *cfg, Bytes *out)
{
    char *path = settings_file_path();
    bytes_printf(out,
                 "= Settings\n\nChange them in {settings}, where `Ctrl+S` keeps them, or by lines such as "
                 "theme = \"dark\" in " CONFIG_MACHINE_FOLDER "/settings.lua and, for you alone, in %s\n",
                 path ? path : "(there is no home folder)");
    free(path);
    if (cfg->problems.len)
        bytes_add_str(out, "\n= Lines that were left out\n");
    for (const char *line = bytes_str(&cfg->problems); *line; line += strcspn(line, "\n"), line += *line != 0)
        bytes_printf(out, "\n%.*s\n", (int)strcspn(line, "\n"), line);
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        char value[SETTING_TEXT_MAX];
        bytes_printf(out, "\n= %s\n\n%s. Now %s, from: %s. ", s->name, s->help, settings_value(cfg, s, value),
                     settings_source(cfg, s));
        if (s->type == SETTING_BOOL)
            bytes_printf(out, "true or false; the standard is %s.\n", s->standard);
        else if (s->type == SETTING_INT)
            bytes_printf(out, "From %d to %d; the standard is %s.\n", s->min, s->max, s->standard);
        else if (s->type == SETTING_CHOICE)
            add_choices(s, out);
        else
            bytes_add_str(out, "A text in quotation marks.\n");
    }
}

static void make_calls(const Config *cfg, Bytes *out)
{
    bytes_add_str(out,
                  "= What scripts can call\n\nLines and columns count from 1, columns in characters. What "
                  "stands in capitals may be left out where that makes sense. [[scripts]] has examples.\n");
    for (size_t i = 0; i < cfg->registry.n_calls; i++) {
        const CallHelp *c = cfg->registry.calls[i];
        if (c->help)
            bytes_printf(out, "\n- `%s`  %s.\n", c->form, c->help);
        else
            bytes_printf(out, "\n= %s\n", c->form);
    }
}

static bool make_marking(const Config *cfg, const char *name, size_t width, Bytes *out)
{
    char path[80];
    snprintf(path, sizeof path, "help/%.60s.txt", name);
    const DataFile *d = data_find(path);
    if (strcmp(name, "keys") == 0)
        make_keys(cfg, width, out);
    else if (strcmp(name, "commands") == 0)
        make_commands(cfg, out);
    else if (strcmp(name, "script-calls") == 0)
        make_calls(cfg, out);
    else if (strcmp(name, "settings") == 0)
        make_settings(cfg, out);
    else if (d)
        bytes_add(out, d->bytes, d->len);
    return out->len > 0;
}

bool help_page_fit(const Config *cfg, HelpPage *p, size_t width)
{
    width = width < WIDTH_LEAST ? WIDTH_LEAST : width > WIDTH_MOST ? WIDTH_MOST : width;
    if ((!p->name && !p->marking.len) || p->width == width)
        return false;
    p->width = width;
    marked_free(&p->m);
    if (p->name) {
        bytes_clear(&p->marking);
        make_marking(cfg, p->name, width, &p->marking);
    }
    lay_out(cfg, p, &p->marking);
    return true;
}

HelpPage *help_page_new(const Config *cfg, const char *name, size_t width)
{
    Bytes marking = {0}, title = {0};
    HelpPage *p = NULL;
    if (make_marking(cfg, name, width, &marking)) {
        p = mem_get(sizeof *p);
        bytes_printf(&title, "Help: %s", name);
        p->title = title.at;
        p->name = mem_string(name);
        help_page_fit(cfg, p, width);
    }
    bytes_free(&marking);
    return p;
}

HelpPage *help_page_of_marking(const Config *cfg, const char *title, const Bytes *marking, size_t width)
{
    HelpPage *p = mem_get(sizeof *p);
    p->title = mem_string(title);
    bytes_add(&p->marking, bytes_str(marking), marking->len);
    help_page_fit(cfg, p, width);
    return p;
}

HelpPage *help_page_of_text(const char *title, const Bytes *text)
{
    HelpPage *p = mem_get(sizeof *p);
    p->title = mem_string(title);
    bytes_add(&p->m.text, bytes_str(text), text->len);
    return p;
}

Style help_page_style(const void *page, size_t at)
{
    const HelpPage *p = page;
    size_t low = 0, high = p->m.n;
    while (low < high) { /* the first span that ends after `at` */
        size_t middle = (low + high) / 2;
        if (p->m.spans[middle].to <= at)
            low = middle + 1;
        else
            high = middle;
    }
    return low < p->m.n && at >= p->m.spans[low].from ? p->m.spans[low].style : ST_TEXT;
}

const char *help_page_link(const HelpPage *p, size_t at, bool touching)
{
    for (size_t i = 0; i < p->m.n; i++) {
        const Span *s = &p->m.spans[i];
        if (s->link && at >= s->from && at < s->to + touching)
            return s->link;
    }
    return NULL;
}

const char *help_page_title(const HelpPage *p)
{
    return p->title;
}

const Bytes *help_page_text(const HelpPage *p)
{
    return &p->m.text;
}

void help_page_free(HelpPage *p)
{
    if (!p)
        return;
    marked_free(&p->m);
    bytes_free(&p->marking);
    free(p->title);
    free(p->name);
    free(p);
}

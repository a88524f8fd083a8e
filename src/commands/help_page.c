#include "commands/help_page.h"

#include "base/array.h"
#include "base/data.h"
#include "base/mem.h"
#include "config/settings_file.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct PageSpan {
    size_t from, to;
    Style style;
    char *link; /* the page it leads to, or NULL */
} PageSpan;

struct HelpPage {
    char *title;
    Bytes text;
    PageSpan *spans; /* in the order of the text */
    size_t n;
};

/* ---- making a page out of its marking ---- */

static void add_span(HelpPage *p, size_t from, size_t to, Style style, const char *link, size_t n_link)
{
    p->spans = array_room(p->spans, p->n, sizeof *p->spans);
    p->spans[p->n++] = (PageSpan){from, to, style, link ? mem_string_n(link, n_link) : NULL};
}

static void add_keys_of(const Config *cfg, HelpPage *p, Bytes *out, const Command *c)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    size_t from = out->len;
    keymap_key_of(&cfg->keys, c, 0, key);
    registry_route(&cfg->registry, c, route);
    bytes_add_str(out, key[0] ? key : route);
    if (key[0] && route[0])
        bytes_printf(out, " (%s)", route);
    add_span(p, from, out->len, ST_HINT_KEY, NULL, 0);
}

/* One piece of marking at `s`; returns its length, 0 when there is none. */
static size_t marked_piece(const Config *cfg, HelpPage *p, Bytes *out, const char *s, const char *end)
{
    size_t from = out->len;
    const char *stop;
    if (*s == '`' && (stop = memchr(s + 1, '`', (size_t)(end - s) - 1)) != NULL) {
        bytes_add(out, s + 1, (size_t)(stop - s) - 1);
        add_span(p, from, out->len, ST_HINT_KEY, NULL, 0);
        return (size_t)(stop - s) + 1;
    }
    if (*s == '{' && (stop = memchr(s, '}', (size_t)(end - s))) != NULL) {
        const Command *c = registry_find(&cfg->registry, s + 1, (size_t)(stop - s) - 1);
        if (!c)
            return 0;
        char link[96];
        add_keys_of(cfg, p, out, c);
        snprintf(link, sizeof link, "commands#%s", c->name);
        p->spans[p->n - 1].link = mem_string(link);
        return (size_t)(stop - s) + 1;
    }
    if (end - s > 4 && memcmp(s, "[[", 2) == 0 && (stop = memmem(s, (size_t)(end - s), "]]", 2)) != NULL) {
        bytes_add(out, s + 2, (size_t)(stop - s) - 2);
        add_span(p, from, out->len, ST_MATCH, s + 2, (size_t)(stop - s) - 2);
        return (size_t)(stop - s) + 2;
    }
    return 0;
}

static void make_text(const Config *cfg, HelpPage *p, const char *s, size_t n, Bytes *out)
{
    const char *end = s + n;
    while (s < end) {
        const char *line_end = memchr(s, '\n', (size_t)(end - s));
        line_end = line_end ? line_end : end;
        size_t from = out->len;
        bool heading = line_end - s > 2 && memcmp(s, "= ", 2) == 0;
        if (heading)
            s += 2;
        while (s < line_end) {
            size_t used = marked_piece(cfg, p, out, s, line_end);
            if (!used) {
                bytes_add(out, s, 1);
                used = 1;
            }
            s += used;
        }
        if (heading)
            add_span(p, from, out->len, ST_PROMPT, NULL, 0);
        bytes_add_str(out, "\n");
        s = line_end + 1;
    }
}

/* ---- pages made from the tables ---- */

static void pad_to(Bytes *out, size_t line_start, size_t column)
{
    do
        bytes_add_str(out, " ");
    while (out->len - line_start < column);
}

static void make_keys(const Config *cfg, Bytes *out)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    bytes_printf(out,
                 "= All keys and routes\n\nThe layout is “%s”. A route is pressed one key after the other, "
                 "at any pace.\n",
                 cfg->settings.layout ? "shell" : "desk");
    for (size_t m = 0; m < cfg->registry.n_menus; m++) {
        const Menu *menu = &cfg->registry.menus[m];
        bytes_printf(out, "\n= %s\n\n", menu->title ? menu->title : "Keys of their own");
        for (size_t i = 0; i < menu->n; i++) {
            const Command *c = menu->commands[i];
            size_t line = out->len, used = 0;
            registry_route(&cfg->registry, c, route);
            bytes_printf(out, "  `%s`", route[0] ? route : " ");
            pad_to(out, line, 15);
            bytes_add_str(out, "`");
            for (size_t k = 0; *keymap_key_of(&cfg->keys, c, k, key); k++, used++)
                bytes_printf(out, "%s%s", used ? ", " : "", key);
            bytes_add_str(out, used ? "`" : " `");
            pad_to(out, line, 42);
            bytes_printf(out, "%s\n", c->label);
        }
    }
    if (cfg->n_routes)
        bytes_add_str(out, "\n= Routes of your own\n\n");
    for (size_t i = 0; i < cfg->n_routes; i++)
        bytes_printf(out, "  `Esc %c %c`    %s %s\n", cfg->routes[i].letters[0], cfg->routes[i].letters[1],
                     cfg->routes[i].command->name, cfg->routes[i].args);
}

static void make_commands(const Config *cfg, Bytes *out)
{
    bytes_add_str(out, "= All commands\n\nRun one by its name with {command}. What stands in capitals may "
                       "follow the name.\n");
    for (size_t m = 0; m < cfg->registry.n_menus; m++)
        for (size_t i = 0; i < cfg->registry.menus[m].n; i++) {
            const Command *c = cfg->registry.menus[m].commands[i];
            bytes_printf(out, "\n= %s%s%s\n\n  {%s}\n  %s.\n", c->name, c->args ? " " : "",
                         c->args ? c->args : "", c->name, c->help);
            if (c->more)
                bytes_printf(out, "  %s\n", c->more);
        }
}

static void make_settings(const Config *cfg, Bytes *out)
{
    char *path = settings_file_path();
    bytes_printf(out,
                 "= Settings\n\nChange them in {settings}, where `Ctrl+S` keeps them, or by lines such as\n"
                 "theme = \"dark\" in " CONFIG_MACHINE_FOLDER "/settings.lua and, for you alone, in\n%s\n",
                 path ? path : "(there is no home folder)");
    free(path);
    if (cfg->problems.len)
        bytes_printf(out, "\n= Lines that were left out\n\n%s", cfg->problems.at);
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        char value[SETTING_TEXT_MAX];
        bytes_printf(out, "\n= %s\n\n  %s.\n  Now %s, from: %s. ", s->name, s->help,
                     settings_value(cfg, s, value), settings_source(cfg, s));
        if (s->type == SETTING_BOOL)
            bytes_printf(out, "true or false; the standard is %s.\n", s->standard);
        else if (s->type == SETTING_INT)
            bytes_printf(out, "From %d to %d; the standard is %s.\n", s->min, s->max, s->standard);
        else if (s->type == SETTING_CHOICE)
            bytes_printf(out, "One of %s; the standard is %s.\n", settings_choices(s), s->standard);
        else
            bytes_add_str(out, "A text in quotation marks.\n");
    }
}

static void make_calls(const Config *cfg, Bytes *out)
{
    bytes_add_str(out,
                  "= What scripts can call\n\nLines and columns count from 1, columns in characters. What "
                  "stands in\ncapitals may be left out where that makes sense. [[scripts]] has examples.\n");
    for (size_t i = 0; i < cfg->registry.n_calls; i++) {
        const CallHelp *c = cfg->registry.calls[i];
        if (c->help)
            bytes_printf(out, "\n  `%s`\n      %s.\n", c->form, c->help);
        else
            bytes_printf(out, "\n= %s\n", c->form);
    }
}

static bool make_marking(const Config *cfg, const char *name, Bytes *out)
{
    char path[80];
    snprintf(path, sizeof path, "help/%.60s.txt", name);
    const DataFile *d = data_find(path);
    if (strcmp(name, "keys") == 0)
        make_keys(cfg, out);
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

HelpPage *help_page_new(const Config *cfg, const char *name)
{
    Bytes marking = {0}, title = {0};
    HelpPage *p = NULL;
    if (make_marking(cfg, name, &marking)) {
        p = mem_get(sizeof *p);
        bytes_printf(&title, "Help: %s", name);
        p->title = title.at;
        make_text(cfg, p, marking.at, marking.len, &p->text);
    }
    bytes_free(&marking);
    return p;
}

HelpPage *help_page_of_text(const char *title, const Bytes *text)
{
    HelpPage *p = mem_get(sizeof *p);
    p->title = mem_string(title);
    bytes_add(&p->text, bytes_str(text), text->len);
    return p;
}

Style help_page_style(const void *page, size_t at)
{
    const HelpPage *p = page;
    size_t low = 0, high = p->n;
    while (low < high) { /* the first span that ends after `at` */
        size_t middle = (low + high) / 2;
        if (p->spans[middle].to <= at)
            low = middle + 1;
        else
            high = middle;
    }
    return low < p->n && at >= p->spans[low].from ? p->spans[low].style : ST_TEXT;
}

const char *help_page_link(const HelpPage *p, size_t at, bool touching)
{
    for (size_t i = 0; i < p->n; i++)
        if (p->spans[i].link && at >= p->spans[i].from && at < p->spans[i].to + touching)
            return p->spans[i].link;
    return NULL;
}

const char *help_page_title(const HelpPage *p)
{
    return p->title;
}

const Bytes *help_page_text(const HelpPage *p)
{
    return &p->text;
}

void help_page_free(HelpPage *p)
{
    if (!p)
        return;
    for (size_t i = 0; i < p->n; i++)
        free(p->spans[i].link);
    free(p->spans);
    free(p->title);
    bytes_free(&p->text);
    free(p);
}

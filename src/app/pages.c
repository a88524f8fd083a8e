#include "app/pages.h"

#include "app/shown.h"
#include "base/data.h"
#include "base/mem.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct PageSpan {
    size_t from, to;
    Style style;
    char *link; /* the page it leads to, or NULL */
} PageSpan;

struct Page {
    char *name;
    PageSpan *spans; /* in the order of the text */
    size_t n, cap;
    OpenFile *file;
};

/* ---- making a page out of its marking ---- */

static void add_span(Page *p, size_t from, size_t to, Style style, const char *link, size_t n_link)
{
    if (p->n == p->cap) {
        p->cap = p->cap ? 2 * p->cap : 64;
        p->spans = mem_grow(p->spans, p->cap * sizeof *p->spans);
    }
    p->spans[p->n++] = (PageSpan){from, to, style, link ? mem_string_n(link, n_link) : NULL};
}

static void add_keys_of(Editor *ed, Page *p, Bytes *out, const Command *c)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    size_t from = out->len;
    keymap_key_of(&ed->keys, c, 0, key);
    command_route(c, route);
    bytes_add_str(out, key[0] ? key : route);
    if (key[0] && route[0])
        bytes_printf(out, " (%s)", route);
    add_span(p, from, out->len, ST_HINT_KEY, NULL, 0);
}

/* One piece of marking at `s`; returns its length, 0 when there is none. */
static size_t marked_piece(Editor *ed, Page *p, Bytes *out, const char *s, const char *end)
{
    size_t from = out->len;
    const char *stop;
    if (*s == '`' && (stop = memchr(s + 1, '`', (size_t)(end - s) - 1)) != NULL) {
        bytes_add(out, s + 1, (size_t)(stop - s) - 1);
        add_span(p, from, out->len, ST_HINT_KEY, NULL, 0);
        return (size_t)(stop - s) + 1;
    }
    if (*s == '{' && (stop = memchr(s, '}', (size_t)(end - s))) != NULL) {
        const Command *c = command_named(s + 1, (size_t)(stop - s) - 1);
        if (!c)
            return 0;
        char link[96];
        add_keys_of(ed, p, out, c);
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

static void make_text(Editor *ed, Page *p, const char *s, size_t n, Bytes *out)
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
            size_t used = marked_piece(ed, p, out, s, line_end);
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

static void make_keys(Editor *ed, Bytes *out)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    bytes_printf(out,
                 "= All keys and routes\n\nThe layout is “%s”. A route is pressed one key after the other, "
                 "at any pace.\n",
                 ed->settings.layout ? "shell" : "desk");
    for (size_t m = 0; m < n_menus; m++) {
        bytes_printf(out, "\n= %s\n\n", menus[m].title ? menus[m].title : "Keys of their own");
        for (size_t i = 0; i < menus[m].n; i++) {
            const Command *c = &menus[m].commands[i];
            size_t line = out->len, used = 0;
            command_route(c, route);
            bytes_printf(out, "  `%s`", route[0] ? route : " ");
            pad_to(out, line, 17);
            bytes_add_str(out, "`");
            for (size_t k = 0; *keymap_key_of(&ed->keys, c, k, key); k++, used++)
                bytes_printf(out, "%s%s", used ? ", " : "", key);
            bytes_add_str(out, used ? "`" : " `");
            pad_to(out, line, 46);
            bytes_printf(out, "%s\n", c->help);
        }
    }
    if (ed->n_routes)
        bytes_add_str(out, "\n= Routes of your own\n\n");
    for (size_t i = 0; i < ed->n_routes; i++)
        bytes_printf(out, "  `Esc %c %c`    %s %s\n", ed->routes[i].letters[0], ed->routes[i].letters[1],
                     ed->routes[i].command->name, ed->routes[i].args);
}

static void make_commands(Editor *ed, Bytes *out)
{
    (void)ed;
    bytes_add_str(out, "= All commands\n\nRun one by its name with {command}. What stands in capitals may "
                       "follow the name.\n");
    for (size_t m = 0; m < n_menus; m++)
        for (size_t i = 0; i < menus[m].n; i++) {
            const Command *c = &menus[m].commands[i];
            bytes_printf(out, "\n= %s%s%s\n\n  {%s}\n  %s.\n", c->name, c->args ? " " : "",
                         c->args ? c->args : "", c->name, c->help);
            if (c->more)
                bytes_printf(out, "  %s\n", c->more);
        }
}

static void make_settings(Editor *ed, Bytes *out)
{
    char *path = settings_path();
    bytes_printf(out,
                 "= Settings\n\nChange them in {settings}, where `Ctrl+S` keeps them, or by lines such as\n"
                 "theme = \"dark\" in /etc/steady-quill/settings.lua and, for you alone, in\n%s\n",
                 path ? path : "(there is no home folder)");
    free(path);
    if (ed->problems.len)
        bytes_printf(out, "\n= Lines that were left out\n\n%s", ed->problems.at);
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        bytes_printf(out, "\n= %s\n\n  %s.\n  Now %s, from: %s. ", s->name, s->help, settings_value(ed, s),
                     settings_source(ed, s));
        if (s->type == SETTING_BOOL)
            bytes_printf(out, "true or false; the standard is %s.\n", s->standard);
        else if (s->type == SETTING_INT)
            bytes_printf(out, "From %d to %d; the standard is %s.\n", s->min, s->max, s->standard);
        else if (s->type == SETTING_CHOICE)
            bytes_printf(out, "One of %s; the standard is %s.\n", s->choices, s->standard);
        else
            bytes_add_str(out, "A text in quotation marks.\n");
    }
}

static bool make_marking(Editor *ed, const char *name, Bytes *out)
{
    char path[80];
    snprintf(path, sizeof path, "help/%.60s.txt", name);
    const DataFile *d = data_find(path);
    if (strcmp(name, "keys") == 0)
        make_keys(ed, out);
    else if (strcmp(name, "commands") == 0)
        make_commands(ed, out);
    else if (strcmp(name, "settings") == 0)
        make_settings(ed, out);
    else if (d)
        bytes_add(out, d->bytes, d->len);
    return out->len > 0;
}

/* ---- showing ---- */

bool page_shown(const Editor *ed)
{
    return ed->view->file && ed->view->file->shown->page;
}

/* To the heading of a command on the page of all commands. */
static void go_heading(Editor *ed, const char *command)
{
    View *v = ed->view;
    Text t = view_text(v);
    size_t n = strlen(command);
    for (size_t line = 0; line <= text_newlines(t); line++) {
        char head[96] = "";
        size_t start = text_line_start(t, line), got = text_read(t, start, head, n + 1);
        if (got > n && memcmp(head, command, n) == 0 && (head[n] == '\n' || head[n] == ' ')) {
            view_go(v, start);
            v->top.at = start;
            return;
        }
    }
}

static void show(Editor *ed, const char *name);

void page_show(Editor *ed, const char *name)
{
    char page[80];
    size_t n = strcspn(name, "#");
    snprintf(page, sizeof page, "%.*s", (int)(n < 70 ? n : 70), name);
    show(ed, page);
    if (name[n] && page_shown(ed))
        go_heading(ed, name + n + 1);
}

static void show(Editor *ed, const char *name)
{
    Bytes marking = {0}, text = {0};
    Text t = {0};
    if (!make_marking(ed, name, &marking)) {
        warn(ed, "There is no help page “%s”", name);
        return;
    }
    Page *p = mem_get(sizeof *p);
    p->name = mem_string(name);
    make_text(ed, p, marking.at, marking.len, &text);
    bool ok = text_insert(&t, 0, text.at, text.len);
    bytes_free(&marking);
    bytes_free(&text);
    if (!ok) {
        page_free(p);
        return;
    }
    OpenFile *old = page_shown(ed) ? ed->view->file : NULL;
    if (old) {
        layer_cancel_all(ed); /* what lay over the old page */
    } else {
        ed->before_page = ed->view->file->id;
        ed->under_page = ed->layer; /* it waits below the page */
        ed->layer = NULL;
    }
    OpenFile *f = editor_add(ed, t);
    f->shown->page = p;
    f->purpose = FOR_READING;
    f->look_only = true;
    view_show(ed->view, f);
    if (old)
        session_close(ed->session, old);
}

bool page_leave(Editor *ed)
{
    if (page_shown(ed))
        layer_cancel_all(ed); /* what lies over the page goes with it */
    if (!page_shown(ed))
        return false;
    OpenFile *page = ed->view->file;
    OpenFile *before = session_file(ed->session, ed->before_page);
    view_show(ed->view, before ? before : session_add(ed->session, (Text){0}));
    session_close(ed->session, page);
    ed->layer = ed->under_page;
    ed->under_page = NULL;
    if (ed->search)
        ed->search_from = ed->search_to = 0;
    return true;
}

bool page_follow(Editor *ed)
{
    const Page *p = ed->view->file->shown->page;
    size_t at = ed->view->cursor.at;
    for (size_t i = 0; i < p->n; i++)
        if (p->spans[i].link && at >= p->spans[i].from && at <= p->spans[i].to) {
            char *name = mem_string(p->spans[i].link);
            page_show(ed, name);
            free(name);
            return true;
        }
    say(ed, "Enter follows a link: put the cursor on an underlined word or on a command's key. Esc goes back "
            "to the text.");
    return true;
}

void page_clicked(Editor *ed)
{
    if (!page_shown(ed))
        return;
    const Page *p = ed->view->file->shown->page;
    size_t at = ed->view->cursor.at;
    for (size_t i = 0; i < p->n; i++)
        if (p->spans[i].link && at >= p->spans[i].from && at < p->spans[i].to) {
            page_follow(ed);
            return;
        }
}

Style page_style(const Page *p, size_t at)
{
    size_t low = 0, high = p->n;
    while (low < high) { /* the first span that ends behind `at` */
        size_t middle = (low + high) / 2;
        if (p->spans[middle].to <= at)
            low = middle + 1;
        else
            high = middle;
    }
    return low < p->n && at >= p->spans[low].from ? p->spans[low].style : ST_TEXT;
}

const char *page_name(const Page *p)
{
    return p->name;
}

void page_free(Page *p)
{
    if (!p)
        return;
    for (size_t i = 0; i < p->n; i++)
        free(p->spans[i].link);
    free(p->spans);
    free(p->name);
    free(p);
}

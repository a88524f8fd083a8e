#include "commands/help/help.h"

#include "base/mem.h"
#include "commands/edits.h"
#include "commands/help/help_page.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/hints.h"
#include "ui/menu.h"
#include "ui/status_line.h"
#include "view/shown.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* A page lies over the text of the pane with the cursor, with a view of its own, so that finding, marking and
 * copying work in it as everywhere. */
typedef struct Help {
    Layer layer;
    HelpPage *page;
    OpenFile *text; /* in no session */
    View view;
} Help;

static void drop_text(Help *h)
{
    if (!h->text)
        return;
    view_leave(&h->view);
    shown_end(h->text);
    openfile_free(h->text);
    h->text = NULL;
}

/* Shows the page as it is laid out now. */
static void set_text(Editor *ed, Help *h)
{
    const Bytes *bytes = help_page_text(h->page);
    Text t = {0};
    if (!text_insert(&t, 0, bytes->at, bytes->len))
        warn(ed, "There is not enough memory for this page");
    drop_text(h);
    h->text = openfile_new(t, NULL);
    h->text->purpose = FOR_READING;
    h->text->look_only = true;
    shown_begin(h->text, ed->panes.tab);
    view_show(&h->view, h->text);
    h->view.wrap = true; /* nothing of it may be out of sight */
    h->view.looks = (Looks){.title = help_page_title(h->page), .at = help_page_style, .ctx = h->page};
}

static void drop_page(Help *h)
{
    drop_text(h);
    help_page_free(h->page);
    h->page = NULL;
}

/* Takes over the page. */
static void set_page(Editor *ed, Help *h, HelpPage *page)
{
    drop_page(h);
    h->page = page;
    set_text(ed, h);
}

/* How many characters that are no blanks stand before byte `at`, which no other width changes; and back. */
static size_t solid_before(const Bytes *b, size_t at)
{
    size_t n = 0;
    for (size_t i = 0; i < at && i < b->len; i++)
        n += b->at[i] != ' ' && b->at[i] != '\n';
    return n;
}

static size_t solid_place(const Bytes *b, size_t solid)
{
    size_t i = 0;
    for (; i < b->len && (solid || b->at[i] == ' ' || b->at[i] == '\n'); i++)
        solid -= b->at[i] != ' ' && b->at[i] != '\n';
    return i;
}

/* Lines of a page are as wide as there is room for. */
static size_t page_width(const Editor *ed)
{
    int cols = panes_now(&ed->panes)->cols;
    return cols > 1 ? (size_t)cols - 1 : 1;
}

static void help_place(Editor *ed, Layer *l)
{
    Help *h = (Help *)l;
    View *v = &h->view;
    const Bytes *text = help_page_text(h->page);
    MarkKind marking = v->marking;
    size_t cursor = solid_before(text, v->cursor.at), top = solid_before(text, v->top.at),
           mark = solid_before(text, v->mark.at);
    if (!help_page_fit(&ed->config, h->page, page_width(ed)))
        return;
    set_text(ed, h);
    view_go(v, solid_place(text, cursor));
    v->mark.at = solid_place(text, mark);
    v->marking = marking;
    v->top.at = text_line_start(view_text(v), text_line_of(view_text(v), solid_place(text, top)));
}

/* To the heading of a command on the page of all commands. */
static void go_heading(View *v, const char *command)
{
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

static bool follow(Editor *ed, Help *h, bool touching);

static bool help_key(Editor *ed, Layer *l, const Input *in)
{
    Help *h = (Help *)l;
    if (in->key.code != K_ENTER || in->key.mods)
        return false;
    if (!follow(ed, h, true))
        say(ed,
            "Enter follows a link: put the cursor on an underlined word or on a command's key. Esc goes back "
            "to the text.");
    return true;
}

/* A click on a link follows it. */
static void help_clicked(Editor *ed, Layer *l, const Mouse *m)
{
    (void)m;
    follow(ed, (Help *)l, false);
}

static void help_paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)l, (void)bytes, (void)n;
    edit_allowed(ed); /* it is not; that is said */
}

static size_t help_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)l;
    size_t n = 0;
    out[n++] = (Hint){"Esc", "Back to the text", true};
    out[n++] = (Hint){"Enter", "Follow a link", true};
    n += hints_add_command(ed, "find", false, out + n);
    n += hints_add_command(ed, "find-next", false, out + n);
    n += hints_add_command(ed, "leave", false, out + n);
    return n;
}

static void help_free(Editor *ed, Layer *l)
{
    Help *h = (Help *)l;
    panes_uncover(&ed->panes, &h->view);
    drop_page(h);
    ed->matches.from = ed->matches.to = 0; /* what was marked in the page */
}

static const LayerKind help_kind = {
    .has_text = true,
    .key = help_key,
    .paste = help_paste,
    .place = help_place,
    .mouse = help_clicked,
    .hints = help_hints,
    .free = help_free,
};

/* The page that is shown, if it is; what lies over it goes. */
static Help *shown_help(Editor *ed)
{
    if (!layers_covered(ed))
        return NULL;
    while (ed->layer->kind != &help_kind)
        layers_cancel(ed);
    return (Help *)ed->layer;
}

/* Lays a page, which it takes over, over the text, or in the place of the one that is shown. */
static Help *lay_over(Editor *ed, HelpPage *page)
{
    Help *h = shown_help(ed);
    if (h) {
        set_page(ed, h, page);
        return h;
    }
    h = mem_get(sizeof *h);
    h->layer.kind = &help_kind;
    set_page(ed, h, page);
    panes_cover(&ed->panes, &h->view);
    layers_push(ed, &h->layer);
    return h;
}

void help_show_text(Editor *ed, const char *title, const Bytes *text, size_t at)
{
    Help *h = lay_over(ed, help_page_of_text(title, text));
    view_go(&h->view, at);
    h->view.top.at = at;
}

/* To the first place of these words, which are in one line of the page. */
static void go_words(View *v, const char *words)
{
    Text t = view_text(v);
    size_t len = text_len(t);
    char *bytes = mem_get(len + 1);
    bytes[text_read(t, 0, bytes, len)] = 0;
    const char *at = strcasestr(bytes, words);
    if (at)
        view_go(v, (size_t)(at - bytes));
    free(bytes);
}

/* Shows a page, "NAME", "NAME#COMMAND" or "NAME?WORDS". */
static void help_show(Editor *ed, const char *name)
{
    char words[80];
    size_t n = strcspn(name, "#?");
    snprintf(words, sizeof words, "%.*s", (int)(n < 70 ? n : 70), name);
    HelpPage *page = help_page_new(&ed->config, words, page_width(ed));
    if (!page) {
        warn(ed, "There is no help page “%s”", words);
        return;
    }
    Help *h = lay_over(ed, page);
    if (name[n] == '#')
        go_heading(&h->view, name + n + 1);
    else if (name[n])
        go_words(&h->view, name + n + 1);
}

static bool follow(Editor *ed, Help *h, bool touching)
{
    const char *link = help_page_link(h->page, h->view.cursor.at, touching);
    if (!link)
        return false;
    char *name = mem_string(link); /* the page goes */
    help_show(ed, name);
    free(name);
    return true;
}

/* ---- the commands ---- */

static const char pages[] =
    "start|keys|commands|menus|moving|marking|lines|kinds|checking|undo|finding|prompts|panels|"
    "panes|files|differences|commands-run|settings|own-keys|recording|scripts|script-calls|trouble";

static void offer_pages(const char *args, Offers *out)
{
    offers_add_words(out, pages, args);
}

/* The lines of a page that have the words, as items that lead there. */
static size_t list_lines(Editor *ed, const char *name, const char *words, Bytes *out)
{
    enum { LINES_MOST = 4 };
    HelpPage *page = help_page_new(&ed->config, name, page_width(ed));
    size_t n = 0;
    for (const char *at = bytes_str(help_page_text(page)), *end; *at && n < LINES_MOST;
         at = end + (*end != 0)) {
        char line[200];
        end = at + strcspn(at, "\n");
        snprintf(line, sizeof line, "%.*s", (int)(end - at < 190 ? end - at : 190), at);
        if (!strcasestr(line, words))
            continue;
        if (n++ == 0)
            bytes_printf(out, "\n- [[%s?%s]]", name, words);
        bytes_printf(out, "%s%s", n == 1 ? "  " : " … ", line + strspn(line, " "));
    }
    help_page_free(page);
    return n;
}

bool help_search(Editor *ed, const char *words)
{
    Bytes marking = {0}, title = {0};
    size_t n = 0;
    if (strcspn(words, "]`{}") < strlen(words)) /* which mean something in a page */
        return false;
    bytes_printf(&marking, "= Help on “%s”\n\nThe cursor on a page's name and `Enter` go there.\n", words);
    for (const char *at = pages; *at; at += strcspn(at, "|"), at += *at == '|') {
        char name[40];
        snprintf(name, sizeof name, "%.*s", (int)strcspn(at, "|"), at);
        n += list_lines(ed, name, words, &marking);
    }
    bytes_add_str(&marking, "\n");
    bytes_printf(&title, "Help: %s", words);
    if (n) {
        Help *h = lay_over(ed, help_page_of_marking(&ed->config, title.at, &marking, page_width(ed)));
        const char *first = strstr(bytes_str(help_page_text(h->page)), "\n  ");
        if (first) /* on the first name */
            view_go(&h->view, (size_t)(first - help_page_text(h->page)->at) + 3);
    }
    bytes_free(&marking);
    bytes_free(&title);
    return n > 0;
}

static void run_help(Editor *ed, const Args *args)
{
    size_t from, to;
    Layer *l = ed->layer;
    Bytes topic = {0};
    if (!l && !*args->text && status_line_is_cut(ed, &ed->frame)) {
        bytes_printf(&topic, "%s\n", ed->notices.text);
        help_show_text(ed, "All of the message", &topic, 0);
        bytes_free(&topic);
        return;
    }
    if (l && l->kind->topic)
        l->kind->topic(ed, l, &topic);
    const char *page = topic.len                                 ? bytes_str(&topic)
                       : l && l->kind->help                      ? l->kind->help
                       : view_marked(ed->panes.view, &from, &to) ? "marking"
                                                                 : "start";
    help_show(ed, *args->text ? args->text : page);
    bytes_free(&topic);
}

static const Command cmd_help = {
    .name = "help",
    .label = "Help",
    .letter = 'h',
    .keys = "F1",
    .help = "Help on what you are doing",
    .words = "manual documentation how",
    .args = "PAGE",
    .offer = offer_pages,
    .hint = "Help",
    .run = run_help,
};

static void run_keys(Editor *ed, const Args *args)
{
    (void)args;
    help_show(ed, "keys");
}

static const Command cmd_all_keys = {
    .name = "all-keys",
    .label = "All keys",
    .letter = 'k',
    .help = "One page with all keys and routes",
    .words = "shortcuts bindings chords",
    .run = run_keys,
};

static void run_said(Editor *ed, const Args *args)
{
    (void)args;
    Bytes page = {0};
    const NoticeSaid *said;
    for (unsigned i = 0; (said = notices_said(&ed->notices, i)); i++) {
        char when[40];
        time_t at = (time_t)said->when;
        struct tm tm;
        strftime(when, sizeof when, "%H:%M:%S", localtime_r(&at, &tm));
        bytes_printf(&page, "%s %s %s\n", when, said->warning ? "!" : " ", said->text);
    }
    if (page.len)
        help_show_text(ed, "What was said", &page, 0);
    else
        say(ed, "Nothing was said yet");
    bytes_free(&page);
}

static const Command cmd_said = {
    .name = "what-was-said",
    .label = "What was said…",
    .letter = 'g',
    .help = "The messages of this run, the newest first",
    .words = "messages log errors warnings before",
    .run = run_said,
};

static void run_about(Editor *ed, const Args *args)
{
    (void)args;
    say(ed, "Steady Quill %s, under the MIT licence", SQUILL_VERSION);
}

static const Command cmd_about = {
    .name = "about",
    .label = "About",
    .letter = 'a',
    .help = "Name, version and licence",
    .run = run_about,
};

static void run_menus(Editor *ed, const Args *args)
{
    (void)args;
    menu_open(ed, false);
}

static const Command cmd_menus = {
    .name = "menus",
    .label = "Menus",
    .letter = 'e',
    .keys = "F10",
    .help = "Wake the menu bar, as Esc does",
    .run = run_menus,
};

const Command *const help_commands[] = {
    &cmd_help, &cmd_all_keys, &cmd_menus, &cmd_said, &cmd_about, NULL,
};

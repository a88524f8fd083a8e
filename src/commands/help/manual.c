#include "commands/help/manual.h"

#include "base/array.h"
#include "base/mem.h"
#include "commands/help/help.h"
#include "edit/move.h"
#include "session/manual_pages.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    WORD_MOST = 60,  /* bytes of a word that is looked up */
    PAGES_MOST = 20, /* that are looked through */
};

/* Looking something up. */
typedef struct Manual {
    Editor *ed;
    char word[WORD_MOST + 1], other[WORD_MOST + 1]; /* that at the cursor, and the first of its line; or "" */
    char *pages[PAGES_MOST];
    size_t n, next;
} Manual;

/* ---- looking them up ---- */

static void end_looking(Manual *m)
{
    manual_stop(m->ed->session);
    for (size_t i = 0; i < m->n; i++)
        free(m->pages[i]);
    m->n = m->next = 0;
}

static void show(Manual *m, const char *name, const Bytes *page, long at)
{
    Editor *ed = m->ed;
    char title[WORD_MOST + 20];
    if (ed->layer) { /* something else was begun meanwhile */
        say(ed, "%s has it; ask again when nothing lies over the text", name);
        return;
    }
    snprintf(title, sizeof title, "Manual: %s", name);
    help_show_text(ed, title, page, at < 0 ? 0 : (size_t)at);
    if (at < 0 && m->word[0])
        say(ed, "%s has no entry “%s”; this is its beginning", name, m->word);
}

/* Is it a page of that name, or has it an entry for it? Shows it. */
static bool show_if_it_has(Manual *m, const char *name, const char *word)
{
    const Bytes *page = manual_page(m->ed->session, name);
    size_t len = strlen(word);
    if (!page || !page->len)
        return false;
    bool own = len && strncasecmp(name, word, len) == 0 && name[len] == '(';
    long at = own ? 0 : manual_entry(page, word);
    if (at >= 0)
        show(m, name, page, at);
    return at >= 0;
}

/* No page has an entry for the word: one that mentions it, that has one for the first of the line, or the
 * first page. */
static void conclude(Manual *m)
{
    const char *first = NULL;
    bool shown = false;
    for (size_t i = 0; i < m->n && !shown; i++) {
        const Bytes *page = manual_page(m->ed->session, m->pages[i]);
        long at = page ? manual_mention(page, m->word) : -1;
        first = !first && page && page->len ? m->pages[i] : first;
        shown = at >= 0;
        if (shown)
            show(m, m->pages[i], page, at);
    }
    for (size_t i = 0; i < m->n && !shown; i++)
        shown = show_if_it_has(m, m->pages[i], m->other);
    if (!shown && first)
        show(m, first, manual_page(m->ed->session, first), -1);
    else if (!shown && m->n)
        warn(m->ed, "The manual page %s is not installed here; it comes with the program it is about",
             m->pages[0]);
    end_looking(m);
}

static void look_at_next(Manual *m);

static void fetched(void *ctx, bool stopped)
{
    Manual *m = ctx;
    if (!stopped) {
        look_at_next(m);
        return;
    }
    end_looking(m);
    say(m->ed, "The manual is not looked at any more");
}

static void look_at_next(Manual *m)
{
    Err e = {""};
    Session *s = m->ed->session;
    for (;; m->next++) {
        if (m->next == m->n) {
            conclude(m);
            return;
        }
        const char *name = m->pages[m->next];
        if (!manual_page(s, name)) {
            if (manual_fetch(s, name, false, fetched, m, &e))
                return; /* and it is looked at then */
            warn(m->ed, "%s", e.text);
            break;
        }
        if (show_if_it_has(m, name, m->word))
            break;
    }
    end_looking(m);
}

/* ---- what is asked for ---- */

/* The word around a place, if it is one that a manual may have; "" otherwise. */
static void take_word(Text t, size_t at, size_t start, size_t end, char out[WORD_MOST + 1])
{
    size_t from = at, to = at;
    out[0] = 0;
    while (from > start && manual_in_word((char)text_byte(t, from - 1)))
        from--;
    while (to < end && manual_in_word((char)text_byte(t, to)))
        to++;
    while (to > from &&
           strchr(".:", text_byte(t, to - 1))) /* the end of a sentence, or of a name before a value */
        to--;
    if (to > from && to - from <= WORD_MOST)
        out[text_read(t, from, out, to - from)] = 0;
}

static void add_page(Manual *m, const char *name)
{
    bool fine = isalnum((unsigned char)name[0]);
    for (const char *p = name; *p; p++)
        fine = fine && (manual_in_word(*p) || *p == '(' || *p == ')');
    if (fine && m->n < PAGES_MOST)
        m->pages[m->n++] = mem_string(name);
}

/* A command, or else a file. */
static void add_sections(Manual *m, const char *word)
{
    static const char *const sections[] = {"1", "8", "5", "7"};
    for (size_t i = 0; *word && i < sizeof sections / sizeof *sections; i++) {
        char page[WORD_MOST + 8];
        snprintf(page, sizeof page, "%s(%s)", word, sections[i]);
        add_page(m, page);
    }
}

/* Modules that a line names have pages of their own: pam_unix.so. */
static void add_modules(Manual *m, Text t, size_t start, size_t end)
{
    char word[WORD_MOST + 1], page[WORD_MOST + 8];
    for (size_t at = start, len; at < end; at += len ? len : 1) {
        take_word(t, at, start, end, word);
        len = strlen(word);
        if (len > 3 && strcmp(word + len - 3, ".so") == 0) {
            snprintf(page, sizeof page, "%.*s(8)", (int)len - 3, word);
            add_page(m, page);
        }
    }
}

static void run_manual(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t start = move_line_start(t, v->cursor.at), end = move_line_end(t, v->cursor.at);
    Manual *m = ed->manual ? ed->manual : (ed->manual = mem_get(sizeof *m));
    m->ed = ed;
    end_looking(m);
    m->other[0] = 0;
    snprintf(m->word, sizeof m->word, "%s", args->text);
    if (!*args->text) {
        take_word(t, v->cursor.at, start, end, m->word);
        take_word(t, move_past_blanks(t, start), start, end, m->other);
    }
    if (strchr(m->word, '(')) {
        add_page(m, m->word);
        m->word[strcspn(m->word, "(")] = 0;
    }
    if (!*args->text)
        add_modules(m, t, start, end);
    /* In scripts most words are commands, which have pages of their own. */
    KindWords pages = v->file->kind->manual;
    if (!pages || strstr(pages[0], "(1)") || *args->text) {
        add_sections(m, m->word);
        add_sections(m, m->other);
    }
    for (; pages && *pages; pages++)
        add_page(m, *pages);
    if (m->n == 0)
        say(ed, "There is no word here that the manual could have");
    else
        look_at_next(m);
}

static const Command cmd_manual = {
    .name = "manual",
    .label = "Manual for this word",
    .letter = 'm',
    .help = "What the system's manual says of the word at the cursor",
    .words = "man documentation reference",
    .more = "The pages that tell about the kind of the file are looked through for its entry; in scripts, "
            "commands have "
            "pages of their own. A word or a page such as crontab(5) may follow the name.",
    .args = "WORD",
    .flags = CMD_FILE,
    .run = run_manual,
};

const Command *const manual_commands[] = {&cmd_manual, NULL};

void manual_free(Editor *ed)
{
    if (!ed->manual)
        return;
    end_looking(ed->manual);
    free(ed->manual);
    ed->manual = NULL;
}

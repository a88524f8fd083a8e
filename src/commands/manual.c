#include "commands/manual.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/sys.h"
#include "commands/help.h"
#include "edit/move.h"
#include "files/job.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SECONDS = 20,    /* that man may take */
    LOOK = 250,      /* ms between looks at the clock */
    WORD_MOST = 60,  /* bytes of a word that is looked up */
    PAGES_MOST = 12, /* that are looked through */
    KEPT = 12,       /* pages that are kept for the next time */
};

typedef struct Page {
    char *name; /* "crontab(5)" */
    Bytes text; /* nothing: there is no such page */
} Page;

/* Looking something up. */
typedef struct Manual {
    Editor *ed;
    Task task;
    Job *job;
    uint64_t since;
    char word[WORD_MOST + 1], other[WORD_MOST + 1]; /* that at the cursor, and the first of its line; or "" */
    char *pages[PAGES_MOST];
    size_t n, next;
    Page kept[KEPT]; /* the newest last */
    size_t n_kept;
} Manual;

/* ---- the pages ---- */

static const Page *kept_page(const Manual *m, const char *name)
{
    for (size_t i = 0; i < m->n_kept; i++)
        if (strcmp(m->kept[i].name, name) == 0)
            return &m->kept[i];
    return NULL;
}

/* Takes what man printed: letters struck over each other, and controls, are no text. */
static void keep_page(Manual *m, const char *name, const Bytes *output)
{
    if (m->n_kept == KEPT) {
        free(m->kept[0].name);
        bytes_free(&m->kept[0].text);
        memmove(m->kept, m->kept + 1, --m->n_kept * sizeof *m->kept);
    }
    Page *p = &m->kept[m->n_kept++];
    *p = (Page){.name = mem_string(name)};
    for (size_t i = 0; i < output->len; i++) {
        char c = output->at[i];
        if (c == '\b') {
            while (p->text.len && ((unsigned char)p->text.at[p->text.len - 1] & 0xc0) == 0x80)
                bytes_delete(&p->text, p->text.len - 1, 1);
            if (p->text.len)
                bytes_delete(&p->text, p->text.len - 1, 1);
        } else if (c == '\033') { /* a sequence up to its last byte */
            while (i + 1 < output->len && !isalpha((unsigned char)output->at[i + 1]))
                i++;
            i++;
        } else if (c == '\n' || c == '\t' || (unsigned char)c >= ' ') {
            bytes_add(&p->text, &c, 1);
        }
    }
}

/* How much a line looks like the heading of an entry for a word: 0 most, NO_ENTRY not at all. `after`: what
 * follows the word; `alone`: an empty line is above. */
enum { NO_ENTRY = 3 };

static int entry_rank(const char *after, size_t n, bool alone)
{
    bool gap = n == 0 || (n > 1 && after[0] == ' ' && after[1] == ' ');
    if (gap)
        return alone ? 0 : 1;
    return alone && strchr(" =,:([<", after[0]) ? 2 : NO_ENTRY;
}

/* The place of the line that is the entry for a word, or -1. */
static long find_entry(const Bytes *page, const char *word)
{
    size_t len = strlen(word);
    int rank = NO_ENTRY;
    long best = -1;
    bool alone = true;
    for (size_t at = 0; len && at < page->len;) {
        const char *line = page->at + at;
        size_t n = strcspn(line, "\n"), indent = strspn(line, " \t");
        if (n > indent && indent > 0 && indent <= 24 && n - indent >= len &&
            strncasecmp(line + indent, word, len) == 0) {
            int found = entry_rank(line + indent + len, n - indent - len, alone);
            best = found < rank ? (long)at : best;
            rank = found < rank ? found : rank;
        }
        alone = n == indent || indent >= n;
        at += n + 1;
    }
    return best;
}

static bool in_name(char c)
{
    return isalnum((unsigned char)c) || (c && strchr("_.+-:@", c));
}

/* The line that has the word anywhere, as a whole one; -1: none. */
static long find_mention(const Bytes *page, const char *word)
{
    size_t len = strlen(word);
    for (const char *p = bytes_str(page); len && (p = strcasestr(p, word)) != NULL; p += len) {
        bool whole = (p == page->at || !in_name(p[-1])) && (!in_name(p[len]) || strchr(".:", p[len]));
        while (whole && p > page->at && p[-1] != '\n')
            p--;
        if (whole)
            return p - page->at;
    }
    return -1;
}

/* ---- looking them up ---- */

static void end_job(Manual *m)
{
    if (!m->job)
        return;
    tasks_remove(&m->ed->session->tasks, &m->task);
    job_free(m->job);
    free(m->job);
    m->job = NULL;
}

static void end_looking(Manual *m)
{
    end_job(m);
    for (size_t i = 0; i < m->n; i++)
        free(m->pages[i]);
    m->n = m->next = 0;
}

static void show(Manual *m, const Page *p, long at)
{
    Editor *ed = m->ed;
    char title[WORD_MOST + 20];
    if (ed->layer) { /* something else was begun meanwhile */
        say(ed, "%s has it; ask again when nothing lies over the text", p->name);
        return;
    }
    snprintf(title, sizeof title, "Manual: %s", p->name);
    help_show_text(ed, title, &p->text, at < 0 ? 0 : (size_t)at);
    if (at < 0 && m->word[0])
        say(ed, "%s has no entry “%s”; this is its beginning", p->name, m->word);
}

/* Is it a page of that name, or has it an entry for it? Shows it. */
static bool show_if_it_has(Manual *m, const Page *p, const char *word)
{
    size_t len = strlen(word);
    bool own = len && p->text.len && strncasecmp(p->name, word, len) == 0 && p->name[len] == '(';
    long at = p->text.len && !own ? find_entry(&p->text, word) : -1;
    if (own || at >= 0)
        show(m, p, own ? 0 : at);
    return own || at >= 0;
}

/* No page has an entry for the word: one that mentions it, that has one for the first of the line, or the
 * first page. */
static void conclude(Manual *m)
{
    const Page *first = NULL;
    bool shown = false;
    for (size_t i = 0; i < m->n && !shown; i++) {
        const Page *p = kept_page(m, m->pages[i]);
        long at = p ? find_mention(&p->text, m->word) : -1;
        first = !first && p && p->text.len ? p : first;
        shown = at >= 0;
        if (shown)
            show(m, p, at);
    }
    for (size_t i = 0; i < m->n && !shown; i++) {
        const Page *p = kept_page(m, m->pages[i]);
        shown = p && show_if_it_has(m, p, m->other);
    }
    if (!shown && first)
        show(m, first, -1);
    else if (!shown && m->n)
        warn(m->ed, "The manual page %s is not installed here; it comes with the program it is about",
             m->pages[0]);
    end_looking(m);
}

static void look_at_next(Manual *m);

static void poll_manual(void *ctx)
{
    Manual *m = ctx;
    bool slow = sys_now_ms() - m->since > SECONDS * 1000;
    if (!job_poll(m->job) && !slow)
        return;
    Bytes nothing = {0};
    bool ok = m->job->ended && m->job->status == 0 && !m->job->too_much;
    keep_page(m, m->pages[m->next - 1], ok ? &m->job->output : &nothing);
    end_job(m);
    look_at_next(m);
}

static int wait_manual(const void *ctx)
{
    (void)ctx;
    return LOOK;
}

static size_t fds_of_manual(const void *ctx, struct pollfd *out)
{
    return job_fds(((const Manual *)ctx)->job, out);
}

static void cancel_manual(void *ctx)
{
    Manual *m = ctx;
    end_looking(m);
    say(m->ed, "The manual is not looked at any more");
}

static void words_of_manual(const void *ctx, char out[TASK_WORDS_MAX])
{
    const Manual *m = ctx;
    snprintf(out, TASK_WORDS_MAX, "Looking into %.60s", m->pages[m->next - 1]);
}

static const TaskKind manual_task = {.poll = poll_manual,
                                     .wait = wait_manual,
                                     .fds = fds_of_manual,
                                     .cancel = cancel_manual,
                                     .words = words_of_manual};

/* "crontab(5)" as man wants it: the section first. */
static bool start(Manual *m, const char *name, Err *e)
{
    char page[WORD_MOST + 20], section[20] = "";
    size_t n = strcspn(name, "(");
    Text none = {0};
    snprintf(page, sizeof page, "%.*s", (int)(n < WORD_MOST ? n : WORD_MOST), name);
    if (name[n] == '(')
        snprintf(section, sizeof section, "%.*s", (int)strcspn(name + n + 1, ")"), name + n + 1);
    char *const with[] = {"man", "-P", "cat", "--", section, page, NULL};
    char *const without[] = {"man", "-P", "cat", "--", page, NULL};
    m->job = mem_get(sizeof *m->job);
    if (job_start_program(m->job, section[0] ? with : without, none, NULL, e)) {
        m->since = sys_now_ms();
        tasks_add(&m->ed->session->tasks, &m->task, &manual_task, m);
        return true;
    }
    free(m->job);
    m->job = NULL;
    return false;
}

static void look_at_next(Manual *m)
{
    Err e = {""};
    if (m->next && show_if_it_has(m, kept_page(m, m->pages[m->next - 1]), m->word)) {
        end_looking(m);
        return;
    }
    while (m->next < m->n) {
        const char *name = m->pages[m->next++];
        const Page *kept = kept_page(m, name);
        if (kept && show_if_it_has(m, kept, m->word)) {
            end_looking(m);
            return;
        }
        if (kept)
            continue;
        if (start(m, name, &e))
            return;
        warn(m->ed, "%s", e.text);
        end_looking(m);
        return;
    }
    conclude(m);
}

/* ---- what is asked for ---- */

/* The word around a place, if it is one that a manual may have; "" otherwise. */
static void take_word(Text t, size_t at, size_t start, size_t end, char out[WORD_MOST + 1])
{
    size_t from = at, to = at;
    out[0] = 0;
    while (from > start && in_name((char)text_byte(t, from - 1)))
        from--;
    while (to < end && in_name((char)text_byte(t, to)))
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
        fine = fine && (in_name(*p) || *p == '(' || *p == ')');
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
    Manual *m = ed->manual;
    if (!m)
        return;
    end_looking(m);
    for (size_t i = 0; i < m->n_kept; i++) {
        free(m->kept[i].name);
        bytes_free(&m->kept[i].text);
    }
    free(m);
    ed->manual = NULL;
}

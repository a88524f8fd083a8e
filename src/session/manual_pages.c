#include "session/manual_pages.h"

#include "base/letters.h"
#include "base/mem.h"
#include "files/job_task.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SECONDS = 20,   /* that man may take */
    NAME_MOST = 80, /* bytes of a page's name */
    KEPT = 16,      /* pages that are kept for the next time */
};

typedef struct Page {
    char *name; /* "crontab(5)" */
    Bytes text; /* nothing: there is no such page */
} Page;

struct ManualPages {
    Session *session;
    JobTask run;
    char name[NAME_MOST + 1]; /* that is fetched */
    void (*done)(void *ctx, bool stopped);
    void *ctx;
    Page kept[KEPT]; /* the newest last */
    size_t n_kept;
};

/* ---- the pages ---- */

const Bytes *manual_page(const Session *s, const char *name)
{
    const struct ManualPages *m = s->manual;
    for (size_t i = 0; m && i < m->n_kept; i++)
        if (strcmp(m->kept[i].name, name) == 0)
            return &m->kept[i].text;
    return NULL;
}

/* Takes what man printed: letters struck over each other, and controls, are no text. */
static void keep_page(struct ManualPages *m, const char *name, const Bytes *output)
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

long manual_entry(const Bytes *page, const char *word)
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

bool manual_in_word(char c)
{
    return isalnum((unsigned char)c) || (c && strchr("_.+-:@", c));
}

long manual_mention(const Bytes *page, const char *word)
{
    size_t len = strlen(word);
    for (const char *p = bytes_str(page); len && (p = strcasestr(p, word)) != NULL; p += len) {
        bool whole =
            (p == page->at || !manual_in_word(p[-1])) && (!manual_in_word(p[len]) || strchr(".:", p[len]));
        while (whole && p > page->at && p[-1] != '\n')
            p--;
        if (whole)
            return p - page->at;
    }
    return -1;
}

/* The word that a line looks like the entry for; false when it is none. */
static bool entry_word(const char *line, size_t n, bool alone, char out[NAME_MOST + 1])
{
    size_t indent = 0, end;
    while (indent < n && letter_is_blank(line[indent]))
        indent++;
    for (end = indent; end < n && manual_in_word(line[end]);)
        end++;
    while (end > indent && strchr(".:", line[end - 1]))
        end--;
    if (indent == 0 || indent > 24 || end - indent < 2 || end - indent > NAME_MOST ||
        entry_rank(line + end, n - end, alone) == NO_ENTRY)
        return false;
    snprintf(out, NAME_MOST + 1, "%.*s", (int)(end - indent), line + indent);
    return isalpha((unsigned char)out[0]) || out[0] == '_';
}

void manual_each_entry(const Bytes *page, void (*each)(void *ctx, const char *word), void *ctx)
{
    bool alone = true;
    char word[NAME_MOST + 1];
    for (size_t at = 0; at < page->len;) {
        const char *line = page->at + at;
        size_t n = strcspn(line, "\n");
        if (entry_word(line, n, alone, word))
            each(ctx, word);
        alone = strspn(line, " \t") >= n;
        at += n + 1;
    }
}

/* ---- fetching them ---- */

void manual_stop(Session *s)
{
    if (s->manual)
        job_task_free(&s->manual->run);
}

void manual_free_pages(Session *s)
{
    struct ManualPages *m = s->manual;
    if (!m)
        return;
    manual_stop(s);
    for (size_t i = 0; i < m->n_kept; i++) {
        free(m->kept[i].name);
        bytes_free(&m->kept[i].text);
    }
    free(m);
    s->manual = NULL;
}

static void fetched(void *ctx, JobEnd how)
{
    struct ManualPages *m = ctx;
    Bytes nothing = {0};
    const Job *job = &m->run.job;
    bool ok = how == JOB_ENDED && job->status == 0 && !job->too_much;
    if (how != JOB_STOPPED)
        keep_page(m, m->name, ok ? &m->run.job.output : &nothing);
    job_task_free(&m->run);
    if (m->done)
        m->done(m->ctx, how == JOB_STOPPED);
}

bool manual_fetch(Session *s, const char *name, bool quiet, void (*done)(void *ctx, bool stopped), void *ctx,
                  Err *e)
{
    char page[NAME_MOST + 1], section[20] = "";
    size_t n = strcspn(name, "(");
    struct ManualPages *m = s->manual ? s->manual : (s->manual = mem_get(sizeof *m));
    manual_stop(s);
    m->session = s;
    m->done = done;
    m->ctx = ctx;
    snprintf(m->name, sizeof m->name, "%s", name);
    snprintf(page, sizeof page, "%.*s", (int)(n < NAME_MOST ? n : NAME_MOST), name);
    if (name[n] == '(')
        snprintf(section, sizeof section, "%.*s", (int)strcspn(name + n + 1, ")"), name + n + 1);
    /* `man` wants the section first */
    char *const with[] = {"man", "-P", "cat", "--", section, page, NULL};
    char *const without[] = {"man", "-P", "cat", "--", page, NULL};
    char words[TASK_WORDS_MAX];
    snprintf(words, sizeof words, "Looking into %.60s", name);
    if (!job_start_program(&m->run.job, &(JobSpec){.words = section[0] ? with : without}, e))
        return false;
    job_task_begin(&m->run, &s->tasks, SECONDS, quiet ? NULL : words, NULL, fetched, m);
    return true;
}

const Bytes *manual_page_soon(Session *s, const char *name, unsigned most)
{
    Err ignored;
    const Bytes *found = manual_page(s, name);
    if (found || (s->manual && s->manual->run.tasks) || !manual_fetch(s, name, true, NULL, NULL, &ignored))
        return found;
    job_task_wait(&s->manual->run, most, (Stop){0});
    return manual_page(s, name);
}

#include "session/checking.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/words.h"
#include "edit/merge.h"
#include "edit/move.h"
#include "files/job.h"
#include "session/check_there.h"
#include "session/check_work.h"
#include "text/text_line.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    LOOK = 200, /* ms between looks at the clock */
    HEAD = 200, /* bytes of the beginning that say what program the text is for */
};

/* What one checker found. */
typedef struct Source {
    const Check *check; /* NULL: root's helper */
    unsigned round;     /* in which it was asked last */
    Verdict verdict;    /* that it gave then */
    Err why;
    Bytes said;
    FileProblem *problems;
    size_t n;
    unsigned long marked;   /* the version (from 1) in which they were found */
    unsigned long followed; /* the version (from 1) that their places are for */
} Source;

struct Checking {
    Session *session;
    OpenFile *file;
    Task task;
    bool going, programs, root_only;
    /* what goes on */
    const Kind *kind;
    const Check *checks;
    size_t n_checks, next;
    Text text;             /* that is checked, */
    unsigned long version; /* of the document then */
    CheckWork *work;
    unsigned round;
    /* what came of it */
    Source *sources;
    size_t n_sources;
    unsigned long
        checked[2]; /* the last version (from 1) that went through a round, with programs or without */
    Bytes by, trouble, doubt, for_root, said;
    FileProblem *all; /* of all sources, in the order of the text; their words are the sources' */
    size_t n_all;
    unsigned long all_of; /* the version that they are for; 0: to be made again */
};

/* ---- what was found ---- */

static void drop_problem(Source *s, size_t i)
{
    free(s->problems[i].words);
    memmove(s->problems + i, s->problems + i + 1, (--s->n - i) * sizeof *s->problems);
}

static void drop_problems(Source *s)
{
    while (s->n)
        drop_problem(s, s->n - 1);
}

/* A change at a problem's place may have mended it; any change may, where its place is not known. */
static void follow_change(Source *s, const DocChange *d)
{
    for (size_t i = s->n; i-- > 0;) {
        FileProblem *p = &s->problems[i];
        if (p->to == 0) {
            drop_problem(s, i);
        } else if (d->at + d->removed < p->from || (d->at + d->removed == p->from && d->at < p->from)) {
            p->from = p->from - d->removed + d->added;
            p->to = p->to - d->removed + d->added;
        } else if (d->at <= p->to) {
            drop_problem(s, i);
        }
    }
}

static void follow(Source *s, const Doc *d)
{
    DocChange change;
    while (s->followed && s->followed != doc_version(d) + 1) {
        if (doc_change_after(d, s->followed - 1, &change)) {
            follow_change(s, &change);
            s->followed++;
        } else { /* too much has changed since */
            drop_problems(s);
            s->followed = doc_version(d) + 1;
        }
    }
}

static int by_place(const void *a, const void *b)
{
    const FileProblem *x = a, *y = b;
    return (x->from > y->from) - (x->from < y->from);
}

/* All of them together, followed to the text as it is now. */
static void gather(struct Checking *c)
{
    unsigned long now = doc_version(c->file->doc) + 1;
    if (c->all_of == now)
        return;
    c->n_all = 0;
    for (size_t i = 0; i < c->n_sources; i++) {
        Source *s = &c->sources[i];
        follow(s, c->file->doc);
        for (size_t k = 0; k < s->n; k++) {
            c->all = array_room(c->all, c->n_all, sizeof *c->all);
            c->all[c->n_all++] = s->problems[k];
        }
    }
    if (c->n_all)
        qsort(c->all, c->n_all, sizeof *c->all, by_place);
    c->all_of = now;
}

static bool in_word(int c)
{
    return c == '_' || c == '-' || isalnum(c);
}

/* The place of a word in the text, whole if it is there so; its beginning when it is not there. */
static size_t find_word(const Bytes *text, const char *word)
{
    size_t len = strlen(word), found = 0;
    for (const char *p = bytes_str(text), *all = p; len && (p = strstr(p, word)) != NULL; p += len) {
        if ((p == all || !in_word((unsigned char)p[-1])) && !in_word((unsigned char)p[len]))
            return (size_t)(p - all);
        found = found ? found : (size_t)(p - all);
    }
    return found;
}

FileProblem checking_place(Text t, const Problem *p)
{
    if (p->line == 0 && !p->about)
        return (FileProblem){0, 0, mem_string(p->words), p->checker, p->hint};
    size_t line = p->line ? p->line - 1 : 0, lines = text_newlines(t);
    size_t start = text_line_start(t, line < lines ? line : lines);
    if (p->line == 0 && p->about) {
        Bytes all = {0};
        text_bytes(t, 0, text_len(t), &all);
        start = move_line_start(t, find_word(&all, p->about));
        bytes_free(&all);
    }
    size_t end = move_line_end(t, start);
    size_t from = p->column ? start + p->column - 1 : move_past_blanks(t, start), to;
    from = from > end ? end : from;
    to = end;
    if (p->column && from < end) {
        size_t word_from, word_to;
        to = move_word_at(t, from, &word_from, &word_to) && word_to > from ? word_to : move_right(t, from);
    }
    return (FileProblem){from, to > end ? end : to, mem_string(p->words), p->checker, p->hint};
}

/* ---- who says so ---- */

static Source *source_of(struct Checking *c, const Check *check)
{
    for (size_t i = 0; i < c->n_sources; i++)
        if (c->sources[i].check == check)
            return &c->sources[i];
    c->sources = array_room(c->sources, c->n_sources, sizeof *c->sources);
    c->sources[c->n_sources] = (Source){.check = check};
    return &c->sources[c->n_sources++];
}

static void free_sources(struct Checking *c)
{
    for (size_t i = 0; i < c->n_sources; i++) {
        drop_problems(&c->sources[i]);
        free(c->sources[i].problems);
        bytes_free(&c->sources[i].said);
    }
    c->n_sources = 0;
    c->all_of = 0;
}

/* Its findings are those of that version of the text from now on. */
static void take_problems(struct Checking *c, Source *s, Text t, unsigned long version, const Problems *found)
{
    drop_problems(s);
    for (size_t i = 0; i < found->n; i++) {
        s->problems = array_room(s->problems, s->n, sizeof *s->problems);
        s->problems[s->n++] = checking_place(t, &found->at[i]);
    }
    s->followed = s->marked = version + 1;
    c->all_of = 0;
}

/* Without a verdict, what was found before still stands. */
static void take_result(struct Checking *c, const Check *check, const CheckResult *r)
{
    Source *s = source_of(c, check);
    s->round = c->round;
    s->verdict = r->verdict;
    s->why = r->why;
    bytes_clear(&s->said);
    bytes_add(&s->said, bytes_str(&r->said), r->said.len);
    if (r->verdict == VERDICT_RIGHT || r->verdict == VERDICT_WRONG)
        take_problems(c, s, c->text, c->version, &r->found);
}

static void take_none(struct Checking *c, const Check *check, const char *why)
{
    CheckResult r = {.verdict = VERDICT_NONE};
    err_set(&r.why, "%s", why);
    take_result(c, check, &r);
}

static void add_name(Bytes *to, const char *name)
{
    bytes_printf(to, "%s%s", to->len ? ", " : "", name);
}

static void add_words(Bytes *to, const char *name, const char *words)
{
    bytes_printf(to, "%s%s %s", to->len ? "; " : "", name, words);
}

/* The words for people about the last round. Right values alone make no file right where there is somebody
 * who knows all of it. */
static void sum_up(struct Checking *c)
{
    bool values = false;
    bytes_clear(&c->by);
    bytes_clear(&c->trouble);
    bytes_clear(&c->doubt);
    for (size_t i = 0; i < c->n_sources; i++) {
        const Source *s = &c->sources[i];
        if (s->round != c->round || !s->check)
            continue;
        if (s->check->settings && s->verdict == VERDICT_RIGHT)
            values = true;
        else if (s->verdict == VERDICT_RIGHT || s->verdict == VERDICT_WRONG)
            add_name(&c->by, s->check->name);
        else
            add_words(&c->trouble, s->check->name, s->why.text);
        if (s->verdict == VERDICT_UNSURE)
            add_words(&c->doubt, s->check->name, s->why.text);
    }
    if (values && (c->by.len || !c->trouble.len))
        add_name(&c->by, "settings");
    if (c->for_root.len)
        add_words(&c->trouble, bytes_str(&c->for_root), "works for root only");
}

/* ---- going on ---- */

static void end_work(struct Checking *c)
{
    if (c->work)
        check_work_end(c->work);
    c->work = NULL;
}

static void end_all(struct Checking *c)
{
    if (c->going)
        tasks_remove(&c->session->tasks, &c->task);
    c->going = false;
    end_work(c);
    text_drop(&c->text);
}

/* Lines that a merge left to be decided are wrong in any kind of file. */
static bool has_marks(const OpenFile *f)
{
    enum { LOOKED_AT = 8 << 20 };
    Conflict any;
    Text t = doc_text(f->doc);
    return !f->marks_are_text && text_len(t) <= LOOKED_AT && conflict_next(t, 0, &any);
}

static void take_marks(struct Checking *c)
{
    static const Check marks = {.name = "merge"};
    Problems found = {.checker = marks.name};
    Conflict place;
    CheckResult r = {.verdict = VERDICT_WRONG};
    bool any = has_marks(c->file);
    for (size_t at = 0; any && conflict_next(c->text, at, &place); at = place.all.to)
        problems_add(&found, text_line_of(c->text, place.all.from) + 1, 0,
                     "Both changed these lines: one version must be chosen");
    r.found = found;
    if (any) {
        take_result(c, &marks, &r);
    } else {
        for (size_t i = 0; i < c->n_sources; i++)
            if (c->sources[i].check == &marks) {
                drop_problems(&c->sources[i]);
                c->sources[i].round = 0;
                c->all_of = 0;
            }
    }
    problems_free(&found);
}

/* All have answered. */
static void conclude(struct Checking *c)
{
    take_marks(c);
    c->checked[c->programs] = c->version + 1;
    sum_up(c);
    end_all(c);
    session_tell_checked(c->session, c->file);
}

static bool is_off(const Session *s, const char *name)
{
    return words_listed(s->rules.check_off, name);
}

static bool is_wanted(const struct Checking *c, const Check *check)
{
    char head[HEAD];
    size_t n = text_read(c->text, 0, head, sizeof head);
    bool program = check->run != NULL;
    return !check->spare && (!program || c->programs) && (check->as_root || !c->root_only) &&
           (program || check->part || check->fields || check->settings) && !is_off(c->session, check->name) &&
           check_fits(check, openfile_known_path(c->file), head, n);
}

/* May the programs of the machine that has the file look at a copy of it? */
static bool may_ask_there(const Session *s, const char *path)
{
    Location l;
    Err ignored;
    if (!location_read(path, &l, &ignored))
        return false;
    bool may = l.host && (words_listed(s->rules.check_on_hosts, l.host) ||
                          words_listed(s->rules.check_on_hosts, "all"));
    location_free(&l);
    return may;
}

/* Begins the next one, until all are done. */
static void begin_next(struct Checking *c)
{
    while (!c->work && c->next < c->n_checks) {
        const Check *check = &c->checks[c->next++];
        Err e = {""};
        if (!is_wanted(c, check))
            continue;
        const char *path = c->file->path;
        bool there = check->run && path && !filesystem_can(path, FILES_ARE_CHECKED);
        if (there && !may_ask_there(c->session, path)) {
            take_none(c, check,
                      "was not asked, as the file lies on another machine (setting check_on_hosts)");
            continue;
        }
        if (check->as_root && geteuid() != 0 && !there) {
            add_name(&c->for_root, check->name);
            continue;
        }
        c->work = check_work_begin(check, c->text, openfile_known_path(c->file),
                                   c->file->path && !filesystem_can(path, FILES_ARE_CHECKED) ? path : NULL,
                                   &c->file->encoding, &e);
        if (!c->work)
            take_none(c, check, e.text);
    }
    if (!c->work)
        conclude(c);
}

/* Goes on without the one that is asked. */
static void give_up(struct Checking *c, const char *why)
{
    if (!c->work)
        return;
    end_work(c);
    take_none(c, &c->checks[c->next - 1], why);
    begin_next(c);
}

static void poll_checking(void *ctx)
{
    struct Checking *c = ctx;
    CheckResult r;
    if (c->work && check_work_poll(c->work, &r)) {
        end_work(c);
        take_result(c, &c->checks[c->next - 1], &r);
        check_result_free(&r);
        begin_next(c);
    } else if (c->work && check_work_age(c->work) > 1000u * c->session->rules.check_seconds) {
        char words[60];
        snprintf(words, sizeof words, "did not answer within %u s", c->session->rules.check_seconds);
        give_up(c, words);
    }
}

/* A person does not want to wait for the one that is asked. */
static void cancel_checking(void *ctx)
{
    give_up(ctx, "was stopped");
}

static void words_of_checking(const void *ctx, char out[TASK_WORDS_MAX])
{
    const struct Checking *c = ctx;
    snprintf(out, TASK_WORDS_MAX, "Checking by %.60s", c->next ? c->checks[c->next - 1].name : "");
}

static int wait_checking(const void *ctx)
{
    return ((const struct Checking *)ctx)->work ? LOOK : -1;
}

static size_t fds_of_checking(const void *ctx, struct pollfd *out)
{
    const struct Checking *c = ctx;
    return c->work ? check_work_fds(c->work, out) : 0;
}

/* By itself, and as a person wants it, which can be stopped. */
static const TaskKind quiet_task = {.poll = poll_checking, .wait = wait_checking, .fds = fds_of_checking};
static const TaskKind program_task = {.poll = poll_checking,
                                      .wait = wait_checking,
                                      .fds = fds_of_checking,
                                      .cancel = cancel_checking,
                                      .words = words_of_checking};

/* ---- for others ---- */

/* The checkers of its kind, unless they are switched off. */
static const Check *checks_for(const Session *s, const OpenFile *f, size_t *n)
{
    const Check *checks = checks_of(f->kind, n, NULL);
    if (f->is_template || is_off(s, "all") || is_off(s, f->kind->name))
        *n = 0;
    return checks;
}

bool checking_is_possible(const Session *s, const OpenFile *f, bool programs)
{
    size_t n;
    const Check *checks = checks_for(s, f, &n);
    bool any = false;
    for (size_t i = 0; i < n; i++)
        any = any || programs || !checks[i].run;
    return any;
}

bool checking_wants_host(const Session *s, const OpenFile *f, Bytes *host)
{
    size_t n;
    const Check *checks = checks_for(s, f, &n);
    const char *why;
    Location l;
    Err ignored;
    bool any = false;
    if (!f->path || filesystem_can(f->path, FILES_ARE_CHECKED) || may_ask_there(s, f->path))
        return false;
    for (size_t i = 0; i < n; i++)
        any = any || (checks[i].run && !checks[i].spare && check_there_can(&checks[i], &why));
    if (!any || !location_read(f->path, &l, &ignored))
        return false;
    bytes_add_str(host, l.host ? l.host : "");
    location_free(&l);
    return host->len > 0;
}

static struct Checking *own_checking(Session *s, OpenFile *f)
{
    struct Checking *c = f->check;
    if (!c)
        c = f->check = mem_get(sizeof *c);
    if (c->kind != f->kind)
        free_sources(c);
    c->session = s;
    c->file = f;
    c->kind = f->kind;
    return c;
}

static bool begin(Session *s, OpenFile *f, bool programs, bool root_only)
{
    struct Checking *c = f->check;
    size_t n;
    const Check *checks = checks_for(s, f, &n);
    if (c)
        end_all(c);
    if (!checking_is_possible(s, f, programs) && !has_marks(f))
        return false;
    c = own_checking(s, f);
    c->programs = programs;
    c->root_only = root_only;
    c->checks = checks;
    c->n_checks = n;
    c->next = 0;
    c->round++;
    c->text = text_keep(doc_text(f->doc));
    c->version = doc_version(f->doc);
    bytes_clear(&c->for_root);
    c->going = true;
    tasks_add(&s->tasks, &c->task, programs ? &program_task : &quiet_task, c);
    begin_next(c);
    return true;
}

bool checking_begin(Session *s, OpenFile *f, bool programs)
{
    return begin(s, f, programs, false);
}

bool checking_begin_as_root(Session *s, OpenFile *f)
{
    return begin(s, f, true, true);
}

bool checking_goes_on(const OpenFile *f)
{
    return f->check && f->check->going;
}

bool checking_is_current(const OpenFile *f, bool programs)
{
    const struct Checking *c = f->check;
    unsigned long now = doc_version(f->doc) + 1;
    return c && c->kind == f->kind && (c->checked[1] == now || (!programs && c->checked[0] == now));
}

unsigned long checking_version(const OpenFile *f)
{
    const struct Checking *c = f->check;
    if (!c || c->kind != f->kind)
        return 0;
    return c->going ? c->version + 1 : c->checked[0] > c->checked[1] ? c->checked[0] : c->checked[1];
}

const FileProblem *checking_problems(OpenFile *f, size_t *n)
{
    *n = 0;
    if (!f->check || f->check->kind != f->kind)
        return NULL;
    gather(f->check);
    *n = f->check->n_all;
    return f->check->all;
}

const FileProblem *checking_problem_in(OpenFile *f, size_t from, size_t to)
{
    size_t n;
    const FileProblem *all = checking_problems(f, &n);
    const FileProblem *hint = NULL;
    for (size_t i = 0; i < n && all[i].from <= to; i++) {
        if (all[i].to < from || !all[i].to)
            continue;
        if (!all[i].hint)
            return &all[i];
        hint = hint ? hint : &all[i];
    }
    return hint;
}

const FileProblem *checking_wrong(OpenFile *f, size_t *n)
{
    size_t all_n;
    const FileProblem *all = checking_problems(f, &all_n), *first = NULL;
    *n = 0;
    for (size_t i = 0; i < all_n; i++) {
        first = first || all[i].hint ? first : &all[i];
        *n += !all[i].hint;
    }
    return first;
}

const char *checking_by(const OpenFile *f)
{
    return f->check ? bytes_str(&f->check->by) : "";
}

const char *checking_for_root(const OpenFile *f)
{
    return f->check ? bytes_str(&f->check->for_root) : "";
}

const char *checking_trouble(const OpenFile *f)
{
    return f->check ? bytes_str(&f->check->trouble) : "";
}

const char *checking_doubt(const OpenFile *f)
{
    return f->check && checking_is_current(f, true) ? bytes_str(&f->check->doubt) : "";
}

const char *checking_said(OpenFile *f)
{
    struct Checking *c = f->check;
    if (!c)
        return "";
    bytes_clear(&c->said);
    for (size_t i = 0; i < c->n_sources; i++) {
        const Source *s = &c->sources[i];
        if (s->check && s->check->run && s->round == c->round && s->said.len)
            bytes_printf(&c->said, "%s%s said:\n\n%s", c->said.len ? "\n\n" : "", s->check->name,
                         bytes_str(&s->said));
    }
    return bytes_str(&c->said);
}

void checking_add(OpenFile *f, const Problems *found, const char *by, const char *trouble)
{
    struct Checking *c = f->check;
    if (!checking_is_current(f, true))
        return;
    Source *s = source_of(c, NULL);
    if (*by)
        take_problems(c, s, doc_text(f->doc), doc_version(f->doc), found);
    bytes_clear(&c->for_root);
    sum_up(c);
    if (*by)
        add_name(&c->by, by);
    if (*trouble)
        bytes_printf(&c->trouble, "%s%s", c->trouble.len ? "; " : "", trouble);
}

void checking_put(Session *s, OpenFile *f, const Check *by, const Problems *found)
{
    struct Checking *c = own_checking(s, f);
    take_problems(c, source_of(c, by), doc_text(f->doc), doc_version(f->doc), found);
}

bool checking_drop(OpenFile *f, const Check *by)
{
    struct Checking *c = f->check;
    for (size_t i = 0; c && i < c->n_sources; i++) {
        Source *s = &c->sources[i];
        if (s->check != by)
            continue;
        bool some = s->n && s->marked == doc_version(f->doc) + 1;
        drop_problems(s);
        c->all_of = 0;
        return some;
    }
    return false;
}

void checking_finish(Session *s, OpenFile *f, Stop stop)
{
    while (checking_goes_on(f) && !stop_wanted(stop)) {
        struct pollfd fds[TASK_FDS];
        poll(fds, fds_of_checking(f->check, fds), LOOK);
        poll_checking(f->check);
    }
    if (checking_goes_on(f))
        checking_stop(s, f);
}

void checking_stop(Session *s, OpenFile *f)
{
    (void)s;
    if (f->check)
        end_all(f->check);
}

void checking_forget(Session *s, OpenFile *f)
{
    struct Checking *c = f->check;
    if (!c)
        return;
    Bytes *const words[] = {&c->by, &c->trouble, &c->doubt, &c->for_root, &c->said};
    checking_stop(s, f);
    free_sources(c);
    free(c->sources);
    free(c->all);
    for (size_t i = 0; i < sizeof words / sizeof *words; i++)
        bytes_free(words[i]);
    free(c);
    f->check = NULL;
}

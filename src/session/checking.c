#include "session/checking.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/side_thread.h"
#include "base/sys.h"
#include "base/words.h"
#include "edit/move.h"
#include "files/job.h"
#include "files/write.h"
#include "kinds/checks.h"
#include "session/check_place.h"
#include "text/text_line.h"

#include <ctype.h>
#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum {
    LOOK = 200, /* ms between looks at the clock */
    HEAD = 200, /* bytes of the beginning that say what program the text is for */
};

/* One checker that is part of this program, at work on a thread of its own. */
typedef struct Side {
    SideThread *thread;
    Text text;
    const Check *check;
    Problems found;
} Side;

struct Checking {
    Session *session;
    OpenFile *file;
    Task task;
    bool going, programs, root_only;
    /* what goes on */
    const Check *checks;
    size_t n_checks, next;
    Text text;             /* that is checked, */
    unsigned long version; /* of the document then */
    Side *side;            /* or */
    Job *job;
    CheckPlace place; /* of the program */
    uint64_t since;
    Problems found;
    /* what came of it last */
    FileProblem *problems;
    size_t n;
    unsigned long checked, followed; /* versions from 1: that was checked, and that the places are for */
    bool by_programs;
    Bytes by, trouble, for_root;
};

/* ---- what was found ---- */

static void drop_problem(struct Checking *c, size_t i)
{
    free(c->problems[i].words);
    memmove(c->problems + i, c->problems + i + 1, (--c->n - i) * sizeof *c->problems);
}

static void drop_problems(struct Checking *c)
{
    while (c->n)
        drop_problem(c, c->n - 1);
}

/* A change at a problem's place may have mended it. */
static void follow_change(struct Checking *c, const DocChange *d)
{
    for (size_t i = c->n; i-- > 0;) {
        FileProblem *p = &c->problems[i];
        if (d->at + d->removed < p->from || (d->at + d->removed == p->from && d->at < p->from)) {
            p->from = p->from - d->removed + d->added;
            p->to = p->to - d->removed + d->added;
        } else if (d->at <= p->to) {
            drop_problem(c, i);
        }
    }
}

static void follow(struct Checking *c)
{
    const Doc *d = c->file->doc;
    DocChange change;
    while (c->followed && c->followed != doc_version(d) + 1) {
        if (doc_change_after(d, c->followed - 1, &change)) {
            follow_change(c, &change);
            c->followed++;
        } else { /* too much has changed since */
            drop_problems(c);
            c->followed = doc_version(d) + 1;
        }
    }
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
    return (FileProblem){from, to > end ? end : to, mem_string(p->words), p->checker};
}

static int by_place(const void *a, const void *b)
{
    const FileProblem *x = a, *y = b;
    return (x->from > y->from) - (x->from < y->from);
}

/* ---- going on ---- */

static void end_program(struct Checking *c)
{
    if (c->job) {
        job_free(c->job);
        free(c->job);
        c->job = NULL;
    }
    check_place_remove(&c->place);
}

static void end_side(struct Checking *c)
{
    if (!c->side)
        return;
    side_thread_end(c->side->thread);
    text_drop(&c->side->text);
    problems_free(&c->side->found);
    free(c->side);
    c->side = NULL;
}

static void end_all(struct Checking *c)
{
    if (c->going)
        tasks_remove(&c->session->tasks, &c->task);
    c->going = false;
    end_side(c);
    end_program(c);
    text_drop(&c->text);
    problems_free(&c->found);
}

static void note_trouble(struct Checking *c, const char *name, const char *words)
{
    bytes_printf(&c->trouble, "%s%s %s", c->trouble.len ? "; " : "", name, words);
}

static void note_answer(struct Checking *c, const Check *check)
{
    bytes_printf(&c->by, "%s%s", c->by.len ? ", " : "", check->name);
}

static void run_side(void *ctx)
{
    Side *s = ctx;
    Bytes bytes = {0};
    text_bytes(s->text, 0, text_len(s->text), &bytes);
    s->found.checker = s->check->name;
    if (s->check->fields)
        fields_check(bytes_str(&bytes), bytes.len, s->check->fields, &s->found);
    else
        s->check->part(bytes_str(&bytes), bytes.len, &s->found);
    bytes_free(&bytes);
}

static void begin_side(struct Checking *c, const Check *check)
{
    c->side = mem_get(sizeof *c->side);
    c->side->text = text_keep(c->text);
    c->side->check = check;
    c->side->thread = side_thread_begin(run_side, c->side);
    if (c->side->thread)
        return;
    note_trouble(c, check->name, "could not be begun");
    text_drop(&c->side->text);
    free(c->side);
    c->side = NULL;
}

static bool start_program(struct Checking *c, const Check *check, const char *program, Err *e)
{
    Text bytes = {0}, none = {0};
    size_t at;
    if (!encoding_write(c->text, &c->file->encoding, &bytes, &at, e))
        return false;
    bool ok = check_place_make(&c->place, check, c->file->path, bytes, program, e);
    c->job = mem_get(sizeof *c->job);
    ok = ok && job_start_program(c->job, c->place.words, c->place.folder ? none : bytes, c->file->path, e);
    if (!ok) {
        free(c->job);
        c->job = NULL;
    }
    c->since = sys_now_ms();
    text_drop(&bytes);
    return ok;
}

static void begin_program(struct Checking *c, const Check *check)
{
    Err e = {""};
    char *program = sys_find_program(check->run[0], true);
    if (!program)
        note_trouble(c, check->name, "is not installed");
    else if (!start_program(c, check, program, &e)) {
        note_trouble(c, check->name, e.text);
        end_program(c);
    }
    free(program);
}

/* Takes in problems of the text that was checked. */
static void take_problems(struct Checking *c, Text t, const Problems *found)
{
    for (size_t i = 0; i < found->n; i++) {
        c->problems = array_room(c->problems, c->n, sizeof *c->problems);
        c->problems[c->n++] = checking_place(t, &found->at[i]);
    }
    if (c->n)
        qsort(c->problems, c->n, sizeof *c->problems, by_place);
}

/* All have answered. */
static void conclude(struct Checking *c)
{
    drop_problems(c);
    take_problems(c, c->text, &c->found);
    c->checked = c->followed = c->version + 1;
    c->by_programs = c->programs;
    if (c->for_root.len)
        note_trouble(c, bytes_str(&c->for_root), "works for root only");
    end_all(c);
    follow(c);
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
           (program || check->part || check->fields) && !is_off(c->session, check->name) &&
           check_fits(check, c->file->path, head, n);
}

/* Begins the next one, until all are done. */
static void begin_next(struct Checking *c)
{
    while (!c->side && !c->job && c->next < c->n_checks) {
        const Check *check = &c->checks[c->next++];
        if (!is_wanted(c, check))
            continue;
        if (check->as_root && geteuid() != 0)
            bytes_printf(&c->for_root, "%s%s", c->for_root.len ? ", " : "", check->name);
        else if (check->run)
            begin_program(c, check);
        else
            begin_side(c, check);
    }
    if (!c->side && !c->job)
        conclude(c);
}

static void take_found(Problems *to, Problems *from)
{
    for (size_t i = 0; i < from->n; i++) {
        to->checker = from->at[i].checker;
        Problem *p = problems_add(to, from->at[i].line, from->at[i].column, "%s", from->at[i].words);
        if (p && from->at[i].about)
            p->about = mem_string(from->at[i].about);
    }
}

static void side_ended(struct Checking *c)
{
    const Check *check = c->side->check;
    take_found(&c->found, &c->side->found);
    end_side(c);
    note_answer(c, check);
    begin_next(c);
}

/* NULL, or why what the program said is no answer. */
static const char *take_answer(struct Checking *c, const Check *check, const Bytes *said, Problems *elsewhere)
{
    const char *file = c->file->path ? c->file->path : c->place.copy;
    size_t before = c->found.n;
    check_read_output(check, bytes_str(said), said->len, file, &c->found, elsewhere);
    if (check->knows) {
        Bytes text = {0};
        text_bytes(c->text, 0, text_len(c->text), &text);
        bool read = check_unknown(check, bytes_str(said), said->len, bytes_str(&text), text.len, &c->found);
        bytes_free(&text);
        return read ? NULL : "is not installed";
    }
    if (c->found.n > before)
        return NULL;
    return c->job->status == 127                                      ? "could not be run"
           : elsewhere->n                                             ? elsewhere->at[0].words
           : !check_has_read(check, bytes_str(said), said->len, file) ? "does not read this file"
                                                                      : NULL;
}

static void program_ended(struct Checking *c)
{
    const Check *check = &c->checks[c->next - 1];
    Bytes said = {0};
    Problems elsewhere = {0};
    check_place_translate(&c->place, &c->job->said, &said);
    check_place_translate(&c->place, &c->job->output, &said);
    const char *why = take_answer(c, check, &said, &elsewhere);
    if (why)
        note_trouble(c, check->name, why);
    else
        note_answer(c, check);
    problems_free(&elsewhere);
    bytes_free(&said);
    end_program(c);
    begin_next(c);
}

/* Goes on without the answer of the program that is asked. */
static void give_up(struct Checking *c, const char *why)
{
    if (!c->job)
        return;
    note_trouble(c, c->checks[c->next - 1].name, why);
    end_program(c);
    begin_next(c);
}

static void poll_checking(void *ctx)
{
    struct Checking *c = ctx;
    if (c->side && side_thread_ended(c->side->thread)) {
        side_ended(c);
    } else if (c->job && job_poll(c->job)) {
        program_ended(c);
    } else if (c->job && sys_now_ms() - c->since > 1000ull * c->session->rules.check_seconds) {
        char words[60];
        snprintf(words, sizeof words, "did not answer within %u s", c->session->rules.check_seconds);
        give_up(c, words);
    }
}

/* A person does not want to wait for the program that is asked. */
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
    return ((const struct Checking *)ctx)->job ? LOOK : -1;
}

static size_t fds_of_checking(const void *ctx, struct pollfd *out)
{
    const struct Checking *c = ctx;
    if (c->job)
        return job_fds(c->job, out);
    *out = (struct pollfd){.fd = c->side ? side_thread_fd(c->side->thread) : -1, .events = POLLIN};
    return c->side != NULL;
}

/* By itself, and with programs, which can be stopped. */
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
    if (is_off(s, "all") || is_off(s, f->kind->name))
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

static bool begin(Session *s, OpenFile *f, bool programs, bool root_only)
{
    struct Checking *c = f->check;
    size_t n;
    const Check *checks = checks_for(s, f, &n);
    if (c)
        end_all(c);
    if (!checking_is_possible(s, f, programs))
        return false;
    if (!c)
        c = f->check = mem_get(sizeof *c);
    c->session = s;
    c->file = f;
    c->programs = programs;
    c->root_only = root_only;
    c->checks = checks;
    c->n_checks = n;
    c->next = 0;
    c->text = text_keep(doc_text(f->doc));
    c->version = doc_version(f->doc);
    bytes_clear(&c->by);
    bytes_clear(&c->trouble);
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
    return c && c->checked == doc_version(f->doc) + 1 && (!programs || c->by_programs);
}

unsigned long checking_version(const OpenFile *f)
{
    return !f->check ? 0 : f->check->going ? f->check->version + 1 : f->check->checked;
}

const FileProblem *checking_problems(OpenFile *f, size_t *n)
{
    *n = 0;
    if (!f->check)
        return NULL;
    follow(f->check);
    *n = f->check->n;
    return f->check->problems;
}

const FileProblem *checking_problem_in(OpenFile *f, size_t from, size_t to)
{
    size_t n;
    const FileProblem *all = checking_problems(f, &n);
    for (size_t i = 0; i < n && all[i].from <= to; i++)
        if (all[i].to >= from)
            return &all[i];
    return NULL;
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

void checking_add(OpenFile *f, const Problems *found, const char *by, const char *trouble)
{
    struct Checking *c = f->check;
    if (!checking_is_current(f, true))
        return;
    bytes_clear(&c->for_root);
    bytes_clear(&c->trouble);
    bytes_add_str(&c->trouble, trouble);
    bytes_printf(&c->by, "%s%s", c->by.len && *by ? ", " : "", by);
    take_problems(c, doc_text(f->doc), found);
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
    checking_stop(s, f);
    drop_problems(c);
    free(c->problems);
    bytes_free(&c->by);
    bytes_free(&c->trouble);
    bytes_free(&c->for_root);
    free(c);
    f->check = NULL;
}

#include "session/check_work.h"

#include "base/mem.h"
#include "base/programs.h"
#include "base/side_thread.h"
#include "base/system.h"
#include "files/job.h"
#include "files/filesystem.h"
#include "session/check_place.h"
#include "session/check_there.h"

#include <stdatomic.h>
#include <stdlib.h>
#include <string.h>

enum { OUTPUT_MOST = 4 << 20 /* bytes of what a program says; nobody reads more */, SECONDS_MOST = 60 };

/* Of a thread. A part of the program is one; a program has two, before and after it runs. */
typedef enum Step { STEP_PART, STEP_PLACE, STEP_READ } Step;

/* What the thread works on. While there is one, nobody else touches it but `stop`; and nothing but the main
 * thread keeps or drops a text. */
typedef struct Load {
    const Check *check;
    Text text;
    char *path, *program;
    atomic_bool stop;
    Step step;
    bool ok, there; /* there: on another machine */
    Text bytes;     /* of a program: the text as it would be saved */
    CheckPlace place;
    CheckSaid said;
    CheckResult result;
} Load;

struct CheckWork {
    Load *load;
    SideThread *thread; /* NULL: none is at work */
    Job job;
    bool runs;
    uint64_t since;
    CheckWork *next; /* of those that were given up */
};

static CheckWork *given_up;

static bool is_stopped(void *ctx)
{
    return atomic_load(&((Load *)ctx)->stop);
}

static void free_work(CheckWork *w)
{
    Load *l = w->load;
    if (w->thread)
        side_thread_end(w->thread);
    check_place_remove(&l->place);
    check_result_free(&l->result);
    text_drop(&l->text);
    text_drop(&l->bytes);
    free(l->path);
    free(l->program);
    free(l);
    free(w);
}

/* Frees those given up whose threads have ended. */
static void sweep(void)
{
    for (CheckWork **p = &given_up; *p;) {
        CheckWork *w = *p;
        if (side_thread_ended(w->thread)) {
            *p = w->next;
            free_work(w);
        } else {
            p = &w->next;
        }
    }
}

void check_result_free(CheckResult *r)
{
    problems_free(&r->found);
    bytes_free(&r->said);
}

/* ---- on the thread ---- */

static void run_part(Load *l)
{
    Bytes bytes = {0};
    Stop stop = {is_stopped, l};
    text_bytes(l->text, 0, text_len(l->text), &bytes);
    l->result.found.checker = l->check->name;
    if (l->check->fields)
        fields_check(bytes_str(&bytes), bytes.len, l->check->fields, !l->there, stop, &l->result.found);
    else if (l->check->settings)
        key_values_check(bytes_str(&bytes), bytes.len, l->check->settings, !l->there, stop, &l->result.found);
    else
        l->check->part(bytes_str(&bytes), bytes.len, stop, &l->result.found);
    l->result.verdict = problems_wrong(&l->result.found) ? VERDICT_WRONG : VERDICT_RIGHT;
    bytes_free(&bytes);
}

static bool make_place(Load *l)
{
    return check_place_make(&l->place, l->check, l->path, l->bytes, l->program, (Stop){is_stopped, l},
                            &l->result.why);
}

static void read_answer(Load *l)
{
    Bytes text = {0};
    CheckResult *r = &l->result;
    CheckSaid said = l->said;
    text_bytes(l->text, 0, text_len(l->text), &text);
    said.bytes = bytes_str(&r->said);
    said.n = r->said.len;
    r->verdict = check_judge(l->check, &said, bytes_str(&text), text.len, l->path ? l->path : l->place.copy,
                             &r->found, &r->why);
    bytes_free(&text);
}

static void work(void *ctx)
{
    Load *l = ctx;
    if (l->step == STEP_PART)
        run_part(l);
    else if (l->step == STEP_PLACE)
        l->ok = make_place(l);
    else
        read_answer(l);
}

/* ---- on the main thread ---- */

static bool begin_step(CheckWork *w, Step step)
{
    w->load->step = step;
    w->thread = side_thread_begin(work, w->load);
    return w->thread != NULL;
}

/* The program runs there; what it gets is the text. */
static bool start_there(CheckWork *w, const char *there, Err *e)
{
    Load *l = w->load;
    Bytes line = {0};
    check_there_script(l->check, l->path, l->bytes, &line);
    char **words = filesystem_of(there)->shell(there, line.at, e);
    bytes_free(&line);
    if (!words)
        return false;
    l->there = true;
    w->runs = job_start_program(
        &w->job, &(JobSpec){.words = words, .input = l->bytes, .path = l->path, .output_most = OUTPUT_MOST},
        e);
    for (char **word = words; *word; word++)
        free(*word);
    free(words);
    return w->runs;
}

static CheckWork *new_work(const Check *check, Text t, const char *path, char *program)
{
    sweep();
    CheckWork *w = mem_get(sizeof *w);
    w->load = mem_get(sizeof *w->load);
    w->since = system_now_ms();
    *w->load = (Load){
        .check = check, .text = text_keep(t), .path = path ? mem_string(path) : NULL, .program = program};
    return w;
}

static CheckWork *begin_there(const Check *check, Text t, const char *path, const char *there,
                              const Encoding *as, Err *e)
{
    const char *why;
    size_t at;
    if (!filesystem_of(there)->shell || !check_there_can(check, &why)) {
        err_set(e, "%s", filesystem_of(there)->shell ? why : "cannot be asked there");
        return NULL;
    }
    CheckWork *w = new_work(check, t, path, NULL);
    if (encoding_write(t, as, &w->load->bytes, &at, e) && start_there(w, there, e))
        return w;
    free_work(w);
    return NULL;
}

CheckWork *check_work_begin(const Check *check, Text t, const char *path, const char *there,
                            const Encoding *as, Err *e)
{
    if (there && check->run)
        return begin_there(check, t, path, there, as, e);

    char *program = check->run ? programs_find(check->run[0], true) : NULL;
    if (check->run && !program) {
        err_set(e, "is not installed");
        return NULL;
    }
    if (check->loads && !fence_is_possible()) {
        free(program);
        err_set(e, "is not asked: this system cannot keep it from running what the text names");
        return NULL;
    }
    CheckWork *w = new_work(check, t, path, program);
    w->load->there = there != NULL;
    size_t at;
    bool ok = !check->run || encoding_write(t, as, &w->load->bytes, &at, e);
    if (ok && begin_step(w, check->run ? STEP_PLACE : STEP_PART))
        return w;
    if (ok)
        err_set(e, "could not be begun");
    free_work(w);
    return NULL;
}

static bool start_program(CheckWork *w)
{
    Load *l = w->load;
    JobSpec spec = {.words = l->place.words,
                    .path = l->path,
                    .folder = l->place.folder,
                    .english = true,
                    .output_most = OUTPUT_MOST};
    if (!l->place.copy)
        spec.input = l->bytes;
    Fence fence = {.program = l->program,
                   .folder = l->place.folder,
                   .powers = l->check->as_root,
                   .writes = l->check->free,
                   .binds = l->check->binds,
                   .seconds = SECONDS_MOST,
                   .rules = -1};
    /* What only gives a list of words never sees the text, and may be many programs. */
    if (!l->check->knows && fence_is_possible()) {
        if (!fence_make(&fence))
            return err_set(&l->result.why, "could not be fenced in");
        spec.fence = &fence;
    }
    w->runs = job_start_program(&w->job, &spec, &l->result.why);
    fence_free(&fence);
    return w->runs;
}

static void take_said(CheckWork *w)
{
    Load *l = w->load;
    l->said = (CheckSaid){.status = w->job.status, .signal = w->job.signal, .too_much = w->job.too_much};
    const Bytes *all[] = {&w->job.said, &w->job.output};
    Bytes both = {0};
    for (size_t i = 0; i < 2; i++)
        if (l->there)
            bytes_add(&both, bytes_str(all[i]), all[i]->len);
        else
            check_place_translate(&l->place, all[i], &l->result.said);
    if (l->there)
        l->ok = check_there_translate(l->path, &both, &l->result.said);
    bytes_free(&both);
    job_free(&w->job);
    w->runs = false;
}

/* The shell or ssh says so by its status. What that program said itself is kept, to be read. */
static bool not_asked_there(Load *l)
{
    int status = l->said.status;
    l->result.verdict = VERDICT_NONE;
    if (status == THERE_NOT_INSTALLED)
        return !err_set(&l->result.why, "is not installed there");
    if (status == THERE_NOT_POSSIBLE)
        return !err_set(&l->result.why, "has no copy there that it could look at");
    if (!l->ok)
        return !err_set(&l->result.why, "could not be asked there: %.*s",
                        (int)strcspn(bytes_str(&l->result.said), "\n"), bytes_str(&l->result.said));
    return false;
}

/* True: it has ended. */
static bool go_on(CheckWork *w)
{
    Load *l = w->load;
    if (w->runs) {
        if (!job_poll(&w->job))
            return false;
        take_said(w);
        if (l->there && not_asked_there(l))
            return true;
        l->result.verdict = VERDICT_UNSURE; /* unless it is read */
        err_set(&l->result.why, "gave an answer that could not be read now");
        return !begin_step(w, STEP_READ);
    }
    if (!side_thread_ended(w->thread))
        return false;
    side_thread_end(w->thread);
    w->thread = NULL;
    if (l->step != STEP_PLACE)
        return true;
    l->result.verdict = VERDICT_NONE;
    return !l->ok || !start_program(w);
}

bool check_work_poll(CheckWork *w, CheckResult *r)
{
    if (!go_on(w))
        return false;
    *r = w->load->result;
    w->load->result = (CheckResult){0};
    return true;
}

size_t check_work_fds(const CheckWork *w, struct pollfd *out)
{
    if (w->runs)
        return job_fds(&w->job, out);
    *out = (struct pollfd){.fd = w->thread ? side_thread_fd(w->thread) : -1, .events = POLLIN};
    return w->thread != NULL;
}

unsigned check_work_age(const CheckWork *w)
{
    return (unsigned)(system_now_ms() - w->since);
}

void check_work_end(CheckWork *w)
{
    if (w->runs)
        job_free(&w->job);
    w->runs = false;
    atomic_store(&w->load->stop, true);
    if (w->thread) {
        w->next = given_up;
        given_up = w;
        sweep();
    } else {
        free_work(w);
    }
}

bool check_works_settle(unsigned most)
{
    uint64_t end = system_now_ms() + most;
    sweep();
    while (given_up && system_now_ms() < end) {
        poll(&(struct pollfd){.fd = side_thread_fd(given_up->thread), .events = POLLIN}, 1, 10);
        sweep();
    }
    return !given_up;
}

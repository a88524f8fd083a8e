#include "ui/program.h"

#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"

#include <stdlib.h>

typedef struct Program {
    Layer layer;
    Editor *ed;
    JobTask run;
    ProgramSpec spec;
    char *name;
    bool alone; /* without a screen, so it is no layer */
    bool ended;
} Program;

/* Something lies over it, such as help: then its result waits. */
static bool is_covered(const void *ctx)
{
    const Program *p = ctx;
    return !p->alone && p->ed->layer != &p->layer;
}

static void free_program(Editor *ed, Layer *l)
{
    Program *p = (Program *)l;
    if (!p->ended && p->spec.dropped)
        p->spec.dropped(ed, p->spec.ctx);
    job_task_free(&p->run);
    free(p->name);
}

static void ended(void *ctx, JobEnd how)
{
    Program *p = ctx;
    Editor *ed = p->ed;
    p->ended = true;
    if (!p->alone)
        layers_take(ed, &p->layer);
    if (how == JOB_TOO_SLOW)
        warn(ed, "“%s” took more than %u s (setting command_seconds) and was stopped%s", p->name,
             p->run.seconds, job_leaves(&p->run.job) ? ", but something it began goes on" : "");
    p->spec.ended(ed, &p->run.job, how, p->spec.ctx);
    free_program(ed, &p->layer);
    free(p);
}

static bool key(Editor *ed, Layer *l, const Input *in)
{
    (void)in;
    say(ed, "The %s is still running; Esc stops it", ((Program *)l)->spec.what);
    return true;
}

static void paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)bytes, (void)n;
    key(ed, l, NULL);
}

static void paint(Editor *ed, Layer *l, Frame *f)
{
    const Program *p = (const Program *)l;
    char size[WORDS_MAX];
    Bytes words = {0};
    words_size(p->run.job.output.len, size);
    bytes_printf(&words, "Running “%s”: %llu s, %s", p->name,
                 (unsigned long long)(system_now_ms() - p->run.since) / 1000, size);
    if (!ed->notices.text[0]) {
        frame_blank(f, f->status_row, 0, f->cols, ST_STATUS);
        frame_text(f, f->status_row, 1, f->cols, ST_MESSAGE, words.at);
    }
    bytes_free(&words);
}

static size_t hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    out[0] = (Hint){"Esc", "Stop it", true};
    return 1;
}

/* Backed out of; the layer is freed after this. */
static void cancel(Editor *ed, Layer *l)
{
    Program *p = (Program *)l;
    job_stop(&p->run.job);
    p->ended = true;
    p->spec.ended(ed, &p->run.job, JOB_STOPPED, p->spec.ctx);
}

static void topic(Editor *ed, Layer *l, Bytes *out)
{
    (void)ed;
    bytes_add_str(out, ((Program *)l)->spec.help);
}

static const LayerKind kind = {
    .topic = topic,
    .works = true,
    .key = key,
    .paste = paste,
    .paint = paint,
    .hints = hints,
    .cancel = cancel,
    .free = free_program,
};

void program_wait_for(Editor *ed, Job job, const ProgramSpec *spec)
{
    Program *p = mem_get(sizeof *p);
    p->layer.kind = &kind;
    p->ed = ed;
    p->run.job = job;
    p->spec = *spec;
    p->name = mem_string(spec->name);
    p->alone = ed->session->rules.batch;
    job_task_begin(&p->run, &ed->session->tasks, (unsigned)ed->config.settings.command_seconds, NULL,
                   is_covered, ended, p);
    if (p->alone)
        job_task_wait(&p->run, 0, ed->stop);
    else
        layers_push(ed, &p->layer);
}

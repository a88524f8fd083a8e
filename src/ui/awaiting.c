#include "ui/awaiting.h"

#include "base/mem.h"
#include "base/stop.h"
#include "files/location.h"
#include "session/session_run.h"

#include <stdlib.h>

typedef struct Awaiting {
    Layer layer;
    Editor *ed;
    Errand *errand;
    AwaitedDone done;
    void *ctx;
    void (*free_ctx)(void *ctx);
} Awaiting;

static void free_awaiting(Editor *ed, Layer *l)
{
    (void)ed;
    Awaiting *a = (Awaiting *)l;
    errand_free(a->errand);
    if (a->free_ctx)
        a->free_ctx(a->ctx);
}

static void told(void *ctx)
{
    Awaiting *a = ctx;
    layers_take(a->ed, &a->layer);
    a->done(a->ed, a->errand, a->ctx);
    free_awaiting(a->ed, &a->layer);
    free(a);
}

static bool key(Editor *ed, Layer *l, const Input *in)
{
    (void)l, (void)in;
    say(ed, "This waits for an answer; Esc gives up");
    return true;
}

static void paste(Editor *ed, Layer *l, const char *bytes, size_t n)
{
    (void)bytes, (void)n;
    key(ed, l, NULL);
}

static void paint(Editor *ed, Layer *l, Frame *f)
{
    Bytes words = {0};
    char *place = location_shown(((Awaiting *)l)->errand->path);
    bytes_printf(&words, "Waiting for %s", place);
    if (!ed->notices.text[0]) {
        frame_blank(f, f->status_row, 0, f->cols, ST_STATUS);
        frame_text(f, f->status_row, 1, f->cols, ST_MESSAGE, words.at);
    }
    free(place);
    bytes_free(&words);
}

static size_t hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    out[0] = (Hint){"Esc", "Give up", true};
    return 1;
}

static const LayerKind kind = {
    .works = true,
    .help = "files",
    .key = key,
    .paste = paste,
    .paint = paint,
    .hints = hints,
    .free = free_awaiting,
};

void await_errand(Editor *ed, const Errand *what, AwaitedDone done, void *ctx, void (*free_ctx)(void *ctx))
{
    Awaiting *a = mem_get(sizeof *a);
    *a = (Awaiting){.layer.kind = &kind, .ed = ed, .done = done, .ctx = ctx, .free_ctx = free_ctx};
    a->errand = errand_begin(what, &ed->session->tasks, told, a);
    if (ed->session->rules.batch) {
        a->errand->told = NULL;
        while (!a->errand->done && !stop_wanted(ed->stop))
            session_pass(ed->session, 250);
    }
    if (!a->errand->done && !ed->session->rules.batch) {
        layers_push(ed, &a->layer);
        return;
    }
    if (a->errand->done)
        done(ed, a->errand, ctx);
    free_awaiting(ed, &a->layer);
    free(a);
}

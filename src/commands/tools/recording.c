#include "commands/tools/recording.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/tools/kept.h"
#include "commands/tools/playing.h"
#include "ui/command.h"
#include "ui/question.h"

#include <stdlib.h>
#include <string.h>

typedef struct Recorder {
    Recorded now, last;
    bool full;         /* nothing more is taken in */
    bool mouse_said;   /* that it is not recorded */
    bool after_esc;    /* the last key was Esc */
    uint64_t last_key; /* ms */
    size_t plain;      /* how many steps there were when nothing lay over the text last */
} Recorder;

static void run_kept(Editor *ed, const Args *args)
{
    const Kept *k = (const Kept *)ed->running.now;
    playing_start(ed, &k->what, k->name, PLAY_TIMES, args->count);
}

void recording_begin(Editor *ed)
{
    ed->recorder = mem_get(sizeof *ed->recorder);
    kept_begin(ed, run_kept);
}

void recording_free(Editor *ed)
{
    kept_free(ed);
    recorded_free(&ed->recorder->now);
    recorded_free(&ed->recorder->last);
    free(ed->recorder);
    ed->recorder = NULL;
}

/* ---- taking in ---- */

static bool is_esc(Key k)
{
    return k.code == K_ESC && k.mods == 0;
}

/* With a question on the screen only its answers count, and they by their words. */
static void note_key(Editor *ed, Recorder *r, const Input *in)
{
    const char *answer = question_answer(ed, in->key);
    if (in->takes_back_esc && r->after_esc && r->now.n)
        recorded_cut(&r->now, r->now.n - 1);
    bool pause = layers_esc_pause(ed, ed->clock.now - r->last_key);
    if (pause && r->now.n && (r->after_esc || is_esc(in->key)))
        recorded_add(&r->now, RECORDED_PAUSE, (Key){0}, NULL, 0);
    r->last_key = ed->clock.now;
    r->after_esc = is_esc(in->key);
    if (answer)
        recorded_add(&r->now, RECORDED_ANSWER, (Key){0}, answer, strlen(answer));
    else if (!question_is_asked(ed) || r->after_esc)
        recorded_add(&r->now, RECORDED_KEY, in->key, NULL, 0);
}

/* Keys that come as fast as a paste are one. */
static void note_paste(Recorder *r, const char *bytes, size_t n, bool goes_on)
{
    RecordedStep *last = r->now.n ? &r->now.steps[r->now.n - 1] : NULL;
    r->after_esc = false;
    if (!goes_on || !last || last->kind != RECORDED_PASTE) {
        recorded_add(&r->now, RECORDED_PASTE, (Key){0}, bytes, n);
        return;
    }
    char *all = mem_get(last->n + n + 1);
    memcpy(all, last->bytes, last->n);
    memcpy(all + last->n, bytes, n);
    free(last->bytes);
    last->bytes = all;
    last->n += n;
}

static void note(Editor *ed, const Input *in, bool pasted, bool goes_on)
{
    Recorder *r = ed->recorder;
    if (!ed->layer)
        r->plain = r->now.n;
    if (r->now.n >= RECORDED_MOST && !r->full) {
        r->full = true;
        warn(ed, "More than %d keys are not recorded", RECORDED_MOST);
    }
    if (r->full)
        return;
    if (in->kind == INPUT_PASTE)
        note_paste(r, in->bytes, in->n_bytes, goes_on);
    else if (pasted)
        note_paste(r, in->raw, in->n_raw, goes_on);
    else
        note_key(ed, r, in);
}

void recording_note(Editor *ed, const Input *in, bool pasted, bool goes_on)
{
    if (!ed->layer && !playing_on(ed))
        kept_look(ed);
    if (!ed->recording)
        return;
    if (in->kind == INPUT_KEY || in->kind == INPUT_PASTE) {
        note(ed, in, pasted, goes_on);
    } else if (in->kind == INPUT_MOUSE && in->mouse.action == MOUSE_PRESS && !ed->recorder->mouse_said) {
        ed->recorder->mouse_said = true;
        say(ed, "The mouse is not recorded; keys are");
    }
}

/* ---- the command ---- */

static void stop(Editor *ed)
{
    Recorder *r = ed->recorder;
    ed->recording = false;
    recorded_cut(&r->now, r->plain); /* the keys that led here are no part of it */
    if (r->now.n == 0) {
        say(ed, "Nothing was recorded");
        return;
    }
    recorded_free(&r->last);
    r->last = r->now;
    r->now = (Recorded){0};
    say(ed, "Recorded %s; %s plays them, %s keeps them", AMOUNT(r->last.n, "key"), KEY_FOR(ed, "play-keys"),
        KEY_FOR(ed, "recordings"));
}

static void run_record(Editor *ed, const Args *args)
{
    (void)args;
    Recorder *r = ed->recorder;
    if (playing_on(ed)) {
        decline(ed, "Keys that are played are not recorded");
        return;
    }
    if (ed->recording) {
        stop(ed);
        return;
    }
    recorded_free(&r->now);
    r->plain = 0;
    r->full = r->mouse_said = r->after_esc = false;
    ed->recording = true;
    say(ed, "Recording keys; %s stops", KEY_FOR(ed, "record-keys"));
}

static const Command cmd_record_keys = {
    .name = "record-keys",
    .label = "Record keys, or stop",
    .letter = 'o',
    .keys = "F8",
    .help = "Record what you press until you give this command again",
    .words = "repeat automate learn",
    .more = "Keys, pastes, prompts and the answers to questions are recorded; the mouse is not. What is "
            "recorded is played by play-keys.",
    .hint = "Stop recording",
    .run = run_record,
};

const Command *const recording_commands[] = {&cmd_record_keys, NULL};

/* ---- those that there are ---- */

const Recorded *recording_last(const Editor *ed)
{
    return ed->recorder->last.n ? &ed->recorder->last : NULL;
}

const Recorded *recording_find(Editor *ed, const char *name)
{
    const Kept *kept = name ? kept_named(ed, name) : NULL;
    const Recorded *found = kept ? &kept->what : name ? NULL : recording_last(ed);
    if (!name && ed->recording) {
        recorded_cut(&ed->recorder->now, ed->recorder->plain);
        decline(ed, "What is being recorded cannot play itself; those that are kept have names");
        return NULL;
    }
    if (!found && name)
        warn(ed, "No recording is kept as “%.60s”", name);
    else if (!found)
        decline(ed, "Nothing was recorded yet; %s begins", KEY_FOR(ed, "record-keys"));
    return found;
}

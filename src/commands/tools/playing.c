#include "commands/tools/playing.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/search/search.h"
#include "edit/move.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/session_run.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    DEEP = 10,      /* that many recordings may play each other */
    MOST = 1000000, /* times, for what nothing else ends */
    ESC_LOOK = 20,  /* ms between looks at the keyboard */
    SAY_AFTER = 300 /* ms after which it is said that it goes on */
};

/* A file that is open while keys are played, and where its history stood before. */
typedef struct Touched {
    FileId file;
    DocSpot spot;
} Touched;

/* Keys that are played; those that play others wait below. */
typedef struct Play {
    Recorded what;
    char *name; /* or NULL */
    PlayHow how;
    unsigned times, done;
    size_t step;
    /* the marked lines: the start of the next one, and the end of the last */
    FileId lines;
    Anchor next, end;
    bool last_line;
    /* before this time: whether anything changed is asked after it */
    FileId file;
    unsigned long version;
    size_t cursor;
} Play;

typedef struct Player {
    Play plays[DEEP];
    size_t n;
    Touched *touched;
    size_t n_touched;
    FileId seen_file; /* the newest file that was looked at */
    uint64_t since, looked;
    bool strict; /* as the session had it */
} Player;

/* ---- the files, and their histories ---- */

static void touch_files(Editor *ed)
{
    Player *p = ed->player;
    if (p->seen_file == ed->session->last_file && p->n_touched)
        return;
    p->seen_file = ed->session->last_file;
    for (size_t i = 0; i < ed->session->n_files; i++) {
        OpenFile *f = ed->session->files[i];
        size_t k = 0;
        while (k < p->n_touched && p->touched[k].file != f->id)
            k++;
        if (k < p->n_touched)
            continue;
        doc_seal(f->doc);
        p->touched = array_room(p->touched, p->n_touched, sizeof *p->touched);
        p->touched[p->n_touched++] = (Touched){f->id, doc_spot(f->doc)};
    }
}

static void fold_files(Editor *ed)
{
    const Player *p = ed->player;
    for (size_t i = 0; i < p->n_touched; i++) {
        OpenFile *f = session_file(ed->session, p->touched[i].file);
        if (f)
            doc_fold(f->doc, p->touched[i].spot, "Play keys");
    }
}

static void drop_lines(Editor *ed, Play *play)
{
    OpenFile *f = play->lines ? session_file(ed->session, play->lines) : NULL;
    if (f) {
        doc_remove_anchor(f->doc, &play->next);
        doc_remove_anchor(f->doc, &play->end);
    }
    play->lines = 0;
}

static void closing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    for (size_t i = 0; i < ed->player->n; i++)
        if (ed->player->plays[i].lines == f->id) {
            drop_lines(ed, &ed->player->plays[i]);
            ed->player->plays[i].last_line = true;
        }
}

void playing_begin(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .closing = closing};
    ed->player = mem_get(sizeof *ed->player);
    session_observe(ed->session, &events);
}

static void pop(Editor *ed)
{
    Play *play = &ed->player->plays[--ed->player->n];
    drop_lines(ed, play);
    recorded_free(&play->what);
    free(play->name);
    *play = (Play){0};
}

/* All that is played ends here. */
static void end_all(Editor *ed)
{
    Player *p = ed->player;
    fold_files(ed);
    while (p->n)
        pop(ed);
    free(p->touched);
    p->touched = NULL;
    p->n_touched = 0;
    ed->session->rules.strict = p->strict;
    ed->matches.unseen = false;
    layers_no_esc(ed);
}

void playing_stop(Editor *ed)
{
    if (ed->player->n)
        end_all(ed);
}

void playing_free(Editor *ed)
{
    free(ed->player);
    ed->player = NULL;
}

/* ---- words ---- */

static void name_words(const Play *play, Bytes *out)
{
    if (play->name)
        bytes_printf(out, "“%s” ", play->name);
}

static const char *undo_words(const Editor *ed)
{
    return ed->session->rules.batch ? "" : "; undo takes it back";
}

/* All went well; nothing when the keys themselves said what they did. */
static void done_words(const Editor *ed, const Play *play, const char *why, Bytes *out)
{
    bool once = play->how == PLAY_TIMES && play->times == 1;
    if (once && ed->notices.text[0])
        return;
    bytes_add_str(out, "Played ");
    name_words(play, out);
    if (once)
        bytes_add_str(out, play->name ? "once" : "the recorded keys");
    else
        bytes_add_str(out, AMOUNT(play->done, play->how == PLAY_MARKED_LINES ? "line" : "time"));
    bytes_printf(out, "%s%s%s", why ? ": " : "", why ? why : "", undo_words(ed));
}

/* A step could not be done: which, why, and what was done before. */
static void failed_words(const Play *play, size_t step, const char *why, Bytes *out)
{
    Bytes key = {0};
    recorded_words(&play->what.steps[step], &key);
    bytes_add_str(out, "Playing ");
    name_words(play, out);
    bytes_printf(out, "stopped at step %zu of %zu, %s: %s", step + 1, play->what.n, bytes_str(&key), why);
    if (play->done)
        bytes_printf(out, " (after %s)", AMOUNT(play->done, "whole time"));
    bytes_free(&key);
}

/* ---- one step ---- */

typedef enum StepResult { STEP_DONE, STEP_FAILED, STEP_AT_END } StepResult;

static bool give_answer(Editor *ed, const char *words)
{
    if (!question_is_asked(ed))
        decline(ed, "no question is asked here");
    else if (!question_answer_by(ed, words))
        decline(ed, "another question is asked here");
    return !ed->running.declined;
}

/* Files that are opened by it, or are read still, are waited for before the next one. */
static StepResult do_step(Editor *ed, const RecordedStep *s)
{
    Input in = {.kind = INPUT_KEY, .key = s->key};
    notices_clear(&ed->notices);
    ed->notices.warning = ed->running.declined = ed->running.at_end = false;
    switch (s->kind) {
    case RECORDED_KEY:
        if (question_is_asked(ed) && s->key.code != K_ESC)
            decline(ed, "a question is asked that was not asked before");
        else
            ed->press(ed, &in);
        break;
    case RECORDED_PASTE:
        in = (Input){.kind = INPUT_PASTE, .bytes = s->bytes, .n_bytes = s->n};
        ed->press(ed, &in);
        break;
    case RECORDED_ANSWER:
        give_answer(ed, s->bytes);
        break;
    case RECORDED_PAUSE:
        layers_pause(ed);
        break;
    }
    if (s->kind == RECORDED_KEY && s->key.code == K_ESC) /* backing out is no failure */
        return STEP_DONE;
    return ed->running.declined || ed->notices.warning ? STEP_FAILED
           : ed->running.at_end                        ? STEP_AT_END
                                                       : STEP_DONE;
}

/* ---- one time after the other ---- */

static void note_before(Editor *ed, Play *play)
{
    const View *v = ed->panes.view;
    play->file = v->file->id;
    play->version = doc_version(v->file->doc);
    play->cursor = v->cursor.at;
}

static bool text_changed(const Editor *ed, const Play *play)
{
    const OpenFile *f = ed->panes.view->file;
    return play->file != f->id || play->version != doc_version(f->doc);
}

static bool nothing_changed(const Editor *ed, const Play *play)
{
    return !text_changed(ed, play) && play->cursor == ed->panes.view->cursor.at;
}

/* Stands at the beginning of the next marked line; false when there is none. */
static bool go_line(Editor *ed, Play *play)
{
    View *v = ed->panes.view;
    if (play->last_line || v->file->id != play->lines)
        return false;
    Text t = view_text(v);
    size_t at = move_line_start(t, play->next.at), end = move_line_end(t, at);
    if (at > play->end.at)
        return false;
    play->last_line = end == text_len(t);
    view_drop_mark(v);
    view_go(v, at);
    play->next.at = play->last_line ? end : text_line_start(t, text_line_of(t, at) + 1);
    return true;
}

static bool still_works(const Editor *ed, const Play *play)
{
    return play->done == 0 || (play->done < MOST && !nothing_changed(ed, play));
}

/* Before a time: false when that was all. */
static bool next_time(Editor *ed, Play *play)
{
    bool more = play->how == PLAY_MARKED_LINES     ? go_line(ed, play)
                : play->how == PLAY_WHILE_IT_WORKS ? still_works(ed, play)
                                                   : play->done < play->times;
    if (more)
        note_before(ed, play);
    return more;
}

/* The uppermost has ended; what plays it goes on. */
static void end_play(Editor *ed, const char *why)
{
    Player *p = ed->player;
    Bytes words = {0};
    if (p->n > 1) {
        pop(ed);
        return;
    }
    done_words(ed, &p->plays[0], why, &words);
    end_all(ed);
    if (words.len)
        say(ed, "%s", words.at);
    bytes_free(&words);
}

/* A step failed: that ends the plays up to one that goes on for as long as it works. */
static void fail(Editor *ed)
{
    Player *p = ed->player;
    Bytes words = {0};
    char why[sizeof ed->notices.text];
    memcpy(why, ed->notices.text, sizeof why);
    layers_cancel_all(ed);
    while (p->n > 1 && p->plays[p->n - 1].how != PLAY_WHILE_IT_WORKS)
        pop(ed);
    Play *play = &p->plays[p->n - 1];
    if (p->n > 1 || (play->how == PLAY_WHILE_IT_WORKS && play->done)) {
        end_play(ed, why);
        return;
    }
    failed_words(play, play->step - 1, why, &words);
    end_all(ed);
    warn(ed, "%s", bytes_str(&words));
    bytes_free(&words);
}

/* All its steps were done. */
static void end_time(Editor *ed, Play *play)
{
    play->step = 0;
    play->done++;
    if (ed->player->n == 1)
        fold_files(ed);
}

static void step_on(Editor *ed)
{
    Player *p = ed->player;
    Play *play = &p->plays[p->n - 1];
    if (play->step == play->what.n)
        end_time(ed, play);
    if (play->step == 0 && !next_time(ed, play)) {
        end_play(ed, play->done == MOST ? "it is not tried more often" : NULL);
        return;
    }
    touch_files(ed);
    bool repeats = play->how == PLAY_WHILE_IT_WORKS || (play->how == PLAY_TIMES && play->times > 1);
    StepResult r = do_step(ed, &play->what.steps[play->step++]);
    if (p->n == 0) /* it ended meanwhile */
        return;
    if (r == STEP_FAILED) {
        fail(ed);
    } else if (r == STEP_AT_END && repeats) {
        play->done += play->step == play->what.n || text_changed(ed, play);
        const Command *c = ed->running.before;
        end_play(ed, c && c->flags & CMD_ADVANCES ? "that was the last line" : "that was the last match");
    }
}

/* ---- going on ---- */

bool playing_on(const Editor *ed)
{
    return ed->player->n > 0;
}

/* Something goes on that a person would wait for before the next key. */
static bool must_wait(const Editor *ed)
{
    return search_under_way(ed) || (ed->layer && ed->layer->kind->works) || ed->panes.view->file->reading;
}

/* The screen side, or root, has something to do first. */
static bool host_first(const Editor *ed)
{
    const HostRequests *h = &ed->host;
    return h->suspend || h->shell || h->fetch_clip || h->fetching || plan_for_root(ed->session);
}

static void wait_a_moment(Editor *ed)
{
    struct pollfd fds[16];
    size_t n = tasks_fds(&ed->session->tasks, fds, sizeof fds / sizeof *fds);
    int wait = task_sooner(ESC_LOOK, session_wait(ed->session));
    poll(fds, n, wait);
    session_poll(ed->session);
}

/* Did Esc stop it? The keyboard is not looked at for each step. */
static bool stopped(Editor *ed, uint64_t now)
{
    if (now - ed->player->looked < ESC_LOOK)
        return false;
    ed->player->looked = now;
    return stop_wanted(ed->stop);
}

static void say_stopped(Editor *ed)
{
    const Play *play = &ed->player->plays[0];
    unsigned done = play->done;
    layers_cancel_all(ed);
    end_all(ed);
    say(ed, "Playing was stopped after %s%s", AMOUNT(done, "whole time"), undo_words(ed));
}

/* Until only `depth` are left, or the time is over. */
static void go_on(Editor *ed, size_t depth, int ms)
{
    Player *p = ed->player;
    uint64_t end = system_now_ms() + (uint64_t)(ms < 0 ? 0 : ms);
    bool strict = ed->session->rules.strict;
    ed->session->rules.strict = true; /* treat "not found" as failure */
    ed->matches.unseen = true;
    while (p->n > depth) {
        uint64_t now = system_now_ms();
        if (ed->host.leave) {
            end_all(ed);
            return;
        }
        if (stopped(ed, now)) {
            say_stopped(ed);
            return;
        }
        if (host_first(ed) || (ms >= 0 && now >= end))
            break;
        if (must_wait(ed))
            wait_a_moment(ed);
        else
            for (int i = 0; i < 16 && p->n > depth && !must_wait(ed) && !host_first(ed) && !ed->host.leave;
                 i++)
                step_on(ed);
    }
    ed->matches.unseen = false;
    if (p->n == 0)
        return;
    ed->session->rules.strict = strict;
    if (ms >= 0 && system_now_ms() - p->since > SAY_AFTER)
        say(ed, "Playing: %s so far; Esc stops it", AMOUNT(p->plays[0].done, "time"));
}

void playing_go_on(Editor *ed, int ms)
{
    if (playing_on(ed))
        go_on(ed, 0, ms);
}

size_t playing_depth(const Editor *ed)
{
    return ed->player->n;
}

void playing_finish(Editor *ed, size_t depth)
{
    if (ed->player->n > depth)
        go_on(ed, depth, -1);
    if (ed->player->n > depth) { /* the screen side would have to do something first */
        layers_cancel_all(ed);
        end_all(ed);
        warn(ed, "Playing stopped, as what comes next cannot be done here");
    }
}

int playing_wait(const Editor *ed)
{
    return !playing_on(ed) ? -1 : ed->host.fetching ? ESC_LOOK : 0;
}

/* ---- beginning ---- */

static bool begin_lines(Editor *ed, Play *play)
{
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from, to;
    if (!view_marked(v, &from, &to)) {
        decline(ed, "Nothing is marked; mark the lines to play it on");
        return false;
    }
    if (to > from && to == move_line_start(t, to)) /* the last line is not touched */
        to--;
    play->lines = v->file->id;
    doc_add_anchor(v->file->doc, &play->next, move_line_start(t, from), false);
    doc_add_anchor(v->file->doc, &play->end, move_line_end(t, to), false);
    return true;
}

void playing_start(Editor *ed, const Recorded *what, const char *name, PlayHow how, unsigned times)
{
    Player *p = ed->player;
    if (p->n == DEEP) {
        decline(ed, "recordings may play each other %d deep, not deeper", DEEP);
        return;
    }
    if (what->n == 0) {
        decline(ed, "There are no keys in it");
        return;
    }
    Play *play = &p->plays[p->n];
    *play = (Play){.how = how, .times = times};
    if (how == PLAY_MARKED_LINES && !begin_lines(ed, play))
        return;
    recorded_copy(&play->what, what);
    play->name = name ? mem_string(name) : NULL;
    if (p->n++ == 0) {
        p->since = p->looked = system_now_ms();
        p->strict = ed->session->rules.strict;
        p->seen_file = 0;
    }
}

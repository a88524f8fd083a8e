#include "commands/view/hiding_lines.h"

#include "base/letters.h"
#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "edit/move.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/change_marks.h"
#include "view/hiding.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SLICE = 12, /* ms that are looked before keys are heard again */
    STEP = 1 << 20,
    WINDOW = 64 * 1024
};

/* Looking for the lines that are to be shown. */
typedef struct Looking {
    Editor *ed;
    Task task;
    HidingWhat what;
    FileId file;
    Text text;
    unsigned long version;
    size_t at, around; /* so far it was looked; lines to either side that are shown, too */
    Finder *finder;    /* of the editor's matches */
    const Kind *kind;
    bool in_comment; /* over lines */
    ShownLines lines;
    size_t found;
} Looking;

static void free_looking(Looking *l)
{
    tasks_remove(&l->ed->session->tasks, &l->task);
    if (l->ed->hiding == l)
        l->ed->hiding = NULL;
    shown_lines_free(&l->lines);
    text_drop(&l->text);
    free(l);
}

void hiding_lines_end(Editor *ed)
{
    if (ed->hiding)
        free_looking(ed->hiding);
}

static View *view_of(const Looking *l)
{
    View *v = l->ed->panes.view;
    return v->file && v->file->id == l->file ? v : NULL;
}

/* A line of these bytes, without its end, and those around it. */
static void add_whole_line(Looking *l, size_t from, size_t to)
{
    Text t = l->text;
    size_t len = text_len(t);
    l->found++;
    for (size_t i = 0; i < l->around; i++) {
        from = from ? move_line_start(t, from - 1) : 0;
        to = to < len ? move_line_end(t, to + 1 < len ? to + 1 : len) : len;
    }
    shown_lines_add_whole(&l->lines, from, to + 1);
}

static void add_line(Looking *l, size_t from, size_t to)
{
    add_whole_line(l, move_line_start(l->text, from), move_line_end(l->text, to));
}

/* ---- what counts ---- */

static bool begins(const char *line, size_t n, const char *sign)
{
    return sign && n >= strlen(sign) && memcmp(line, sign, strlen(sign)) == 0;
}

static bool has(const char *line, size_t n, const char *sign, size_t *after)
{
    const char *found = memmem(line, n, sign, strlen(sign));
    *after = found ? (size_t)(found - line) + strlen(sign) : 0;
    return found != NULL;
}

/* Does a comment begin behind what stands in the line, and go on in the next? After a blank: else it is a
 * part of a pattern such as "src/ *". */
static bool opens_comment(const Kind *k, const char *line, size_t n)
{
    size_t last = 0, after;
    for (size_t i = 1; k->comment_open && i < n; i++)
        if (letter_is_blank(line[i - 1]) && begins(line + i, n - i, k->comment_open))
            last = i;
    return last && !has(line + last, n - last, k->comment_close, &after);
}

/* Is there more in the line than blanks and comments? */
static bool counts(Looking *l, const char *line, size_t n)
{
    const Kind *k = l->kind;
    size_t i = 0, after;
    if (l->in_comment) {
        if (!has(line, n, k->comment_close, &after))
            return false;
        l->in_comment = false;
        i = after;
    }
    for (;;) {
        while (i < n && (letter_is_blank(line[i]) || line[i] == '\r'))
            i++;
        if (i == n || begins(line + i, n - i, k->comment_sign))
            return false;
        for (KindWords also = k->comment_also; also && *also; also++)
            if (begins(line + i, n - i, *also))
                return false;
        if (!begins(line + i, n - i, k->comment_open)) {
            l->in_comment = opens_comment(k, line, n);
            return true;
        }
        i += strlen(k->comment_open);
        if (!has(line + i, n - i, k->comment_close, &after)) {
            l->in_comment = true;
            return false;
        }
        i += after;
    }
}

static void look_for_what_counts(Looking *l, size_t to)
{
    static char window[WINDOW];
    while (l->at < to) {
        size_t n = text_read(l->text, l->at, window, WINDOW), at = 0;
        bool last = l->at + n >= text_len(l->text);
        while (at < n) {
            const char *stop = memchr(window + at, '\n', n - at);
            size_t end = stop ? (size_t)(stop - window) : n;
            if (!stop && !last && at > 0)
                break;
            if (counts(l, window + at, end - at))
                add_line(l, l->at + at, l->at + at);
            at = stop || last ? end + 1
                              : move_line_end(l->text, l->at) - l->at + 1; /* a line longer than all of it */
        }
        l->at += at;
    }
}

/* ---- matches ---- */

static void look_for_matches(Looking *l, size_t to)
{
    Match m;
    finder_text(l->finder, l->text);
    while (finder_step(l->finder, l->at, to, text_len(l->text), &m) == FOUND) {
        size_t end = move_line_end(l->text, m.to > m.from ? m.to - 1 : m.from);
        add_whole_line(l, move_line_start(l->text, m.from), end);
        l->at = end + 1;
        if (l->at >= to)
            return;
    }
    l->at = to > l->at ? to : l->at;
}

/* ---- all of them ---- */

static void tell(Looking *l, View *v)
{
    static const char *const of[] = {"", "that count", "with a match", "that are changed", "with a problem"};
    size_t lines = view_lines(v);
    say(l->ed, "%zu of %s %s shown; %s shows all", l->found, AMOUNT(lines, "line"), of[l->what],
        l->what == SHOW_WHAT_COUNTS ? KEY_FOR(l->ed, "only-what-counts")
        : l->what == SHOW_MATCHES   ? KEY_FOR(l->ed, "only-matches")
        : l->what == SHOW_CHANGES   ? KEY_FOR(l->ed, "only-changes")
                                    : KEY_FOR(l->ed, "only-problems"));
}

static void conclude(Looking *l)
{
    View *v = view_of(l);
    if (v && l->found) {
        hiding_begin(v, l->what, &l->lines, l->version);
        if (v->hiding)
            tell(l, v);
    } else if (v) {
        say(l->ed, "There is no such line");
    }
    free_looking(l);
}

static void look_on(Looking *l)
{
    size_t len = text_len(l->text);
    uint64_t until = system_now_ms() + SLICE;
    if (l->what == SHOW_MATCHES &&
        l->finder != l->ed->matches.finder) { /* something else is looked for by now */
        free_looking(l);
        return;
    }
    do {
        size_t to = l->at + STEP < len ? l->at + STEP : len;
        if (l->what == SHOW_MATCHES)
            look_for_matches(l, to);
        else
            look_for_what_counts(l, to);
    } while (l->at < len && system_now_ms() < until);
    if (l->at >= len || !view_of(l))
        conclude(l);
}

static void poll_looking(void *ctx)
{
    look_on(ctx);
}

static int wait_looking(const void *ctx)
{
    (void)ctx;
    return 0;
}

static void cancel_looking(void *ctx)
{
    Looking *l = ctx;
    say(l->ed, "All lines stay in sight");
    free_looking(l);
}

static void words_of_looking(const void *ctx, char out[TASK_WORDS_MAX])
{
    const Looking *l = ctx;
    snprintf(out, TASK_WORDS_MAX, "Looking for the lines: %d %%",
             (int)(100 * (double)l->at / ((double)text_len(l->text) + 1)));
}

static const TaskKind looking_task = {
    .poll = poll_looking, .wait = wait_looking, .cancel = cancel_looking, .words = words_of_looking};

static void add_changes(Looking *l)
{
    size_t last = text_newlines(l->text);
    for (size_t line = 0; line <= last; line++)
        if (change_marks_sign(l->ed->panes.view->file, line)) {
            size_t at = text_line_start(l->text, line);
            add_line(l, at, at);
        }
}

static void add_problems(Looking *l)
{
    size_t n, len = text_len(l->text);
    const FileProblem *all = checking_problems(l->ed->panes.view->file, &n);
    for (size_t i = 0; i < n; i++)
        if (all[i].to)
            add_line(l, all[i].from < len ? all[i].from : len, all[i].to < len ? all[i].to : len);
}

/* The same again shows all lines. `around`: a count that was given. */
static void show_only(Editor *ed, HidingWhat what, const Args *args)
{
    View *v = ed->panes.view;
    if (ed->hiding)
        free_looking(ed->hiding);
    if (hiding_what(v) == what && !args->counted) {
        hiding_end(v);
        say(ed, "All lines are shown");
        return;
    }
    if (what == SHOW_MATCHES && !ed->matches.finder) {
        say(ed, "Look for something first: %s", KEY_FOR(ed, "find"));
        return;
    }
    Looking *l = mem_get(sizeof *l);
    *l = (Looking){.ed = ed,
                   .what = what,
                   .file = v->file->id,
                   .text = text_keep(view_text(v)),
                   .version = doc_version(v->file->doc),
                   .around = args->counted ? args->count : 0,
                   .finder = ed->matches.finder,
                   .kind = v->file->kind};
    ed->hiding = l;
    if (what == SHOW_CHANGES || what == SHOW_PROBLEMS) {
        if (what == SHOW_CHANGES)
            add_changes(l);
        else
            add_problems(l);
        conclude(l);
        return;
    }
    tasks_add(&ed->session->tasks, &l->task, &looking_task, l);
    look_on(l);
}

static void run_counts(Editor *ed, const Args *args)
{
    show_only(ed, SHOW_WHAT_COUNTS, args);
}

static const Command cmd_only_what_counts = {
    .name = "only-what-counts",
    .label = "Only the lines that count",
    .letter = 'l',
    .help = "Put comments and blank lines out of sight; again: show all lines",
    .words = "hide fold comments blank",
    .more = "A count before it shows so many lines around each, too. What is hidden is told at the right, "
            "and in the "
            "numbers of lines; what is changed, and the cursor's line, is always in sight.",
    .hint = "All lines",
    .flags = CMD_FILE,
    .run = run_counts,
};

static void run_matches(Editor *ed, const Args *args)
{
    show_only(ed, SHOW_MATCHES, args);
}

static const Command cmd_only_matches = {
    .name = "only-matches",
    .label = "Only lines with a match",
    .letter = 'o',
    .help = "Show only lines with a match of the last search; again: all lines",
    .words = "filter grep hide fold",
    .hint = "All lines",
    .flags = CMD_FILE,
    .run = run_matches,
};

static void run_changes(Editor *ed, const Args *args)
{
    show_only(ed, SHOW_CHANGES, args);
}

static const Command cmd_only_changes = {
    .name = "only-changes",
    .label = "Only changed lines",
    .letter = 'g',
    .help = "Show only lines that differ from the last save; again: all lines",
    .words = "hide fold modified",
    .hint = "All lines",
    .flags = CMD_FILE,
    .run = run_changes,
};

static void run_problems(Editor *ed, const Args *args)
{
    show_only(ed, SHOW_PROBLEMS, args);
}

static const Command cmd_only_problems = {
    .name = "only-problems",
    .label = "Only lines with a problem",
    .letter = 'p',
    .help = "Show only lines that a checker finds wrong; again: all lines",
    .words = "hide fold errors",
    .hint = "All lines",
    .flags = CMD_FILE,
    .run = run_problems,
};

const Command *const hiding_commands[] = {&cmd_only_what_counts, &cmd_only_matches, &cmd_only_changes,
                                          &cmd_only_problems, NULL};

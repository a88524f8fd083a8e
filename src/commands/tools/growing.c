#include "commands/tools/growing.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "commands/edits.h"
#include "edit/series.h"

#include <errno.h>
#include <stdlib.h>

enum { WORD_MOST = 40 /* bytes of a number that is marked */, WIDTH_MOST = 40 };

typedef struct Growing {
    Series last; /* what was put in last, */
    bool fresh;  /* or what is to be put in first */
} Growing;

void growing_begin(Editor *ed)
{
    ed->growing = mem_get(sizeof *ed->growing);
    *ed->growing = (Growing){.last = {.value = 1, .step = 1}, .fresh = true};
}

void growing_free(Editor *ed)
{
    free(ed->growing);
    ed->growing = NULL;
}

static void say_next(Editor *ed, Series next, bool step)
{
    Bytes words = {0};
    if (step && !series_step(&next)) {
        say(ed, "There is nothing after that");
        return;
    }
    series_write(&next, &words);
    say(ed, "The next one is %s", bytes_str(&words));
    bytes_free(&words);
}

/* A whole number among the words of the command; *wrong: there is a word that is none. */
static bool take_number(const char **line, long long least, long long most, long long *to, bool *wrong)
{
    Bytes word = {0};
    char *end;
    if (!arguments_word(line, &word))
        return false;
    errno = 0;
    long long n = strtoll(bytes_str(&word), &end, 10);
    *wrong = *wrong || end == word.at || *end || errno || n < least || n > most;
    *to = n;
    bytes_free(&word);
    return true;
}

/* START [STEP [WIDTH]] */
static void begin_at(Editor *ed, const char *line)
{
    Series s;
    Bytes start = {0};
    long long step = 1, width = 0, ignored;
    bool wrong = !arguments_word(&line, &start) || !series_begin(bytes_str(&start), start.len, &s);
    bool surplus = false;
    bytes_free(&start);
    if (wrong) {
        warn(ed, "That is a number, letters, or a date such as 2026-11-27, to begin with");
        return;
    }
    if (take_number(&line, -1000000000, 1000000000, &step, &wrong) &&
        take_number(&line, 1, WIDTH_MOST, &width, &wrong) && take_number(&line, 0, 0, &ignored, &surplus))
        wrong = true;
    if (wrong || step == 0 || (width && s.kind != SERIES_NUMBERS)) {
        warn(ed, "After it you may give a step other than 0 and, for numbers, how many digits there are");
        return;
    }
    s.step = step;
    s.width = width ? (unsigned)width : s.width;
    *ed->growing = (Growing){s, true};
    say_next(ed, s, false);
}

/* Counts from what is marked, which stays as it is. */
static bool begin_at_mark(Editor *ed)
{
    View *v = ed->panes.view;
    Series s;
    size_t from, to;
    if (!view_marked(v, &from, &to) || to - from > WORD_MOST)
        return false;
    char *marked = text_string(view_text(v), from, to);
    bool ok = series_begin(marked, to - from, &s) &&
              (s.kind != SERIES_LETTERS || ed->growing->last.kind == SERIES_LETTERS); /* a word is none */
    free(marked);
    if (!ok)
        return false;
    s.step = ed->growing->last.step;
    *ed->growing = (Growing){s, false};
    view_drop_mark(v);
    view_go(v, to);
    say_next(ed, s, true);
    return true;
}

static void run_growing(Editor *ed, const Args *args)
{
    Growing *g = ed->growing;
    Growing before = *g;
    Bytes text = {0};
    if (*args->text) {
        begin_at(ed, args->text);
        return;
    }
    if (begin_at_mark(ed) || !edit_allowed(ed))
        return;
    if (!g->fresh && !series_step(&g->last)) {
        warn(ed, "There is nothing after the last one; give a number to begin with after the command's name");
        return;
    }
    g->fresh = false;
    series_write(&g->last, &text);
    Doc *doc = ed->panes.view->file->doc;
    doc_begin(doc);
    edit_delete_mark(ed);
    if (!edit_replace(ed, ed->panes.view->cursor.at, 0, text.at, text.len, STEP_WHOLE))
        *g = before; /* it was not put in */
    doc_end(doc);
    bytes_free(&text);
}

static const Command cmd_growing_number = {
    .name = "growing-number",
    .label = "Growing number",
    .letter = 'g',
    .help = "Put in the number after the one it put in last",
    .more = "The first is 1. With a number marked it goes on after that. START STEP WIDTH after the name say "
            "where it begins, "
            "by how much it grows and how many digits there are: 007, or 10 5, or 1 1 3. Letters (a, b … z, "
            "aa) and dates "
            "(2026-11-27) grow likewise.",
    .words = "counter increment sequence enumerate count",
    .args = "START STEP WIDTH",
    .flags = CMD_CHANGES | CMD_REPEATS | CMD_EACH,
    .run = run_growing,
};

const Command *const growing_commands[] = {&cmd_growing_number, NULL};

#include "commands/help/lesson.h"

#include "base/mem.h"
#include "commands/help/practice.h"
#include "edit/move.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "ui/command.h"
#include "view/hiding.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A step says what to do and knows by the text's real state whether it is done. */
typedef struct Step {
    const char *title;
    const char *words; /* `keys` in them are marked */
    bool (*done)(Editor *ed);
} Step;

typedef struct Lesson {
    size_t part, step;
    FileId file;   /* the practice text; the lesson ends with it */
    FileId before; /* what was shown when it began */
    /* how things stood when the step began */
    unsigned long version;
    size_t len, cursor, clips;
    bool helped, menu_opened, changed;
} Lesson;

static OpenFile *practice(const Editor *ed)
{
    return session_file(ed->session, ed->lesson->file);
}

static bool holds(Editor *ed, const char *words)
{
    Text t = doc_text(practice(ed)->doc);
    size_t n = text_len(t), len = strlen(words);
    char *all = text_string(t, 0, n);
    bool there = memmem(all, n, words, len) != NULL;
    free(all);
    return there;
}

static size_t count_of(Editor *ed, const char *words)
{
    Text t = doc_text(practice(ed)->doc);
    size_t n = text_len(t), count = 0;
    char *all = text_string(t, 0, n);
    for (char *p = all; (p = memmem(p, n - (size_t)(p - all), words, strlen(words))) != NULL; p++)
        count++;
    free(all);
    return count;
}

static bool typed(Editor *ed)
{
    return text_len(doc_text(practice(ed)->doc)) >= ed->lesson->len + 3;
}

static bool undone(Editor *ed)
{
    return doc_version(practice(ed)->doc) > ed->lesson->version && !doc_changed(practice(ed)->doc);
}

static bool at_brightness(Editor *ed)
{
    Text t = view_text(ed->panes.view);
    char line[16] = "";
    text_read(t, move_line_start(t, ed->panes.view->cursor.at), line, 10);
    return strcmp(line, "brightness") == 0 &&
           ed->panes.view->cursor.at == move_line_end(t, ed->panes.view->cursor.at);
}

static bool brighter(Editor *ed)
{
    return holds(ed, "brightness = 90\n");
}

static bool marked_line(Editor *ed)
{
    size_t from, to;
    return view_marked(ed->panes.view, &from, &to) && to - from >= 10;
}

static bool moved_line(Editor *ed)
{
    return ed->shelf.n > ed->lesson->clips && text_len(doc_text(practice(ed)->doc)) >= ed->lesson->len &&
           doc_version(practice(ed)->doc) > ed->lesson->version + 1;
}

static bool found_berth(Editor *ed)
{
    Text t = view_text(ed->panes.view);
    char word[8] = "";
    text_read(t, ed->panes.view->cursor.at, word, 5);
    return !ed->layer && ed->matches.shown && strcmp(word, "berth") == 0;
}

static bool replaced_all(Editor *ed)
{
    return !ed->layer && count_of(ed, "volume") == 0 && count_of(ed, "loudness") >= 2;
}

static bool saved(Editor *ed)
{
    return !doc_changed(practice(ed)->doc) && ed->lesson->changed;
}

static bool helped(Editor *ed)
{
    return ed->lesson->helped && !layers_covered(ed);
}

static bool out_of_the_mess(Editor *ed)
{
    return ed->lesson->menu_opened && !ed->layer && ed->panes.view->marking == MARK_NONE;
}

/* ---- the second part ---- */

/* Is that the beginning of the cursor's line? */
static bool at_line(Editor *ed, const char *words)
{
    Text t = view_text(ed->panes.view);
    char line[40] = "";
    text_read(t, move_line_start(t, ed->panes.view->cursor.at), line, strlen(words));
    return !ed->layer && strcmp(line, words) == 0;
}

static bool at_network(Editor *ed)
{
    return at_line(ed, "[network]");
}

static bool at_berths(Editor *ed)
{
    return at_line(ed, "[berths]");
}

static bool marked_section(Editor *ed)
{
    size_t from, to;
    return view_marked(ed->panes.view, &from, &to) && to - from >= 60 &&
           text_byte(view_text(ed->panes.view), from) == '[';
}

static bool only_what_counts(Editor *ed)
{
    return hiding_what(ed->panes.view) == SHOW_WHAT_COUNTS && ed->panes.view->marking == MARK_NONE;
}

static bool only_matches(Editor *ed)
{
    return hiding_what(ed->panes.view) == SHOW_MATCHES;
}

static bool all_lines(Editor *ed)
{
    return hiding_what(ed->panes.view) == SHOW_ALL;
}

static bool completed(Editor *ed)
{
    return !ed->layer && count_of(ed, "show_departures") >= 2;
}

static bool renamed(Editor *ed)
{
    return !ed->layer && !ed->panes.view->cursors && count_of(ed, "show_ferries") >= 2;
}

static bool checked(Editor *ed)
{
    return checking_is_current(practice(ed), true);
}

static bool played(Editor *ed)
{
    return !ed->recording && count_of(ed, "\n#") >= 3;
}

static bool aligned(Editor *ed)
{
    return count_of(ed, "dhcp    = ") == 1;
}

static const Step more_steps[] = {
    {"An outline",
     "`Esc` `g` `o` lists the sections of this file. Type netw to narrow the list, then `Enter`.",
     at_network},
    {"From one to the next",
     "`Esc` `g` `d` goes to the next section, `Esc` `g` `h` to the one before. Go on to berths.", at_berths},
    {"A whole section", "`Esc` `m` `d` marks the section that you are in: ready to be cut, copied or moved.",
     marked_section},
    {"Only what counts",
     "`Ctrl+T` drops the mark. Then `Esc` `v` `l` puts comments and blank lines out of sight. They stay in "
     "the file; "
     "at the right you see how many.",
     only_what_counts},
    {"All again", "The same, `Esc` `v` `l`, shows all lines.", all_lines},
    {"Only matches",
     "`Ctrl+F`, night, `Enter`; then `Esc` `v` `o`: only lines with night are left. With `Esc` `1` `v` `o` "
     "one line around each.",
     only_matches},
    {"And all again", "`Esc` `v` `o` once more.", all_lines},
    {"Half a word is enough",
     "On a line of its own type show_d and press `Ctrl+Space`: a word that is there already is put. `Enter` "
     "takes it.",
     completed},
    {"All of them at once",
     "Go to a show_departures. `Esc` `m` `s` takes each place with that word: type show_ferries, it goes to "
     "all. "
     "`Esc` `Esc`: one cursor again.",
     renamed},
    {"Is it right?",
     "`F2` checks the file. Two names alike would be told; `F4` goes from one problem to the next.", checked},
    {"Do it again",
     "Press `F8`, then `Home`, `#`, `Down`; `F8` ends the recording. `F7` plays it, as often as you like. Do "
     "that on three lines.",
     played},
    {"In columns",
     "Go to [network], mark the section with `Esc` `m` `d`; then `Ctrl+P`, align-columns =, `Enter`.",
     aligned},
    {"That was the second part",
     "There is more where you find it: `Ctrl+P` and a word of what you want. `Esc h x` ends the lesson; "
     "`Ctrl+Q` leaves.",
     NULL},
};

static const Step steps[] = {
    {"Just type", "There is no state in which letters do something else. Type a word or two.", typed},
    {"Take it back",
     "`Ctrl+Z` (hold Ctrl, press Z) undoes. Press it until what you typed is gone. `Ctrl+Y` does it again.",
     undone},
    {"Move",
     "The arrow keys move; `End` goes to the end of the line, `Home` to its start. Go to the end of the line "
     "that says "
     "brightness.",
     at_brightness},
    {"Change something", "Delete the 80 with `Backspace` and type 90 in its place.", brighter},
    {"Mark",
     "Hold `Shift` and press `Down` or `End` to mark. Your terminal does not send Shift? `Ctrl+T`, then "
     "move. Mark a line.",
     marked_line},
    {"Cut and paste",
     "`Ctrl+X` cuts what is marked (no mark: the line). Then move somewhere else and put it there with "
     "`Ctrl+V`.",
     moved_line},
    {"Find", "Press `Ctrl+F`, type berth and press `Enter`. `Ctrl+N` goes on to the next match.",
     found_berth},
    {"Replace",
     "`Ctrl+R` replaces. Change volume to loudness: type volume, `Enter`, loudness, `Enter`, then `a` for "
     "all.",
     replaced_all},
    {"Save", "`Ctrl+S` writes the text to its file. The line below says what was written.", saved},
    {"Get help", "`F1` opens help on what you are doing (so does `Esc h h`). `Esc` comes back. Try both.",
     helped},
    {"Out of every mess",
     "`Esc` opens the menus; letters choose. Go into one, then press `Esc` twice, quickly: that ends in "
     "plain text from "
     "anywhere.",
     out_of_the_mess},
    {"Leave",
     "That was all. `Ctrl+Q` leaves; it asks when something is not saved. `Esc h x` ends the lesson; you can "
     "practise on. `Esc h o` is a second part, for another day.",
     NULL},
};

typedef struct LessonPart {
    const Step *steps;
    size_t n;
} LessonPart;

static const LessonPart lesson_parts[] = {{steps, sizeof steps / sizeof *steps},
                                          {more_steps, sizeof more_steps / sizeof *more_steps}};

/* ---- going on ---- */

static void begin_step(Editor *ed)
{
    Lesson *l = ed->lesson;
    Doc *d = practice(ed)->doc;
    l->version = doc_version(d);
    l->len = text_len(doc_text(d));
    l->clips = ed->shelf.n;
    l->helped = l->menu_opened = false;
    l->changed = doc_changed(d);
}

static const Strip lesson_strip;

static void end_lesson(Editor *ed)
{
    free(ed->lesson);
    ed->lesson = NULL;
    ed->strip = NULL;
}

static void start(Editor *ed, size_t part)
{
    Err e = {""};
    Bytes path = {0};
    FileId before = ed->lesson ? ed->lesson->before : ed->panes.view->file ? ed->panes.view->file->id : 0;
    end_lesson(ed);
    bool ok = practice_make(ed->session, &e);
    bytes_printf(&path, "%s/kiosk.ini", ok ? ed->session->practice_folder : "");
    ok = ok && editor_open(ed, path.at, &e);
    bytes_free(&path);
    if (!ok) {
        warn(ed, "%s", e.text);
        return;
    }
    ed->lesson = mem_get(sizeof *ed->lesson);
    ed->lesson->file = ed->panes.view->file->id;
    ed->lesson->before = before;
    ed->lesson->part = part;
    ed->strip = &lesson_strip;
    view_go(ed->panes.view, 0);
    begin_step(ed);
    say(ed, "The lesson works on a practice text; nothing else is touched");
}

void lesson_start(Editor *ed)
{
    start(ed, 0);
}

/* To the next step or back, by hand. */
static void lesson_go(Editor *ed, int by)
{
    Lesson *l = ed->lesson;
    if ((by < 0 && l->step == 0) || (by > 0 && l->step + 1 == lesson_parts[l->part].n))
        return;
    l->step += (size_t)by;
    begin_step(ed);
}

/* `quiet`: something else is being said. */
static void look(Editor *ed, bool quiet)
{
    Lesson *l = ed->lesson;
    if (!l)
        return;
    l->helped = l->helped || layers_covered(ed);
    l->menu_opened = l->menu_opened || (ed->layer && !layers_covered(ed));
    l->changed = l->changed || doc_changed(practice(ed)->doc);
    bool here = ed->panes.view->file == practice(ed) || layers_covered(ed);
    const Step *s = &lesson_parts[l->part].steps[l->step];
    if (!here || !s->done || !s->done(ed))
        return;
    if (!quiet)
        say(ed, "Well done: %s", s->title);
    l->step++;
    begin_step(ed);
}

void lesson_look(Editor *ed)
{
    look(ed, false);
}

/* A check ends without a key. */
static void was_checked(void *ctx, OpenFile *f)
{
    (void)f;
    look(ctx, true);
}

void lesson_free(Editor *ed)
{
    end_lesson(ed);
}

static void closing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    if (ed->lesson && ed->lesson->file == f->id)
        end_lesson(ed);
}

void lesson_observe(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .closing = closing, .checked = was_checked};
    session_observe(ed->session, &events);
}

/* ---- painting ---- */

/* A line with `keys` in their colour; wraps at words. Returns how many rows it takes, of which those before
 * `end` are painted. */
static int put_words(Frame *f, int row, int end, const char *s)
{
    int col = 2, first = row;
    bool key = false;
    while (*s) {
        char word[80];
        size_t n = strcspn(s, " `");
        snprintf(word, sizeof word, "%.*s", (int)n, s);
        if (col > 2 && col + frame_width(f, word) >= f->cols) {
            col = 2;
            row++;
        }
        if (row < end)
            frame_text(f, row, col, f->cols, key ? ST_BOX_KEY : ST_BOX, word);
        col += frame_width(f, word);
        s += n;
        key = *s == '`' ? !key : key;
        col += *s == ' ';
        s += *s != 0;
    }
    return row - first + 1;
}

/* The ways on and out: both, however narrow the screen. */
static const char *lesson_foot(const Frame *f)
{
    return f->cols >= 64 ? "`Esc h n` skip this step   `Esc h b` step before   `Esc h x` stop"
                         : "`Esc h n` skip  `Esc h x` stop";
}

static int lesson_height(const Editor *ed, const Frame *f)
{
    enum { LEAST = 5 };
    const Step *s = &lesson_parts[ed->lesson->part].steps[ed->lesson->step];
    int rows = 2 + put_words((Frame *)f, 0, 0, s->words), room = f->rows - 4;
    rows = rows < LEAST ? LEAST : rows;
    return rows < room ? rows : room > 0 ? room : 0;
}

static void lesson_paint(Editor *ed, Frame *f, int row, int rows)
{
    const Lesson *l = ed->lesson;
    const Step *s = &lesson_parts[l->part].steps[l->step];
    int end = row + rows;
    char title[120];
    for (int r = row; r < end; r++)
        frame_blank(f, r, 0, f->cols, ST_BOX);
    snprintf(title, sizeof title, "%s %zu of %zu: %s", l->part ? "Second part," : "Lesson", l->step + 1,
             lesson_parts[l->part].n, s->title);
    frame_text(f, row++, 1, f->cols, ST_BOX_TITLE, title);
    put_words(f, row, end - 1, s->words);
    put_words(f, end - 1, end, lesson_foot(f));
}

static const Strip lesson_strip = {.height = lesson_height, .paint = lesson_paint};

/* ---- the commands ---- */

static const char *no_lesson(const Editor *ed)
{
    return ed->lesson ? NULL : "The lesson is not going on; squill --lesson or “Lesson” begins it";
}

static void run_lesson(Editor *ed, const Args *args)
{
    (void)args;
    lesson_start(ed);
}

static const Command cmd_lesson = {
    .name = "lesson",
    .label = "Lesson",
    .letter = 'l',
    .help = "Learn by doing, in ten minutes, on practice copies",
    .run = run_lesson,
};

static void run_lesson_more(Editor *ed, const Args *args)
{
    (void)args;
    start(ed, 1);
}

static const Command cmd_lesson_more = {
    .name = "lesson-more",
    .label = "Lesson, second part",
    .letter = 'o',
    .help = "Ten minutes more, for those who know the first part: outline, hidden lines, recordings, columns",
    .run = run_lesson_more,
};

static void run_lesson_next(Editor *ed, const Args *args)
{
    (void)args;
    lesson_go(ed, 1);
}

static const Command cmd_lesson_next = {
    .name = "lesson-next",
    .label = "Lesson: next step",
    .letter = 'n',
    .help = "Skip this step of the lesson",
    .disabled_reason = no_lesson,
    .run = run_lesson_next,
};

static void run_lesson_back(Editor *ed, const Args *args)
{
    (void)args;
    lesson_go(ed, -1);
}

static const Command cmd_lesson_back = {
    .name = "lesson-back",
    .label = "Lesson: step before",
    .letter = 'b',
    .help = "Back to the step before",
    .disabled_reason = no_lesson,
    .run = run_lesson_back,
};

static void run_lesson_stop(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *text = practice(ed), *before = session_file(ed->session, ed->lesson->before);
    end_lesson(ed);
    if (before && before != text && before->purpose == FOR_WORK) { /* back to where one came from */
        editor_show(ed, before);
        session_close(ed->session, text);
    }
    say(ed, "The lesson is over; %s begins it again", KEY_FOR(ed, "lesson"));
}

static const Command cmd_lesson_stop = {
    .name = "lesson-stop",
    .label = "Lesson: stop",
    .letter = 'x',
    .help = "End the lesson, and go back to where you were",
    .disabled_reason = no_lesson,
    .run = run_lesson_stop,
};

const Command *const lesson_commands[] = {
    &cmd_lesson, &cmd_lesson_more, &cmd_lesson_next, &cmd_lesson_back, &cmd_lesson_stop, NULL,
};

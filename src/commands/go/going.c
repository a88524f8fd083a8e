#include "commands/go/going.h"

#include "base/words.h"
#include "edit/move.h"
#include "text/text_line.h"
#include "ui/prompt.h"
#include "view/brackets.h"
#include "view/bookmarks.h"
#include "view/change_marks.h"
#include "view/scroll.h"
#include "view/told.h"
#include "view/wanted.h"

#include <stdlib.h>

static void run_top(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, 0);
}

static const Command cmd_go_top = {
    .name = "go-top",
    .label = "Top of the text",
    .letter = 't',
    .keys = "Ctrl+Home",
    .help = "Go to the start of the text",
    .words = "start beginning first",
    .hint = "Top",
    .flags = CMD_MOVES | CMD_JUMPS,
    .run = run_top,
};

static void run_bottom(Editor *ed, const Args *args)
{
    (void)args;
    wanted_end(&ed->panes);
}

static const Command cmd_go_bottom = {
    .name = "go-bottom",
    .label = "Bottom of the text",
    .letter = 'b',
    .keys = "Ctrl+End",
    .help = "Go to the end of the text",
    .words = "end last",
    .hint = "Bottom",
    .flags = CMD_MOVES | CMD_JUMPS,
    .run = run_bottom,
};

/* To the first letter of the line, and from there (or from within the blanks) to its very start. */
static void run_line_start(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t first = move_past_blanks(view_text(v), v->cursor.at);
    view_go(v, v->cursor.at > first ? first : move_line_start(view_text(v), v->cursor.at));
}

static const Command cmd_go_line_start = {
    .name = "go-line-start",
    .label = "Line start",
    .letter = 'a',
    .keys = "Home Ctrl+A",
    .help = "Go to the first letter of the line; again: to its very start",
    .flags = CMD_MOVES | CMD_EACH,
    .run = run_line_start,
};

static void run_line_end(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->panes.view, move_line_end(view_text(ed->panes.view), ed->panes.view->cursor.at));
}

static const Command cmd_go_line_end = {
    .name = "go-line-end",
    .label = "Line end",
    .letter = 'e',
    .keys = "End Ctrl+E",
    .help = "Go to the end of the line",
    .flags = CMD_MOVES | CMD_EACH,
    .run = run_line_end,
};

/* ---- go to a line ---- */

/* Reads LINE, LINE:COLUMN, +N, -N or 50%; false when it is none of them. */
static bool go_to_words(Editor *ed, const char *s)
{
    View *v = ed->panes.view;
    char sign = *s == '+' || *s == '-' ? *s : 0, *end;
    size_t now = text_line_of(view_text(v), v->cursor.at), lines = view_lines(v), column = 0;
    s += sign != 0;
    if (*s < '0' || *s > '9')
        return false;
    size_t line = strtoul(s, &end, 10);
    if (*end == '%' && !sign) {
        line = line >= 100 ? lines : (size_t)((double)lines * (double)line / 100) + 1;
        line = line > lines ? lines : line;
        end++;
    } else if (*end == ':' && !sign) {
        column = strtoul(end + 1, &end, 10);
    }
    if (*end)
        return false;
    if (sign)
        line = sign == '+' ? now + 1 + line : now + 1 > line ? now + 1 - line : 1;
    if (v->marking == MARK_SHIFT) /* as with every movement without Shift */
        view_drop_mark(v);
    wanted_line(&ed->panes, line ? line - 1 : 0, column ? column - 1 : 0);
    return true;
}

static void line_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    if (*answer && !go_to_words(ed, answer))
        warn(ed, "“%s” is no place: 40, 40:5, +10, -10 and 50%% are", answer);
}

static void run_go_line(Editor *ed, const Args *args)
{
    if (*args->text) {
        line_given(ed, args->text, NULL);
        return;
    }
    if (args->counted) {
        wanted_line(&ed->panes, args->count ? args->count - 1 : 0, 0);
        return;
    }
    PromptSpec p = {.label = "Go to line", .history = "line", .done = line_given};
    prompt_ask(ed, &p);
}

static const Command cmd_go_line = {
    .name = "go-line",
    .label = "Line…",
    .letter = 'l',
    .keys = "Ctrl+G",
    .help = "Go to a line: 40, 40:5 (with a column), +10, -10, 50%",
    .words = "jump number",
    .args = "LINE[:COLUMN]",
    .hint = "Go to line",
    .flags = CMD_JUMPS,
    .run = run_go_line,
};

/* ---- where am I ---- */

enum { ASK_EACH = 8 * 1024 * 1024 /* bytes between two questions whether to stop */ };

/* Words and characters of [from, to); false when the person stopped it. */
static bool tally(Text t, size_t from, size_t to, Stop stop, size_t *words, size_t *chars)
{
    bool inside = false;
    size_t asked = from;
    *words = *chars = 0;
    for (size_t at = from; at < to;) {
        TextRun run = text_run(t, at);
        size_t n = run.len < to - at ? run.len : to - at;
        for (size_t i = 0; i < n; i++) {
            char c = run.at[i];
            bool blank = c == ' ' || c == '\t' || c == '\n' || c == '\r';
            *words += !blank && !inside;
            inside = !blank;
        }
        at += n;
    }
    for (size_t at = from; at < to;) {
        TextRun run = text_run(t, at);
        GlyphSpan most = {to - at, SIZE_MAX, SIZE_MAX}, span = glyph_span(run.at, run.len, most);
        at += span.bytes;
        *chars += span.chars;
        if (at < to) {
            at = move_right(t, at);
            ++*chars;
        }
        if (at > asked + ASK_EACH) {
            asked = at;
            if (stop_wanted(stop))
                return false;
        }
    }
    return true;
}

static void run_where(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t from = 0, to = text_len(t), words, chars;
    bool marked = view_marked(v, &from, &to);
    if (!tally(t, from, to, ed->stop, &words, &chars)) {
        say(ed, "Counting was stopped. The cursor is at byte %zu of %zu.", v->cursor.at, text_len(t));
        return;
    }
    size_t lines = marked ? text_line_of(t, to) - text_line_of(t, from) + 1 : view_lines(v);
    say(ed, "%s: %s, %s, %s, %s. The cursor is at byte %zu.", marked ? "The mark" : "The text",
        AMOUNT(lines, "line"), AMOUNT(words, "word"), AMOUNT(chars, "character"), AMOUNT(to - from, "byte"),
        v->cursor.at);
}

static const Command cmd_where = {
    .name = "where",
    .label = "Where am I",
    .letter = 'w',
    .help = "Lines, words, characters and bytes of the text or the mark",
    .words = "position statistics count words",
    .run = run_where,
};

/* ---- brackets, bookmarks, places ---- */

static void run_matching(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t at = v->cursor.at, partner;
    /* On the sign, or right after it. */
    if (brackets_partner(v, at, &partner) || (at > 0 && brackets_partner(v, at - 1, &partner)))
        view_go(v, partner);
    else
        say(ed, "There is no bracket or quote with a partner at the cursor");
}

static const Command cmd_go_matching = {
    .name = "go-matching",
    .label = "Matching bracket",
    .letter = 'm',
    .help = "Go to the partner of the bracket or quote at the cursor",
    .flags = CMD_MOVES | CMD_JUMPS | CMD_EACH,
    .run = run_matching,
};

static void run_bookmark(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *f = ed->panes.view->file;
    size_t line = text_line_of(doc_text(f->doc), ed->panes.view->cursor.at);
    if (bookmarks_flip(f, line))
        say(ed, "Line %zu is bookmarked", line + 1);
    else
        say(ed, "The bookmark on line %zu is gone", line + 1);
}

static const Command cmd_bookmark = {
    .name = "bookmark",
    .label = "Bookmark here",
    .letter = 'k',
    .help = "Bookmark this line, or take its bookmark away",
    .words = "remember place",
    .flags = CMD_FILE,
    .run = run_bookmark,
};

static void run_next_bookmark(Editor *ed, const Args *args)
{
    (void)args;
    size_t at;
    if (bookmarks_next(ed->panes.view->file, ed->panes.view->cursor.at, &at))
        view_go(ed->panes.view, at);
    else
        say(ed, "There is no bookmark in %s yet", openfile_name(ed->panes.view->file));
}

static const Command cmd_next_bookmark = {
    .name = "next-bookmark",
    .label = "Next bookmark",
    .letter = 'n',
    .help = "Go to the next bookmarked line",
    .flags = CMD_MOVES | CMD_JUMPS,
    .run = run_next_bookmark,
};

static void run_next_change(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t line;
    if (!change_marks_next(v->file, text_line_of(view_text(v), v->cursor.at), &line))
        say(ed, "Nothing differs from the last save");
    else
        view_go_line(v, line, 0);
}

static const Command cmd_next_change = {
    .name = "next-change",
    .label = "Next change",
    .letter = 'c',
    .help = "Go to the next line that differs from the last save",
    .flags = CMD_MOVES | CMD_JUMPS,
    .run = run_next_change,
};

static void run_jump_back(Editor *ed, const Args *args)
{
    (void)args;
    if (!jumps_go(&ed->jumps, false))
        say(ed, "There is no earlier place to go back to");
}

static const Command cmd_jump_back = {
    .name = "jump-back",
    .label = "Jump back",
    .letter = 'j',
    .help = "Go back to where you were before the last jump",
    .flags = CMD_LEAVES,
    .run = run_jump_back,
};

static void run_jump_forward(Editor *ed, const Args *args)
{
    (void)args;
    if (!jumps_go(&ed->jumps, true))
        say(ed, "There is no later place to go forward to");
}

static const Command cmd_jump_forward = {
    .name = "jump-forward",
    .label = "Jump forward",
    .letter = 'f',
    .help = "Go forward again after jumping back",
    .flags = CMD_LEAVES,
    .run = run_jump_forward,
};

static void run_centre(Editor *ed, const Args *args)
{
    (void)args;
    scroll_centre(ed->panes.view);
    ed->host.redraw = true;
}

static const Command cmd_centre = {
    .name = "centre",
    .label = "Centre and redraw",
    .letter = 'v',
    .keys = "Ctrl+L",
    .help = "Bring the cursor's line to the middle and paint the screen again",
    .run = run_centre,
};

/* ---- fields ---- */

static void go_field(Editor *ed, bool back)
{
    size_t at;
    if (told_field(ed->panes.view, back, &at))
        view_go(ed->panes.view, at);
    else
        decline(ed, "There is no field %s in this line", back ? "before" : "after this");
}

static void run_next_field(Editor *ed, const Args *args)
{
    (void)args;
    go_field(ed, false);
}

static const Command cmd_next_field = {
    .name = "next-field",
    .label = "Next field",
    .letter = 'i',
    .help = "Go to the next field of a line, as of a schedule or a mount table",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_EACH,
    .run = run_next_field,
};

static void run_field_before(Editor *ed, const Args *args)
{
    (void)args;
    go_field(ed, true);
}

static const Command cmd_field_before = {
    .name = "field-before",
    .label = "Field before",
    .letter = 'u',
    .help = "Go to the field of the line before this one",
    .flags = CMD_MOVES | CMD_REPEATS | CMD_EACH,
    .run = run_field_before,
};

const Command *const going_commands[] = {
    &cmd_go_line,     &cmd_go_top,      &cmd_go_bottom,    &cmd_go_line_start,
    &cmd_go_line_end, &cmd_go_matching, &cmd_bookmark,     &cmd_next_bookmark,
    &cmd_next_change, &cmd_jump_back,   &cmd_jump_forward, &cmd_where,
    &cmd_centre,      &cmd_next_field,  &cmd_field_before, NULL,
};

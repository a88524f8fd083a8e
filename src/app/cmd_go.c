/* The Go menu. */
#include "app/bars.h"
#include "app/editor.h"
#include "app/loading.h"
#include "app/places.h"
#include "app/tables.h"
#include "base/mem.h"
#include "edit/move.h"
#include "edit/transform.h"

#include <stdlib.h>
#include <string.h>

static void run_top(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, 0);
}

static void run_bottom(Editor *ed, const Args *args)
{
    (void)args;
    loading_go_end(ed);
}

/* To the first letter of the line, and from there (or from within the blanks) to its very start. */
static void run_line_start(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t first = move_past_blanks(view_text(v), v->cursor.at);
    view_go(v, v->cursor.at > first ? first : move_line_start(view_text(v), v->cursor.at));
}

static void run_line_end(Editor *ed, const Args *args)
{
    (void)args;
    view_go(ed->view, move_line_end(view_text(ed->view), ed->view->cursor.at));
}

/* ---- go to a line ---- */

/* Reads LINE, LINE:COLUMN, +N, -N or 50%; false when it is none of them. */
static bool go_to_words(Editor *ed, const char *s)
{
    View *v = ed->view;
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
    loading_go_line(ed, line ? line - 1 : 0, column ? column - 1 : 0);
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
        loading_go_line(ed, args->count ? args->count - 1 : 0, 0);
        return;
    }
    PromptSpec p = {.label = "Go to line", .history = "line", .done = line_given};
    prompt_ask(ed, &p);
}

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
            if (stop.wanted && stop.wanted(stop.ctx))
                return false;
        }
    }
    return true;
}

static void run_where(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
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

/* ---- brackets, bookmarks, places ---- */

enum { REACH = 4 * 1024 * 1024 };

static void run_matching(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    Text t = view_text(v);
    size_t start = v->cursor.at > REACH ? v->cursor.at - REACH : 0, partner, at = v->cursor.at - start;
    char *bytes = mem_get(2 * REACH);
    size_t n = text_read(t, start, bytes, 2 * REACH);
    /* On the sign, or right behind it. */
    bool found =
        matching_sign(bytes, n, at, &partner) || (at > 0 && matching_sign(bytes, n, at - 1, &partner));
    free(bytes);
    if (found)
        view_go(v, start + partner);
    else
        say(ed, "There is no bracket or quote with a partner at the cursor");
}

static void run_bookmark(Editor *ed, const Args *args)
{
    (void)args;
    bookmark_flip(ed);
}

static void run_next_bookmark(Editor *ed, const Args *args)
{
    (void)args;
    bookmark_next(ed);
}

static void run_next_change(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->view;
    size_t line;
    if (!bars_next(v->file, text_line_of(view_text(v), v->cursor.at), &line))
        say(ed, "Nothing differs from the last save");
    else
        view_go_line(v, line, 0);
}

static void run_jump_back(Editor *ed, const Args *args)
{
    (void)args;
    if (!places_go(ed, false))
        say(ed, "There is no earlier place to go back to");
}

static void run_jump_forward(Editor *ed, const Args *args)
{
    (void)args;
    if (!places_go(ed, true))
        say(ed, "There is no later place to go forward to");
}

/* ---- moving by letters ---- */

static const struct {
    char letter;
    const char *command;
} pad[] = {{'w', "go-up"},        {'s', "go-down"},       {'a', "go-left"},      {'d', "go-right"},
           {'q', "go-word-left"}, {'e', "go-word-right"}, {'r', "go-screen-up"}, {'f', "go-screen-down"}};

static bool pad_key(Editor *ed, Layer *l, const Input *in)
{
    (void)l;
    Key k = in->key;
    const Binding *b = keymap_find(&ed->keys, k);
    if (b && b->command && (b->command->flags & CMD_MOVES)) {
        command_run(ed, b->command, 1, false, "");
        return true;
    }
    if (!key_types(k))
        return false;
    uint32_t ch = k.ch < 128 ? k.ch : settings_menu_letter(ed, k.ch);
    for (size_t i = 0; i < sizeof pad / sizeof *pad; i++)
        if ((uint32_t)pad[i].letter == (ch | 0x20)) {
            command_run(ed, command_named(pad[i].command, strlen(pad[i].command)), 1, false, "");
            return true;
        }
    say(ed, "Letters move now; Esc ends that");
    return true;
}

static size_t pad_hints(Editor *ed, Layer *l, Hint *out)
{
    (void)ed, (void)l;
    static const Hint hints[] = {{"Esc", "Back to typing", true},
                                 {"w", "Up", true},
                                 {"s", "Down", true},
                                 {"a", "Left", true},
                                 {"d", "Right", false},
                                 {"q", "Word left", false},
                                 {"e", "Word right", false},
                                 {"r", "Screen up", false},
                                 {"f", "Screen down", false}};
    memcpy(out, hints, sizeof hints);
    return sizeof hints / sizeof *hints;
}

static const LayerKind pad_kind = {.help = "moving", .key = pad_key, .hints = pad_hints};

static void run_pad(Editor *ed, const Args *args)
{
    (void)args;
    Layer *l = mem_get(sizeof *l);
    l->kind = &pad_kind;
    layer_push(ed, l);
}

static void run_centre(Editor *ed, const Args *args)
{
    (void)args;
    view_centre(ed->view);
    ed->redraw = true;
}

const Command go_commands[N_GO_COMMANDS] = {
    {
        .name = "go-line",
        .label = "Line…",
        .letter = 'l',
        .keys = "Ctrl+G",
        .help = "Go to a line: 40, 40:5 (with a column), +10, -10, 50%",
        .args = "LINE[:COLUMN]",
        .hint = "Go to line",
        .flags = CMD_JUMPS,
        .run = run_go_line,
    },
    {
        .name = "go-top",
        .label = "Top of the text",
        .letter = 't',
        .keys = "Ctrl+Home",
        .help = "Go to the start of the text",
        .hint = "Top",
        .flags = CMD_MOVES | CMD_JUMPS,
        .run = run_top,
    },
    {
        .name = "go-bottom",
        .label = "Bottom of the text",
        .letter = 'b',
        .keys = "Ctrl+End",
        .help = "Go to the end of the text",
        .hint = "Bottom",
        .flags = CMD_MOVES | CMD_JUMPS,
        .run = run_bottom,
    },
    {
        .name = "go-line-start",
        .label = "Line start",
        .letter = 'a',
        .keys = "Home Ctrl+A",
        .help = "Go to the first letter of the line; again: to its very start",
        .flags = CMD_MOVES,
        .run = run_line_start,
    },
    {
        .name = "go-line-end",
        .label = "Line end",
        .letter = 'e',
        .keys = "End Ctrl+E",
        .help = "Go to the end of the line",
        .flags = CMD_MOVES,
        .run = run_line_end,
    },
    {
        .name = "go-matching",
        .label = "Matching bracket",
        .letter = 'm',
        .help = "Go to the partner of the bracket or quote at the cursor",
        .flags = CMD_MOVES | CMD_JUMPS,
        .run = run_matching,
    },
    {
        .name = "bookmark",
        .label = "Bookmark here",
        .letter = 'k',
        .help = "Bookmark this line, or take its bookmark away",
        .run = run_bookmark,
    },
    {
        .name = "next-bookmark",
        .label = "Next bookmark",
        .letter = 'n',
        .help = "Go to the next bookmarked line",
        .flags = CMD_MOVES | CMD_JUMPS,
        .run = run_next_bookmark,
    },
    {
        .name = "next-change",
        .label = "Next change",
        .letter = 'c',
        .help = "Go to the next line that differs from the last save",
        .flags = CMD_MOVES | CMD_JUMPS,
        .run = run_next_change,
    },
    {
        .name = "jump-back",
        .label = "Jump back",
        .letter = 'j',
        .help = "Go back to where you were before the last jump",
        .run = run_jump_back,
    },
    {
        .name = "jump-forward",
        .label = "Jump forward",
        .letter = 'f',
        .help = "Go forward again after jumping back",
        .run = run_jump_forward,
    },
    {
        .name = "where",
        .label = "Where am I",
        .letter = 'w',
        .help = "Lines, words, characters and bytes of the text or the mark",
        .run = run_where,
    },
    {
        .name = "move-by-letters",
        .label = "Move by letters…",
        .letter = 's',
        .help = "Move by w a s d, words by q e, screens by r f; Esc ends it",
        .run = run_pad,
    },
    {
        .name = "centre",
        .label = "Centre and redraw",
        .letter = 'v',
        .keys = "Ctrl+L",
        .help = "Bring the cursor's line to the middle and paint the screen anew",
        .run = run_centre,
    },
};

#include "commands/lines/shape.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/lines/changing.h"
#include "base/letters.h"
#include "edit/move.h"
#include "edit/reshape.h"
#include "kinds/table.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/prompt.h"
#include "view/colours.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static CommentSigns signs_of(View *v, size_t at)
{
    const Kind *k = colours_kind(v->file, move_line_start(view_text(v), at));
    return (CommentSigns){k->comment_sign, k->comment_open, k->comment_close, k->comment_also, false};
}

/* ---- paragraphs ---- */

enum { WIDTH_MOST = 1000 };

typedef struct Wrapping {
    unsigned width, tab;
    CommentSigns signs;
} Wrapping;

static void do_wrap(const char *in, size_t n, const void *ctx, Bytes *out)
{
    const Wrapping *w = ctx;
    reshape_wrap(in, n, w->width, w->tab, &w->signs, out);
}

static char *line_string(Text t, size_t line, size_t *n)
{
    size_t from = text_line_start(t, line), to = move_line_end(t, from);
    *n = to - from;
    return text_string(t, from, to);
}

/* Does a line go on the paragraph of the line before? */
static bool goes_on(Text t, size_t line, const CommentSigns *signs)
{
    size_t m, n;
    char *before = line_string(t, line - 1, &m), *here = line_string(t, line, &n);
    bool goes = reshape_goes_on(before, m, here, n, signs);
    free(before);
    free(here);
    return goes;
}

/* The lines of the cursor's paragraph; false: there is none. */
static bool paragraph_at(View *v, const CommentSigns *signs, size_t *from, size_t *to)
{
    enum { LINES_MOST = 100000 };
    Text t = view_text(v);
    size_t line = text_line_of(t, v->cursor.at), first = line, last = line, lines = text_line_count(t), n;
    char *here = line_string(t, line, &n);
    bool any = reshape_has_words(here, n, signs);
    free(here);
    while (any && first > 0 && line - first < LINES_MOST && goes_on(t, first, signs))
        first--;
    while (any && last + 1 < lines && last - line < LINES_MOST && goes_on(t, last + 1, signs))
        last++;
    *from = text_line_start(t, first);
    *to = text_line_start(t, last + 1);
    return any;
}

static void wrap(Editor *ed, unsigned width)
{
    View *v = ed->panes.view;
    size_t from, to;
    bool marked = view_marked(v, &from, &to);
    Wrapping w = {width, (unsigned)view_tab(v), signs_of(v, v->cursor.at)};
    if (marked) {
        changing_meant(v, &from, &to);
    } else if (!paragraph_at(v, &w.signs, &from, &to)) {
        say(ed, "There is no paragraph here");
        return;
    }
    ed->notices.warning = false;
    v->goal_kept = false;
    bool changed = changing_range(ed, from, to, do_wrap, &w);
    if (changed && width)
        say(ed, "Wrapped at %u", width);
    else if (changed)
        say(ed, marked ? "Each paragraph is one line now" : "The paragraph is one line now");
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "Nothing to change");
}

static void run_wrap_paragraph(Editor *ed, const Args *args)
{
    char *end;
    unsigned long width = *args->text     ? strtoul(args->text, &end, 10)
                          : args->counted ? args->count
                                          : editor_text_width(ed, ed->panes.view->file);
    if (*args->text && (!isdigit((unsigned char)*args->text) || *end || !width || width > WIDTH_MOST))
        warn(ed, "A width is a number from 1 to %d, not “%s”", WIDTH_MOST, args->text);
    else
        wrap(ed, (unsigned)width);
}

static const Command cmd_wrap_paragraph = {
    .name = "wrap-paragraph",
    .label = "Wrap paragraph",
    .letter = 'w',
    .help = "Break the lines of the paragraph, or of the marked ones, at a width",
    .words = "fill reflow rewrap hard",
    .more = "The width is the setting text_width, else what .editorconfig says, else 80, and 72 in a "
            "commit's message; a "
            "count or a number after the name is another one. Signs of comments and lists, and indentation, "
            "stay.",
    .args = "[WIDTH]",
    .flags = CMD_CHANGES,
    .run = run_wrap_paragraph,
};

static void run_unwrap_paragraph(Editor *ed, const Args *args)
{
    (void)args;
    wrap(ed, 0);
}

static const Command cmd_unwrap_paragraph = {
    .name = "unwrap-paragraph",
    .label = "Paragraph on one line",
    .letter = 'm',
    .help = "Make one line of the paragraph, or of each marked one",
    .words = "join unfill long",
    .flags = CMD_CHANGES,
    .run = run_unwrap_paragraph,
};

/* ---- columns ---- */

typedef struct Aligning {
    const char *sign;
    unsigned tab;
    CommentSigns signs;
} Aligning;

static void do_align(const char *in, size_t n, const void *ctx, Bytes *out)
{
    const Aligning *a = ctx;
    reshape_align(in, n, a->sign, a->tab, &a->signs, out);
}

/* With nothing marked, the block between blank lines is meant. */
static void run_align(Editor *ed, const Args *args)
{
    View *v = ed->panes.view;
    size_t from, to;
    Aligning a = {*args->text ? args->text : NULL, (unsigned)view_tab(v), signs_of(v, v->cursor.at)};
    changing_block(ed, &from, &to);
    ed->notices.warning = false;
    if (changing_range(ed, from, to, do_align, &a))
        say(ed, a.sign ? "Aligned by “%s”" : "Aligned the columns", a.sign);
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "Nothing to change");
}

static const Command cmd_align_columns = {
    .name = "align-columns",
    .label = "Align columns",
    .letter = 'l',
    .help = "Put what stands between blanks, or by a sign, under each other",
    .words = "tabulate table equal",
    .more = "In the marked lines, or the block between blank ones. A sign such as = : , or | may follow the "
            "name; = and : "
            "count once in a line. What stands in quotes is one column; comments stay as they are.",
    .args = "[SIGN]",
    .flags = CMD_CHANGES,
    .run = run_align,
};

/* ---- indentation ---- */

static void do_indentation(const char *in, size_t n, const void *ctx, Bytes *out)
{
    reshape_indentation(in, n, ctx, out);
}

/* Lines that begin in a text over several lines, of which blanks are a part. */
static uint8_t *lines_in_quotes(OpenFile *f, size_t from, size_t to)
{
    uint8_t *roles = mem_get(to - from + 1);
    colours_between(f, from, to, roles);
    Text t = doc_text(f->doc);
    for (size_t i = 0; i < to - from; i++)
        roles[i] = roles[i] == ROLE_QUOTED &&
                   (letter_is_blank((char)text_byte(t, from + i)) || text_byte(t, from + i) == '\n');
    return roles;
}

static bool indentation_of(const char *words, bool *tabs, unsigned *unit)
{
    unsigned n = 0;
    int used = 0;
    *tabs = strcmp(words, "tabs") == 0 || strcmp(words, "tab") == 0;
    *unit = 8;
    if (*tabs)
        return true;
    bool right = (sscanf(words, "spaces %2u%n", &n, &used) == 1 || sscanf(words, "%2u%n", &n, &used) == 1) &&
                 !words[used];
    *unit = n;
    return right && n >= 1 && n <= 16;
}

static void convert(Editor *ed, const char *words)
{
    View *v = ed->panes.view;
    OpenFile *f = v->file;
    size_t from = 0, to = text_len(view_text(v));
    bool tabs;
    unsigned unit;
    if (!indentation_of(words, &tabs, &unit)) {
        warn(ed, "“%s” is no indentation: tabs, or spaces and a number up to 16", words);
        return;
    }
    if (view_marked(v, &from, &to))
        changing_meant(v, &from, &to);
    enum { COLOURED_MOST = 16 << 20 };
    uint8_t *stays = to - from < COLOURED_MOST ? lines_in_quotes(f, from, to) : NULL;
    unsigned tab = (unsigned)view_tab(v);
    Indentation i = {f->format.tabs ? tab : f->format.indent, tabs, unit, tab, stays};
    ed->notices.warning = false;
    bool changed = changing_range(ed, from, to, do_indentation, &i);
    free(stays);
    if (changed || (!ed->notices.warning && !f->look_only)) {
        f->format.tabs = tabs;
        f->format.indent = tabs ? tab : unit;
        say(ed, changed ? "Indented by %s now" : "It is indented by %s already", words);
    }
}

static void indentation_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    convert(ed, answer);
}

static void offer_indentation(const char *before, Offers *out)
{
    offers_add_words(out, "tabs|spaces 2|spaces 4|spaces 8", before);
}

static void run_convert(Editor *ed, const Args *args)
{
    PromptSpec p = {.label = "Indent by",
                    .initial = "spaces 4",
                    .select = true,
                    .offer = offer_indentation,
                    .history = "indentation",
                    .done = indentation_given};
    if (*args->text)
        convert(ed, args->text);
    else
        prompt_ask(ed, &p);
}

static const Command cmd_convert_indentation = {
    .name = "convert-indentation",
    .label = "Convert indentation…",
    .letter = 'v',
    .help = "Indent the text, or the marked lines, by tabs or so many blanks",
    .words = "retab tabs spaces expand",
    .more = "Levels stay levels: four blanks become two, or a tab. What stands in a text over several lines "
            "stays as it is.",
    .args = "INDENTATION",
    .offer = offer_indentation,
    .flags = CMD_CHANGES,
    .run = run_convert,
};

/* ---- which lines ---- */

typedef struct Filtering {
    Finder *finder;
    bool keep;
    size_t *went;
} Filtering;

static void do_doubles(const char *in, size_t n, const void *ctx, Bytes *out)
{
    *((const Filtering *)ctx)->went = reshape_without_doubles(in, n, out);
}

static void do_matching(const char *in, size_t n, const void *ctx, Bytes *out)
{
    const Filtering *f = ctx;
    finder_bytes(f->finder, in, n);
    *f->went = reshape_matching(in, n, f->finder, f->keep, out);
}

/* Of the marked lines, or of all. */
static void filter(Editor *ed, LinesFn fn, const Filtering *f, const char *none)
{
    View *v = ed->panes.view;
    size_t from = 0, to = text_len(view_text(v));
    if (view_marked(v, &from, &to))
        changing_meant(v, &from, &to);
    ed->notices.warning = false;
    v->goal_kept = false;
    if (changing_range(ed, from, to, fn, f))
        say(ed, "Removed %s", AMOUNT(*f->went, "line"));
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "%s", none);
}

static void run_doubles(Editor *ed, const Args *args)
{
    (void)args;
    size_t went = 0;
    filter(ed, do_doubles, &(Filtering){.went = &went}, "No line stands there twice");
}

static const Command cmd_remove_doubles = {
    .name = "remove-doubles",
    .label = "Remove doubles",
    .letter = 'o',
    .help = "Keep only the first of lines that are alike, of the marked ones or of all",
    .words = "duplicates unique uniq",
    .flags = CMD_CHANGES,
    .run = run_doubles,
};

static void do_reverse(const char *in, size_t n, const void *ctx, Bytes *out)
{
    (void)ctx;
    reshape_reverse(in, n, out);
}

static void run_reverse(Editor *ed, const Args *args)
{
    (void)args;
    View *v = ed->panes.view;
    size_t from, to;
    changing_block(ed, &from, &to);
    ed->notices.warning = false;
    if (changing_range(ed, from, to, do_reverse, NULL))
        say(ed, "Reversed the order of %s",
            AMOUNT(text_line_of(view_text(v), to) - text_line_of(view_text(v), from), "line"));
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "Nothing to change");
}

static const Command cmd_reverse_lines = {
    .name = "reverse-lines",
    .label = "Reverse the order",
    .letter = 'r',
    .help = "Put the last line first: of the marked lines, or of the block between blank ones",
    .words = "backwards flip",
    .flags = CMD_CHANGES,
    .run = run_reverse,
};

static void keep_or_drop(Editor *ed, const char *words, bool keep)
{
    Err e;
    size_t mistake, went = 0;
    FindWhat what = {.what = words, .len = strlen(words)};
    Finder *f = *words ? finder_new(&what, &e, &mistake) : NULL;
    if (!*words)
        return;
    if (!f) {
        warn(ed, "%s", e.text);
        return;
    }
    Filtering all = {f, keep, &went};
    filter(ed, do_matching, &all, keep ? "All of the lines have it" : "None of the lines has it");
    finder_free(f);
}

static void kept_given(Editor *ed, const char *answer, void *ctx)
{
    keep_or_drop(ed, answer, ctx != NULL);
}

static void ask_which(Editor *ed, const Args *args, bool keep)
{
    static char yes;
    PromptSpec p = {.label = keep ? "Keep lines with" : "Drop lines with",
                    .history = "find",
                    .done = kept_given,
                    .ctx = keep ? &yes : NULL};
    if (*args->text)
        keep_or_drop(ed, args->text, keep);
    else
        prompt_ask(ed, &p);
}

static void run_keep(Editor *ed, const Args *args)
{
    ask_which(ed, args, true);
}

static const Command cmd_keep_lines = {
    .name = "remove-lines-without",
    .label = "Keep lines with…",
    .letter = 'f',
    .help = "Remove all lines but those with some words, of the marked ones or of all",
    .words = "filter grep only",
    .args = "WORDS",
    .flags = CMD_CHANGES,
    .run = run_keep,
};

static void run_drop(Editor *ed, const Args *args)
{
    ask_which(ed, args, false);
}

static const Command cmd_drop_lines = {
    .name = "remove-lines-with",
    .label = "Drop lines with…",
    .letter = 'g',
    .help = "Remove the lines with some words, of the marked ones or of all",
    .words = "filter grep without delete",
    .args = "WORDS",
    .flags = CMD_CHANGES,
    .run = run_drop,
};

/* ---- tables ---- */

typedef struct CellSorting {
    char separator;
    size_t cell;
    Stop stop;
    bool *stopped;
} CellSorting;

static void do_sort_cells(const char *in, size_t n, const void *ctx, Bytes *out)
{
    const CellSorting *s = ctx;
    *s->stopped = !table_sort(in, n, s->separator, s->cell, s->stop, out);
    if (*s->stopped)
        bytes_add(out, in, n);
}

/* The number of the cursor's cell in its line. */
static bool cell_of(const View *v, char separator, size_t *cell)
{
    enum { ROW_MOST = 1 << 20 };
    Text t = view_text(v);
    size_t from = move_line_start(t, v->cursor.at), n = v->cursor.at - from;
    if (n > ROW_MOST)
        return false;
    char *row = text_string(t, from, v->cursor.at);
    *cell = table_cells(row, n, separator, NULL, 0) - 1;
    free(row);
    return true;
}

/* All rows but the first, which has the names; or those that are marked. */
static void run_sort_cell(Editor *ed, const Args *args)
{
    enum { HEAD = 64 * 1024 };
    (void)args;
    View *v = ed->panes.view;
    Text t = view_text(v);
    size_t n = text_len(t) < HEAD ? text_len(t) : HEAD, from, to, cell;
    char *head = text_string(t, 0, n);
    bool closed, stopped = false;
    char separator = table_separator(head, n);
    size_t first = table_row(head, n, &closed);
    free(head);
    if (!separator || !cell_of(v, separator, &cell)) {
        say(ed, "This is no table: there are no cells with , ; | or tabs between");
        return;
    }
    if (view_marked(v, &from, &to)) {
        changing_meant(v, &from, &to);
    } else {
        from = first;
        to = text_len(t);
    }
    CellSorting s = {separator, cell, ed->stop, &stopped};
    ed->notices.warning = false;
    v->goal_kept = false;
    if (changing_range(ed, from, to, do_sort_cells, &s))
        say(ed, "Sorted by cell %zu", cell + 1);
    else if (stopped)
        say(ed, "Sorting was stopped; nothing was changed");
    else if (!v->file->look_only && !ed->notices.warning)
        say(ed, "It is sorted by cell %zu already", cell + 1);
}

static const Command cmd_sort_by_cell = {
    .name = "sort-by-cell",
    .label = "Sort by this cell",
    .letter = 'h',
    .help = "Sort the rows of a table by the cell that the cursor is in",
    .words = "column csv order",
    .more = "The first row stays, as it has the names, unless rows are marked. Numbers count as numbers "
            "where all are; empty "
            "cells come last. Cells are told apart as RFC 4180 has it.",
    .flags = CMD_CHANGES,
    .run = run_sort_cell,
};

const Command *const shape_commands[] = {
    &cmd_wrap_paragraph,      &cmd_unwrap_paragraph,
    &cmd_align_columns,       &cmd_sort_by_cell,
    &cmd_convert_indentation, &cmd_remove_doubles,
    &cmd_reverse_lines,       &cmd_keep_lines,
    &cmd_drop_lines,          NULL,
};

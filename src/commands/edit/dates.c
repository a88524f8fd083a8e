#include "commands/edit/dates.h"

#include "commands/edits.h"
#include "kept/store.h"
#include "session/session_memory.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { FORMAT_MOST = 100, DATE_MOST = 300, OTHER = 1000, LAST };

/* The first one is that of ISO 8601, which sorts and is understood everywhere. */
static const char *const formats[] = {"%Y-%m-%d", "%Y-%m-%d %H:%M", "%Y-%m-%dT%H:%M:%S%z",
                                      "%d %B %Y", "%A, %d %B %Y",   "%d.%m.%Y",
                                      "%d/%m/%Y", "%m/%d/%Y",       "%H:%M",
                                      "%Y%m%d",   "%Y%m%d%H%M%S",   "%a, %d %b %Y %H:%M:%S %z",
                                      "%s",       "%G-W%V"};

/* What it comes to now; false when it is no format, or comes to nothing. */
static bool date_of(const char *format, char out[DATE_MOST])
{
    time_t now = time(NULL);
    struct tm tm;
    localtime_r(&now, &tm);
    size_t n =
        strchr(format, '%') && strlen(format) < FORMAT_MOST ? strftime(out, DATE_MOST, format, &tm) : 0;
    for (size_t i = 0; i < n; i++)
        if ((unsigned char)out[i] < ' ' || out[i] == 127)
            return false;
    return n > 0;
}

static void take_format(const char *answer, void *ctx)
{
    snprintf(ctx, FORMAT_MOST, "%s", answer);
}

/* The one that was taken last, or the first. */
static void last_format(const Editor *ed, char out[FORMAT_MOST])
{
    snprintf(out, FORMAT_MOST, "%s", formats[0]);
    if (session_store(ed->session))
        store_each(session_store(ed->session), "date", 1, take_format, out);
}

static void put(Editor *ed, const char *format)
{
    char date[DATE_MOST];
    if (!date_of(format, date)) {
        warn(ed, "“%s” makes no date; %%Y-%%m-%%d is one that does, as in strftime(3)", format);
        return;
    }
    if (session_store(ed->session) && !ed->session->rules.batch)
        store_add(session_store(ed->session), "date", format);
    if (edit_allowed(ed))
        edit_paste(ed, date, strlen(date), false);
}

static void other_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    if (*answer)
        put(ed, answer);
}

static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    char last[FORMAT_MOST];
    (void)typed, (void)ctx;
    last_format(ed, last);
    PromptSpec p = {.label = "Date as", .initial = last, .history = "date", .done = other_given};
    if (id == OTHER)
        prompt_ask(ed, &p);
    else
        put(ed, id == LAST ? last : formats[id]);
}

static void add(Panel *p, long id, const char *format, const char *note)
{
    char date[DATE_MOST];
    if (date_of(format, date))
        panel_add(p, id, date, note, format);
}

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    char last[FORMAT_MOST];
    (void)filter, (void)ctx;
    last_format(ed, last);
    add(p, LAST, last, strcmp(last, formats[0]) == 0 ? "sorts by itself" : "as last time");
    for (size_t i = 0; i < sizeof formats / sizeof *formats; i++)
        if (strcmp(formats[i], last) != 0)
            add(p, (long)i, formats[i], "");
    panel_add(p, OTHER, "Another form…", "", "");
}

static void run_date(Editor *ed, const Args *args)
{
    PanelSpec p = {.title = "Date", .fill = fill, .chosen = chosen, .empty = "There is no such date"};
    if (*args->text || ed->session->rules.batch)
        put(ed, *args->text ? args->text : formats[0]);
    else if (edit_allowed(ed))
        panel_open(ed, &p);
}

static const Command cmd_insert_date = {
    .name = "insert-date",
    .label = "Date…",
    .letter = 'm',
    .help = "Put the date or the time at the cursor, in a form to choose; the one taken last comes first",
    .words = "time today now stamp timestamp",
    .more =
        "A form of your own is made of such as %d for the day and %Y for the year; strftime(3) has them all.",
    .args = "[FORM]",
    .flags = CMD_CHANGES | CMD_ALL,
    .run = run_date,
};

const Command *const dates_commands[] = {&cmd_insert_date, NULL};

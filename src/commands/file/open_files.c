#include "commands/file/open_files.h"

#include "base/words.h"
#include "commands/asking.h"
#include "text/text_line.h"
#include "ui/panel.h"

static void describe(const OpenFile *f, Bytes *out)
{
    char size[WORDS_MAX];
    words_size(text_len(doc_text(f->doc)), size);
    bytes_printf(out, "%s, %s, %s%s%s%s", AMOUNT(text_line_count(doc_text(f->doc)), "line"), size,
                 f->kind->name, f->incomplete ? ", incomplete" : "", openfile_changed(f) ? ", changed" : "",
                 f->look_only ? ", look only" : "");
    if (f->path)
        bytes_printf(out, "   %s", f->title);
}

static const char *shown_name(const OpenFile *f)
{
    return f->path ? openfile_name(f) : "(no name yet)";
}

/* The one shown last comes first, but for the one that is shown now. */
static void fill_files(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    for (size_t i = 0; i < ed->session->n_files; i++) {
        const OpenFile *f = ed->session->files[i];
        Bytes note = {0};
        describe(f, &note);
        panel_add(p, (long)f->id, shown_name(f), note.at, f == ed->panes.view->file ? "now" : NULL);
        bytes_free(&note);
    }
}

static void file_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    OpenFile *f = session_file(ed->session, id > 0 ? (FileId)id : 0);
    if (f)
        editor_show(ed, f);
}

static bool file_key(Editor *ed, Key k, long id, void *ctx)
{
    (void)ctx;
    if (k.code != K_DELETE || k.mods || id < 0)
        return false;
    OpenFile *f = session_file(ed->session, (FileId)id);
    if (!f)
        return true;
    if (openfile_changed(f) || f->writing) { /* the question needs the status line */
        layers_pop(ed);
        asking_begin(ed, PLAN_CLOSE, f, NULL);
        return true;
    }
    ed->session->held = false; /* by this very list */
    asking_begin(ed, PLAN_CLOSE, f, NULL);
    panel_refresh(ed);
    return true;
}

static void run_open_files(Editor *ed, const Args *args)
{
    (void)args;
    static const Hint hints[] = {{"Delete", "Close it", true}, {"", NULL, false}};
    PanelSpec p = {
        .title = "Open files", .fill = fill_files, .chosen = file_chosen, .key = file_key, .hints = hints};
    panel_open(ed, &p);
    panel_go(ed, (long)ed->panes.view->file->id);
}

static const Command cmd_open_files = {
    .name = "open-files",
    .label = "Open files",
    .letter = 'f',
    .help = "List the open texts with their size and state, and go to one",
    .words = "tabs documents list",
    .hint = "Open files",
    .run = run_open_files,
};

static void step(Editor *ed, int by)
{
    size_t i = 0, n = ed->session->n_files;
    while (i < n && ed->session->files[i] != ed->panes.view->file)
        i++;
    if (n < 2) {
        say(ed, "No other file is open");
        return;
    }
    size_t to = (i + n + (size_t)by) % n;
    editor_show(ed, ed->session->files[to]);
    say(ed, "%s, %zu of %zu", shown_name(ed->session->files[to]), to + 1, n);
}

static void run_next_file(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, 1);
}

static const Command cmd_next_file = {
    .name = "next-file",
    .label = "Next file",
    .letter = 'x',
    .keys = "Ctrl+PageDown",
    .help = "Show the next of the open texts",
    .flags = CMD_LEAVES,
    .run = run_next_file,
};

static void run_file_before(Editor *ed, const Args *args)
{
    (void)args;
    step(ed, -1);
}

static const Command cmd_file_before = {
    .name = "file-before",
    .label = "File before",
    .letter = 'y',
    .keys = "Ctrl+PageUp",
    .help = "Show the open text before this one",
    .flags = CMD_LEAVES,
    .run = run_file_before,
};

const Command *const open_files_commands[] = {
    &cmd_open_files,
    &cmd_next_file,
    &cmd_file_before,
    NULL,
};

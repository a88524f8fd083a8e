#include "script/batch.h"

#include "app/app.h"
#include "base/arguments.h"
#include "base/mem.h"
#include "base/words.h"
#include "commands/asking.h"
#include "commands/search/folder_find.h"
#include "commands/tools/playing.h"
#include "edit/diff.h"
#include "files/folder_search.h"
#include "files/state.h"
#include "files/write.h"
#include "script/own_data.h"
#include "script/script.h"
#include "script/workers.h"
#include "session/session_files.h"
#include "ui/command.h"

#include <errno.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static volatile sig_atomic_t interrupted; /* the signal's number */

static void interrupt(int number)
{
    interrupted = number;
}

static bool is_interrupted(void *ctx)
{
    (void)ctx;
    return interrupted != 0;
}

static void print(FILE *to, const char *s)
{
    glyph_print(to, s, strlen(s));
}

enum { INPUT_MOST = 1 << 30 /* bytes of standard input */ };

/* Runs all commands on the file that is open; what they said goes to `report`. */
static bool run_commands(Editor *ed, const char *commands, bool filter, Bytes *report)
{
    for (const char *p = commands; *p;) {
        if (interrupted) {
            warn(ed, "interrupted");
            return false;
        }
        size_t n = arguments_command(p);
        char *line = mem_string_n(p, n);
        size_t len = strlen(line);
        while (len && line[len - 1] == ' ')
            line[--len] = 0;
        p += n + (p[n] != 0);
        ed->notices.text[0] = 0;
        ed->notices.warning = false;
        bool blank = line[strspn(line, " \t")] == 0;
        if (filter && strcmp(line + strspn(line, " \t"), "save") == 0)
            blank = true; /* what comes of it is written anyway */
        bool ok = blank || command_run_line(ed, line, 1, false);
        playing_finish(ed, 0);
        asking_look(ed);
        if (ed->layer) {
            layers_cancel_all(ed);
            warn(ed, "“%s” asks for something; put it after the name", line);
        }
        ok = ok && !ed->notices.warning;
        free(line);
        if (ed->notices.text[0])
            bytes_printf(report, "%s%s", report->len ? "; " : "", ed->notices.text);
        if (!ok)
            return false;
    }
    return true;
}

/* As a patch of the file's own bytes, with the name as it was given; for eyes, as text. */
static bool show_differences(Editor *ed, const char *path, Text before, FILE *to, Err *e)
{
    const OpenFile *f = ed->panes.view->file;
    bool eyes = isatty(STDOUT_FILENO);
    Bytes out = {0}, name = {0};
    Text was = {0}, is = {0};
    DiskState disk;
    size_t at;
    if (!f->path) /* it was closed, or another text is shown */
        return true;
    bytes_printf(&name, "%s\t", path); /* so names with blanks have an end */
    bool ok = eyes || ((filesystem_can(f->path, FILES_ARE_HERE)
                            ? load_file(path, &was, &disk, e)
                            : encoding_write(before, &f->encoding, &was, &at, e)) &&
                       encoding_write(doc_saved_text(f->doc), &f->encoding, &is, &at, e));
    if (ok)
        diff_unified(eyes ? before : was, eyes ? doc_saved_text(f->doc) : is, name.at, name.at, 3, &out);
    glyph_print(to, bytes_str(&out), out.len);
    bytes_free(&out);
    bytes_free(&name);
    text_drop(&was);
    text_drop(&is);
    return ok;
}

/* Somebody who has the file open in an editor learns of the new version from that editor; who runs this
 * should know of them too. */
static void note_use(const Editor *ed, Bytes *report)
{
    OpenFile *f = ed->panes.view->file;
    InUseBy by;
    if (ed->config.settings.say_in_use && !in_use_take(&ed->session->in_use, f->path, &f->in_use, &by))
        bytes_printf(report, "%s has it open", by.user);
}

/* From standard input, for standard output. */
static bool open_input(Editor *ed, Encoding *x, Err *e)
{
    Text raw, t;
    if (!load_descriptor(STDIN_FILENO, "standard input", INPUT_MOST, &raw, e))
        return false;
    *x = encoding_guess(raw);
    bool ok = encoding_read(raw, x, &t, e);
    text_drop(&raw);
    if (ok)
        editor_show(ed, session_add(ed->session, t));
    return ok;
}

static bool give_output(const Editor *ed, const Encoding *x, Err *e)
{
    Text bytes;
    size_t at;
    if (!encoding_write(view_text(ed->panes.view), x, &bytes, &at, e))
        return false;
    fflush(stdout);
    bool ok = write_text(STDOUT_FILENO, bytes);
    text_drop(&bytes);
    return ok || err_set(e, "Standard output: %s", err_os(errno));
}

static bool open_file(Editor *ed, const char *path, const BatchWish *w, Err *e)
{
    if (!editor_open(ed, path, e))
        return false;
    OpenFile *f = ed->panes.view->file;
    if (!f->disk.exists) {
        char *meant = location_meant(path);
        err_set(e, "There is no file %s%s%s", path, meant ? " here; on the host it is called " : "",
                meant ? meant : "");
        free(meant);
        return false;
    }
    f->look_only = f->look_only || w->look;
    return true;
}

/* Runs the commands or the script on the file that is shown, and has it saved by the latter. */
static bool run_on_it(Editor *ed, const BatchWish *w, bool filter, Bytes *report, Err *e)
{
    script_run_events(ed);
    if (!w->script) {
        bool done = run_commands(ed, w->commands, filter, report);
        if (done)
            script_run_events(ed);
        return done || err_set(e, "%s", ed->notices.text);
    }
    OpenFile *f = ed->panes.view->file;
    FileId id = f->id;
    notices_clear(&ed->notices);
    ed->notices.warning = false;
    if (!script_run(ed, w->script_name, w->script, w->script_length, e))
        return false;
    if (ed->notices.text[0])
        bytes_printf(report, "%s%s", report->len ? "; " : "", ed->notices.text);
    if (ed->notices.warning)
        return err_set(e, "%s", ed->notices.text);
    f = session_file(ed->session, id);
    bool save = !filter && f && f == ed->panes.view->file && openfile_changed(f);
    bool ok = !save || run_commands(ed, "save", false, report) || err_set(e, "%s", ed->notices.text);
    script_run_events(ed);
    return ok;
}

/* `quiet`: one that stays as it is is not listed. */
static bool run_file(const char *path, const BatchWish *w, bool quiet, FILE *out, FILE *err)
{
    Editor *ed = app_new();
    Err e = {""}, lost;
    Bytes report = {0};
    Encoding x = {.name = ""};
    bool filter = strcmp(path, "-") == 0;
    ed->session->rules.batch = ed->session->rules.plain = true;
    ed->session->rules.dry_run = w->dry;
    ed->session->rules.strict = w->strict;
    ed->stop = ed->session->rules.stop = (Stop){is_interrupted, NULL};
    if (!w->plain)
        script_load(ed);
    ed->notices.text[0] = 0;
    bool ok = filter ? open_input(ed, &x, &e) : open_file(ed, path, w, &e);
    if (ok) {
        OpenFile *f = ed->panes.view->file;
        if (w->kind)
            openfile_set_kind(f, w->kind);
        Text before = text_keep(view_text(ed->panes.view));
        if (!filter && !w->dry && !w->plain)
            note_use(ed, &report);
        ok = run_on_it(ed, w, filter, &report, &e);
        if (ok && filter)
            ok = give_output(ed, &x, &e);
        else if (ok && w->dry)
            ok = show_differences(ed, path, before, out, &e);
        quiet = quiet && ok && text_same(before, view_text(ed->panes.view));
        text_drop(&before);
        if (ok && !filter && openfile_changed(ed->panes.view->file))
            bytes_printf(&report, "%snot saved", report.len ? "; " : "");
    }
    FILE *to = ok && !w->dry && !filter ? out : err;
    if ((!filter && !(ok && quiet)) || !ok) {
        print(to, filter ? "standard input" : path);
        print(to, ok ? ": " : ": failed: ");
        print(to, ok ? report.len ? report.at : "nothing to do" : e.text);
        fputc('\n', to);
    }
    bytes_free(&report);
    app_end(ed, &lost);
    script_free(ed);
    app_free(ed);
    return ok;
}

/* ---- many files ---- */

typedef struct Batch {
    char **files;
    size_t named; /* of them; those after them were found below a folder */
    const BatchWish *wish;
} Batch;

static int run_piece(size_t piece, FILE *out, FILE *err, void *ctx)
{
    const Batch *b = ctx;
    return !run_file(b->files[piece], b->wish, piece >= b->named, out, err);
}

/* The same file by several names is changed by one after the other. */
static size_t lane_of(size_t piece, void *ctx)
{
    const Batch *b = ctx;
    FileState st;
    return state_of(b->files[piece], &st) ? (size_t)(st.node.number ^ st.node.device << 8) : piece;
}

static int lost_piece(size_t piece, FILE *err, void *ctx)
{
    const Batch *b = ctx;
    print(err, b->files[piece]);
    fputs(": failed: the process that worked on it has ended\n", err);
    return 1;
}

/* Reads what is a machine's and a person's, once for all; what is wrong there is said once. Returns how
 * large a file below a folder may be, in bytes. */
static size_t load_own(bool plain)
{
    Editor *ed = app_new();
    if (!plain)
        script_load_settings(&ed->config);
    glyph_print(stderr, bytes_str(&ed->config.problems), ed->config.problems.len);
    size_t most = (size_t)ed->config.settings.find_in_files_to << 20;
    app_free(ed);
    return most;
}

/* The files that were named, and after them those below the folder; each belongs to the caller. */
static char **all_files(char **files, size_t *n, const char *below, size_t most, Err *e)
{
    size_t found = 0;
    char **more = NULL, *folder = NULL, *names = NULL;
    if (below) {
        folder_find_split(below, &folder, &names);
        const char *const folders[] = {folder};
        FolderWish w = {.folders = folders, .n_folders = 1, .names = names, .most = most};
        if (location_is_remote(below))
            err_set(e, "--below works on a folder of this machine only");
        else if (!disk_exists(folder))
            err_set(e, "There is no folder %s", below);
        else
            more = folder_search_files(&w, &found);
    }
    char **all = mem_get((*n + found + 1) * sizeof *all);
    for (size_t i = 0; i < *n; i++)
        all[i] = mem_string(files[i]);
    for (size_t i = 0; i < found; i++)
        all[*n + i] = more[i];
    *n += found;
    free(more);
    free(folder);
    free(names);
    return all;
}

enum { FEW = 8 /* files for which no processes are begun */ };

int batch_run(char **files, int n, const BatchWish *w)
{
    /* What is being written is written to its end; nothing is left lying about. */
    static const int signals[] = {SIGINT, SIGTERM, SIGHUP, SIGQUIT};
    struct sigaction a = {.sa_handler = interrupt};
    size_t named = (size_t)n, all_n = named, most = load_own(w->plain);
    Err e = {""};
    Batch b = {all_files(files, &all_n, w->below, most, &e), named, w};
    Work work = {all_n, run_piece, lane_of, lost_piece, &b};
    size_t at_once = w->jobs ? w->jobs : all_n < FEW ? 1 : workers_standard();
    for (int i = 0; i < n; i++)
        at_once = strcmp(files[i], "-") == 0 ? 1 : at_once; /* there is one standard input */
    for (size_t i = 0; i < sizeof signals / sizeof *signals; i++)
        sigaction(signals[i], &a, NULL);
    int status = e.text[0] ? 1 : workers_run(&work, at_once, &interrupted);
    if (e.text[0]) {
        print(stderr, e.text);
        fputc('\n', stderr);
    } else if (w->below) {
        fprintf(stderr, "%s below ", AMOUNT(all_n - named, "text file"));
        print(stderr, w->below);
        fputc('\n', stderr);
    }
    while (all_n)
        free(b.files[--all_n]);
    free(b.files);
    return interrupted ? 128 + interrupted : status;
}

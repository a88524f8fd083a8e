#include "script/look_over.h"

#include "app/app.h"
#include "files/disk.h"
#include "files/load.h"
#include "script/own_data.h"
#include "script/script.h"
#include "script/workers.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

typedef struct LookingOver {
    char **files;
    const LookOver *wish;
} LookingOver;

static void print_name(FILE *to, const char *name)
{
    glyph_print(to, name, strlen(name));
}

static int complain(FILE *err, const char *name, const char *words)
{
    print_name(err, name);
    fputs(": ", err);
    print_name(err, words);
    fputc('\n', err);
    return LOOK_UNKNOWN;
}

/* ---- kinds ---- */

static const char *const ways[] = {[KIND_BY_PLACE] = "by its path",
                                   [KIND_BY_NAME] = "by its name",
                                   [KIND_BY_FIRST_LINE] = "by its first line",
                                   [KIND_BY_FOLDER_AND_ENDING] = "by its folder and ending",
                                   [KIND_BY_ENDING] = "by its ending",
                                   [KIND_BY_FOLDER] = "by its folder",
                                   [KIND_BY_WORD] = "by its name",
                                   [KIND_BY_LOOKS] = "by what stands in it",
                                   [KIND_BY_BEGINNING] = "by how it begins",
                                   [KIND_BY_WEAK_ENDING] = "by its ending alone",
                                   [KIND_BY_LAST] = "by how it begins",
                                   [KIND_BY_NOTHING] = "as nothing tells it"};

static int print_kind(size_t piece, FILE *out, FILE *err, void *ctx)
{
    const LookingOver *l = ctx;
    const char *name = l->files[piece];
    char head[KIND_HEAD], *full = location_full(name);
    Err e = {""};
    KindWay way;
    size_t n = 0;
    bool ok = load_head(full, head, sizeof head, &n, &e);
    const Kind *k = ok ? kind_of_by(full, head, n, &way) : NULL;
    free(full);
    if (!k)
        return complain(err, name, e.text);
    print_name(out, name);
    fprintf(out, l->wish->why ? ": %s, %s\n" : ": %s\n", k->name, ways[way]);
    return LOOK_RIGHT;
}

/* ---- checks ---- */

static void print_problem(FILE *out, const char *name, Text t, const FileProblem *p)
{
    print_name(out, name);
    if (p->to) {
        size_t line = text_line_of(t, p->from);
        fprintf(out, ":%zu:%zu", line + 1, p->from - text_line_start(t, line) + 1);
    }
    fputs(": ", out);
    print_name(out, p->words);
    if (p->checker)
        fprintf(out, " (%s)", p->checker);
    fputc('\n', out);
}

static int check_text(Editor *ed, OpenFile *f, const char *name, FILE *out, FILE *err)
{
    size_t n;
    if (!checking_begin(ed->session, f, true)) { /* whatever it holds, nobody calls it wrong */
        complain(err, name,
                 f->is_template ? "not checked: it is a template"
                                : "not checked: there is no checker for its kind");
        return LOOK_RIGHT;
    }
    checking_finish(ed->session, f, (Stop){0});
    const FileProblem *all = checking_problems(f, &n);
    for (size_t i = 0; i < n; i++)
        print_problem(out, name, doc_text(f->doc), &all[i]);
    checking_wrong(f, &n);
    if (*checking_doubt(f))
        complain(err, name, checking_doubt(f));
    else if (*checking_trouble(f))
        complain(err, name, checking_trouble(f));
    return *checking_doubt(f) || (!n && !*checking_by(f)) ? LOOK_UNKNOWN : n ? LOOK_WRONG : LOOK_RIGHT;
}

static int check_file(size_t piece, FILE *out, FILE *err, void *ctx)
{
    const LookingOver *l = ctx;
    const char *name = l->files[piece];
    Editor *ed = app_new();
    Err e = {""}, lost;
    int status = LOOK_UNKNOWN;
    ed->session->rules.batch = ed->session->rules.plain = true;
    if (!l->wish->plain)
        script_load_settings(&ed->config);
    char *full = location_full(name);
    OpenFile *f = session_open(ed->session, full, &e);
    free(full);
    if (f && !f->disk.exists)
        err_set(&e, "there is no such file");
    if (f && f->disk.exists && l->wish->kind)
        openfile_set_kind(f, l->wish->kind);
    if (f && f->disk.exists)
        status = check_text(ed, f, name, out, err);
    else
        complain(err, name, e.text);
    app_end(ed, &lost);
    app_free(ed);
    return status;
}

/* ---- all of them ---- */

static size_t lane_of(size_t piece, void *ctx)
{
    (void)ctx;
    return piece;
}

static int lost_piece(size_t piece, FILE *err, void *ctx)
{
    const LookingOver *l = ctx;
    return complain(err, l->files[piece], "the process that looked at it has ended");
}

int look_over(char **files, int n, const LookOver *w)
{
    enum { FEW = 8 /* files for which no processes are begun */ };
    static const volatile sig_atomic_t never;
    LookingOver l = {files, w};
    Work work = {(size_t)n, w->check ? check_file : print_kind, lane_of, lost_piece, &l};
    if (!w->plain)
        own_data_load();
    return workers_run(&work, w->jobs ? w->jobs : n < FEW ? 1 : workers_standard(), &never);
}

/* Leaving, closing and reloading: the questions that stand before losing something. */
#include "editor.h"

#include "differences.h"
#include "mem.h"
#include "saving.h"

#include <stdlib.h>

/* What shall happen to a text whose changes are not saved. */
typedef struct Parting {
    OpenFile *file;
    void (*go_on)(Editor *ed, OpenFile *f); /* once it is saved or dropped */
    bool all;                               /* leaving: there may be others */
} Parting;

static void part_with(Editor *ed, Parting p);

static Parting *copy_of(Parting p)
{
    Parting *copy = mem_get(sizeof *copy);
    *copy = p;
    return copy;
}

static void forget_drops(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        ed->files[i]->dropped = false;
}

static void viewed(Editor *ed, void *ctx)
{
    part_with(ed, *(Parting *)ctx);
}

static void close_parted(Editor *ed)
{
    OpenFile *f = ed->parting;
    ed->parting = NULL;
    if (f)
        editor_close(ed, f);
}

static void drop_all(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        ed->files[i]->dropped = true;
    editor_leave(ed);
}

static void parting_answered(Editor *ed, char letter, void *ctx)
{
    Parting *p = ctx;
    switch (letter) {
    case 's':
        ed->parting = p->all ? NULL : p->file;
        editor_save(ed, p->file, p->all ? editor_leave : close_parted);
        break;
    case 'd':
        p->file->dropped = true;
        p->go_on(ed, p->file);
        break;
    case 'v':
        differences_with_save(ed, p->file, viewed, copy_of(*p), free);
        break;
    case 'a':
        editor_save_every(ed, editor_leave);
        break;
    case 'n':
        drop_all(ed);
        break;
    default:
        forget_drops(ed);
    }
}

static bool needs_parting(const OpenFile *f)
{
    return file_changed(f) && !f->dropped;
}

static void part_with(Editor *ed, Parting p)
{
    size_t left = 0;
    for (size_t i = 0; i < ed->n_files; i++)
        left += needs_parting(ed->files[i]);
    bool many = p.all && left > 1;
    editor_show(ed, p.file);
    QuestionSpec q = {
        .answers = {{'s', many    ? "Save"
                          : p.all ? "Save and leave"
                                  : "Save and close"},
                    {'d', "Drop them"},
                    {'v', "View them"},
                    {many ? 'a' : 0, "Save all"},
                    {'n', "Drop all"}},
        .stay = "Stay",
        .can_lose = true,
        .done = parting_answered,
        .ctx = copy_of(p),
        .free_ctx = free,
    };
    question_ask(ed, &q, "%s has changes that are not saved%s.",
                 p.file->path ? file_name(p.file) : "This text",
                 many ? left == 2 ? ", and so has another file" : ", and so have others" : "");
}

static void leave_on(Editor *ed, OpenFile *f)
{
    (void)f;
    editor_leave(ed);
}

/* A text that is being written is waited for: typing goes on until it is done. */
static bool waits_for_save(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i]->saver) {
            say(ed, "%s; leaving follows it", saving_words(ed->files[i]));
            ed->files[i]->saver_then = editor_leave;
            return true;
        }
    return false;
}

void editor_leave(Editor *ed)
{
    if (waits_for_save(ed))
        return;
    for (size_t i = 0; i < ed->n_files; i++)
        if (needs_parting(ed->files[i])) {
            part_with(ed, (Parting){ed->files[i], leave_on, true});
            return;
        }
    for (size_t i = 0; i < ed->n_files; i++)
        editor_keep_history(ed, ed->files[i]);
    ed->leaving = true;
}

void editor_ask_close(Editor *ed, OpenFile *f)
{
    f->dropped = false;
    if (needs_parting(f))
        part_with(ed, (Parting){f, editor_close, false});
    else
        editor_close(ed, f);
}

/* ---- reloading ---- */

static void reload_viewed(Editor *ed, void *ctx)
{
    editor_ask_reload(ed, ctx);
}

static void reload_answered(Editor *ed, char letter, void *ctx)
{
    OpenFile *f = ctx;
    if (letter == 'z')
        editor_reload(ed, f);
    else if (letter == 'v')
        differences_with_disk(ed, f, reload_viewed, f, NULL);
    else
        say(ed, "Nothing was reloaded");
}

void editor_ask_reload(Editor *ed, OpenFile *f)
{
    if (!file_changed(f) || !f->path) {
        editor_reload(ed, f);
        return;
    }
    QuestionSpec q = {
        .answers = {{'z', "Reload"}, {'v', "View them first"}},
        .stay = "Stay",
        .can_lose = true,
        .done = reload_answered,
        .ctx = f,
    };
    question_ask(ed, &q, "%s has changes here that reloading takes away.", file_name(f));
}

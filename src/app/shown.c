#include "app/shown.h"

#include "app/bars.h"
#include "app/lesson.h"
#include "app/loading.h"
#include "app/pages.h"
#include "app/panes.h"
#include "app/places.h"
#include "base/mem.h"
#include "base/sys.h"
#include "files/privileged.h"

#include <stdio.h>
#include <stdlib.h>

/* ---- what the session tells ---- */

static void added(void *ctx, OpenFile *f)
{
    const Editor *ed = ctx;
    f->shown = mem_get(sizeof *f->shown);
    f->shown->tab = (size_t)ed->settings.tab_width;
}

/* The text that was shown last. */
static OpenFile *shown_before(Editor *ed, const OpenFile *f)
{
    OpenFile *best = NULL;
    for (size_t i = 0; i < ed->session->n_files; i++) {
        OpenFile *o = ed->session->files[i];
        if (o != f && !o->shown->page && (!best || o->shown->turn > best->shown->turn))
            best = o;
    }
    return best;
}

/* Nothing here knows of it afterwards. */
static void closing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    if (ed->panes && !ed->ending && panes_show(ed, f)) {
        OpenFile *instead = shown_before(ed, f);
        if (!instead)
            instead = session_add(ed->session, (Text){0});
        panes_replace(ed, f, instead);
        instead->shown->turn = ++ed->shown;
    }
    if (ed->pasting == f)
        edit_paste_ends(ed);
    lesson_forget(ed, f);
    places_forget(ed, f);
    page_free(f->shown->page);
    bars_free(f);
    free(f->shown);
    f->shown = NULL;
}

static void more(void *ctx, OpenFile *f)
{
    loading_arrived(ctx, f);
}

static void look_at(void *ctx, OpenFile *f, size_t at)
{
    Editor *ed = ctx;
    editor_show(ed, f);
    view_go(ed->view, at);
}

static size_t cursor(void *ctx, const OpenFile *f)
{
    const Editor *ed = ctx;
    return ed->view && ed->view->file == f ? ed->view->cursor.at : f->shown->cursor;
}

SessionEvents shown_events(Editor *ed)
{
    return (SessionEvents){
        .ctx = ed, .added = added, .closing = closing, .more = more, .look_at = look_at, .cursor = cursor};
}

void shown_rules(Editor *ed)
{
    SessionRules *r = &ed->session->rules;
    const Settings *s = &ed->settings;
    r->keep_recovery = s->keep_recovery;
    r->remember_answers = s->remember_answers;
    r->keep_undo = s->keep_undo;
    r->keep_private_undo = s->keep_private_undo;
    r->say_in_use = s->say_in_use;
    r->last_newline = (LastNewline)s->last_newline;
    r->backup = (Backup)s->backup;
    r->backup_keep = (unsigned)s->backup_keep;
    snprintf(r->root_program, sizeof r->root_program, "%s", s->become_root);
}

/* ---- showing ---- */

void editor_show(Editor *ed, OpenFile *f)
{
    if (page_shown(ed) && ed->view->file != f) { /* help gives way */
        page_leave(ed);
        layer_cancel_all(ed);
    }
    if (ed->view->file != f)
        view_show(ed->view, f);
    f->shown->turn = ++ed->shown;
}

OpenFile *editor_add(Editor *ed, Text t)
{
    return session_add(ed->session, t);
}

static void say_encoding(Editor *ed, const OpenFile *f)
{
    if (f->encoding.guessed)
        say(ed, "%s is not UTF-8; it is read as %s, which is a guess. Esc f p changes that.", file_name(f),
            f->encoding.name);
}

/* What the person should know right after opening. */
static void say_rights(Editor *ed, const OpenFile *f)
{
    if (!f->disk.exists || file_may_write(f->path))
        return;
    const char *program = privileged_program(ed->settings.become_root);
    warn(ed, "You may not write %s; editing is fine, saving %s%s", f->path,
         program ? "will ask " : "needs another name", program ? sys_base_name(program) : "");
}

bool editor_open(Editor *ed, const char *path, Err *e)
{
    OpenFile *f = session_open(ed->session, path, e);
    if (!f)
        return false;
    editor_show(ed, f);
    if (ed->session->rules.batch && !session_finish_reading(ed->session, f))
        return err_set(e, "%s", ed->message.text);
    say_encoding(ed, f);
    say_rights(ed, f);
    return true;
}

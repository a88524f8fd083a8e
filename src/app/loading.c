#include "loading.h"

#include "panes.h"
#include "recovery.h"

#include <stdio.h>

static int percent(const OpenFile *f)
{
    size_t size = loader_size(f->loader) / 100 + 1;
    return (int)(loader_done(f->loader) / size);
}

/* The view that shows it, the present one first. */
static View *view_of(Editor *ed, const OpenFile *f)
{
    if (ed->view->file == f)
        return ed->view;
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        if (p->view.file == f)
            return &p->view;
    return NULL;
}

static const size_t THE_END = (size_t)-1;

/* To the place that was asked for, if it is there now or will never be. */
static bool go_wanted(Editor *ed, OpenFile *f, bool late)
{
    View *v = view_of(ed, f);
    if (!f->wanted || !v || (f->loader && text_newlines(doc_text(f->doc)) <= f->wanted - 1))
        return false;
    if (late)
        ed->message.text[0] = 0; /* that it would be shown */
    if (f->wanted == THE_END)
        view_go(v, text_len(doc_text(f->doc)));
    else if (!view_go_line(v, f->wanted - 1, f->wanted_column))
        say(ed, "The last line is %zu; there is no line %zu", text_newlines(doc_text(f->doc)) + 1, f->wanted);
    f->wanted = 0;
    return true;
}

static void go_when_there(Editor *ed, OpenFile *f)
{
    if (go_wanted(ed, f, true))
        view_centre(view_of(ed, f));
}

static void all_is_there(Editor *ed, OpenFile *f)
{
    Form form = form_of(doc_text(f->doc));
    loader_free(f->loader);
    f->loader = NULL;
    f->form.ends = form.ends;
    f->form.utf8 = form.utf8;
    f->journal_version = doc_version(f->doc);
    go_when_there(ed, f);
    recovery_opened(ed, f);
}

static void go_on(Editor *ed, OpenFile *f)
{
    Err e = {""};
    Text more = {0};
    LoadState s = loader_take(f->loader, &more, &e);
    if (!doc_load_more(f->doc, more)) {
        s = LOAD_FAILED;
        err_set(&e, "There is not enough memory for all of %s", file_name(f));
    }
    text_drop(&more);
    f->journal_version = doc_version(f->doc);
    if (s == LOADED) {
        all_is_there(ed, f);
    } else if (s == LOAD_FAILED) {
        loading_stop(ed, f);
        warn(ed, "%s. It is incomplete and can only be looked at.", e.text);
    } else {
        go_when_there(ed, f);
    }
}

void loading_go_on(Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++) {
        OpenFile *f = ed->files[i];
        if (!f->loader)
            continue;
        if (!loader_started(f->loader) && ed->painted)
            loader_start(f->loader);
        else
            go_on(ed, f);
    }
}

int loading_wait(const Editor *ed)
{
    for (size_t i = 0; i < ed->n_files; i++)
        if (ed->files[i]->loader)
            return loader_started(ed->files[i]->loader) ? 200 : 0;
    return -1;
}

bool loading_stop(Editor *ed, OpenFile *f)
{
    if (!f->loader)
        return false;
    say(ed, "Reading was stopped at %d%%; %s is incomplete and can only be looked at", percent(f),
        file_name(f));
    loader_free(f->loader);
    f->loader = NULL;
    f->incomplete = f->look_only = true;
    return true;
}

const char *loading_hindrance(const OpenFile *f)
{
    static char words[160];
    if (f->loader)
        snprintf(words, sizeof words, "%.60s is still being read, %d%%; Esc stops that", file_name(f),
                 percent(f));
    else if (f->incomplete)
        snprintf(words, sizeof words, "%.60s was not read to its end; reloading does that", file_name(f));
    return f->loader || f->incomplete ? words : NULL;
}

bool loading_finish(Editor *ed, OpenFile *f)
{
    Err e = {""};
    Text more = {0};
    if (!f->loader)
        return true;
    bool ok = loader_finish(f->loader, &more, &e) && doc_load_more(f->doc, more);
    text_drop(&more);
    if (ok) {
        all_is_there(ed, f);
        return true;
    }
    warn(ed, "%s", e.text);
    return false;
}

void loading_go_line(Editor *ed, size_t line, size_t column)
{
    OpenFile *f = ed->view->file;
    f->wanted = line + 1;
    f->wanted_column = column;
    if (!go_wanted(ed, f, false))
        say(ed, "Line %zu is shown as soon as it is read", f->wanted);
}

void loading_go_end(Editor *ed)
{
    OpenFile *f = ed->view->file;
    view_go(ed->view, text_len(doc_text(f->doc)));
    f->wanted = f->loader ? THE_END : 0;
    if (f->wanted)
        say(ed, "The end is shown as soon as it is read");
}

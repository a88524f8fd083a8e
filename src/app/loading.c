#include "app/loading.h"

#include "app/panes.h"
#include "app/shown.h"

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
    Shown *s = f->shown;
    if (!s->wanted || !v || (f->loader && text_newlines(doc_text(f->doc)) <= s->wanted - 1))
        return false;
    if (late)
        ed->message.text[0] = 0; /* that it would be shown */
    if (s->wanted == THE_END)
        view_go(v, text_len(doc_text(f->doc)));
    else if (!view_go_line(v, s->wanted - 1, s->wanted_column))
        say(ed, "The last line is %zu; there is no line %zu", text_newlines(doc_text(f->doc)) + 1, s->wanted);
    s->wanted = 0;
    return true;
}

void loading_arrived(Editor *ed, OpenFile *f)
{
    if (go_wanted(ed, f, true))
        view_centre(view_of(ed, f));
}

void loading_go_line(Editor *ed, size_t line, size_t column)
{
    OpenFile *f = ed->view->file;
    f->shown->wanted = line + 1;
    f->shown->wanted_column = column;
    if (!go_wanted(ed, f, false))
        say(ed, "Line %zu is shown as soon as it is read", f->shown->wanted);
}

void loading_go_end(Editor *ed)
{
    OpenFile *f = ed->view->file;
    view_go(ed->view, text_len(doc_text(f->doc)));
    f->shown->wanted = f->loader ? THE_END : 0;
    if (f->shown->wanted)
        say(ed, "The end is shown as soon as it is read");
}

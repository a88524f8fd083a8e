#include "view/wanted.h"

#include "text/text_line.h"
#include "view/scroll.h"
#include "view/shown.h"

static const size_t THE_END = (size_t)-1;

/* To the place that was asked for, if it is there now or will never be. */
static bool go_wanted(Panes *p, OpenFile *f, bool late)
{
    View *v = panes_view_of(p, f);
    Shown *s = f->shown;
    Notices *notices = p->session->notices;
    if (!s->wanted || !v || (f->reading && text_newlines(doc_text(f->doc)) <= s->wanted - 1))
        return false;
    if (late)
        notices_clear(notices); /* that it would be shown */
    if (s->wanted == THE_END)
        view_go(v, text_len(doc_text(f->doc)));
    else if (!view_go_line(v, s->wanted - 1, s->wanted_column))
        notices_say(notices, "The last line is %zu; there is no line %zu", text_line_count(doc_text(f->doc)),
                    s->wanted);
    s->wanted = 0;
    return true;
}

static void more(void *ctx, OpenFile *f)
{
    if (go_wanted(ctx, f, true))
        scroll_centre(panes_view_of(ctx, f));
}

void wanted_begin(Panes *p)
{
    SessionEvents events = {.ctx = p, .more = more};
    session_observe(p->session, &events);
}

void wanted_line(Panes *p, size_t line, size_t column)
{
    OpenFile *f = p->view->file;
    f->shown->wanted = line + 1;
    f->shown->wanted_column = column;
    f->shown->led = true;
    if (!go_wanted(p, f, false))
        notices_say(p->session->notices, "Line %zu is shown as soon as it is read", f->shown->wanted);
}

void wanted_end(Panes *p)
{
    OpenFile *f = p->view->file;
    view_go(p->view, text_len(doc_text(f->doc)));
    f->shown->led = true;
    f->shown->wanted = f->reading ? THE_END : 0;
    if (f->shown->wanted)
        notices_say(p->session->notices, "The end is shown as soon as it is read");
}

void wanted_forget(Panes *p)
{
    p->view->file->shown->wanted = 0;
}

#include "commands/view/follow.h"

#include "base/words.h"
#include "session/following.h"
#include "session/plan.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/hiding.h"
#include "view/shown.h"

static FollowWish wish(const Editor *ed)
{
    const Settings *s = &ed->config.settings;
    return (FollowWish){.by_name = s->follow_name, .keep = (size_t)s->follow_pipe_keeps << 20};
}

/* ---- what came ---- */

/* Shows the end on the last row. */
static void go_to_end(View *v)
{
    Text t = view_text(v);
    size_t last = text_newlines(t), rows = v->rows > 1 ? (size_t)v->rows - 1 : 0;
    view_go(v, text_len(t));
    v->top.at = text_line_start(t, last > rows ? last - rows : 0);
}

/* Matches of the last search among what came, and the lines that have them. */
static size_t fresh_matches(Editor *ed, Text t, size_t from, ShownLines *lines)
{
    Finder *finder = ed->matches.finder;
    size_t n = 0;
    Match m;
    if (!finder || !ed->matches.shown || ed->matches.in_mark)
        return 0;
    finder_text(finder, t);
    while (finder_next(finder, from, text_len(t), &m) == FOUND) {
        n++;
        shown_lines_add(lines, t, m.from, m.to > m.from ? m.to - 1 : m.from);
        from = finder_after(finder, m);
    }
    return n;
}

static void came(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    if (!f->following)
        return;
    Text t = doc_text(f->doc);
    size_t from = following_from(f);
    ShownLines lines = {0};
    f->shown->fresh += fresh_matches(ed, t, from, &lines);
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        if (p->view.file == f) {
            bool ends = view_at_end(&p->view, from);
            if (ends) /* first, as the line that the cursor is in is always shown */
                view_go(&p->view, text_len(t));
            if (hiding_what(&p->view) == SHOW_MATCHES)
                hiding_follow_growth(&p->view, &lines);
            if (ends)
                go_to_end(&p->view);
        }
    shown_lines_free(&lines);
}

static void opened(void *ctx, OpenFile *f)
{
    Err ignored;
    if (!f->shown || !f->shown->follow)
        return;
    f->shown->follow = false;
    follow_file(ctx, f, &ignored);
}

void follow_observe(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .more = came, .opened = opened};
    session_observe(ed->session, &events);
}

void follow_seen(Editor *ed)
{
    Shown *shown = ed->panes.view->file->shown;
    if (shown)
        shown->fresh = 0;
}

/* ---- beginning and ending ---- */

bool follow_file(Editor *ed, OpenFile *f, Err *e)
{
    const char *why = f->reading && f->path ? NULL : following_hindered(f);
    FollowWish w = wish(ed);
    if (why)
        return err_set(e, "%s", why);
    if (f->reading) {
        f->shown->follow = true;
        say(ed, "%s is followed as soon as it is read", openfile_name(f));
        return true;
    }
    following_begin(ed->session, f, &w);
    f->shown->fresh = 0;
    for (Pane *p = panes_first(&ed->panes); p; p = panes_after(p))
        if (p->view.file == f)
            go_to_end(&p->view);
    if (following_waits(f))
        say(ed, "%s is not there yet; it is followed when it comes", openfile_name(f));
    else
        say(ed, "Following %s; %s ends that", openfile_name(f), KEY_FOR(ed, "follow"));
    return true;
}

void follow_input(Editor *ed, int fd)
{
    FollowWish w = wish(ed);
    OpenFile *f = session_add(ed->session, (Text){0});
    f->piped = true;
    following_pipe(ed->session, f, fd, &w);
    editor_show(ed, f);
}

void follow_end_of(Editor *ed, OpenFile *f)
{
    f->shown->follow = false;
    if (following_end(f))
        plan_reload_now(ed->session, f);
}

static void run_follow(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *f = ed->panes.view->file;
    Err e;
    if (f->following || f->shown->follow) {
        follow_end_of(ed, f);
        say(ed, "%s is not followed any more%s", openfile_name(f),
            f->look_only ? "" : "; it can be changed again");
    } else if (!follow_file(ed, f, &e)) {
        decline(ed, "%s", e.text);
    }
}

static const Command cmd_follow = {
    .name = "follow",
    .label = "Follow",
    .letter = 'f',
    .help = "Show what is added to the file as it comes, or end that",
    .words = "grow log watch end added new lines",
    .more =
        "The text is look-only meanwhile. While the cursor is in the last line the screen goes along; it "
        "stays "
        "when you go up, and goes along again from the end on. Matches of the last search are marked as they "
        "come, and counted until the next key. When a log is rotated, what the old file still gets comes "
        "first, then the new one; with the setting follow_name off, the old file is followed for good.",
    .hint = "End following",
    .flags = CMD_FILE,
    .run = run_follow,
};

const Command *const follow_commands[] = {&cmd_follow, NULL};

#include "ui/command.h"

#include "base/words.h"
#include "session/reading.h"
#include "view/cursors.h"

#include <string.h>

const Command *command_named(const Editor *ed, const char *name)
{
    return registry_find(&ed->config.registry, name, strlen(name));
}

const char *command_key(const Editor *ed, const Command *c, char out[COMMAND_KEY_MAX])
{
    keymap_key_of(&ed->config.keys, c, 0, out);
    return out[0] ? out : registry_route(&ed->config.registry, c, out);
}

const char *command_disabled_reason(const Editor *ed, const Command *c, char words[TASK_WORDS_MAX])
{
    const OpenFile *f = ed->panes.view->file;
    if ((c->flags & CMD_FILE) && !f->id)
        return "A page of help is no file; Esc goes back to the text";
    if ((c->flags & CMD_CHANGES) && reading_unready(f, words))
        return words;
    if ((c->flags & CMD_CHANGES) && f->following) {
        char key[COMMAND_KEY_MAX];
        snprintf(words, TASK_WORDS_MAX, "This text is being followed, and look-only meanwhile; %s ends that",
                 command_key(ed, command_named(ed, "follow"), key));
        return words;
    }
    if ((c->flags & CMD_CHANGES) && f->look_only)
        return "This text is open to look only";
    if ((c->flags & CMD_CHANGES) && !(c->flags & (CMD_EACH | CMD_EACH_LINE | CMD_ALL)) &&
        ed->panes.view->cursors)
        return "That works with a single cursor; Esc Esc goes back to one";
    return c->disabled_reason ? c->disabled_reason(ed) : NULL;
}

/* Runs it so often; it stops when it does nothing any more. */
static void repeat(Editor *ed, const Command *c, const Args *args, unsigned times)
{
    View *v = ed->panes.view;
    for (unsigned i = 0; i < times; i++) {
        const Doc *doc = v->file->doc;
        unsigned long version = doc_version(doc);
        size_t cursor = v->cursor.at;
        c->run(ed, args);
        ed->running.before = c;
        if (ed->panes.view != v || v->file->doc != doc ||
            (version == doc_version(doc) && cursor == v->cursor.at))
            return; /* at an end, or somewhere else: doing it again would do nothing, or something else */
    }
}

/* Where nothing more is to be worked on. */
static bool after_last_newline(const View *v)
{
    size_t len = text_len(view_text(v));
    return v->cursor.at == len && len && text_byte(view_text(v), len - 1) == '\n';
}

/* A mark that Shift made ends with whatever moves the cursor without Shift, by a key, a route or a name:
 * before it moves
 * (`begun` NULL), or, of what may only ask where to go, when it has moved. */
static void drop_shift_mark(Editor *ed, const Command *c, const ViewPlace *begun)
{
    View *v = ed->panes.view;
    if (v->marking != MARK_SHIFT || ed->running.marks)
        return;
    bool moved =
        begun && begun->cursor != v->cursor.at && begun->marking == MARK_SHIFT && begun->mark == v->mark.at;
    if (begun ? (c->flags & CMD_JUMPS) && moved : (c->flags & CMD_MOVES))
        view_drop_mark(v);
}

/* ---- at many cursors ---- */

typedef struct AtEach {
    Editor *ed;
    const Command *c;
    const Args *args;
    unsigned times;
} AtEach;

static void run_times(Editor *ed, const Command *c, const Args *args, unsigned times)
{
    if (c->flags & CMD_REPEATS) {
        repeat(ed, c, args, times);
        return;
    }
    c->run(ed, args);
    ed->running.before = c;
}

static void run_at(void *ctx, size_t i, size_t n)
{
    const AtEach *a = ctx;
    a->ed->running.place = i;
    a->ed->running.places = n;
    run_times(a->ed, a->c, a->args, a->times);
}

/* What one of them would say does not count: how many it was done at does, where that cannot be seen. */
static void tell_each(Editor *ed, unsigned flags, const CursorsRun *r, size_t n)
{
    if (r->by_line || (flags & (CMD_MOVES | CMD_TYPING)))
        return;
    if (!(flags & CMD_CHANGES))
        say(ed, "Done at %s", AMOUNT(n, "cursor"));
    else if (r->changed < n)
        say(ed, "Done at %zu of %s", r->changed, AMOUNT(n, "cursor"));
}

void command_run_each(Editor *ed, unsigned flags, void (*run)(void *ctx, size_t i, size_t n), void *ctx)
{
    View *v = ed->panes.view;
    Doc *doc = v->file->doc;
    size_t from, to, n = cursors_count(v);
    bool marked = v->marking != MARK_NONE && view_marked(v, &from, &to);
    bool by_line = (flags & CMD_EACH_LINE) && (!(flags & CMD_EACH) || !marked);
    CursorsRun r = {.run = run, .ctx = ctx, .by_line = by_line, .stop = ed->stop};
    unsigned long version = doc_version(doc);
    if (flags & CMD_CHANGES)
        doc_begin(doc);
    ed->notices.quiet = true;
    bool ok = cursors_run(v, &r);
    ed->notices.quiet = false;
    ed->running.place = ed->running.places = 0;
    if (!v->file || v->file->doc != doc)
        return; /* which ends with its text */
    if (flags & CMD_CHANGES)
        doc_end(doc);
    if (ok) {
        tell_each(ed, flags, &r, n);
        return;
    }
    size_t at = v->cursor.at;
    if ((flags & CMD_CHANGES) && version != doc_version(doc))
        doc_undo(doc, &at);
    view_drop_mark(v);
    view_go(v, at);
    warn(ed, "It was stopped, and taken back; there is one cursor again");
}

static void run_now(Editor *ed, const Command *c, const Args *args, unsigned times)
{
    View *v = ed->panes.view;
    if (cursors_follow(v) || !v->cursors || !(c->flags & (CMD_EACH | CMD_EACH_LINE))) {
        run_times(ed, c, args, times);
        return;
    }
    AtEach a = {ed, c, args, times};
    command_run_each(ed, c->flags, run_at, &a);
}

void command_run(Editor *ed, const Command *c, unsigned count, bool counted, const char *text)
{
    char words[TASK_WORDS_MAX];
    const char *why = command_disabled_reason(ed, c, words);
    if (why) {
        decline(ed, "%s", why);
        return;
    }
    layers_settle(ed); /* what it does to the view stays */
    if (c->flags & CMD_LEAVES)
        layers_uncover(ed);
    Args args = {.count = count, .counted = counted, .text = text};
    bool loop = (c->flags & CMD_REPEATS) != 0;
    Doc *doc = ed->panes.view->file->doc;
    bool group = loop && count > 1 && (c->flags & CMD_CHANGES);
    if (!(c->flags & CMD_CHANGES))
        doc_seal(doc);
    if (c->flags & CMD_JUMPS)
        jumps_note(&ed->jumps);
    doc_set_verb(doc, (c->flags & CMD_TYPING) ? NULL : c->label);
    ed->running.now = c;
    drop_shift_mark(ed, c, NULL);
    View *view = ed->panes.view;
    const ViewPlace begun = view_place(view);
    unsigned long version = doc_version(doc);
    size_t cursor = view->cursor.at;
    if (group)
        doc_begin(doc);
    run_now(ed, c, &args, count);
    if (group)
        doc_end(doc);
    if (view == ed->panes.view && view->file->doc == doc && !ed->layer)
        drop_shift_mark(ed, c, &begun);
    if ((c->flags & CMD_ADVANCES) && view == ed->panes.view && view->file->doc == doc &&
        version == doc_version(doc) && (cursor == view->cursor.at || after_last_newline(view)))
        ed->running.at_end = true;
    if (ed->panes.view->file && ed->panes.view->file->doc == doc && !ed->layer)
        doc_set_verb(doc, NULL);
    ed->running.now = NULL;
}

void command_run_binding(Editor *ed, const Binding *b, unsigned count, bool counted)
{
    command_run(ed, b->command, count, counted, b->args ? b->args : "");
}

bool command_run_line(Editor *ed, const char *line, unsigned count, bool counted)
{
    line += strspn(line, " ");
    size_t n = strcspn(line, " ");
    const Command *c = registry_find(&ed->config.registry, line, n);
    if (!c) {
        warn(ed, "There is no command “%.*s”", (int)(n < 60 ? n : 60), line);
        return false;
    }
    line += n + strspn(line + n, " ");
    if (*line && !c->args) {
        warn(ed, "%s takes nothing after its name, but there is “%.60s”", c->name, line);
        return false;
    }
    command_run(ed, c, count, counted, line);
    return true;
}

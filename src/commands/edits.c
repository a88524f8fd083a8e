#include "commands/edits.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "edit/move.h"
#include "session/reading.h"
#include "ui/command.h"
#include "view/columns.h"
#include "view/cursors.h"

#include <stdlib.h>
#include <string.h>

typedef struct Typing {
    FileId pasting; /* a paste into it comes in parts, which are one step; 0: none */
    bool after_cr;  /* its last part ended with CR: LF may belong to it */
    unsigned named; /* how often the way out was named */
} Typing;

static void closing(void *ctx, OpenFile *f)
{
    Editor *ed = ctx;
    if (ed->typing->pasting == f->id)
        edit_paste_ends(ed);
}

void edit_begin(Editor *ed)
{
    SessionEvents events = {.ctx = ed, .closing = closing};
    ed->typing = mem_get(sizeof *ed->typing);
    session_observe(ed->session, &events);
}

void edit_free(Editor *ed)
{
    free(ed->typing);
}

bool edit_allowed(Editor *ed)
{
    char why[TASK_WORDS_MAX];
    if (reading_unready(ed->panes.view->file, why)) {
        warn(ed, "%s", why);
        return false;
    }
    if (!ed->panes.view->file->look_only)
        return true;
    if (ed->panes.view->file->following) {
        warn(ed, "%s is being followed, and look-only meanwhile; {follow} ends that",
             openfile_name(ed->panes.view->file));
        return false;
    }
    warn(ed, "%s is open to look only; {look-only} changes that", openfile_name(ed->panes.view->file));
    return false;
}

bool edit_replace(Editor *ed, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind)
{
    View *v = ed->panes.view;
    if (!edit_allowed(ed))
        return false;
    if (!doc_replace(v->file->doc, at, removed, bytes, n, kind, v->cursor.at)) {
        warn(ed, "There is not enough memory for that; nothing was changed");
        return false;
    }
    view_go(v, at + n);
    return true;
}

bool edit_delete_mark(Editor *ed)
{
    size_t from, to;
    if (ed->panes.view->columns && ed->panes.view->marking != MARK_NONE) {
        if (edit_allowed(ed))
            columns_delete(ed->panes.view, true);
        return true;
    }
    if (!view_marked(ed->panes.view, &from, &to) || !edit_allowed(ed))
        return false;
    view_drop_mark(ed->panes.view);
    return edit_replace(ed, from, to - from, NULL, 0, STEP_WHOLE);
}

/* Says why it was not done at all cursors. */
static bool at_all(Editor *ed, bool done)
{
    if (!done)
        warn(ed, "There is not enough memory for that; nothing was changed");
    return done;
}

bool edit_delete_at_all(Editor *ed, bool left)
{
    View *v = ed->panes.view;
    cursors_follow(v);
    if (!v->cursors)
        return false;
    if (edit_allowed(ed))
        at_all(ed, cursors_delete(v, left));
    return true;
}

void edit_type(Editor *ed, const char *bytes, size_t n)
{
    View *v = ed->panes.view;
    size_t at = v->cursor.at, removed = 0, from, to;
    StepKind kind = STEP_TYPE;
    cursors_follow(v);
    if (v->cursors) {
        CursorPiece piece = {bytes, n};
        if (edit_allowed(ed))
            at_all(ed, cursors_type(v, &piece, 1, ed->overtype, kind));
        return;
    }
    if (v->columns && v->marking != MARK_NONE && bytes[0] != '\n' && bytes[0] != '\r') {
        if (edit_allowed(ed))
            columns_type(v, bytes, n);
        return;
    }
    if (view_marked(v, &from, &to)) {
        at = from;
        removed = to - from;
    } else if (ed->overtype && bytes[0] != '\n' && bytes[0] != '\r') {
        Text t = view_text(v);
        if (at < move_line_end(t, at))
            removed = move_right(t, at) - at;
        kind = removed ? STEP_WHOLE : STEP_TYPE;
    }
    if (edit_replace(ed, at, removed, bytes, n, kind))
        view_drop_mark(v);
}

bool edit_indent_is_fresh(const View *v)
{
    const FreshIndent *fresh = &v->file->fresh;
    Text t = view_text(v);
    return fresh->n && fresh->version == doc_version(v->file->doc) && v->cursor.at == fresh->at + fresh->n &&
           move_line_end(t, v->cursor.at) == v->cursor.at;
}

void edit_tidy(Editor *ed)
{
    for (size_t i = 0; i < ed->session->n_files; i++) {
        OpenFile *f = ed->session->files[i];
        const View *v = ed->panes.view;
        if (f->fresh.n &&
            (v->file != f || v->cursor.at < f->fresh.at || v->cursor.at > f->fresh.at + f->fresh.n))
            openfile_drop_fresh(f);
    }
}

bool edit_paste_goes_on(const Editor *ed)
{
    return ed->typing->pasting != 0;
}

void edit_paste_ends(Editor *ed)
{
    OpenFile *f = session_file(ed->session, ed->typing->pasting);
    if (f)
        doc_end(f->doc);
    ed->typing->pasting = 0;
}

void edit_own_ends(const OpenFile *f, const char *bytes, size_t n, Bytes *out)
{
    const char *end = text_format_line_end(&f->format);
    for (size_t i = 0; i < n;) {
        size_t k = i;
        while (k < n && bytes[k] != '\r' && bytes[k] != '\n')
            k++;
        bytes_add(out, bytes + i, k - i);
        if (k < n)
            bytes_add_str(out, end);
        i = k + 1 + (k + 1 < n && bytes[k] == '\r' && bytes[k + 1] == '\n');
    }
}

/* Pastes at all cursors: a line to each where there are as many, and everything to each else. */
static bool paste_at_all(View *v, const Bytes *out, bool whole)
{
    size_t n = cursors_count(v), lines = 0;
    CursorPiece *pieces = mem_get(n * sizeof *pieces);
    for (size_t at = 0; whole && at < out->len; lines++) {
        const char *stop = memchr(out->at + at, '\n', out->len - at);
        size_t end = stop ? (size_t)(stop - out->at) : out->len;
        if (lines < n)
            pieces[lines] = (CursorPiece){out->at + at, end - at - (end > at && out->at[end - 1] == '\r')};
        at = end + 1;
    }
    bool each = lines == n;
    if (!each)
        pieces[0] = (CursorPiece){bytes_str((Bytes *)out), out->len};
    bool ok = cursors_type(v, pieces, each ? n : 1, false, STEP_WHOLE);
    free(pieces);
    return ok;
}

void edit_paste(Editor *ed, const char *bytes, size_t n, bool goes_on)
{
    View *v = ed->panes.view;
    if (!edit_allowed(ed))
        return;
    bool goes_on_now = ed->typing->pasting && ed->typing->pasting == v->file->id;
    if (goes_on_now && ed->typing->after_cr && n && *bytes == '\n') {
        bytes++;
        n--;
    }
    ed->typing->after_cr = n && bytes[n - 1] == '\r';
    Bytes out = {0};
    edit_own_ends(v->file, bytes, n, &out); /* terminals send those of a paste in any way */
    size_t at = v->cursor.at, removed = 0, from, to;
    if (view_marked(v, &from, &to)) {
        at = from;
        removed = to - from;
    }
    if (!goes_on_now) {
        edit_paste_ends(ed);
        doc_begin(v->file->doc);
        ed->typing->pasting = v->file->id;
    }
    doc_set_verb(v->file->doc, "Paste");
    cursors_follow(v);
    if (v->cursors)
        at_all(ed, paste_at_all(v, &out, !goes_on && !goes_on_now));
    else if (edit_replace(ed, at, removed, out.at, out.len, STEP_WHOLE))
        view_drop_mark(v);
    doc_set_verb(v->file->doc, NULL);
    if (!goes_on)
        edit_paste_ends(ed);
    bytes_free(&out);
}

void edit_name_way_out(Editor *ed)
{
    if (ed->typing->named == 2 || ed->config.settings.layout)
        return;
    ed->typing->named++;
    say(ed, "Deleted a character; %s brings it back. Leaving is %s.", KEY_FOR(ed, "undo"),
        KEY_FOR(ed, "leave"));
}

void edit_name_way(Editor *ed, const char *word, bool help)
{
    if (ed->typing->named == 2)
        return;
    ed->typing->named++;
    say(ed, "%s is %s. “%s” went into the text; %s takes it back.", help ? "Help" : "Leaving",
        help ? KEY_FOR(ed, "help") : KEY_FOR(ed, "leave"), word, KEY_FOR(ed, "undo"));
}

#include "commands/file/earlier_saves.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/differences.h"
#include "commands/edits.h"
#include "edit/diff.h"
#include "kept/earlier.h"
#include "ui/panel.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef struct Saves {
    FileId file;
    EarlierSave *at;
    size_t n;
} Saves;

static void free_saves(void *ctx)
{
    free(((Saves *)ctx)->at);
    free(ctx);
}

/* One of them as a text in the file's encoding. */
static bool text_of(Editor *ed, const OpenFile *f, const EarlierSave *s, Text *out)
{
    Err e = {""};
    Text raw = {0};
    bool ok = earlier_read(f->path, s, &raw, &e) && encoding_read(raw, &f->encoding, out, &e);
    text_drop(&raw);
    if (!ok)
        warn(ed, "%s", e.text);
    return ok;
}

enum { COUNTED = 1 << 20 /* bytes of a version whose lines are compared for the list */ };

static void fill(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter;
    const Saves *l = ctx;
    const OpenFile *f = session_file(ed->session, l->file);
    for (size_t i = 0; f && i < l->n; i++) {
        char size[WORDS_MAX], when[WORDS_MAX];
        Bytes note = {0};
        Text t = {0};
        words_size(l->at[i].bytes, size);
        bytes_printf(&note, "%s%s%s", l->at[i].who, l->at[i].who[0] ? ", " : "", size);
        if (l->at[i].bytes <= COUNTED && text_of(ed, f, &l->at[i], &t)) {
            size_t lines = diff_lines_changed(t, doc_text(f->doc));
            bytes_printf(&note, ", %s%s", lines ? AMOUNT(lines, "line") : "the same",
                         lines > 1 ? " differ"
                         : lines   ? " differs"
                                   : "");
            text_drop(&t);
        }
        panel_add(p, (long)i, words_when_exactly(l->at[i].when, when), note.at, NULL);
        bytes_free(&note);
    }
}

static void taken(Editor *ed, char letter, void *ctx)
{
    const Saves *l = ctx;
    OpenFile *f = session_file(ed->session, l->file);
    Text t = {0};
    if (letter != 'r' || !f || !text_of(ed, f, &l->at[0], &t))
        return;
    editor_show(ed, f);
    if (edit_allowed(ed)) {
        doc_set_verb(f->doc, "Take an earlier save");
        if (doc_set_text(f->doc, t, ed->panes.view->cursor.at))
            say(ed, "The text is as it was then; undo takes that back, saving keeps it");
        else
            warn(ed, "There is not enough memory for that; nothing was changed");
        doc_set_verb(f->doc, NULL);
    }
    text_drop(&t);
}

/* Against the present text, where single changes can be taken back too. */
static void chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed;
    const Saves *l = ctx;
    OpenFile *f = session_file(ed->session, l->file);
    Text old = {0};
    char when[WORDS_MAX], name[WORDS_MAX + 20];
    if (id < 0 || !f || !text_of(ed, f, &l->at[id], &old))
        return;
    Saves *one = mem_get(sizeof *one);
    *one = (Saves){.file = f->id, .n = 1, .at = mem_get(sizeof *one->at)};
    one->at[0] = l->at[id];
    snprintf(name, sizeof name, "until %s", words_when_exactly(l->at[id].when, when));
    DifferenceSpec s = {
        .old = old,
        .fresh = doc_text(f->doc),
        .old_name = name,
        .fresh_name = openfile_name(f),
        .file = f->id,
        .answers = {{'r', "Restore all of it"}},
        .done = taken,
        .ctx = one,
        .free_ctx = free_saves,
    };
    differences_show(ed, &s);
    text_drop(&old);
}

static void run_earlier(Editor *ed, const Args *args)
{
    (void)args;
    const OpenFile *f = ed->panes.view->file;
    Saves *l = mem_get(sizeof *l);
    l->file = f->id;
    l->n = f->path ? earlier_list(f->path, &l->at) : 0;
    PanelSpec p = {
        .title = "Earlier saves",
        .fill = fill,
        .chosen = chosen,
        .empty = "Nothing was saved here yet that is kept (settings keep_earlier, keep_private_undo)",
        .ctx = l,
        .free_ctx = free_saves,
    };
    panel_open(ed, &p);
}

static const Command cmd_earlier_saves = {
    .name = "earlier-saves",
    .label = "Earlier saves…",
    .letter = 'h',
    .help = "List what saving replaced, and take one or a part of it back",
    .words = "versions backup history restore",
    .more =
        "What a save replaces is kept for 90 days, at most 40 versions and 64 MB of a file, 16 MB of one, "
        "and 512 MB of all; with who replaced it; also "
        "what somebody else had changed. Files that others may not read are left out unless "
        "keep_private_undo "
        "says otherwise.",
    .flags = CMD_FILE,
    .run = run_earlier,
};

const Command *const earlier_commands[] = {&cmd_earlier_saves, NULL};

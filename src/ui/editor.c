#include "ui/editor.h"

#include "base/paths.h"

#include "files/privileged.h"
#include "session/reading.h"
#include "session/session_files.h"

#include <errno.h>
#include <stdarg.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

void say(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(&ed->notices, false, format, args);
    va_end(args);
}

void decline(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(&ed->notices, false, format, args);
    va_end(args);
    ed->running.declined = true;
}

void warn(Editor *ed, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(&ed->notices, true, format, args);
    va_end(args);
}

void editor_show(Editor *ed, OpenFile *f)
{
    if (ed->panes.view->file != f) {
        layers_uncover(ed);
        notices_pass(&ed->notices, ed->clock.last_key);
    }
    showing_show(&ed->panes, f);
}

static void say_encoding(Editor *ed, const OpenFile *f)
{
    if (f->encoding.guessed)
        say(ed, "%s is not UTF-8; it is read as %s, which is a guess. {properties} changes that.",
            openfile_name(f), f->encoding.name);
}

/* "tern:/etc/hosts" is a path of this machine, and hardly ever what was meant. */
static bool say_meant(Editor *ed, const OpenFile *f, const char *typed)
{
    char *meant = f->disk.exists ? NULL : location_meant(typed);
    if (meant)
        warn(ed, "There is no file %s here. On the host it is called %s", typed, meant);
    free(meant);
    return meant != NULL;
}

static void say_rights(Editor *ed, const OpenFile *f)
{
    char word[PRIVILEGED_WORD];
    const char *program = privileged_program(ed->config.settings.root_program, word);
    char *folder = disk_missing_folder(f->path);
    if (folder)
        warn(ed, "There is no folder %s yet; saving offers to make it", folder);
    free(folder);
    if (folder || disk_may_write(f->path))
        return;
    warn(ed, "No permission to write %s; editing is fine, saving %s%s", f->path,
         program ? "will ask " : "needs another name", program ? path_base(program) : "");
}

/* What somebody else may read is no dead end. */
static void say_who_may_read(const Editor *ed, const char *path, Err *e)
{
    char word[PRIVILEGED_WORD];
    const char *program = privileged_program(ed->config.settings.root_program, word);
    if (program && disk_is_closed(path))
        err_set(e, "No permission to read %s. As root it can be opened: %s squill %s", path,
                path_base(program), path);
}

/* A text without a name that nobody ever typed in, as at the start, is nothing to come back to. */
static void close_untouched(Editor *ed, FileId id)
{
    OpenFile *f = session_file(ed->session, id);
    bool untouched =
        f && !f->path && !f->reading && text_len(doc_text(f->doc)) == 0 && doc_states(f->doc) == 1;
    if (untouched && !panes_view_of(&ed->panes, f))
        session_close(ed->session, f);
}

bool editor_open(Editor *ed, const char *path, Err *e)
{
    FileId before = ed->panes.view->file ? ed->panes.view->file->id : 0;
    OpenFile *f = session_open(ed->session, path, e);
    if (!f) {
        say_who_may_read(ed, path, e);
        return false;
    }
    editor_show(ed, f);
    close_untouched(ed, before);
    if (ed->session->rules.batch && !reading_finish(ed->session, f))
        return err_set(e, "%s", ed->notices.text);
    say_encoding(ed, f);
    if (filesystem_can(f->path, FILES_ARE_HERE) && !say_meant(ed, f, path))
        say_rights(ed, f);
    return true;
}

unsigned editor_text_width(const Editor *ed, const OpenFile *f)
{
    enum { USUAL_WIDTH = 80, MESSAGE_WIDTH = 72 };
    if (ed->config.settings.text_width)
        return (unsigned)ed->config.settings.text_width;
    return f->rules.width                              ? f->rules.width
           : strcmp(f->kind->name, "git-message") == 0 ? MESSAGE_WIDTH
                                                       : USUAL_WIDTH;
}

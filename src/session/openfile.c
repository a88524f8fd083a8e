#include "session/openfile.h"

#include "base/mem.h"
#include "base/paths.h"
#include "session/caller_copy.h"

#include <fnmatch.h>
#include <stdlib.h>

OpenFile *openfile_new(Text t, char *path)
{
    OpenFile *f = mem_get(sizeof *f);
    f->doc = doc_new(t);
    openfile_set_path(f, path);
    f->format = text_format_of(t);
    openfile_recognise(f);
    return f;
}

void openfile_free(OpenFile *f)
{
    doc_free(f->doc);
    free(f->safe_copy.path);
    free(f->path);
    free(f->inside);
    free(f->title);
    free(f->original);
    free(f->becomes);
    free(f);
}

void openfile_set_path(OpenFile *f, char *path)
{
    free(f->path);
    free(f->inside);
    free(f->title);
    free(f->original);
    f->path = path;
    f->inside = path ? location_path(path) : NULL;
    f->title = path ? location_shown(path) : NULL;
    f->original = path && !location_is_remote(path) ? caller_original(path, &f->caller) : NULL;
}

const char *openfile_known_path(const OpenFile *f)
{
    return f->original ? f->original : f->inside;
}

const char *openfile_name(const OpenFile *f)
{
    if (f->purpose == FOR_READING)
        return "the help page";
    return f->path ? path_base(openfile_known_path(f)) : "this text";
}

bool openfile_changed(const OpenFile *f)
{
    bool unnamed = f->piped && !f->path && !f->incomplete && text_len(doc_text(f->doc)) > 0;
    return doc_changed(f->doc) || f->format_changed || openfile_gone(f) || unnamed;
}

bool openfile_gone(const OpenFile *f)
{
    return f->news == DISK_GONE && f->purpose == FOR_WORK;
}

bool openfile_is_awaited(const OpenFile *f)
{
    static const char *const names[] = {
        "*/.git/*_EDITMSG", "*/.git/*_MSG",     "*/git-rebase-todo", "/tmp/crontab.*", "/tmp/bash-fc.*",
        "/tmp/zsh*",        "/tmp/psql.edit.*", "/etc/*.edit",       "*/sudoers.tmp",  "/var/tmp/*.??*"};
    for (size_t i = 0; f->path && i < sizeof names / sizeof *names; i++)
        if (fnmatch(names[i], f->path, 0) == 0)
            return true;
    return false;
}

bool openfile_is_temporary(const OpenFile *f)
{
    static const char *const patterns[] = {"/tmp/*", "/var/tmp/*", "/run/*", "*/.git/*"};
    for (size_t i = 0; f->path && i < sizeof patterns / sizeof *patterns; i++)
        if (fnmatch(patterns[i], f->path, 0) == 0)
            return true;
    return false;
}

void openfile_drop_fresh(OpenFile *f)
{
    FreshIndent *fresh = &f->fresh;
    if (fresh->n && fresh->version == doc_version(f->doc))
        doc_replace(f->doc, fresh->at, fresh->n, NULL, 0, STEP_DELETE_LEFT, fresh->at + fresh->n);
    fresh->n = 0;
}

void openfile_recognise(OpenFile *f)
{
    char head[KIND_HEAD];
    size_t n = text_read(doc_text(f->doc), 0, head, sizeof head);
    openfile_set_kind(f, kind_of(openfile_known_path(f), head, n));
    f->is_template = kind_is_template(openfile_known_path(f));
}

void openfile_set_kind(OpenFile *f, const Kind *k)
{
    TextFormat usual = text_format_of((Text){0});
    f->kind = k;
    if (f->format.indented || f->rules.indentation)
        return;
    f->format.tabs = k->indentation == KIND_INDENT_TAB;
    f->format.indent = f->format.tabs ? 8 : k->indentation > 0 ? (unsigned)k->indentation : usual.indent;
}

DiskNews openfile_news_by(OpenFile *f, const Seen *seen)
{
    if (f->writing || !f->path) /* what changes there now is ours */
        return DISK_SAME;
    DiskNews news = seen_news(seen, &f->disk);
    return news == DISK_TOUCHED ? news : (f->news = news);
}

bool openfile_bytes(const OpenFile *f, Text *out)
{
    size_t at;
    Err ignored;
    return encoding_write(doc_saved_text(f->doc), &f->encoding, out, &at, &ignored);
}

DiskNews openfile_compared(OpenFile *f, bool same, const DiskState *now)
{
    if (same)
        f->disk = *now;
    return f->news = same ? DISK_SAME : DISK_CHANGED;
}

bool openfile_gone_by(OpenFile *f, const Seen *seen)
{
    if (!f->writing && f->path && seen_news(seen, &f->disk) == DISK_GONE)
        f->news = DISK_GONE;
    return openfile_gone(f);
}

void openfile_take_format(OpenFile *f)
{
    TextFormat found = text_format_of(doc_text(f->doc));
    f->format.ends = found.ends;
    f->format.utf8 = found.utf8;
}

#include "session/writing.h"

#include "base/mem.h"
#include "base/words.h"
#include "edit/transform.h"
#include "kept/earlier.h"
#include "files/leftovers.h"
#include "files/saver.h"
#include "session/checking.h"
#include "session/following.h"
#include "session/keeper.h"
#include "session/session_memory.h"
#include "session/session_around.h"
#include "text/text_line.h"

#include <fnmatch.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* What is being written. */
typedef struct Writing {
    Task task;
    Saver *saver;
    size_t state; /* of the document */
    char *path;
    Encoding encoding;
    LineEnds ends;
    bool fresh; /* there was no file of that name */
    size_t trimmed;
    Journal *journal; /* for the thread, which tells it when the old version goes */
    int64_t row;
    Err earlier; /* why what it replaces could not be kept, or "" */
} Writing;

/* Trims line ends where .editorconfig asks for it, as one step; returns how many lines. */
static size_t trim_for_rules(Session *s, OpenFile *f)
{
    size_t lines = 0, cursor = session_cursor(s, f);
    Text trimmed;
    if (f->rules.trim != WISH_YES || !transform_trim_text(doc_text(f->doc), &trimmed, &lines))
        return 0;
    doc_set_verb(f->doc, "Trim blanks");
    if (lines && !doc_set_text(f->doc, trimmed, cursor))
        lines = 0;
    doc_set_verb(f->doc, NULL);
    text_drop(&trimmed);
    return lines;
}

static bool encoded(Session *s, OpenFile *f, Text *out)
{
    Err e = {""};
    size_t at = 0;
    if (encoding_write(doc_text(f->doc), &f->encoding, out, &at, &e))
        return true;
    notices_warn(s->notices, "%s was not saved: %s. {properties} chooses another encoding.", openfile_name(f),
                 e.text);
    session_look_at(s, f, at);
    return false;
}

static bool keeps_earlier(const Session *s, const OpenFile *f)
{
    const SessionRules *r = &s->rules;
    return r->keep_earlier && !r->plain && !r->batch && !r->dry_run && f->purpose == FOR_WORK &&
           !openfile_is_awaited(f);
}

static void keep_bytes(Session *s, const OpenFile *f, const char *path, Text bytes, const DiskState *disk,
                       Err *e)
{
    bool open_to_all = disk->file.mode & MODE_OTHERS_READ;
    if (keeps_earlier(s, f) && (s->rules.keep_private_undo || open_to_all))
        earlier_keep_bytes(path, bytes, e);
}

void writing_replaces(Session *s, const OpenFile *f, const char *path, Text bytes, const DiskState *disk)
{
    Err e = {""};
    keep_bytes(s, f, path, bytes, disk, &e);
    if (e.text[0])
        notices_warn(s->notices, "What lies there could not be kept: %s", e.text);
}

/* Of a file of another machine: as it was read, or saved last. */
static void keep_known(Session *s, const OpenFile *f, const char *path, Err *e)
{
    Text known;
    if (!f->path || strcmp(f->path, path) != 0 || !f->disk.exists || !openfile_bytes(f, &known))
        return;
    keep_bytes(s, f, path, known, &f->disk, e);
    text_drop(&known);
}

/* What the save replaces, whoever wrote it. That it cannot be kept stops no save; why is in e. */
static void keep_earlier(Session *s, const OpenFile *f, const char *path, Err *e)
{
    Err ignored;
    const SessionRules *r = &s->rules;
    if (!keeps_earlier(s, f))
        return;
    if (!filesystem_can(path, FILES_ARE_HERE)) {
        keep_known(s, f, path, e);
        return;
    }
    /* If somebody else has changed it meanwhile, what was found when it was opened would be nowhere. */
    FileState st;
    Text found = {0};
    size_t at;
    if (f->path && strcmp(f->path, path) == 0 && f->disk.exists && !disk_is(path, &f->disk) &&
        state_of(path, &st) && (r->keep_private_undo || (st.mode & MODE_OTHERS_READ)) &&
        encoding_write(doc_saved_text(f->doc), &f->encoding, &found, &at, &ignored))
        earlier_keep_bytes(path, found, e);
    text_drop(&found);
    earlier_keep(path, r->keep_private_undo, e);
}

bool writing_bytes(Session *s, OpenFile *f, Text *bytes)
{
    Err e = {""};
    trim_for_rules(s, f);
    if (f->path)
        keep_earlier(s, f, f->path, &e);
    if (e.text[0])
        notices_warn(s->notices, "What lies there could not be kept: %s", e.text);
    return encoded(s, f, bytes);
}

/* The check was skipped: no checker is installed, or none gave an answer. */
static bool unchecked(const Session *s, const OpenFile *f)
{
    return s->rules.check_before != CHECK_NOTHING && f->kind->risky && !*checking_by(f) &&
           *checking_trouble(f);
}

/* What is elsewhere, such as a copy or a draft, is not read by what it is for. */
static bool takes_effect(const OpenFile *f)
{
    return f->kind->after_saving && f->path && strncmp(f->inside, "/etc/", 5) == 0;
}

/* The state is on disk now, under that name. */
static void written(Session *s, OpenFile *f, const Writing *w, const DiskState *disk)
{
    bool renamed = !f->path || strcmp(f->path, w->path) != 0;
    f->disk = *disk;
    f->news = DISK_SAME;
    doc_mark_state_saved(f->doc, w->state);
    f->format_changed =
        f->format_changed && (strcmp(f->encoding.name, w->encoding.name) != 0 ||
                              f->encoding.mark != w->encoding.mark || f->format.ends != w->ends);
    if (renamed) {
        following_end(f); /* what grows is the other file */
        openfile_set_path(f, mem_string(w->path));
        session_take_use(s, f);
        session_follow_rules(s, f);
    }
    if (renamed || w->fresh)
        openfile_recognise(f);
    if (f->safe_copy.taken) {
        leftover_remove(&f->safe_copy.path);
        f->safe_copy = (SafeCopy){.settled = f->safe_copy.settled};
    }
    keeper_saved(s, f);
    session_keep_undo(s, f);
    char size[WORDS_MAX];
    Text t = doc_saved_text(f->doc);
    words_size(f->disk.file.size, size);
    bool open_end = text_len(t) && text_byte(t, text_len(t) - 1) != '\n';
    static const char *const in_place[] = {
        [NOT_IN_PLACE] = "",
        [IN_PLACE_MOUNT] = "; in place, as it is mounted there",
        [IN_PLACE_NAMES] = "; in place, as it has other names",
        [IN_PLACE_WISHED] = "; in place, as the settings say",
        [IN_PLACE_RIGHTS] = "; in place, as its folder or rights ask for it",
    };
    notices_say(
        s->notices, "Saved %s: %s, %s%s%s%s%s%s%s%s%s%s%s", openfile_name(f),
        AMOUNT(text_line_count(t), "line"), size, w->trimmed ? "; trimmed " : "",
        w->trimmed ? AMOUNT(w->trimmed, "line") : "", open_end ? "; the last line has no line end" : "",
        f->disk.in_place == IN_PLACE_WISHED && !writing_in_place(s, f->path) ? ""
                                                                             : in_place[f->disk.in_place],
        unchecked(s, f) ? "; not checked: " : "", unchecked(s, f) ? checking_trouble(f) : "",
        takes_effect(f) ? "; it takes effect by: " : "", takes_effect(f) ? f->kind->after_saving : "",
        w->earlier.text[0] ? "; what it replaced could not be kept: " : "", w->earlier.text);
    session_tell_saved(s, f);
}

bool writing_in_place(const Session *s, const char *name)
{
    char pattern[sizeof s->rules.in_place], *path = location_path(name);
    bool found = false;
    for (const char *at = s->rules.in_place; *at; at += strspn(at, ", ")) {
        size_t n = strcspn(at, ",");
        snprintf(pattern, sizeof pattern, "%.*s", (int)n, at);
        found = found || fnmatch(pattern, path, FNM_PATHNAME) == 0;
        at += n;
    }
    free(path);
    return found;
}

/* The program that gave it to be edited may hold it open, and read that again. */
static bool is_held(const OpenFile *f, const char *path)
{
    return f->path && strcmp(f->path, path) == 0 && openfile_is_temporary(f) &&
           (f->original || openfile_is_awaited(f));
}

static void on_replacing(const char *path, const FileState *st, void *ctx)
{
    const Writing *w = ctx;
    keeper_replaces(w->journal, w->row, path, st);
}

static void free_writing(Writing *w)
{
    free(w->path);
    free(w);
}

/* Why it failed: the file is not what it was, or something else. */
static Written failed(Session *s, OpenFile *f, const char *path, SaveFate fate, const Err *e)
{
    if (f->path && strcmp(path, f->path) != 0)
        keeper_renamed(s, f);
    if (fate == SAVE_OVERTAKEN)
        return WRITE_OVERTAKEN;
    if (fate == SAVE_DENIED && !s->rules.batch)
        return WRITE_DENIED;
    notices_warn(s->notices, "%s", e->text);
    return fate == SAVE_UNREACHABLE ? WRITE_UNREACHABLE : WRITE_FAILED;
}

enum { LOOK = 200 /* ms between looks, whatever the descriptor says */ };

static int wait_writing(const void *ctx)
{
    (void)ctx;
    return LOOK;
}

static size_t fds_of_writing(const void *ctx, struct pollfd *out)
{
    int fd = saver_fd(((const Writing *)ctx)->saver);
    *out = (struct pollfd){.fd = fd, .events = POLLIN};
    return fd >= 0;
}

/* It is polled by the plan that waits for it, and cannot be stopped. */
static const TaskKind writing_task = {.wait = wait_writing, .fds = fds_of_writing};

Written writing_begin(Session *s, OpenFile *f, const char *path, const DiskState *expected, bool as_root)
{
    Err e = {""};
    Text bytes;
    DiskState disk;
    SaveFate fate = SAVE_ENDED;
    Writing *w = mem_get(sizeof *w);
    w->trimmed = trim_for_rules(s, f);
    if (!encoded(s, f, &bytes)) {
        free(w);
        return WRITE_FAILED;
    }
    keep_earlier(s, f, path, &w->earlier);
    w->state = doc_close_state(f->doc);
    w->path = mem_string(path);
    w->encoding = f->encoding;
    w->ends = f->format.ends;
    w->fresh = !expected->exists;
    SaveWish wish = {.backup = s->rules.backup,
                     .keep = s->rules.backup_keep,
                     .folder = s->rules.backup_folder,
                     .in_place = writing_in_place(s, path) || is_held(f, path),
                     .only = expected,
                     .fate = &fate,
                     .as_root = as_root,
                     .replacing = on_replacing,
                     .ctx = w};
    if (f->path && strcmp(path, f->path) != 0) /* until it is known that it has the new name, it has both */
        keeper_renaming(s, f, path);
    w->row = keeper_saving(s, f);
    w->journal = keeper_journal(s);
    const FileSystem *system = filesystem_of(path);
    bool slow = text_len(bytes) >= s->rules.beside_from || !(system->can & FILES_ARE_HERE);
    if (!s->rules.batch && slow)
        w->saver = saver_begin(path, bytes, &wish);
    Written result = WRITE_GOES_ON;
    if (w->saver) {
        f->writing = w;
        tasks_add(&s->tasks, &w->task, &writing_task, w);
    } else {
        result = system->save(path, bytes, &wish, &disk, &e) ? WRITTEN : failed(s, f, path, fate, &e);
        if (result == WRITTEN)
            written(s, f, w, &disk);
        free_writing(w);
    }
    text_drop(&bytes);
    return result;
}

Written writing_poll(Session *s, OpenFile *f, bool wait)
{
    Err e = {""};
    DiskState disk;
    SaveFate fate;
    Writing *w = f->writing;
    if (!w || (!wait && !saver_ended(w->saver)))
        return w ? WRITE_GOES_ON : WRITTEN;
    f->writing = NULL;
    tasks_remove(&s->tasks, &w->task);
    bool ok = saver_finish(w->saver, &disk, &fate, &e);
    Written result = ok ? WRITTEN : failed(s, f, w->path, fate, &e);
    if (ok)
        written(s, f, w, &disk);
    free_writing(w);
    return result;
}

const char *writing_path(const OpenFile *f)
{
    return f->writing ? f->writing->path : NULL;
}

void writing_words(const OpenFile *f, char words[TASK_WORDS_MAX])
{
    words[0] = 0;
    if (f->writing)
        snprintf(words, TASK_WORDS_MAX, "Saving %.60s, %d%%", openfile_name(f),
                 saver_percent(f->writing->saver));
}

void writing_done(Session *s, OpenFile *f, const char *path, const DiskState *disk)
{
    Writing w = {.state = doc_state_now(f->doc), .path = mem_string(path)};
    w.encoding = f->encoding;
    w.ends = f->format.ends;
    w.fresh = !f->disk.exists;
    written(s, f, &w, disk);
    free(w.path);
}

void writing_forget(Session *s, OpenFile *f)
{
    Err e;
    DiskState disk;
    SaveFate fate;
    if (!f->writing)
        return;
    tasks_remove(&s->tasks, &f->writing->task);
    saver_finish(f->writing->saver, &disk, &fate, &e);
    free_writing(f->writing);
    f->writing = NULL;
}

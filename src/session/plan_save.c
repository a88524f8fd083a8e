#include "session/plan_save.h"

#include "base/array.h"
#include "base/mem.h"
#include "edit/merge.h"
#include "files/privileged.h"
#include "session/checking.h"
#include "session/reading.h"
#include "session/writing.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>
#include <unistd.h>

Step plan_ask(Plan *p, AskFor what)
{
    p->ask = what;
    p->asked = false;
    return STEP_ASKS;
}

static void told(void *ctx)
{
    ((Session *)ctx)->woken = true;
}

Step plan_errand(Plan *p, const Errand *what, const Errand **out)
{
    size_t i = 0;
    while (i < p->n_errands &&
           (p->errands[i]->kind != what->kind || strcmp(p->errands[i]->path, what->path) != 0))
        i++;
    if (i == p->n_errands) {
        p->errands = array_room(p->errands, p->n_errands, sizeof *p->errands);
        p->errands[p->n_errands++] = errand_begin(what, &p->session->tasks, told, p->session);
    }
    *out = p->errands[i];
    return (*out)->done ? STEP_DONE : STEP_WAITS;
}

Step plan_look(Session *s, Plan *p, const char *path, const Seen **out)
{
    const Errand *e;
    Step step = plan_errand(p, &(Errand){.kind = ERRAND_LOOK, .path = (char *)path}, &e);
    *out = &e->seen;
    if (step != STEP_DONE || e->ok)
        return step;
    if (!e->unreachable || !p->lost) /* that was said already */
        notices_warn(s->notices, "%s", e->e.text);
    return e->unreachable ? plan_later(s, p) : STEP_ENDED;
}

Step plan_news(Plan *p, OpenFile *f, const Seen *there, DiskNews *news)
{
    const Errand *e = NULL;
    Text bytes;
    *news = openfile_news_by(f, there);
    if (*news != DISK_TOUCHED)
        return STEP_DONE;
    if (openfile_bytes(f, &bytes)) {
        Step step = plan_errand(p, &(Errand){.kind = ERRAND_COMPARE, .path = f->path, .bytes = bytes}, &e);
        text_drop(&bytes);
        if (step != STEP_DONE)
            return step;
    }
    *news =
        openfile_compared(f, e && e->ok && e->same && disk_same(&e->seen.disk, &there->disk), &there->disk);
    return STEP_DONE;
}

Step plan_later(Session *s, Plan *p)
{
    enum { FIRST = 1000, LAST = 30000 /* ms */ };
    if (s->rules.batch || s->rules.dry_run || p->kind != PLAN_SAVE)
        return STEP_ENDED;
    if (!p->lost) {
        char *why = mem_string(s->notices->text);
        notices_warn(s->notices, "%s. Saving is tried again by itself; Esc gives that up", why);
        free(why);
    }
    unsigned wait = p->lost < 5 ? (unsigned)FIRST << p->lost : (unsigned)LAST;
    p->lost++;
    p->again = s->notices->now + wait;
    return STEP_WAITS;
}

bool plan_denied(Session *s, Plan *p, const OpenFile *f)
{
    if (p->denied) { /* as root, too */
        notices_warn(s->notices, "%s was not saved: no permission there, not even as root", openfile_name(f));
        return false;
    }
    return p->denied = true;
}

/* Has another text that name, or is it just being given to one? */
static bool is_taken(const Session *s, const OpenFile *f, const char *path)
{
    for (size_t i = 0; i < s->n_files; i++) {
        const char *to = s->files[i] != f ? writing_path(s->files[i]) : NULL;
        if (to && strcmp(to, path) == 0)
            return true;
    }
    return session_other_with(s, f, path) != NULL;
}

Step plan_check_name(Session *s, Plan *p, const OpenFile *f, const Seen *there)
{
    const DiskState *now = &there->disk;
    if (now->exists && now->file.type == FILE_FOLDER) {
        notices_warn(s->notices, "%s is a folder; give it a file name too", p->path);
        return plan_ask(p, ASK_NAME);
    }
    if (is_taken(s, f, p->path)) {
        notices_warn(s->notices, "%s is open here as another text; close that first", p->path);
        return STEP_ENDED;
    }
    if (now->exists && !(p->may_replace && disk_same(&p->replace, now))) {
        p->seen = *now;
        return plan_ask(p, ASK_REPLACE);
    }
    p->replace = *now;
    return STEP_DONE;
}

/* A save whose end nobody heard of may have come to it. STEP_AGAIN: it has not. */
static Step check_own(Session *s, Plan *p, OpenFile *f, const Seen *there)
{
    const Errand *e;
    Text bytes;
    size_t at;
    Err ignored;
    if (!there->disk.exists || !encoding_write(doc_text(f->doc), &f->encoding, &bytes, &at, &ignored))
        return STEP_AGAIN;
    Step step = plan_errand(p, &(Errand){.kind = ERRAND_COMPARE, .path = f->path, .bytes = bytes}, &e);
    text_drop(&bytes);
    if (step == STEP_WAITS)
        return STEP_WAITS;
    if (!e->ok || !e->same)
        return STEP_AGAIN;
    writing_done(s, f, f->path, &e->seen.disk);
    return STEP_ENDED;
}

/* The file as it was read or agreed to. STEP_DONE: it is that. */
static Step check_disk(Session *s, Plan *p, OpenFile *f, const Seen *there)
{
    Step step;
    if (plan_news(p, f, there, &p->news) == STEP_WAITS)
        return STEP_WAITS;
    if (p->news == DISK_SAME) {
        p->replace = f->disk;
        return STEP_DONE;
    }
    if (p->lost && (step = check_own(s, p, f, there)) != STEP_AGAIN)
        return step;
    if (p->may_replace && disk_same(&p->replace, &there->disk))
        return STEP_DONE;
    if (s->rules.batch) {
        notices_warn(s->notices, "%s was not saved: it changed on disk meanwhile", openfile_name(f));
        return STEP_ENDED;
    }
    p->seen = there->disk;
    return plan_ask(p, ASK_DISK);
}

void plan_add_newline(Session *s, OpenFile *f)
{
    const char *end = text_format_line_end(&f->format);
    doc_set_verb(f->doc, "Last line end");
    if (!doc_append(f->doc, end, strlen(end), session_cursor(s, f)))
        notices_warn(s->notices, "There is not enough memory for that");
    doc_set_verb(f->doc, NULL);
}

static Step check_newline(Session *s, Plan *p, OpenFile *f)
{
    Text t = doc_text(f->doc);
    size_t len = text_len(t);
    Wish wish = f->rules.last_newline;
    if (len == 0 || text_byte(t, len - 1) == '\n' || s->rules.batch ||
        p->newline_settled == doc_version(f->doc) + 1)
        return STEP_DONE;
    Text saved = doc_saved_text(f->doc);
    size_t was = text_len(saved);
    bool had = was && text_byte(saved, was - 1) == '\n' && !f->ends_open;
    bool add = s->rules.last_newline == NEWLINE_ADD || (s->rules.last_newline == NEWLINE_KEEP && had);
    if (wish == WISH_YES || (wish == WISH_NONE && add)) {
        plan_add_newline(s, f);
        return STEP_DONE;
    }
    if (wish == WISH_NO || s->rules.last_newline == NEWLINE_KEEP)
        return STEP_DONE;
    return plan_ask(p, ASK_NEWLINE);
}

/* What a merge left to be decided is no text that anybody wants to have in a file. */
static Step check_marked(Session *s, Plan *p, const OpenFile *f)
{
    enum { LOOKED_AT = 64 << 20 };
    Conflict c;
    Text t = doc_text(f->doc);
    if (s->rules.batch || f->marks_are_text || text_len(t) > LOOKED_AT || !conflict_next(t, 0, &c))
        return STEP_DONE;
    return plan_ask(p, ASK_MARKED);
}

/* Files that lock people out when they are broken, or all, are checked before they are written. Somebody who
 * types on meanwhile is asked after a while, as only text that stands still can be checked. */
static Step check_problems(Session *s, Plan *p, OpenFile *f)
{
    enum { CHECKS = 3 };
    bool wanted =
        s->rules.check_before == CHECK_ALL || (s->rules.check_before == CHECK_RISKY && f->kind->risky);
    size_t n;
    if (!wanted || p->problems == doc_version(f->doc) + 1 || !checking_is_possible(s, f, true))
        return STEP_DONE;
    bool asks = false;
    if (!checking_is_current(f, true) && !checking_goes_on(f)) {
        asks = p->checks++ == CHECKS;
        if (!asks)
            checking_begin(s, f, true);
    }
    if (s->rules.batch)
        checking_finish(s, f, s->rules.stop);
    if (checking_goes_on(f)) {
        notices_say(s->notices, "Checking %s before it is saved", openfile_name(f));
        return STEP_WAITS;
    }
    const FileProblem *first = checking_wrong(f, &n);
    const char *doubt = checking_doubt(f);
    bool current = checking_is_current(f, true);
    if (current && n == 0 && !*doubt)
        return STEP_DONE;
    if (!current && !asks && !s->rules.batch) /* it was changed just now */
        return STEP_AGAIN;
    p->checks = 0;
    if (!s->rules.batch)
        return plan_ask(p, ASK_PROBLEMS);
    if (n && first->to)
        notices_warn(s->notices, "%s was not saved: line %zu: %s (%s)", openfile_name(f),
                     text_line_of(doc_text(f->doc), first->from) + 1, first->words, first->checker);
    else
        notices_warn(s->notices, "%s was not saved: %s", openfile_name(f),
                     n        ? first->words
                     : *doubt ? doubt
                              : "checking it was stopped");
    return STEP_ENDED;
}

static Step check_folder(Session *s, Plan *p, const Seen *there)
{
    const Errand *made;
    if (!there->missing_folder)
        return STEP_DONE;
    if (!p->make_folder) {
        free(p->folder);
        p->folder = mem_string(there->missing_folder);
        return s->rules.batch ? STEP_DONE : plan_ask(p, ASK_FOLDER);
    }
    if (plan_errand(p, &(Errand){.kind = ERRAND_MAKE_FOLDER, .path = there->missing_folder}, &made) ==
        STEP_WAITS)
        return STEP_WAITS;
    if (!made->ok)
        notices_warn(s->notices, "%s", made->e.text);
    p->make_folder = false;
    return made->ok ? STEP_AGAIN : STEP_ENDED;
}

static Step check_root(Session *s, Plan *p, const char *path, const Seen *there)
{
    char word[PRIVILEGED_WORD];
    if (p->denied && !p->by_root)
        return plan_ask(p, ASK_ROOT);
    if (s->rules.batch || geteuid() == 0 || there->may_write || !filesystem_can(path, FILES_AS_ROOT) ||
        !privileged_program(s->rules.root_program, word))
        return STEP_DONE;
    return p->by_root ? STEP_ROOT : plan_ask(p, ASK_ROOT);
}

/* Whatever else lies there on another machine, and is replaced as was agreed to. */
static Step keep_replaced(Session *s, Plan *p, OpenFile *f, const char *path)
{
    bool known = f->path && strcmp(path, f->path) == 0 && disk_same(&p->replace, &f->disk);
    const Errand *e;
    if (known || !p->replace.exists || filesystem_can(path, FILES_ARE_HERE) || s->rules.batch)
        return STEP_DONE;
    if (plan_errand(p, &(Errand){.kind = ERRAND_LOAD, .path = (char *)path}, &e) == STEP_WAITS)
        return STEP_WAITS;
    if (e->ok)
        writing_replaces(s, f, path, e->bytes, &e->seen.disk);
    return STEP_DONE;
}

static Step write_now(Session *s, Plan *p, OpenFile *f, const char *path)
{
    switch (writing_begin(s, f, path, &p->replace, p->by_root)) {
    case WRITTEN:
        return STEP_DONE;
    case WRITE_GOES_ON:
        p->writes = true;
        return STEP_WAITS;
    case WRITE_OVERTAKEN: /* since we looked, a moment ago */
        if (++p->tries < PLAN_TRIES)
            return STEP_AGAIN;
        notices_warn(s->notices, "%s was not saved: the file changes all the time", openfile_name(f));
        return STEP_ENDED;
    case WRITE_UNREACHABLE:
        return plan_later(s, p);
    case WRITE_DENIED:
        return plan_denied(s, p, f) ? STEP_AGAIN : STEP_ENDED;
    default:
        return STEP_ENDED;
    }
}

/* Without a disk to write to: what would be done. */
static Step pretend(Session *s, const Plan *p, OpenFile *f)
{
    if (p->path)
        notices_say(s->notices, "would be saved as %s", p->path);
    else
        notices_say(s->notices, openfile_changed(f) ? "would be saved" : "would stay as it is");
    doc_mark_saved(f->doc);
    f->format_changed = false;
    return STEP_DONE;
}

/* What was read, or seen, before a save ends is not what is there after it. */
static void forget_answers(Plan *p)
{
    size_t kept = 0;
    for (size_t i = 0; i < p->n_errands; i++)
        if (p->errands[i]->kind == ERRAND_RENAME)
            p->errands[kept++] = p->errands[i];
        else
            errand_free(p->errands[i]);
    p->n_errands = kept;
}

Step plan_wait_for_writing(Session *s, Plan *p, OpenFile *f, const char *then)
{
    char words[TASK_WORDS_MAX];
    forget_answers(p);
    writing_words(f, words);
    if (!p->waited)
        notices_say(s->notices, "%s; %s", words, then);
    p->waited = true;
    return STEP_WAITS;
}

/* By whatever name and link. */
static bool is_own_file(const OpenFile *f, const Seen *there)
{
    return f->disk.exists && there->disk.exists && state_same_node(there->disk.file.node, f->disk.file.node);
}

static Step refuse_look_only(Session *s, const OpenFile *f)
{
    notices_warn(s->notices, "%s is open to look only and was not saved; {look-only} changes that",
                 openfile_name(f));
    return STEP_ENDED;
}

Step plan_save_step(Session *s, Plan *p, OpenFile *f)
{
    char words[TASK_WORDS_MAX];
    bool other = p->path && (!f->path || strcmp(p->path, f->path) != 0);
    const char *path = p->path ? p->path : f->path;
    const Seen *there;
    Step step;
    openfile_drop_fresh(f);
    if (reading_unready(f, words)) {
        notices_warn(s->notices, "Not saved: %s", words);
        return STEP_ENDED;
    }
    if (f->look_only && !p->ask_name && !other)
        return refuse_look_only(s, f);
    if (f->writing && !p->ask_name) /* a name can be given meanwhile */
        return plan_wait_for_writing(s, p, f, "then the rest");
    if (f->becomes) /* nor to a name that it is about to lose */
        return STEP_WAITS;
    if (p->waited && !p->ask_name && !other && !openfile_changed(f)) /* what was written is all there is */
        return STEP_DONE;
    if (!path || p->ask_name)
        return plan_ask(p, ASK_NAME);
    if (f->look_only && (step = plan_look(s, p, path, &there)) != STEP_DONE)
        return step;
    if (f->look_only && is_own_file(f, there))
        return refuse_look_only(s, f);
    bool told = p->told || (s->rules.batch && !other && !openfile_changed(f));
    p->told = true;
    if (!told && !session_may_save(s, f))
        return STEP_ENDED;
    if (s->rules.dry_run)
        return pretend(s, p, f);
    if (s->rules.batch && !other && !openfile_changed(f)) { /* a file that needs no change is not touched */
        notices_say(s->notices, "stays as it is");
        return STEP_DONE;
    }
    if ((step = plan_look(s, p, path, &there)) != STEP_DONE)
        return step;
    if (!other && !openfile_changed(f) && f->disk.exists && !there->may_write) {
        DiskNews news;
        if (plan_news(p, f, there, &news) == STEP_WAITS)
            return STEP_WAITS;
        if (news == DISK_SAME) {
            notices_say(s->notices, "%s has no changes; there is nothing to save", openfile_name(f));
            return STEP_DONE;
        }
    }
    step = other ? plan_check_name(s, p, f, there) : check_disk(s, p, f, there);
    step = step == STEP_DONE ? check_marked(s, p, f) : step;
    step = step == STEP_DONE ? check_newline(s, p, f) : step;
    step = step == STEP_DONE ? check_problems(s, p, f) : step;
    step = step == STEP_DONE ? check_folder(s, p, there) : step;
    step = step == STEP_DONE ? check_root(s, p, path, there) : step;
    step = step == STEP_DONE ? keep_replaced(s, p, f, path) : step;
    step = step == STEP_DONE && !session_may_write(s, f) ? STEP_ENDED : step;
    return step == STEP_DONE ? write_now(s, p, f, path) : step;
}

#include "session/following.h"

#include "base/mem.h"
#include "base/system.h"
#include "base/words.h"
#include "files/follow.h"
#include "session/keeper.h"
#include "session/session_around.h"
#include "text/text_line.h"

#include <stdlib.h>
#include <string.h>

enum {
    AT_ONCE = 4 << 20,       /* bytes taken in one go, so that keys come in between */
    PAUSE = 80,              /* ms between two goes: many small writes are one */
    PENDING_MOST = 64 * 1024 /* bytes of a line in another encoding that wait for its end */
};

typedef struct Following {
    Task task;
    Session *session;
    OpenFile *file;
    Follow *follow;
    bool pipe, was_look_only, waits, mixed; /* mixed: the text has more than what is in the file */
    bool forgot;
    size_t keep, from;
    uint64_t next; /* ms, before which nothing is taken */
    Bytes pending; /* the beginning of a letter, or in some encodings of a line */
} Following;

const char *following_hindered(const OpenFile *f)
{
    if (f->piped)
        return "What came from a pipe has ended, or it would be followed already: squill --follow -";
    if (!f->path)
        return "This text has no file that could grow";
    if (!filesystem_can(f->path, FILES_ARE_HERE))
        return "Only files of this machine can be followed";
    if (f->reading)
        return "It is still being read; follow it when all is there";
    if (openfile_changed(f) || f->writing)
        return "It has changes that are not saved; save them first, then follow it";
    return NULL;
}

size_t following_from(const OpenFile *f)
{
    return f->following ? f->following->from : text_len(doc_text(f->doc));
}

bool following_waits(const OpenFile *f)
{
    return f->following && f->following->waits;
}

/* How many of these bytes are whole letters; the others wait for the rest of theirs. */
static size_t whole_letters(const Bytes *b)
{
    size_t n = b->len, back = 0;
    while (back < 3 && back < n && ((unsigned char)b->at[n - 1 - back] & 0xc0) == 0x80)
        back++;
    if (back >= n)
        return n;
    unsigned char lead = (unsigned char)b->at[n - 1 - back];
    size_t wants = lead >= 0xf0 ? 4 : lead >= 0xe0 ? 3 : lead >= 0xc0 ? 2 : 1;
    return wants > back + 1 ? n - 1 - back : n;
}

/* The text of what came, as far as it is whole by now. */
static bool decode(Following *g, Text *out)
{
    const OpenFile *f = g->file;
    Bytes *b = &g->pending;
    Err ignored;
    Text raw = {0};
    Encoding x = f->encoding;
    x.mark = false; /* only at the beginning of a file */
    size_t n = x.name[0] ? b->len : whole_letters(b);
    *out = (Text){0};
    bool ok = text_insert(&raw, 0, bytes_str(b), n);
    if (ok && x.name[0]) {
        ok = encoding_read(raw, &x, out, &ignored);
        if (!ok && b->len < PENDING_MOST) { /* a letter is cut: with the next bytes it will be whole */
            text_drop(&raw);
            return true;
        }
        if (!ok) {
            *out = text_keep(raw);
            ok = true;
        }
    } else if (ok) {
        *out = text_keep(raw);
    }
    text_drop(&raw);
    if (ok)
        bytes_delete(b, 0, n);
    return ok;
}

/* A pipe without an end: only the last of what came is kept, in whole lines. */
static void keep_little(Following *g)
{
    Text t = doc_text(g->file->doc);
    size_t len = text_len(t);
    if (len <= g->keep + g->keep / 8)
        return;
    size_t drop = text_line_start(t, text_line_of(t, len - g->keep));
    drop = drop ? drop : len - g->keep; /* one endless line */
    if (doc_forget(g->file->doc, drop))
        g->from = g->from > drop ? g->from - drop : 0;
    if (!g->forgot)
        notices_say(g->session->notices, "Only the last %s of what comes are kept",
                    words_size(g->keep, (char[WORDS_MAX]){0}));
    g->forgot = true;
}

/* False: what came cannot be held. */
static bool take(Following *g)
{
    OpenFile *f = g->file;
    Text more;
    bool empty = text_len(doc_text(f->doc)) == 0;
    if (empty && f->encoding.mark && g->pending.len >= 3 && memcmp(g->pending.at, "\xef\xbb\xbf", 3) == 0)
        bytes_delete(&g->pending, 0, 3);
    bool ok = decode(g, &more);
    g->from = text_len(doc_text(f->doc));
    ok = ok && doc_grow(f->doc, more);
    text_drop(&more);
    if (!ok)
        return false;
    keeper_loaded(f);
    if (g->pipe)
        keep_little(g);
    if (empty) {
        openfile_take_format(f);
        if (!f->kind_said)
            openfile_recognise(f);
    }
    session_tell_more(g->session, f);
    return true;
}

static void say_news(Following *g, FollowNews news, const Err *e)
{
    Notices *to = g->session->notices;
    const char *name = openfile_name(g->file);
    char now[WORDS_MAX];
    words_when((long long)time(NULL), now);
    switch (news) {
    case FOLLOW_EMPTIED:
        notices_say(to, "%s was emptied at %s; what comes now follows below", name, now);
        break;
    case FOLLOW_REPLACED:
        notices_say(to, "Another file has been %s since %s; it follows below", name, now);
        break;
    case FOLLOW_GONE:
        notices_say(to, "%s is gone since %s; it is followed when it comes back", name, now);
        break;
    case FOLLOW_APPEARED:
        notices_say(to, "%s is there since %s", name, now);
        break;
    case FOLLOW_ENDED:
        notices_say(to, "The pipe has ended");
        break;
    default:
        notices_warn(to, "%s", e->text);
    }
}

static void set_aside(Following *g)
{
    OpenFile *f = g->file;
    f->look_only = g->was_look_only;
    following_forget(g->session, f);
}

static void poll_following(void *ctx)
{
    Following *g = ctx;
    OpenFile *f = g->file;
    Err e = {""};
    uint64_t now = system_now_ms();
    if (now < g->next)
        return;
    g->next = now + PAUSE;
    size_t had = g->pending.len;
    FollowNews news = follow_step(g->follow, &g->pending, AT_ONCE, &e);
    if (g->pending.len - had == AT_ONCE) /* there is more */
        g->next = now;
    if (news == FOLLOW_NOTHING) {
        g->next = 0;
        return;
    }
    if (news == FOLLOW_MORE && !take(g)) {
        notices_warn(g->session->notices, "There is not enough memory to follow %s any further",
                     openfile_name(f));
        set_aside(g);
        return;
    }
    const FileState *state = follow_state(g->follow);
    if (state) {
        f->disk.exists = true;
        f->disk.file = *state;
        f->news = DISK_SAME;
    }
    g->waits = news == FOLLOW_GONE;
    g->mixed = g->mixed || news == FOLLOW_EMPTIED || news == FOLLOW_REPLACED;
    if (news != FOLLOW_MORE)
        say_news(g, news, &e);
    if (news == FOLLOW_ENDED || news == FOLLOW_FAILED)
        set_aside(g);
}

static int wait_following(const void *ctx)
{
    const Following *g = ctx;
    uint64_t now = system_now_ms();
    if (g->next)
        return g->next > now ? (int)(g->next - now) : 0;
    return follow_wait(g->follow);
}

static size_t fds_of_following(const void *ctx, struct pollfd *out)
{
    const Following *g = ctx;
    return g->next ? 0 : follow_fds(g->follow, out);
}

static const TaskKind following_task = {
    .poll = poll_following, .wait = wait_following, .fds = fds_of_following};

static Following *new_following(Session *s, OpenFile *f, const FollowWish *w)
{
    Following *g = mem_get(sizeof *g);
    g->session = s;
    g->file = f;
    g->was_look_only = f->look_only;
    g->keep = w->keep;
    g->from = text_len(doc_text(f->doc));
    g->next = 1; /* what came since it was read is taken at once */
    f->look_only = true;
    f->following = g;
    tasks_add(&s->tasks, &g->task, &following_task, g);
    return g;
}

void following_begin(Session *s, OpenFile *f, const FollowWish *w)
{
    const Encoding *x = &f->encoding;
    size_t read = x->name[0] ? (size_t)f->disk.file.size : text_len(doc_text(f->doc)) + (x->mark ? 3 : 0);
    Following *g = new_following(s, f, w);
    g->follow = follow_begin(f->path, read, &f->disk, w->by_name);
    g->waits = !follow_state(g->follow);
}

void following_pipe(Session *s, OpenFile *f, int fd, const FollowWish *w)
{
    Following *g = new_following(s, f, w);
    g->pipe = true;
    g->follow = follow_pipe(fd);
}

void following_forget(Session *s, OpenFile *f)
{
    Following *g = f->following;
    if (!g)
        return;
    tasks_remove(&s->tasks, &g->task);
    follow_end(g->follow);
    bytes_free(&g->pending);
    free(g);
    f->following = NULL;
}

bool following_end(OpenFile *f)
{
    bool reload = f->following && f->following->mixed;
    if (f->following)
        set_aside(f->following);
    return reload;
}

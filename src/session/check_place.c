#include "session/check_place.h"

#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/state.h"
#include "files/write.h"

#include <ctype.h>
#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <stdatomic.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum {
    FILE_MOST = 1 << 20, /* bytes of a file that is copied, */
    FILES_MOST = 2000,   /* how many, */
    FOLDERS_DEEP = 8,    /* and how deep */
};

static const char folder_name[] = "squill-check";

/* ---- copying a folder ---- */

static bool in_path(char c)
{
    return isalnum((unsigned char)c) || (c && strchr("-_./", c));
}

/* One path in place of another, where that is neither the beginning of a longer name nor the end of a longer
 * path. */
static void replace_path(const char *s, size_t n, const char *old, const char *fresh, Bytes *out)
{
    size_t len = strlen(old);
    for (size_t at = 0; at < n;) {
        const char *p = len ? memmem(s + at, n - at, old, len) : NULL;
        size_t end = p ? (size_t)(p - s) + len : n;
        bool whole = p && (end == n || s[end] == '/' || !in_path(s[end]) ||
                           (s[end] == '.' && (end + 1 == n || !in_path(s[end + 1]))));
        whole = whole && (p == s || !in_path(p[-1]));
        bytes_add(out, s + at, end - at - (whole ? len : 0));
        if (whole)
            bytes_add_str(out, fresh);
        at = end;
    }
}

static bool write_new(const char *path, const Bytes *b)
{
    int fd = open(path, O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0600);
    bool ok = fd >= 0 && write_all(fd, bytes_str(b), b->len);
    if (fd >= 0)
        close(fd);
    return ok;
}

/* What is written is about the copy wherever it was about the folder, and writes nothing. */
static bool copy_bytes(const Bytes *bytes, const CheckPlace *p, const Check *c, const char *to)
{
    Bytes out = {0}, quiet = {0};
    replace_path(bytes_str(bytes), bytes->len, p->stands_for ? p->stands_for : "", p->copies, &out);
    bool ok = write_new(to, check_without_writes(c, bytes_str(&out), out.len, &quiet) ? &quiet : &out);
    bytes_free(&out);
    bytes_free(&quiet);
    return ok;
}

static bool copy_text(Text t, const CheckPlace *p, const Check *c, const char *to)
{
    Bytes bytes = {0};
    text_bytes(t, 0, text_len(t), &bytes);
    bool ok = copy_bytes(&bytes, p, c, to);
    bytes_free(&bytes);
    return ok;
}

typedef struct Copying {
    const CheckPlace *place;
    const Check *check;
    const char *real; /* the folder that is copied, with links resolved */
    Stop stop;
    const char *from, *to;
    size_t *files;
    int depth;
    Err *e;
    bool ok;
} Copying;

/* False; the reason is the system's, if none is known yet. */
static bool not_copied(Err *e)
{
    if (!e->text[0])
        err_set(e, "%s", err_os(errno));
    return false;
}

/* Links lead to the copy if what they lead to is copied, else to where they led. */
static bool copy_link(const Copying *c, const char *from, const char *to)
{
    const CheckPlace *p = c->place;
    char *real = realpath(from, NULL);
    size_t n = strlen(c->real);
    Bytes target = {0};
    if (real && strncmp(real, c->real, n) == 0 && real[n] == '/')
        bytes_printf(&target, "%s%s", p->copies, real + n);
    else
        bytes_add_str(&target, real ? real : "/nowhere");
    bool ok = symlink(target.at, to) == 0;
    bytes_free(&target);
    free(real);
    return ok;
}

static bool copy_folder(const Copying *above, const char *from, const char *to);

/* A file as it is; false when it cannot be read. */
static bool read_file(const char *path, Bytes *out)
{
    char part[65536];
    int fd = open(path, O_RDONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC);
    ssize_t n = fd >= 0 ? 1 : -1;
    while (n > 0 && out->len <= FILE_MOST) {
        n = system_read_full(fd, part, sizeof part);
        if (n > 0)
            bytes_add(out, part, (size_t)n);
    }
    if (fd >= 0)
        close(fd);
    return n >= 0;
}

static bool copy_one(const Copying *c, const char *from, const char *to)
{
    FileState st;
    Bytes bytes = {0};
    if (stop_wanted(c->stop))
        return err_set(c->e, "it was stopped");
    if (!state_of_name(from, &st))
        return true;
    if (st.type == FILE_LINK)
        return copy_link(c, from, to);
    if (st.type == FILE_FOLDER)
        return copy_folder(c, from, to);
    if (st.type != FILE_PLAIN)
        return true;
    if (++*c->files > FILES_MOST)
        return err_set(c->e, "its folder has more than %d files", FILES_MOST);
    /* A key that others may not read, or something large, is used where it is. */
    bool is_private = !(st.mode & MODE_OTHERS_READ);
    bool ok = is_private || st.size > FILE_MOST || !read_file(from, &bytes)
                  ? symlink(from, to) == 0
                  : copy_bytes(&bytes, c->place, c->check, to);
    bytes_free(&bytes);
    return ok;
}

static bool copy_entry(int fd, const char *name, void *ctx)
{
    (void)fd;
    Copying *c = ctx;
    Bytes from = {0}, to = {0};
    bytes_printf(&from, "%s/%s", c->from, name);
    bytes_printf(&to, "%s/%s", c->to, name);
    c->ok = copy_one(c, from.at, to.at) || not_copied(c->e);
    bytes_free(&from);
    bytes_free(&to);
    return c->ok;
}

static bool copy_folder(const Copying *above, const char *from, const char *to)
{
    Copying c = *above;
    c.from = from;
    c.to = to;
    c.depth++;
    c.ok = true;
    if (c.depth > FOLDERS_DEEP)
        return err_set(c.e, "its folder is too deep");
    if (mkdir(to, 0700) != 0 && errno != EEXIST)
        return not_copied(c.e);
    folder_read(from, copy_entry, &c); /* one that may not be read stays empty */
    return c.ok;
}

/* ---- the place ---- */

/* The path of the text inside of the folder, which begins with "/". The folder may be reached by a link. */
static char *path_below(const char *folder, const char *path)
{
    char *real = realpath(path, NULL), *real_folder = realpath(folder, NULL);
    const char *const folders[] = {real_folder, folder};
    const char *const paths[] = {real, path};
    char *found = NULL;
    for (int i = 0; i < 4 && !found; i++) {
        const char *f = folders[i / 2], *p = paths[i % 2];
        size_t n = f ? strlen(f) : 0;
        if (f && p && strncmp(p, f, n) == 0 && p[n] == '/')
            found = mem_string(p + n);
    }
    free(real);
    free(real_folder);
    return found;
}

static bool fill_folder(CheckPlace *p, const Check *c, const char *path, Text bytes, Stop stop, Err *e)
{
    Bytes copy = {0};
    size_t files = 0;
    bool ok = true;
    if (c->in_folder) {
        char *inside = path_below(c->in_folder, path);
        char *real = realpath(c->in_folder, NULL);
        Copying all = {
            .place = p, .check = c, .real = real, .stop = stop, .files = &files, .depth = -1, .e = e};
        if (inside)
            bytes_printf(&copy, "%s%s", p->copies, inside);
        ok = inside && real ? copy_folder(&all, c->in_folder, p->copies)
                            : err_set(e, "it does not lie in %s", c->in_folder);
        free(inside);
        free(real);
        if (ok)
            unlink(copy.at);
    } else {
        bytes_printf(&copy, "%s/%s", p->folder, path ? path_base(path) : "text");
    }
    p->copy = copy.at;
    return ok && (copy_text(bytes, p, c, p->copy) || not_copied(e));
}

/* "FILE", or a word such as "--config=FILE". */
static bool ends_in_file(const char *word)
{
    const char *equals = strrchr(word, '=');
    return strcmp(equals ? equals + 1 : word, "FILE") == 0;
}

static bool wants_copy(const Check *c)
{
    bool wants = c->in_folder != NULL;
    for (KindWords w = c->run; *w; w++)
        wants = wants || ends_in_file(*w) || strstr(*w, "FOLDER");
    return wants;
}

/* One of the data, with what stands for FILE, FOLDER and VALUE. */
static char *word_for(const CheckPlace *p, const char *word, const char *value)
{
    const char *at = p->folder ? strstr(word, "FOLDER") : NULL;
    Bytes b = {0};
    if (strcmp(word, "VALUE") == 0)
        return mem_string(value);
    if (p->copy && ends_in_file(word)) {
        bytes_printf(&b, "%.*s%s", (int)(strlen(word) - strlen("FILE")), word, p->copy);
        return b.at;
    }
    if (!at)
        return mem_string(word);
    bytes_printf(&b, "%.*s%s%s", (int)(at - word), word, p->folder, at + strlen("FOLDER"));
    return b.at;
}

static void set_words(CheckPlace *p, const Check *c, Text bytes, const char *program)
{
    Bytes all = {0};
    size_t n = 0;
    if (c->given)
        text_bytes(bytes, 0, text_len(bytes), &all);
    char *value = check_value(c, bytes_str(&all), all.len);
    p->words[n++] = mem_string(program);
    for (size_t i = 1; c->run[i] && n < CHECK_WORDS; i++)
        p->words[n++] = word_for(p, c->run[i], value);
    free(value);
    bytes_free(&all);
}

/* Where the copies are to lie: in the private folder itself, or in it as they lie below /. */
static char *copies_in(const char *folder, const Check *c)
{
    Bytes path = {0};
    bytes_printf(&path, "%s%s", folder, c->as_in_place && c->in_folder ? c->in_folder : "");
    return folder_make(path.at) ? path.at : (bytes_free(&path), NULL);
}

bool check_place_make(CheckPlace *p, const Check *c, const char *path, Text bytes, const char *program,
                      Stop stop, Err *e)
{
    static atomic_bool swept; /* once a run is enough */
    Err why = {""};
    if (!atomic_exchange(&swept, true))
        folder_private_sweep(folder_name);
    p->folder = folder_private(folder_name);
    p->copies = p->folder ? copies_in(p->folder, c) : NULL;
    p->stands_for = c->in_folder;
    p->own_folder = path && !c->in_folder ? path_folder(path) : NULL;
    bool ok = p->copies ? !wants_copy(c) || fill_folder(p, c, path, bytes, stop, &why) : not_copied(&why);
    if (!ok)
        return err_set(e, "has no copy that it could look at: %s", why.text);
    set_words(p, c, bytes, program);
    return true;
}

void check_place_translate(const CheckPlace *p, const Bytes *said, Bytes *out)
{
    const char *real = p->stands_for ? p->stands_for : p->own_folder;
    replace_path(bytes_str(said), said->len, p->copies && real ? p->copies : "", real ? real : "", out);
}

void check_place_remove(CheckPlace *p)
{
    if (p->folder)
        folder_remove(p->folder);
    free(p->folder);
    free(p->copies);
    free(p->copy);
    free(p->own_folder);
    for (size_t i = 0; p->words[i]; i++)
        free(p->words[i]);
    *p = (CheckPlace){0};
}

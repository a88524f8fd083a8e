#include "hosts/remote.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/paths.h"
#include "base/system.h"
#include "files/backup.h"
#include "files/leftovers.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- what went wrong ---- */

static bool failed(Remote *r, Err *e, const char *what, int status)
{
    Err why = {""};
    r->lost = r->lost || status == SFTP_LOST;
    if (status == SFTP_LOST)
        connection_why(r->sftp.connection, &why);
    return err_set(e, "%s: %s%s%s%s%s", r->host, path_base(r->path), what, sftp_words(status),
                   why.text[0] ? ": " : "", why.text);
}

static DiskState state_of_host(const Attributes *a)
{
    return (DiskState){.exists = true, .file = packet_state(a)};
}

/* ---- looking ---- */

/* With `missing` when nothing is there, not even a link to nothing. */
static int look(Remote *r, const char *path, DiskState *out)
{
    Attributes a, link;
    *out = (DiskState){0};
    int status = sftp_state(&r->sftp, path, true, &a);
    if (status == STATUS_OK)
        *out = state_of_host(&a);
    if (status != STATUS_NO_SUCH_FILE)
        return status;
    status = sftp_state(&r->sftp, path, false, &link);
    out->dangling = status == STATUS_OK;
    return status == STATUS_NO_SUCH_FILE ? STATUS_OK : status;
}

bool remote_look(Remote *r, Seen *seen, Err *e)
{
    int status = look(r, r->path, &seen->disk);
    if (status != STATUS_OK)
        return failed(r, e, " cannot be looked at: ", status);
    seen->may_write = true; /* to find out by opening it would look like a change to who watches it there */
    seen->missing = !seen->disk.exists;
    if (!seen->missing)
        return true;
    Attributes a;
    char *folder = path_folder(r->path);
    status = sftp_state(&r->sftp, folder, true, &a);
    if (status == STATUS_NO_SUCH_FILE)
        seen->missing_folder = mem_string(folder);
    free(folder);
    return status != SFTP_LOST || failed(r, e, " cannot be looked at: ", status);
}

/* ---- reading ---- */

static bool feed(void *ctx, const char *at, size_t n)
{
    return loader_feed(ctx, at, n);
}

/* How it differs from a file that can be read, for the end of a sentence; NULL: it is one. */
static const char *unfit(FileType type)
{
    static const char *const words[] = {[FILE_FOLDER] = " is a folder, not a file",
                                        [FILE_PIPE] = " is a pipe, not a file",
                                        [FILE_SOCKET] = " is a socket, not a file",
                                        [FILE_DEVICE] = " is a device, not a file",
                                        [FILE_LINK] = " is not a file",
                                        [FILE_OTHER] = " is not a file"};
    return words[type];
}

void remote_load(Remote *r, Loader *l)
{
    Attributes a;
    SftpHandle h;
    DiskState disk = {0};
    Err e = {""};
    int opened, status = sftp_open_known(&r->sftp, r->path, &a, &opened, &h);
    if (status == STATUS_NO_SUCH_FILE)
        status = look(r, r->path, &disk); /* a new file, or a link to nothing */
    else if (status == STATUS_OK && unfit(packet_state(&a).type))
        err_set(&e, "%s: %s%s%s", r->host, r->path, unfit(packet_state(&a).type),
                packet_state(&a).type == FILE_FOLDER ? "; with a slash at the end of its name it is listed"
                                                     : "");
    else if (status == STATUS_OK && opened == STATUS_OK) {
        disk = state_of_host(&a);
        loader_feed_size(l, (size_t)disk.file.size);
        status = sftp_read(&r->sftp, &h, disk.file.size, feed, l);
    } else if (status == STATUS_OK) {
        status = opened;
    }
    if (opened == STATUS_OK) /* also when nobody wants more of it */
        sftp_let_go(&r->sftp, &h);
    if (status != STATUS_OK)
        failed(r, &e, " cannot be read: ", status);
    loader_feed_end(l, &disk, e.text[0] ? e.text : NULL);
}

/* ---- writing ---- */

enum { SPECIAL_BITS = 06000 /* set-user-id and set-group-id */ };

/* A save under way. */
typedef struct Save {
    Remote *r;
    Text text;
    const SaveWish *wish;
    atomic_size_t *counted;
    char *path;   /* with links resolved */
    char *folder; /* of that */
    char *fresh;  /* the new version beside it; NULL: none was begun */
    DiskState old;
    Err *e;
} Save;

static bool not_saved(Save *s, int status)
{
    if (s->wish && s->wish->fate)
        *s->wish->fate = status == SFTP_LOST                  ? SAVE_UNREACHABLE
                         : status == STATUS_PERMISSION_DENIED ? SAVE_DENIED
                                                              : SAVE_ENDED;
    return failed(s->r, s->e, " was not saved: ", status);
}

static bool told_overtaken(Save *s)
{
    if (s->wish && s->wish->fate)
        *s->wish->fate = SAVE_OVERTAKEN;
    return err_set(s->e, "%s: %s was not saved: the file was replaced meanwhile", s->r->host,
                   path_base(s->path));
}

/* Is it still what was found, or agreed to? */
static bool untouched(Save *s, const DiskState *known)
{
    DiskState now;
    int status = look(s->r, s->path, &now);
    if (status != STATUS_OK)
        return not_saved(s, status);
    return disk_same(&now, known) || told_overtaken(s);
}

/* Makes the file for the new version under a name that readers of whole folders pass over. One that an
 * earlier try of ours left is not in the way. */
static int open_beside(Save *s, SftpHandle *h)
{
    int status = STATUS_FAILURE;
    for (unsigned i = 0; i < 20 && status == STATUS_FAILURE; i++) {
        char which[16];
        Bytes name = {0};
        snprintf(which, sizeof which, "%x", i);
        leftover_name(&name, s->folder, path_base(s->path), NULL, which);
        free(s->fresh);
        s->fresh = mem_string(name.at);
        bytes_free(&name);
        status = sftp_open(&s->r->sftp, s->fresh, OPEN_WRITE | OPEN_CREATE | OPEN_NEW,
                           &(Attributes){.has_mode = true, .mode = 0600}, h);
    }
    return status;
}

/* Owner and mode of the old version; where they cannot be given the file is to be written in place. */
static int dress(Save *s, const SftpHandle *h)
{
    Attributes is;
    const FileState *old = &s->old.file;
    if (!s->old.exists)
        return sftp_set(&s->r->sftp, h, &(Attributes){.has_mode = true, .mode = 0666 & ~system_umask()});
    int status = sftp_state_open(&s->r->sftp, h, &is);
    if (status == STATUS_OK && (is.owner != old->owner || is.group != old->group))
        status = sftp_set(&s->r->sftp, h,
                          &(Attributes){.has_owner = true, .owner = old->owner, .group = old->group});
    if (status == STATUS_OK)
        status = sftp_set(&s->r->sftp, h, &(Attributes){.has_mode = true, .mode = old->mode});
    return status;
}

static void from_text(const void *ctx, size_t at, char *to, size_t n)
{
    text_read(*(const Text *)ctx, at, to, n);
}

typedef enum Outcome { SAVED, FAILED, IN_PLACE /* this way is not open; nothing happened */ } Outcome;

static bool is_refusal(int status)
{
    return status == STATUS_PERMISSION_DENIED || status == STATUS_FAILURE || status == STATUS_UNSUPPORTED;
}

static Outcome write_beside(Save *s)
{
    Sftp *f = &s->r->sftp;
    SftpHandle h;
    Attributes is;
    int status = open_beside(s, &h);
    if (status != STATUS_OK) {
        free(s->fresh);
        s->fresh = NULL;
        if (s->old.exists && is_refusal(status))
            return IN_PLACE;
        not_saved(s, status);
        return FAILED;
    }
    status = dress(s, &h);
    bool undressed = s->old.exists && is_refusal(status);
    if (status == STATUS_OK)
        status = sftp_write(f, &h, text_len(s->text), from_text, &s->text, s->counted);
    if (status == STATUS_OK && s->old.file.mode & SPECIAL_BITS) /* which writing takes away */
        status = sftp_set(f, &h, &(Attributes){.has_mode = true, .mode = s->old.file.mode});
    if (status == STATUS_OK)
        status = sftp_sync(f, &h);
    if (status == STATUS_OK)
        status = sftp_state_open(f, &h, &is);
    if (status == STATUS_OK && is.size != text_len(s->text))
        status = STATUS_EOF;
    int closed = status == SFTP_LOST ? SFTP_LOST : sftp_close(f, &h);
    status = status == STATUS_OK ? closed : status;
    if (undressed)
        return IN_PLACE;
    if (status != STATUS_OK)
        not_saved(s, status);
    return status == STATUS_OK ? SAVED : FAILED;
}

typedef struct Backups {
    const char *name;
    unsigned highest, below; /* those with a lower number go */
    Save *save;
} Backups;

/* The number after "NAME.old-", or 0. */
static bool look_at_backup(void *ctx, const char *entry, const Attributes *a)
{
    (void)a;
    Backups *b = ctx;
    unsigned number = backup_number(entry, b->name);
    b->highest = number > b->highest ? number : b->highest;
    if (number && number < b->below) {
        Bytes path = {0};
        bytes_printf(&path, "%s/%s", b->save->folder, entry);
        sftp_remove(&b->save->r->sftp, path.at);
        bytes_free(&path);
    }
    return true;
}

static bool gather(void *ctx, const char *at, size_t n)
{
    bytes_add(ctx, at, n);
    return true;
}

static void from_bytes(const void *ctx, size_t at, char *to, size_t n)
{
    memcpy(to, ((const Bytes *)ctx)->at + at, n);
}

/* A copy with the mode of the old version. */
static int copy_old(Save *s, const char *name)
{
    Sftp *f = &s->r->sftp;
    SftpHandle from, to;
    Bytes all = {0};
    int status = sftp_open(f, s->path, OPEN_READ, &(Attributes){0}, &from);
    if (status != STATUS_OK)
        return status;
    status = sftp_read(f, &from, s->old.file.size, gather, &all);
    if (status == STATUS_OK)
        status = sftp_close(f, &from);
    if (status == STATUS_OK)
        status = sftp_open(f, name, OPEN_WRITE | OPEN_CREATE | OPEN_NEW,
                           &(Attributes){.has_mode = true, .mode = 0600}, &to);
    if (status == STATUS_OK) {
        status = sftp_write(f, &to, all.len, from_bytes, &all, NULL);
        if (status == STATUS_OK)
            status = dress(s, &to);
        if (status == STATUS_OK)
            status = sftp_sync(f, &to);
        int closed = status == SFTP_LOST ? SFTP_LOST : sftp_close(f, &to);
        status = status == STATUS_OK ? closed : status;
    }
    bytes_free(&all);
    return status;
}

/* What the setting asks for, beside the file: made under another name first, so that an earlier one is
 * replaced only by a whole one. By a second name for the old version (`link`), if that is about to give way
 * to a new file. */
static bool back_up(Save *s, bool link)
{
    Sftp *f = &s->r->sftp;
    Backups b = {.name = path_base(s->path), .save = s};
    Bytes fresh = {0}, final = {0};
    if (!s->old.exists || !s->wish || s->wish->backup == BACKUP_NONE)
        return true;
    bool numbered = s->wish->backup == BACKUP_NUMBERED;
    int status = numbered ? sftp_list(f, s->folder, look_at_backup, &b) : STATUS_OK;
    leftover_name(&fresh, s->folder, b.name, NULL, "b");
    bytes_printf(&final, "%s.old", s->path);
    if (numbered)
        bytes_printf(&final, "-%u", b.highest + 1);
    if (status == STATUS_OK)
        status = link ? sftp_link(f, s->path, fresh.at) : STATUS_UNSUPPORTED;
    if (is_refusal(status))
        status = copy_old(s, fresh.at);
    if (status == STATUS_OK) {
        status = sftp_rename(f, fresh.at, final.at, true);
        if (status == STATUS_UNSUPPORTED) {
            sftp_remove(f, final.at);
            status = sftp_rename(f, fresh.at, final.at, false);
        }
        if (status != STATUS_OK)
            sftp_remove(f, fresh.at);
    }
    if (status == STATUS_OK && numbered && s->wish->keep && b.highest + 1 > s->wish->keep) {
        b.below = b.highest + 2 - s->wish->keep;
        sftp_list(f, s->folder, look_at_backup, &b);
    }
    bytes_free(&fresh);
    bytes_free(&final);
    return status == STATUS_OK ||
           (not_saved(s, status), err_set(s->e, "%s: %s was not saved: no backup could be made of it: %s",
                                          s->r->host, b.name, sftp_words(status)));
}

/* The whole new version lies beside the old one, which goes now. */
static Outcome put_in_place(Save *s)
{
    if (!connection_skills(s->r->sftp.connection).posix_rename && s->old.exists)
        return IN_PLACE;
    if (!back_up(s, true) || !untouched(s, &s->old))
        return FAILED;
    int status = sftp_rename(&s->r->sftp, s->fresh, s->path, s->old.exists);
    if (status == STATUS_UNSUPPORTED && s->old.exists)
        return IN_PLACE;
    if (status == STATUS_FAILURE && !s->old.exists && !untouched(s, &s->old)) /* something is there now */
        return FAILED;
    if (status != STATUS_OK) {
        not_saved(s, status);
        return FAILED;
    }
    free(s->fresh);
    s->fresh = NULL;
    return SAVED;
}

/* ---- in place ---- */

static bool write_in_place(Save *s)
{
    Sftp *f = &s->r->sftp;
    SftpHandle h;
    Attributes size = {.has_size = true, .size = text_len(s->text)};
    int status = sftp_open(f, s->path, OPEN_WRITE | (s->old.exists ? 0 : OPEN_CREATE), &(Attributes){0}, &h);
    if (status != STATUS_OK)
        return not_saved(s, status);
    char *copy = save_aside(path_base(s->path), s->text, s->e); /* until the host has all of it */
    if (!copy || !back_up(s, false) || (s->old.exists && !untouched(s, &s->old))) {
        sftp_close(f, &h);
        leftover_remove(&copy);
        return false;
    }
    status = sftp_write(f, &h, text_len(s->text), from_text, &s->text, s->counted);
    if (status == STATUS_OK)
        status = sftp_set(f, &h, &size);
    if (status == STATUS_OK &&
        s->old.file.mode & SPECIAL_BITS) /* writing took them away; if they cannot be given */
        sftp_set(f, &h, &(Attributes){.has_mode = true, .mode = s->old.file.mode}); /* again, they are gone */
    if (status == STATUS_OK)
        status = sftp_sync(f, &h);
    int closed = status == SFTP_LOST ? SFTP_LOST : sftp_close(f, &h);
    status = status == STATUS_OK ? closed : status;
    if (status == STATUS_OK) {
        leftover_remove(&copy);
    } else {
        not_saved(s, status);
        err_set(s->e, "%s: %s is only partly written (%s); the whole new version is here in %s", s->r->host,
                path_base(s->path), sftp_words(status), copy);
    }
    free(copy);
    return status == STATUS_OK;
}

/* ---- both ---- */

/* What is there, and what its name really is. A link to nothing is written through. */
static bool find_old(Save *s)
{
    Attributes link;
    int status = look(s->r, s->r->path, &s->old);
    if (status == STATUS_OK && s->old.exists) {
        status = sftp_state(&s->r->sftp, s->r->path, false, &link);
        if (status == STATUS_OK && packet_state(&link).type == FILE_LINK)
            status = sftp_real_path(&s->r->sftp, s->r->path, &s->path);
    }
    if (!s->path)
        s->path = mem_string(s->r->path);
    s->folder = path_folder(s->path);
    return status == STATUS_OK || not_saved(s, status);
}

bool remote_save(Remote *r, Text t, const SaveWish *wish, atomic_size_t *counted, DiskState *disk, Err *e)
{
    Save s = {.r = r, .text = t, .wish = wish, .counted = counted, .e = e};
    *disk = (DiskState){0};
    bool ok = find_old(&s);
    if (ok && wish && wish->only && !disk_same(wish->only, &s.old))
        ok = told_overtaken(&s);
    if (ok && s.old.exists && s.old.file.type != FILE_PLAIN)
        ok = err_set(e, "%s: %s was not saved: it is no file", r->host, s.path);
    if (ok) {
        InPlace why = s.old.exists && wish && wish->in_place ? IN_PLACE_WISHED : NOT_IN_PLACE;
        Outcome done = why || s.old.dangling ? IN_PLACE : write_beside(&s);
        if (done == SAVED)
            done = put_in_place(&s);
        if (s.fresh && !r->lost)
            sftp_remove(&r->sftp, s.fresh);
        ok = done == IN_PLACE ? write_in_place(&s) : done == SAVED;
        int status = ok ? look(r, s.path, disk) : STATUS_OK;
        if (status != STATUS_OK)
            ok = not_saved(&s, status);
        disk->in_place = done == IN_PLACE && !why && s.old.exists ? IN_PLACE_RIGHTS : why;
    }
    free(s.path);
    free(s.folder);
    free(s.fresh);
    return ok;
}

/* ---- folders and names ---- */

bool remote_rename(Remote *r, const char *to, const DiskState *target, bool *overtaken, DiskState *disk,
                   Err *e)
{
    DiskState now;
    int status = look(r, to, &now);
    if (status == STATUS_OK && !disk_same(&now, target)) {
        *overtaken = true;
        return err_set(e, "something else is there now");
    }
    if (status == STATUS_OK)
        status = sftp_rename(&r->sftp, r->path, to, target->exists);
    if (status == STATUS_OK)
        status = look(r, to, disk);
    return status == STATUS_OK || failed(r, e, " was not renamed: ", status);
}

bool remote_make_folder(Remote *r, Err *e)
{
    char *part = mem_string(r->path);
    bool ok = true;
    for (char *p = part + 1; ok && p[-1]; p++) {
        if (*p && *p != '/')
            continue;
        char end = *p;
        Attributes a;
        *p = 0;
        int status = sftp_state(&r->sftp, part, true, &a);
        if (status == STATUS_NO_SUCH_FILE)
            status = sftp_make_folder(&r->sftp, part);
        if (status != STATUS_OK)
            ok = failed(r, e, " cannot be made: ", status);
        *p = end;
        if (!end)
            break;
    }
    free(part);
    return ok;
}

enum { LINKS_MOST = 200 /* that are followed, to know whether they lead to folders */ };

typedef struct Listed {
    FolderEntries *all;
    size_t links[LINKS_MOST], n_links;
} Listed;

static bool add_entry(void *ctx, const char *name, const Attributes *a)
{
    Listed *l = ctx;
    FileType type = packet_state(a).type;
    l->all->more = l->all->n == FOLDER_MOST;
    if (l->all->more)
        return false;
    if (type == FILE_LINK && l->n_links < LINKS_MOST)
        l->links[l->n_links++] = l->all->n;
    entries_add(l->all, name, type == FILE_FOLDER);
    return true;
}

bool remote_list(Remote *r, FolderEntries *out, Err *e)
{
    Listed l = {.all = out};
    int status = sftp_list(&r->sftp, r->path, add_entry, &l);
    for (size_t i = 0; status == STATUS_OK && i < l.n_links; i++) {
        Attributes a;
        Bytes path = {0};
        FolderEntry *entry = &out->at[l.links[i]];
        bytes_printf(&path, "%s/%s", r->path, entry->name);
        int found = sftp_state(&r->sftp, path.at, true, &a);
        entry->folder = found == STATUS_OK && packet_state(&a).type == FILE_FOLDER;
        status = found == SFTP_LOST ? SFTP_LOST : STATUS_OK;
        bytes_free(&path);
    }
    return status == STATUS_OK || failed(r, e, " cannot be listed: ", status);
}

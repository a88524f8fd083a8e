#include "hosts/sftp.h"

#include "base/mem.h"

#include <stdlib.h>
#include <string.h>

enum {
    READS_AT_ONCE = 64,
    WRITES_AT_ONCE = 64,
    LISTS_AT_ONCE = 8,
};

const char *sftp_words(int status)
{
    switch (status) {
    case SFTP_LOST:
        return "the connection was lost";
    case SFTP_SENSELESS:
        return "the server there answered what makes no sense";
    case STATUS_NO_SUCH_FILE:
        return "no such file or folder there";
    case STATUS_PERMISSION_DENIED:
        return "no permission there";
    case STATUS_UNSUPPORTED:
        return "the server there cannot do that";
    case STATUS_EOF:
        return "it ended too soon";
    default:
        return "the server there refused it and says no more (is its disk full, or read-only?)";
    }
}

/* ---- one request, one answer ---- */

/* Begins a packet about a string (a path, or a handle). */
static size_t begin(Bytes *b, Sftp *s, PacketType type, const void *at, size_t n, uint32_t *number)
{
    *number = connection_number(s->connection);
    size_t from = packet_begin(b, type, *number);
    packet_bytes(b, at, n);
    return from;
}

static int send(Sftp *s, Bytes *b, size_t from, uint32_t number)
{
    packet_end(b, from);
    bool ok = connection_send(s->connection, b, number);
    bytes_free(b);
    return ok ? STATUS_OK : SFTP_LOST;
}

/* The answer, whose type must be that; else what its status says. *r reads what follows the type. */
static int wait_for(Sftp *s, uint32_t number, PacketType type, Bytes *answer, PacketReader *r)
{
    *r = packet_reader("", 0);
    if (!connection_wait(s->connection, number, s->stop, answer))
        return SFTP_LOST;
    *r = packet_reader(answer->at, answer->len);
    unsigned is = packet_read_u8(r);
    if (is == PACKET_STATUS) {
        uint32_t status = packet_read_u32(r);
        bool fits = !r->bad && status <= STATUS_UNSUPPORTED && (type == PACKET_STATUS || status != STATUS_OK);
        return fits ? (int)status : SFTP_SENSELESS;
    }
    return is == type ? STATUS_OK : SFTP_SENSELESS;
}

/* For requests that only succeed or fail. */
static int ask(Sftp *s, Bytes *b, size_t from, uint32_t number)
{
    Bytes answer = {0};
    PacketReader r;
    int status = send(s, b, from, number);
    if (status == STATUS_OK)
        status = wait_for(s, number, PACKET_STATUS, &answer, &r);
    bytes_free(&answer);
    return status;
}

static int wait_for_state(Sftp *s, uint32_t number, Attributes *out)
{
    Bytes answer = {0};
    PacketReader r;
    int status = wait_for(s, number, PACKET_ATTRS, &answer, &r);
    *out = (Attributes){0};
    if (status == STATUS_OK)
        *out = packet_read_attributes(&r);
    status = status == STATUS_OK && (r.bad || !out->has_mode || !out->has_size) ? SFTP_SENSELESS : status;
    bytes_free(&answer);
    return status;
}

static int wait_for_handle(Sftp *s, uint32_t number, SftpHandle *h)
{
    Bytes answer = {0};
    PacketReader r;
    int status = wait_for(s, number, PACKET_HANDLE, &answer, &r);
    if (status == STATUS_OK) {
        const char *at = packet_read_string(&r, sizeof h->bytes, &h->n);
        memcpy(h->bytes, at, h->n);
        status = r.bad ? SFTP_SENSELESS : STATUS_OK;
    }
    bytes_free(&answer);
    return status;
}

int sftp_state(Sftp *s, const char *path, bool follow, Attributes *out)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, follow ? PACKET_STAT : PACKET_LSTAT, path, strlen(path), &number);
    int status = send(s, &b, from, number);
    return status == STATUS_OK ? wait_for_state(s, number, out) : status;
}

int sftp_open(Sftp *s, const char *path, unsigned flags, const Attributes *a, SftpHandle *h)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_OPEN, path, strlen(path), &number);
    packet_u32(&b, flags);
    packet_attributes(&b, a);
    int status = send(s, &b, from, number);
    return status == STATUS_OK ? wait_for_handle(s, number, h) : status;
}

int sftp_close(Sftp *s, const SftpHandle *h)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_CLOSE, h->bytes, h->n, &number);
    return ask(s, &b, from, number);
}

void sftp_let_go(Sftp *s, const SftpHandle *h)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_CLOSE, h->bytes, h->n, &number);
    if (send(s, &b, from, number) == STATUS_OK)
        connection_forget(s->connection, number);
}

int sftp_state_open(Sftp *s, const SftpHandle *h, Attributes *out)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_FSTAT, h->bytes, h->n, &number);
    int status = send(s, &b, from, number);
    return status == STATUS_OK ? wait_for_state(s, number, out) : status;
}

int sftp_set(Sftp *s, const SftpHandle *h, const Attributes *a)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_FSETSTAT, h->bytes, h->n, &number);
    packet_attributes(&b, a);
    return ask(s, &b, from, number);
}

int sftp_sync(Sftp *s, const SftpHandle *h)
{
    Bytes b = {0};
    uint32_t number;
    if (!connection_skills(s->connection).fsync)
        return STATUS_OK;
    static const char name[] = "fsync@openssh.com";
    size_t from = begin(&b, s, PACKET_EXTENDED, name, sizeof name - 1, &number);
    packet_bytes(&b, h->bytes, h->n);
    return ask(s, &b, from, number);
}

int sftp_rename(Sftp *s, const char *from, const char *to, bool over)
{
    Bytes b = {0};
    uint32_t number;
    static const char name[] = "posix-rename@openssh.com";
    size_t at;
    if (over && !connection_skills(s->connection).posix_rename)
        return STATUS_UNSUPPORTED;
    if (over) {
        at = begin(&b, s, PACKET_EXTENDED, name, sizeof name - 1, &number);
        packet_string(&b, from);
    } else {
        at = begin(&b, s, PACKET_RENAME, from, strlen(from), &number);
    }
    packet_string(&b, to);
    return ask(s, &b, at, number);
}

int sftp_link(Sftp *s, const char *path, const char *name)
{
    static const char call[] = "hardlink@openssh.com";
    Bytes b = {0};
    uint32_t number;
    if (!connection_skills(s->connection).hardlink)
        return STATUS_UNSUPPORTED;
    size_t at = begin(&b, s, PACKET_EXTENDED, call, sizeof call - 1, &number);
    packet_string(&b, path);
    packet_string(&b, name);
    return ask(s, &b, at, number);
}

int sftp_remove(Sftp *s, const char *path)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_REMOVE, path, strlen(path), &number);
    return ask(s, &b, from, number);
}

int sftp_make_folder(Sftp *s, const char *path)
{
    Bytes b = {0};
    uint32_t number;
    size_t from = begin(&b, s, PACKET_MKDIR, path, strlen(path), &number);
    packet_attributes(&b, &(Attributes){0});
    return ask(s, &b, from, number);
}

int sftp_real_path(Sftp *s, const char *path, char **out)
{
    Bytes b = {0}, answer = {0};
    PacketReader r;
    uint32_t number;
    *out = NULL;
    size_t from = begin(&b, s, PACKET_REALPATH, path, strlen(path), &number), n;
    int status = send(s, &b, from, number);
    if (status == STATUS_OK)
        status = wait_for(s, number, PACKET_NAME, &answer, &r);
    if (status == STATUS_OK) {
        uint32_t names = packet_read_u32(&r);
        const char *at = packet_read_string(&r, PACKET_STRING_MOST, &n);
        bool fits = !r.bad && names == 1 && n && at[0] == '/' && !memchr(at, 0, n);
        if (fits)
            *out = mem_string_n(at, n);
        status = fits ? STATUS_OK : SFTP_SENSELESS;
    }
    bytes_free(&answer);
    return status;
}

int sftp_open_known(Sftp *s, const char *path, Attributes *state, int *opened, SftpHandle *h)
{
    Bytes b = {0};
    uint32_t first, second;
    size_t from = begin(&b, s, PACKET_STAT, path, strlen(path), &first);
    int status = send(s, &b, from, first);
    if (status != STATUS_OK)
        return *opened = status;
    from = begin(&b, s, PACKET_OPEN, path, strlen(path), &second);
    packet_u32(&b, OPEN_READ);
    packet_attributes(&b, &(Attributes){0});
    *opened = send(s, &b, from, second);
    status = wait_for_state(s, first, state);
    if (*opened == STATUS_OK)
        *opened = wait_for_handle(s, second, h);
    return status;
}

/* ---- many on their way ---- */

/* A part of a file that was asked for. */
typedef struct Part {
    uint32_t number;
    uint64_t at;
    uint32_t n;
} Part;

static int ask_for(Sftp *s, const SftpHandle *h, Part *p)
{
    Bytes b = {0};
    size_t from = begin(&b, s, PACKET_READ, h->bytes, h->n, &p->number);
    packet_u64(&b, p->at);
    packet_u32(&b, p->n);
    return send(s, &b, from, p->number);
}

/* The bytes of one answer go to `take`; less than was asked for is asked for again, as a server may give what
 * it likes. STATUS_EOF at the file's end. */
static int take_part(Sftp *s, const SftpHandle *h, Part p, bool (*take)(void *, const char *, size_t),
                     void *ctx)
{
    for (;;) {
        Bytes answer = {0};
        PacketReader r;
        size_t n = 0;
        int status = wait_for(s, p.number, PACKET_DATA, &answer, &r);
        const char *at = status == STATUS_OK ? packet_read_string(&r, PACKET_MOST, &n) : "";
        if (status == STATUS_OK && (r.bad || n == 0 || n > p.n))
            status = SFTP_SENSELESS;
        if (status == STATUS_OK && !take(ctx, at, n))
            status = SFTP_LOST;
        bytes_free(&answer);
        if (status != STATUS_OK || n == p.n)
            return status;
        p.at += n;
        p.n -= (uint32_t)n;
        if ((status = ask_for(s, h, &p)) != STATUS_OK)
            return status;
    }
}

int sftp_read(Sftp *s, const SftpHandle *h, uint64_t size, bool (*take)(void *ctx, const char *at, size_t n),
              void *ctx)
{
    Part parts[READS_AT_ONCE];
    size_t first = 0, n = 0;
    uint64_t next = 0;
    int status = STATUS_OK;
    while (status == STATUS_OK) {
        /* One more than its size needs, which sees the end. */
        while (n < READS_AT_ONCE && status == STATUS_OK && (next <= size || n == 0)) {
            Part *p = &parts[(first + n) % READS_AT_ONCE];
            *p = (Part){.at = next, .n = PACKET_DATA_MOST};
            status = ask_for(s, h, p);
            n += status == STATUS_OK;
            next += PACKET_DATA_MOST;
        }
        if (n) {
            status = status == STATUS_OK ? take_part(s, h, parts[first], take, ctx) : status;
            first = (first + 1) % READS_AT_ONCE;
            n--;
        }
    }
    for (; n; n--, first = (first + 1) % READS_AT_ONCE)
        connection_forget(s->connection, parts[first].number);
    return status == STATUS_EOF ? STATUS_OK : status;
}

int sftp_write(Sftp *s, const SftpHandle *h, size_t len,
               void (*read)(const void *ctx, size_t at, char *to, size_t n), const void *ctx,
               atomic_size_t *count)
{
    struct {
        uint32_t number, n;
    } parts[WRITES_AT_ONCE];
    size_t first = 0, n = 0, at = 0;
    char *piece = mem_get(PACKET_DATA_MOST);
    int status = STATUS_OK;
    while (status == STATUS_OK && (at < len || n)) {
        while (status == STATUS_OK && at < len && n < WRITES_AT_ONCE) {
            Bytes b = {0};
            size_t got = len - at < PACKET_DATA_MOST ? len - at : PACKET_DATA_MOST;
            size_t i = (first + n) % WRITES_AT_ONCE;
            read(ctx, at, piece, got);
            size_t from = begin(&b, s, PACKET_WRITE, h->bytes, h->n, &parts[i].number);
            parts[i].n = (uint32_t)got;
            packet_u64(&b, at);
            packet_bytes(&b, piece, got);
            status = send(s, &b, from, parts[i].number);
            n += status == STATUS_OK;
            at += got;
        }
        if (n && status == STATUS_OK) {
            Bytes answer = {0};
            PacketReader r;
            status = wait_for(s, parts[first].number, PACKET_STATUS, &answer, &r);
            bytes_free(&answer);
            if (count && status == STATUS_OK)
                atomic_fetch_add(count, parts[first].n);
            first = (first + 1) % WRITES_AT_ONCE;
            n--;
        }
    }
    for (; n; n--, first = (first + 1) % WRITES_AT_ONCE)
        connection_forget(s->connection, parts[first].number);
    free(piece);
    return status;
}

/* STATUS_EOF also when no more are wanted. */
static int take_names(PacketReader *r, bool (*take)(void *, const char *, const Attributes *), void *ctx)
{
    uint32_t names = packet_read_u32(r);
    for (uint32_t i = 0; i < names; i++) {
        size_t n, m;
        const char *at = packet_read_string(r, PACKET_STRING_MOST, &n);
        packet_read_string(r, PACKET_STRING_MOST, &m); /* a line of ls, for people */
        Attributes a = packet_read_attributes(r);
        if (r->bad || n == 0 || memchr(at, 0, n) || memchr(at, '/', n))
            return SFTP_SENSELESS;
        char *name = mem_string_n(at, n);
        bool dots = strcmp(name, ".") == 0 || strcmp(name, "..") == 0, more = dots || take(ctx, name, &a);
        free(name);
        if (!more)
            return STATUS_EOF;
    }
    return names ? STATUS_OK : SFTP_SENSELESS;
}

int sftp_list(Sftp *s, const char *path, bool (*take)(void *ctx, const char *name, const Attributes *a),
              void *ctx)
{
    Bytes b = {0};
    SftpHandle h;
    uint32_t numbers[LISTS_AT_ONCE], number;
    size_t from = begin(&b, s, PACKET_OPENDIR, path, strlen(path), &number), first = 0, n = 0;
    int status = send(s, &b, from, number);
    status = status == STATUS_OK ? wait_for_handle(s, number, &h) : status;
    if (status != STATUS_OK)
        return status;
    while (status == STATUS_OK) {
        while (n < LISTS_AT_ONCE && status == STATUS_OK) {
            uint32_t *next = &numbers[(first + n) % LISTS_AT_ONCE];
            from = begin(&b, s, PACKET_READDIR, h.bytes, h.n, next);
            status = send(s, &b, from, *next);
            n += status == STATUS_OK;
        }
        Bytes answer = {0};
        PacketReader r;
        if (status == STATUS_OK)
            status = wait_for(s, numbers[first], PACKET_NAME, &answer, &r);
        if (status == STATUS_OK)
            status = take_names(&r, take, ctx);
        bytes_free(&answer);
        first = (first + 1) % LISTS_AT_ONCE;
        n -= n > 0;
    }
    for (; n; n--, first = (first + 1) % LISTS_AT_ONCE)
        connection_forget(s->connection, numbers[first]);
    sftp_let_go(s, &h);
    return status == STATUS_EOF ? STATUS_OK : status;
}

#include "files/location.h"

#include "base/mem.h"
#include "base/paths.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>

static const char scheme[] = "ssh://";

enum { HOST_MOST = 255, USER_MOST = 255, PORT_MOST = 65535 };

bool location_is_remote(const char *name)
{
    return strncmp(name, scheme, sizeof scheme - 1) == 0;
}

void location_free(Location *l)
{
    free(l->user);
    free(l->host);
    free(l->path);
    *l = (Location){0};
}

/* ---- taking apart ---- */

static int hex_value(char c)
{
    return c >= '0' && c <= '9'   ? c - '0'
           : c >= 'a' && c <= 'f' ? c - 'a' + 10
           : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                  : -1;
}

/* The bytes that a part of a name stands for (RFC 3986, 2.1); NULL when it is none. */
static char *decoded(const char *s, size_t n)
{
    Bytes out = {0};
    for (size_t i = 0; i < n; i++) {
        char c = s[i];
        if (c == '%') {
            int high = i + 2 < n ? hex_value(s[i + 1]) : -1, low = i + 2 < n ? hex_value(s[i + 2]) : -1;
            c = (char)(high * 16 + low);
            if (high < 0 || low < 0 || c == 0) {
                bytes_free(&out);
                return NULL;
            }
            i += 2;
        }
        bytes_add(&out, &c, 1);
    }
    return out.at ? out.at : mem_string("");
}

/* Letters, digits, and what stands in names of hosts and in addresses; never at the beginning what ssh would
 * take for an option. */
static bool is_host(const char *s)
{
    size_t n = strlen(s);
    bool address = n > 2 && s[0] == '[' && s[n - 1] == ']';
    if (n == 0 || n > HOST_MOST || s[0] == '-')
        return false;
    for (size_t i = address ? 1 : 0; i < (address ? n - 1 : n); i++)
        if (!isalnum((unsigned char)s[i]) && !strchr(address ? ".:%" : ".-_", s[i]))
            return false;
    return true;
}

static bool is_user(const char *s)
{
    size_t n = strlen(s);
    if (n == 0 || n > USER_MOST || s[0] == '-')
        return false;
    for (size_t i = 0; i < n; i++)
        if ((unsigned char)s[i] <= ' ' || s[i] == 0x7f || strchr("@:/\\'\"`$;&|<>()", s[i]))
            return false;
    return true;
}

static bool read_port(const char *s, unsigned *out)
{
    char *end;
    if (!isdigit((unsigned char)*s))
        return false;
    unsigned long n = strtoul(s, &end, 10);
    *out = (unsigned)n;
    return *end == 0 && n > 0 && n <= PORT_MOST;
}

/* "." and ".." go, and what stands twice; "/~" stays at the beginning, whatever follows. */
static char *tidy(const char *path)
{
    Bytes out = {0};
    size_t root = strncmp(path, "/~", 2) == 0 && (path[2] == '/' || !path[2]) ? 2 : 0;
    bytes_add(&out, path, root);
    for (const char *p = path + root; *p;) {
        p += strspn(p, "/");
        size_t n = strcspn(p, "/");
        if (n == 2 && memcmp(p, "..", 2) == 0) {
            while (out.len > root && out.at[out.len - 1] != '/')
                bytes_delete(&out, out.len - 1, 1);
            if (out.len > root)
                bytes_delete(&out, out.len - 1, 1);
        } else if (n && !(n == 1 && *p == '.')) {
            bytes_add(&out, "/", 1);
            bytes_add(&out, p, n);
        }
        p += n;
    }
    if (out.len == root)
        bytes_add(&out, "/", 1);
    return out.at;
}

static bool read_authority(char *s, Location *out, Err *e)
{
    char *at = strrchr(s, '@'), *host = at ? at + 1 : s;
    if (at)
        *at = 0;
    char *close = host[0] == '[' ? strchr(host, ']') : NULL;
    char *colon = strchr(close ? close : host, ':');
    if (colon)
        *colon = 0;
    out->user = at ? decoded(s, strlen(s)) : NULL;
    out->host = decoded(host, strlen(host));
    if (at && (!out->user || !is_user(out->user)))
        return err_set(e, "“%s” is no user name for ssh", s);
    if (!out->host || !is_host(out->host))
        return err_set(e, "“%s” is no name of a host; files of other hosts are ssh://HOST/PATH", host);
    for (char *c = out->host; *c; c++)
        *c = (char)tolower((unsigned char)*c);
    if (colon && !read_port(colon + 1, &out->port))
        return err_set(e, "“%s” is no port of %s", colon + 1, out->host);
    return true;
}

bool location_read(const char *name, Location *out, Err *e)
{
    *out = (Location){0};
    if (!location_is_remote(name)) {
        out->path = mem_string(name);
        return true;
    }
    const char *rest = name + sizeof scheme - 1;
    size_t n = strcspn(rest, "/");
    char *authority = mem_string_n(rest, n);
    bool ok = read_authority(authority, out, e);
    free(authority);
    if (ok && strpbrk(rest + n, "?#"))
        ok = err_set(e, "In %s a “?” is written %%3F, and a “#” %%23", name);
    char *path = ok ? decoded(rest + n, strlen(rest + n)) : NULL;
    if (ok && !path)
        ok = err_set(
            e, "In %s a percent sign is followed by no two hexadecimal digits; alone it is written %%25",
            name);
    if (ok) { /* twice, as what is left of "//~" is the home folder */
        char *once = tidy(path);
        out->path = tidy(once);
        free(once);
    }
    free(path);
    if (!ok)
        location_free(out);
    return ok;
}

/* ---- putting together ---- */

/* As a part of a path may hold it (RFC 3986, 3.3). */
static void encode(const char *s, const char *also, Bytes *out)
{
    for (; *s; s++) {
        unsigned char c = (unsigned char)*s;
        if ((c < 0x80 && isalnum(c)) || strchr("-._~!$&'()*+,;=", c) || strchr(also, c))
            bytes_add(out, s, 1);
        else
            bytes_printf(out, "%%%02X", c);
    }
}

char *location_write(const Location *l)
{
    Bytes out = {0};
    if (!l->host)
        return mem_string(l->path);
    bytes_add_str(&out, scheme);
    if (l->user) {
        encode(l->user, "", &out);
        bytes_add_str(&out, "@");
    }
    bytes_add_str(&out, l->host);
    if (l->port)
        bytes_printf(&out, ":%u", l->port);
    encode(l->path, "/:@", &out);
    return out.at;
}

char *location_full(const char *typed)
{
    Location l;
    Err ignored;
    if (location_is_remote(typed)) {
        bool ok = location_read(typed, &l, &ignored);
        char *full = ok ? location_write(&l) : mem_string(typed);
        if (ok)
            location_free(&l);
        return full;
    }
    char *expanded = path_expand_home(typed), *full = path_full(expanded);
    free(expanded);
    return full;
}

char *location_meant(const char *typed)
{
    size_t n = strcspn(typed, ":/");
    char *host = mem_string_n(typed, n), *at = strchr(host, '@');
    bool fits =
        typed[n] == ':' && (typed[n + 1] == '/' || typed[n + 1] == '~') && is_host(at ? at + 1 : host);
    Bytes out = {0};
    if (fits) {
        Location l = {.host = host, .path = (char *)typed + n + 1};
        bytes_printf(&out, "%s%s%s", scheme, l.host, l.path[0] == '/' ? "" : "/");
        encode(l.path, "/:@", &out);
    }
    free(host);
    return out.at;
}

/* ---- parts of it ---- */

/* A name that cannot be understood is its own path: nobody opens it. */
static Location parts_of(const char *name)
{
    Location l;
    Err ignored;
    if (!location_read(name, &l, &ignored))
        l = (Location){.path = mem_string(name)};
    return l;
}

char *location_path(const char *name)
{
    Location l = parts_of(name);
    char *path = mem_string(l.path);
    location_free(&l);
    return path;
}

static char *with_path(const char *name, char *(*change)(const char *path, const char *arg), const char *arg)
{
    Location l = parts_of(name);
    char *path = change(l.path, arg);
    free(l.path);
    l.path = path;
    char *out = location_write(&l);
    location_free(&l);
    return out;
}

static char *folder_of(const char *path, const char *unused)
{
    (void)unused;
    return path_folder(path);
}

char *location_folder(const char *name)
{
    return with_path(name, folder_of, NULL);
}

static char *entry_in(const char *folder, const char *entry)
{
    Bytes out = {0};
    size_t n = strlen(folder);
    bytes_printf(&out, "%s%s%s", folder, n && folder[n - 1] == '/' ? "" : "/", entry);
    return out.at;
}

char *location_in(const char *folder, const char *entry)
{
    return with_path(folder, entry_in, entry);
}

char *location_shown(const char *name)
{
    Location l = parts_of(name);
    Bytes out = {0};
    if (l.host)
        bytes_printf(&out, "%s: ", l.host);
    bytes_add_str(&out, l.host && strncmp(l.path, "/~", 2) == 0 ? l.path + 1 : l.path);
    location_free(&l);
    return out.at ? out.at : mem_string("");
}

char *location_base(const char *name)
{
    Location l = parts_of(name);
    char *base = mem_string(path_base(l.path));
    location_free(&l);
    return base;
}

static bool same_string(const char *a, const char *b)
{
    return a && b ? strcmp(a, b) == 0 : a == b;
}

bool location_same_system(const char *a, const char *b)
{
    Location x = parts_of(a), y = parts_of(b);
    bool same = same_string(x.host, y.host) && same_string(x.user, y.user) && x.port == y.port;
    location_free(&x);
    location_free(&y);
    return same;
}

#include "base/machine.h"

#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"

#include <errno.h>
#include <grp.h>
#include <pwd.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/utsname.h>
#include <unistd.h>

enum {
    LINES_MOST = 200000, /* of one of the system's files */
    FOLDERS_DEEP = 8,    /* below /proc/sys */
};

typedef struct Each {
    bool (*name)(void *ctx, const char *name);
    void *ctx;
    bool more;
} Each;

static void give(Each *e, const char *name)
{
    e->more = e->more && (!*name || e->name(e->ctx, name));
}

/* ---- lists in files ---- */

/* Gives the field of that number (from 0) of each line, with one of `between` around it. */
static void give_fields(const char *path, const char *between, int field, Each *e)
{
    FILE *f = fopen(path, "re");
    char *line = NULL;
    size_t room = 0;
    for (int i = 0; f && e->more && i < LINES_MOST && getline(&line, &room, f) > 0; i++) {
        char *rest = line, *at = NULL;
        if (line[0] == '#')
            continue;
        for (int k = 0; k <= field; k++)
            at = strtok_r(k ? NULL : line, between, &rest);
        if (at)
            give(e, at);
    }
    free(line);
    if (f)
        fclose(f);
}

/* "kernel/fs/ext4/ext4.ko.xz: …": the name, and as modprobe takes hyphens for underlines, those. */
static bool module_name(void *ctx, const char *path)
{
    char name[128];
    const char *slash = strrchr(path, '/'), *from = slash ? slash + 1 : path;
    snprintf(name, sizeof name, "%.*s", (int)strcspn(from, "."), from);
    for (char *p = name; *p; p++)
        *p = *p == '-' ? '_' : *p;
    give(ctx, name);
    return ((Each *)ctx)->more;
}

static void give_modules(Each *e)
{
    struct utsname u;
    static const char *const lists[] = {"modules.dep", "modules.builtin"};
    Each paths = {module_name, e, true};
    for (size_t i = 0; uname(&u) == 0 && i < sizeof lists / sizeof *lists; i++) {
        char path[300];
        snprintf(path, sizeof path, "/lib/modules/%.200s/%s", u.release, lists[i]);
        give_fields(path, ":\n", 0, &paths);
    }
}

/* ---- lists that are folders ---- */

static bool give_entry(int fd, const char *name, void *ctx)
{
    (void)fd;
    give(ctx, name);
    return ((Each *)ctx)->more;
}

static bool give_shared_object(int fd, const char *name, void *ctx)
{
    const char *dot = strrchr(name, '.');
    return dot && strcmp(dot, ".so") == 0 ? give_entry(fd, name, ctx) : ((Each *)ctx)->more;
}

/* One for each processor's libraries: /lib/x86_64-linux-gnu. */
static bool give_modules_below(int fd, const char *name, void *ctx)
{
    (void)fd;
    char path[300];
    snprintf(path, sizeof path, "/usr/lib/%.200s/security", name);
    folder_read(path, give_shared_object, ctx);
    return ((Each *)ctx)->more;
}

static bool give_unit(int fd, const char *name, void *ctx)
{
    static const char *const endings[] = {".service", ".socket", ".target", ".timer",
                                          ".path",    ".mount",  ".slice"};
    const char *dot = strrchr(name, '.');
    for (size_t i = 0; dot && i < sizeof endings / sizeof *endings; i++)
        if (strcmp(dot, endings[i]) == 0)
            return give_entry(fd, name, ctx);
    return ((Each *)ctx)->more;
}

typedef struct Settings {
    Each *each;
    char path[512];
    int deep;
} Settings;

/* Dots in the name of a file stand where slashes would, as sysctl has it. */
static bool give_setting(int fd, const char *name, void *ctx)
{
    (void)fd;
    Settings *s = ctx;
    struct stat st;
    size_t n = strlen(s->path), len = strlen(name);
    if (n + len + 2 > sizeof s->path)
        return s->each->more;
    s->path[n] = '/';
    memcpy(s->path + n + 1, name, len + 1);
    if (lstat(s->path, &st) == 0 && S_ISDIR(st.st_mode)) {
        s->deep++;
        if (s->deep < FOLDERS_DEEP)
            folder_read(s->path, give_setting, s);
        s->deep--;
    } else {
        char setting[sizeof s->path];
        size_t i = 0;
        for (const char *p = s->path + strlen("/proc/sys/"); *p; p++)
            setting[i++] = *p == '/' ? '.' : *p == '.' ? '/' : *p;
        setting[i] = 0;
        give(s->each, setting);
    }
    s->path[n] = 0;
    return s->each->more;
}

/* ---- for others ---- */

void machine_each(MachineThing t, bool (*each)(void *ctx, const char *name), void *ctx)
{
    Each e = {each, ctx, true};
    Settings settings = {&e, "/proc/sys", 0};
    static const char *const unit_folders[] = {"/etc/systemd/system", "/run/systemd/system",
                                               "/usr/lib/systemd/system"};
    switch (t) {
    case MACHINE_USER:
        give_fields("/etc/passwd", ":\n", 0, &e);
        break;
    case MACHINE_GROUP:
        give_fields("/etc/group", ":\n", 0, &e);
        break;
    case MACHINE_SHELL:
        give_fields("/etc/shells", " \n", 0, &e);
        break;
    case MACHINE_INTERFACE:
        folder_read("/sys/class/net", give_entry, &e);
        break;
    case MACHINE_PORT_NAME:
        give_fields("/etc/services", " \t\n", 0, &e);
        break;
    case MACHINE_KERNEL_SETTING:
        folder_read(settings.path, give_setting, &settings);
        break;
    case MACHINE_KERNEL_MODULE:
        give_modules(&e);
        break;
    case MACHINE_FILE_SYSTEM: /* "nodev	tmpfs", "	ext4" */
        give_fields("/proc/filesystems", "\t\n", 1, &e);
        give_fields("/proc/filesystems", "\t\n", 0, &e);
        break;
    case MACHINE_MOUNT_POINT:
        give_fields("/proc/self/mounts", " \n", 1, &e);
        break;
    case MACHINE_UNIT:
        for (size_t i = 0; i < sizeof unit_folders / sizeof *unit_folders; i++)
            folder_read(unit_folders[i], give_unit, &e);
        break;
    case MACHINE_PAM_MODULE:
        folder_read("/usr/lib", give_modules_below, &e);
        folder_read("/usr/lib/security", give_shared_object, &e);
        folder_read("/usr/lib64/security", give_shared_object, &e);
        break;
    case MACHINE_TIME_ZONE:
        give_fields("/usr/share/zoneinfo/zone1970.tab", "\t\n", 2, &e);
        break;
    case MACHINE_PATH:
        break;
    }
}

typedef struct Wanted {
    const char *name;
    bool any, found;
} Wanted;

static bool is_wanted(void *ctx, const char *name)
{
    Wanted *w = ctx;
    w->any = true;
    w->found = strcmp(name, w->name) == 0;
    return !w->found;
}

/* Without a list nobody can say. */
static MachineHas has_listed(MachineThing t, const char *name)
{
    Wanted w = {.name = name};
    machine_each(t, is_wanted, &w);
    return w.found ? MACHINE_HAS : w.any ? MACHINE_HAS_NOT : MACHINE_UNKNOWN;
}

static MachineHas has_path(const char *path, int mode)
{
    if (access(path, mode) == 0)
        return MACHINE_HAS;
    return errno == ENOENT || errno == ENOTDIR || (errno == EACCES && mode == X_OK && access(path, F_OK) == 0)
               ? MACHINE_HAS_NOT
               : MACHINE_UNKNOWN;
}

static MachineHas has_setting(const char *name)
{
    enum { ANY_MOST = 400 };
    char path[ANY_MOST + 16] = "/proc/sys/";
    name += name[0] == '-'; /* errors are to be passed over */
    size_t n = strlen(path);
    char first = name[strcspn(name, "./")]; /* a slash: as the path has it */
    if (access("/proc/sys/kernel", F_OK) != 0 || strlen(name) >= ANY_MOST || strpbrk(name, "*?[") ||
        strstr(name, ".."))
        return MACHINE_UNKNOWN;
    for (const char *p = name; *p; p++)
        path[n++] = first == '/' ? *p : *p == '.' ? '/' : *p == '/' ? '.' : *p;
    path[n] = 0;
    return has_path(path, F_OK);
}

/* Asks as the C library does, so for those of a directory server too. */
static MachineHas has_owner(MachineThing t, const char *name)
{
    enum { ROOM = 1 << 16 };
    char *room = mem_get(ROOM);
    struct passwd user, *u = NULL;
    struct group group, *g = NULL;
    int error = t == MACHINE_USER ? getpwnam_r(name, &user, room, ROOM, &u)
                                  : getgrnam_r(name, &group, room, ROOM, &g);
    free(room);
    bool nobody = error == 0 || error == ENOENT || error == ESRCH;
    return u || g ? MACHINE_HAS : nobody ? MACHINE_HAS_NOT : MACHINE_UNKNOWN;
}

static MachineHas has_pam_module(const char *name)
{
    Bytes path = {0};
    bytes_printf(&path, "/etc/pam.d/%s", name);
    bool file = !strchr(name, '/') && access(path.at, F_OK) == 0; /* for include */
    bytes_free(&path);
    return file ? MACHINE_HAS : name[0] == '/' ? has_path(name, F_OK) : has_listed(MACHINE_PAM_MODULE, name);
}

static MachineHas has_module(const char *name)
{
    char same[128];
    snprintf(same, sizeof same, "%s", name);
    for (char *p = same; *p; p++)
        *p = *p == '-' ? '_' : *p;
    return has_listed(MACHINE_KERNEL_MODULE, same);
}

MachineHas machine_has(MachineThing t, const char *name)
{
    switch (t) {
    case MACHINE_USER:
    case MACHINE_GROUP:
        return has_owner(t, name);
    case MACHINE_PATH:
        return has_path(name, F_OK);
    case MACHINE_SHELL:
        return has_path(name, X_OK);
    case MACHINE_KERNEL_SETTING:
        return has_setting(name);
    case MACHINE_PAM_MODULE:
        return has_pam_module(name);
    case MACHINE_KERNEL_MODULE:
        return has_module(name);
    default:
        return has_listed(t, name);
    }
}

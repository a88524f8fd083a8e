#include "fuzz.h"

#include <ftw.h>
#include <grp.h>
#include <locale.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { NOBODY = 65534 };

static char home[64];

static int remove_one(const char *path, const struct stat *st, int type, struct FTW *f)
{
    (void)st, (void)type, (void)f;
    return remove(path);
}

static void clean_up(void)
{
    nftw(home, remove_one, 16, FTW_DEPTH | FTW_PHYS);
}

const char *fuzz_home(void)
{
    if (home[0])
        return home;
    setlocale(LC_ALL, "C.UTF-8");
    signal(SIGPIPE, SIG_IGN);
    strcpy(home, access("/dev/shm", W_OK) == 0 ? "/dev/shm/squill-fuzz-XXXXXX" : "/tmp/squill-fuzz-XXXXXX");
    MUST(mkdtemp(home));
    if (geteuid() == 0) /* random keys open, save and run things */
        MUST(chown(home, NOBODY, NOBODY) == 0 && setgroups(0, NULL) == 0 && setgid(NOBODY) == 0 &&
             setuid(NOBODY) == 0);
    setenv("HOME", home, 1);
    setenv("SHELL", "/bin/true", 1);
    MUST(chdir(home) == 0);
    atexit(clean_up);
    return home;
}

const char *fuzz_put(const char *name, const void *bytes, size_t n)
{
    static char path[200];
    snprintf(path, sizeof path, "%s/%s", fuzz_home(), name);
    for (char *p = path + strlen(home) + 1; (p = strchr(p, '/')); *p++ = '/') {
        *p = 0;
        mkdir(path, 0700);
    }
    unlink(path);
    FILE *f = fopen(path, "wb");
    MUST(f && fwrite(bytes, 1, n, f) == n && fclose(f) == 0);
    return path;
}

unsigned fuzz_byte(const uint8_t **bytes, size_t *n)
{
    if (*n == 0)
        return 0;
    --*n;
    return *(*bytes)++;
}

void fuzz_broken(const char *what, const char *file, int line)
{
    fprintf(stderr, "%s:%d: %s\n", file, line, what);
    abort();
}

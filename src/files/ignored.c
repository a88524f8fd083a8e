#include "files/ignored.h"

#include "base/array.h"
#include "base/mem.h"
#include "base/pattern.h"
#include "base/system.h"

#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    FILE_MOST = 1024 * 1024, /* bytes that are read of one */
    RULES_MOST = 5000,
    FOLDERS_MOST = 64 /* above one another */
};

typedef struct Rule {
    char *pattern;
    bool keeps;    /* it began with "!": what it fits is not left out */
    bool folders;  /* it ended with a slash */
    bool anywhere; /* it has no other slash: it speaks of names, however deep */
} Rule;

struct Ignored {
    const Ignored *above;
    size_t base; /* bytes of a path up to the names in this folder */
    Rule *rules;
    size_t n;
};

/* Without the blanks at its end, unless a backslash stands before them. */
static size_t trimmed(const char *line, size_t n)
{
    while (n && (line[n - 1] == '\r' || (line[n - 1] == ' ' && (n < 2 || line[n - 2] != '\\'))))
        n--;
    return n;
}

static void add_rule(Ignored *g, const char *line, size_t n)
{
    Rule r = {0};
    n = trimmed(line, n);
    if (!n || line[0] == '#' || memchr(line, 0, n))
        return;
    if (line[0] == '!')
        r.keeps = true, line++, n--;
    if (n && line[n - 1] == '/')
        r.folders = true, n--;
    if (!n)
        return;
    r.anywhere = !memchr(line, '/', n);
    if (line[0] == '/')
        line++, n--;
    r.pattern = mem_string_n(line, n);
    g->rules = array_room(g->rules, g->n, sizeof *g->rules);
    g->rules[g->n++] = r;
}

Ignored *ignored_read(const char *folder, const Ignored *above)
{
    char *path = mem_get(strlen(folder) + sizeof "/.gitignore");
    strcat(strcpy(path, folder), "/.gitignore");
    int fd = open(path, O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY | O_NOFOLLOW);
    free(path);
    struct stat st;
    if (fd < 0)
        return NULL;
    char *bytes = fstat(fd, &st) == 0 && S_ISREG(st.st_mode) ? mem_get(FILE_MOST) : NULL;
    ssize_t n = bytes ? system_read_full(fd, bytes, FILE_MOST) : -1;
    close(fd);
    Ignored *g = NULL;
    if (n > 0) {
        g = mem_get(sizeof *g);
        g->above = above;
        g->base = strlen(folder) + (strcmp(folder, "/") != 0);
    }
    for (ssize_t at = 0; g && at < n && g->n < RULES_MOST;) {
        const char *end = memchr(bytes + at, '\n', (size_t)(n - at));
        size_t len = end ? (size_t)(end - bytes - at) : (size_t)(n - at);
        add_rule(g, bytes + at, len);
        at += (ssize_t)len + 1;
    }
    free(bytes);
    return g;
}

void ignored_free(Ignored *g)
{
    for (size_t i = 0; g && i < g->n; i++)
        free(g->rules[i].pattern);
    if (g)
        free(g->rules);
    free(g);
}

Ignored **ignored_above(const char *folder, size_t *n)
{
    char *at = mem_string(folder), *ends[FOLDERS_MOST];
    size_t depth = 0;
    bool repository = false;
    *n = 0;
    for (;;) { /* from the folder up, until one has a repository */
        char *git = mem_get(strlen(at) + sizeof "/.git");
        strcat(strcpy(git, at), "/.git");
        repository = access(git, F_OK) == 0;
        free(git);
        char *slash = strrchr(at, '/');
        if (repository || !slash || slash == at || depth == FOLDERS_MOST)
            break;
        *slash = 0;
        ends[depth++] = slash;
    }
    Ignored **all = repository && depth ? mem_get(depth * sizeof *all) : NULL;
    const Ignored *above = NULL;
    while (all && depth) { /* and down again, but not into the folder itself */
        Ignored *g = ignored_read(at, above);
        if (g)
            above = all[(*n)++] = g;
        *ends[--depth] = '/';
    }
    free(at);
    return all;
}

/* The last rule that fits says it; of several folders, the one that lies nearest. */
bool ignored_is(const Ignored *g, const char *path, bool folder)
{
    const char *slash = strrchr(path, '/'), *name = slash ? slash + 1 : path;
    for (; g; g = g->above)
        for (size_t i = g->n; i-- > 0;) {
            const Rule *r = &g->rules[i];
            if ((folder || !r->folders) && (r->anywhere ? pattern_fits(r->pattern, name)
                                                        : pattern_fits_path(r->pattern, path + g->base)))
                return !r->keeps;
        }
    return false;
}

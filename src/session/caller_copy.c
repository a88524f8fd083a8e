#include "session/caller_copy.h"

#include "base/mem.h"
#include "base/paths.h"
#include "kinds/kinds.h"

#include <ctype.h>
#include <stdbool.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { SUDO_TAIL = 8, UNIT_TAIL = 16, TAIL_LEAST = 6, TAIL_MOST = 12, NAME_LONGEST = 255 };

static bool in_folder(const char *path, const char *folder)
{
    size_t n = strlen(folder);
    return strncmp(path, folder, n) == 0 && path[n] == '/' && !strchr(path + n + 1, '/');
}

static bool all_of(const char *s, size_t n, int (*is)(int c))
{
    for (size_t i = 0; i < n; i++)
        if (!is((unsigned char)s[i]))
            return false;
    return true;
}

/* Is it one that nobody would give: letters and digits, with a digit, or with capitals among small ones? */
static bool is_random(const char *s, size_t n)
{
    bool digit = false, upper = false, lower = false;
    for (size_t i = 0; i < n; i++) {
        digit = digit || isdigit((unsigned char)s[i]);
        upper = upper || isupper((unsigned char)s[i]);
        lower = lower || islower((unsigned char)s[i]);
    }
    return all_of(s, n, isalnum) && !all_of(s, n, isdigit) && (digit || (upper && lower));
}

/* Where such a file usually is, as the kinds know it; the name alone otherwise. */
static char *usual_place(const char *name)
{
    const char *known = kind_path_of(name);
    return mem_string(known ? known : name);
}

/* In a folder for temporary files: NAME.XXXXXXXX and NAMEXXXXXXXX.ext, as sudo -e makes them, and
 * NAME.XXXXXX, NAME-XXXXXX and such. */
static char *temporary(const char *name, const char **caller)
{
    const char *dot = strrchr(name, '.');
    size_t stem = dot ? (size_t)(dot - name) : strlen(name), n = dot ? strlen(dot + 1) : 0;
    char whole[NAME_LONGEST + 1] = "";
    *caller = "a temporary copy";
    if (strlen(name) > NAME_LONGEST)
        return NULL;
    if (stem && n >= TAIL_LEAST && n <= TAIL_MOST && is_random(dot + 1, n)) {
        *caller = n == SUDO_TAIL ? "a copy for sudo -e" : *caller;
        snprintf(whole, sizeof whole, "%.*s", (int)stem, name);
        return usual_place(whole);
    }
    if (dot && stem > SUDO_TAIL && is_random(dot - SUDO_TAIL, SUDO_TAIL)) {
        snprintf(whole, sizeof whole, "%.*s%s", (int)(stem - SUDO_TAIL), name, dot);
        *caller = "a copy for sudo -e";
        return usual_place(whole);
    }
    size_t sign = stem;
    while (sign && isalnum((unsigned char)name[sign - 1]))
        sign--;
    n = stem - sign;
    if (sign < 2 || !strchr("-_.", name[sign - 1]) || n < TAIL_LEAST || n > TAIL_MOST ||
        !is_random(name + sign, n))
        return NULL;
    snprintf(whole, sizeof whole, "%.*s%s", (int)(sign - 1), name, dot ? dot : "");
    return usual_place(whole);
}

/* FOLDER/.#NAMEhhhhhhhhhhhhhhhh, as systemctl edit makes it. */
static char *unit(const char *path, const char *name)
{
    size_t n = strlen(name);
    if (n <= 2 + UNIT_TAIL || strncmp(name, ".#", 2) != 0 ||
        !all_of(name + n - UNIT_TAIL, UNIT_TAIL, isxdigit))
        return NULL;
    size_t folder = (size_t)(name - path), len = n - 2 - UNIT_TAIL;
    char *whole = mem_get(folder + len + 1);
    memcpy(whole, path, folder);
    memcpy(whole + folder, name + 2, len);
    return whole;
}

/* PATH without an ending, in that folder. */
static char *without(const char *path, const char *folder, const char *ending)
{
    size_t n = strlen(path), end = strlen(ending);
    if (!in_folder(path, folder) || n <= strlen(folder) + 1 + end || strcmp(path + n - end, ending) != 0)
        return NULL;
    return mem_string_n(path, n - end);
}

char *caller_original(const char *path, const char **caller)
{
    static const char *const folders[] = {"/tmp", "/var/tmp", "/usr/tmp"};
    const char *name = path_base(path);
    char *found = NULL;
    if ((found = without(path, "/etc", ".edit"))) {
        *caller = "a copy for vipw";
        return found;
    }
    if (strncmp(name, "sudoers", 7) == 0 && (found = without(path, "/etc", ".tmp"))) {
        *caller = "a copy for visudo";
        return found;
    }
    if ((found = unit(path, name))) {
        *caller = "a copy for systemctl edit";
        return found;
    }
    if (strncmp(path, "/tmp/crontab.", 13) == 0 || strncmp(path, "/var/tmp/crontab.", 17) == 0) {
        *caller = "a copy for crontab -e";
        return mem_string("crontab");
    }
    for (size_t i = 0; i < sizeof folders / sizeof *folders && !found; i++)
        if (in_folder(path, folders[i]))
            found = temporary(name, caller);
    return found;
}

#include "script/own_data.h"

#include "base/array.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/own_folder.h"
#include "base/trusted.h"
#include "config/config.h"
#include "frame/theme.h"
#include "kinds/kinds.h"

#include <stdlib.h>
#include <string.h>

char *own_data_read(Bytes *problems, const char *path, size_t *length)
{
    Err e;
    char *bytes = trusted_read(path, length, &e);
    if (!bytes && e.text[0])
        config_problem(problems, path, 0, e.text);
    return bytes;
}

typedef struct Names {
    char **at;
    size_t n;
} Names;

static bool add_name(int fd, const char *name, void *ctx)
{
    (void)fd;
    Names *names = ctx;
    size_t n = strlen(name);
    if (name[0] == '.' || n < 5 || strcmp(name + n - 4, ".lua") != 0)
        return true;
    names->at = array_room(names->at, names->n, sizeof *names->at);
    names->at[names->n++] = mem_string(name);
    return true;
}

static int by_name(const void *a, const void *b)
{
    return strcmp(*(char *const *)a, *(char *const *)b);
}

static Bytes data_problems; /* what is wrong in them */

/* Called with the file's path. */
static void note_problem(void *ctx, unsigned line, const char *words)
{
    config_problem(&data_problems, ctx, line, words);
}

typedef bool (*AddData)(const char *bytes, size_t n, PlainProblem problem, void *ctx);

static void load_folder(const char *folder, const char *below, AddData add)
{
    Bytes path = {0};
    Names names = {0};
    bytes_printf(&path, "%s/%s", folder, below);
    folder_read(path.at, add_name, &names);
    if (names.n)
        qsort(names.at, names.n, sizeof *names.at, by_name);
    for (size_t i = 0; i < names.n; i++) {
        size_t n;
        bytes_clear(&path);
        bytes_printf(&path, "%s/%s/%s", folder, below, names.at[i]);
        char *bytes = own_data_read(&data_problems, path.at, &n);
        if (bytes)
            add(bytes, n, note_problem, path.at);
        free(bytes);
        free(names.at[i]);
    }
    free(names.at);
    bytes_free(&path);
}

void own_data_load(void)
{
    static bool loaded;
    if (loaded)
        return;
    loaded = true;
    char *own = own_folder_of("CONFIG");
    const char *const folders[] = {CONFIG_MACHINE_FOLDER, own};
    for (size_t i = 0; i < 2 && folders[i]; i++) {
        load_folder(folders[i], "kinds", kinds_add);
        load_folder(folders[i], "themes", theme_add);
    }
    free(own);
}

const char *own_data_problems(void)
{
    return bytes_str(&data_problems);
}

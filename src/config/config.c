#include "config/config.h"

#include "base/array.h"
#include "base/mem.h"

#include <ctype.h>
#include <stdlib.h>
#include <string.h>

void config_free(Config *c)
{
    for (size_t i = 0; i < c->n_routes; i++)
        free(c->routes[i].args);
    free(c->routes);
    for (size_t i = 0; i < SETTINGS_COUNT; i++)
        free(c->sources[i]);
    keymap_free(&c->keys);
    registry_free(&c->registry);
    bytes_free(&c->problems);
}

const OwnRoute *config_route(const Config *c, const char *letters)
{
    for (size_t i = 0; i < c->n_routes; i++)
        if (strcmp(c->routes[i].letters, letters) == 0)
            return &c->routes[i];
    return NULL;
}

void config_short_path(const char *path, Bytes *out)
{
    const char *home = getenv("HOME");
    size_t n = home ? strlen(home) : 0;
    if (n > 1 && strncmp(path, home, n) == 0 && path[n] == '/')
        bytes_printf(out, "~%s", path + n);
    else
        bytes_add_str(out, path);
}

void config_problem(Bytes *problems, const char *path, unsigned line, const char *what)
{
    config_short_path(path, problems);
    if (line)
        bytes_printf(problems, ", line %u", line);
    bytes_printf(problems, ": %s\n", what);
}

void config_forget(Config *c, const Command *command)
{
    registry_remove(&c->registry, command);
    keymap_forget(&c->keys, command);
    settings_refill_keys(c); /* what stood on its keys before */
    for (size_t i = c->n_routes; i-- > 0;)
        if (c->routes[i].command == command) {
            free(c->routes[i].args);
            memmove(c->routes + i, c->routes + i + 1, (--c->n_routes - i) * sizeof *c->routes);
        }
}

static bool set_route(Config *c, const char *route, const Command *command, const char *args, Err *e)
{
    const char *p = route + 3;
    char letters[3] = "";
    size_t n = 0;
    for (; *p && n < 3; p++)
        if (*p != ' ') {
            if (n == 2)
                return err_set(e, "a route is Esc and two letters, not “%s”", route);
            letters[n++] = (char)tolower((unsigned char)*p);
        }
    if (n != 2 || *p || registry_title(&c->registry, letters[0]) == c->registry.n_titles)
        return err_set(e, "a route is Esc, the letter of a menu, and one more, not “%s”", route);
    OwnRoute *r = (OwnRoute *)config_route(c, letters);
    if (!r) {
        c->routes = array_room(c->routes, c->n_routes, sizeof *c->routes);
        r = &c->routes[c->n_routes++];
        *r = (OwnRoute){0};
    }
    free(r->args);
    memcpy(r->letters, letters, 3);
    r->command = command;
    r->args = mem_string(args);
    return true;
}

bool config_set_key(Config *c, const char *key, const char *line, Err *e)
{
    const Command *command = NULL;
    const char *args = "";
    if (line) {
        size_t n = strcspn(line, " ");
        command = registry_find(&c->registry, line, n);
        if (!command)
            return err_set(e, "there is no command “%.*s”", (int)(n < 60 ? n : 60), line);
        args = line + n + strspn(line + n, " ");
    }
    if (strncmp(key, "Esc ", 4) == 0)
        return command ? set_route(c, key, command, args, e)
                       : err_set(e, "“%s”: a route cannot be freed", key);
    Key k;
    if (!key_parse(key, strlen(key), &k))
        return err_set(e, "there is no key “%s”", key);
    if (key_types(k) || (k.mods == 0 && k.code == K_ESC))
        return err_set(e, "“%s” must stay as it is: nobody could type or get out", key);
    const Binding *old = keymap_find(&c->keys, k);
    if (old && old->by == c->setter && c->setter != BY_THIS_RUN)
        return err_set(e, "“%s” is set twice", key);
    keymap_set(&c->keys, k, command, args, c->setter);
    settings_refill_keys(c);
    return true;
}

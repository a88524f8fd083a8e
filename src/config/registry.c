#include "config/registry.h"

#include "base/array.h"

#include <assert.h>
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

void registry_add(Registry *r, const Command *const *table)
{
    for (; *table; table++) {
        r->commands = array_room(r->commands, r->n, sizeof *r->commands);
        r->commands[r->n++] = *table;
    }
}

void registry_place(Registry *r, size_t menu, const Command *c)
{
    Menu *m = &r->menus[menu];
    m->commands = array_room(m->commands, m->n, sizeof *m->commands);
    m->commands[m->n++] = c;
}

void registry_add_menu(Registry *r, const char *title, char letter, const char *route, const char *names)
{
    size_t at = title ? r->n_titles : r->n_menus;
    r->menus = array_room(r->menus, r->n_menus, sizeof *r->menus);
    memmove(r->menus + at + 1, r->menus + at, (r->n_menus - at) * sizeof *r->menus);
    r->menus[at] = (Menu){.title = title, .letter = letter, .route = route};
    r->n_menus++;
    r->n_titles += title != NULL;
    while (*names) {
        if (*names == '|') {
            assert(r->menus[at].n < 64);
            r->menus[at].groups |= 1ull << r->menus[at].n;
            names += strspn(names, "| ");
        }
        size_t n = strcspn(names, " ");
        const Command *c = registry_find(r, names, n);
        assert(c); /* a menu names a command that is in no table */
        registry_place(r, at, c);
        names += n + strspn(names + n, " ");
    }
}

void registry_add_call(Registry *r, const CallHelp *c)
{
    r->calls = array_room(r->calls, r->n_calls, sizeof *r->calls);
    r->calls[r->n_calls++] = c;
}

/* ---- a person's own ---- */

static const char yours = 'y';

enum { NAME_MOST = 40 };

static bool is_command_name(const char *s)
{
    size_t n = strspn(s, "abcdefghijklmnopqrstuvwxyz0123456789-");
    return n > 0 && n <= NAME_MOST && !s[n] && islower((unsigned char)s[0]);
}

/* The first letter or digit of the name, or else of the alphabet, that is free; 0 when there is none. */
static char free_letter(const Menu *m, const char *name)
{
    static const char others[] = "abcdefghijklmnopqrstuvwxyz0123456789";
    for (const char *from[] = {name, others}, **s = from; s < from + 2; s++)
        for (const char *p = *s; *p; p++)
            if (isalnum((unsigned char)*p) && !registry_letter(m, *p))
                return *p;
    return 0;
}

/* Reads "Esc t 5"; false when it is no route. */
static bool read_route(const Registry *r, const char *route, size_t *menu, char *letter)
{
    char first, second, more;
    if (sscanf(route, "Esc %c %c %c", &first, &second, &more) != 2)
        return false;
    *menu = registry_title(r, (char)tolower((unsigned char)first));
    *letter = (char)tolower((unsigned char)second);
    return *menu < r->n_titles && isgraph((unsigned char)second);
}

bool registry_add_own(Registry *r, Command *c, const char *route, Err *e)
{
    const Command *const table[] = {c, NULL};
    size_t menu;
    if (!is_command_name(c->name))
        return err_set(e, "“%.60s” is no name for a command; small letters, digits and hyphens are", c->name);
    if (registry_find(r, c->name, strlen(c->name)))
        return err_set(e, "there is a command “%s” already", c->name);
    if (*route && strncmp(route, "Esc y", 5) != 0) {
        if (!read_route(r, route, &menu, &c->letter))
            return err_set(e, "“%.60s” is no route; Esc, the letter of a menu and one more are", route);
        const Command *there = registry_letter(&r->menus[menu], c->letter);
        if (there)
            return err_set(e, "“%s” is the route of %s", route, there->name);
    } else {
        const char *wish = *route ? route + strlen(route) - 1 : c->name;
        menu = registry_title(r, yours);
        if (menu == r->n_titles)
            registry_add_menu(r, "Yours", yours, "Esc y", "");
        c->letter = free_letter(&r->menus[menu], *wish == 'y' ? c->name : wish);
    }
    registry_add(r, table);
    registry_place(r, menu, c);
    return true;
}

static void take_from_menu(Menu *m, const Command *c)
{
    for (size_t i = m->n; i-- > 0;)
        if (m->commands[i] == c)
            memmove(m->commands + i, m->commands + i + 1, (--m->n - i) * sizeof(Command *));
}

void registry_remove(Registry *r, const Command *c)
{
    for (size_t i = r->n; i-- > 0;)
        if (r->commands[i] == c)
            memmove(r->commands + i, r->commands + i + 1, (--r->n - i) * sizeof *r->commands);
    for (size_t i = r->n_menus; i-- > 0;) {
        take_from_menu(&r->menus[i], c);
        if (r->menus[i].letter == yours && r->menus[i].n == 0) {
            free(r->menus[i].commands);
            memmove(r->menus + i, r->menus + i + 1, (--r->n_menus - i) * sizeof *r->menus);
            r->n_titles--;
        }
    }
}

void registry_free(Registry *r)
{
    for (size_t i = 0; i < r->n_menus; i++)
        free(r->menus[i].commands);
    free(r->menus);
    free(r->commands);
    free(r->calls);
    *r = (Registry){0};
}

const Command *registry_find(const Registry *r, const char *name, size_t n)
{
    for (size_t i = 0; i < r->n; i++)
        if (strncmp(r->commands[i]->name, name, n) == 0 && !r->commands[i]->name[n])
            return r->commands[i];
    return NULL;
}

size_t registry_title(const Registry *r, char letter)
{
    size_t i = 0;
    while (i < r->n_titles && r->menus[i].letter != letter)
        i++;
    return i;
}

const Command *registry_letter(const Menu *m, char letter)
{
    for (size_t i = 0; i < m->n; i++)
        if (m->commands[i]->letter && m->commands[i]->letter == letter)
            return m->commands[i];
    return NULL;
}

const char *registry_route(const Registry *r, const Command *c, char out[ROUTE_MAX])
{
    out[0] = 0;
    for (size_t m = 0; c->letter && m < r->n_menus; m++)
        for (size_t i = 0; i < r->menus[m].n; i++)
            if (r->menus[m].commands[i] == c)
                snprintf(out, ROUTE_MAX, "%s %c", r->menus[m].route, c->letter);
    return out;
}

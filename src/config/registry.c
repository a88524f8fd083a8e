#include "config/registry.h"

#include "base/array.h"

#include <assert.h>
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

void registry_free(Registry *r)
{
    for (size_t i = 0; i < r->n_menus; i++)
        free(r->menus[i].commands);
    free(r->menus);
    free(r->commands);
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

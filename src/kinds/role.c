#include "kinds/role.h"

#include <string.h>

static const char *const names[ROLE_COUNT] = {
    "plain",   "comment", "quoted",   "number",  "keyword", "name",    "value",
    "section", "sign",    "variable", "command", "added",   "removed", "wrong",
};

bool role_named(const char *name, Role *role)
{
    for (int i = 0; i < ROLE_COUNT; i++)
        if (strcmp(names[i], name) == 0) {
            *role = (Role)i;
            return true;
        }
    return false;
}

const char *role_name(Role role)
{
    return names[role];
}

/* What a piece of a text is. Themes say how each looks. */
#ifndef ROLE_H
#define ROLE_H

#include <stdbool.h>

typedef enum Role {
    ROLE_PLAIN,
    ROLE_COMMENT,
    ROLE_QUOTED,
    ROLE_NUMBER,
    ROLE_KEYWORD,
    ROLE_NAME,
    ROLE_VALUE,
    ROLE_SECTION,
    ROLE_SIGN,
    ROLE_VARIABLE,
    ROLE_COMMAND,
    ROLE_ADDED, /* lines of a patch */
    ROLE_REMOVED,
    ROLE_WRONG,
    ROLE_COUNT
} Role;

/* The role with that name; false when there is none. */
bool role_named(const char *name, Role *role);
/* "comment" and so on. */
const char *role_name(Role role);

#endif

/* What scripts can call: one table says all about each call. Lines and columns count from 1, columns in
 * characters, as people count them. */
#ifndef CALLS_H
#define CALLS_H

#include "config/registry.h"

#include <lua.h>

typedef struct ScriptCall {
    CallHelp help;
    int (*run)(lua_State *L); /* NULL: a heading of the list that follows */
} ScriptCall;

/* Each up to one without a name. */
extern const ScriptCall text_calls[], place_calls[], people_calls[], editor_calls[];

/* Makes them global functions. */
void calls_register(lua_State *L);
/* Describes them for help. */
void calls_describe(Registry *r);

#endif

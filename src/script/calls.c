#include "script/calls.h"

static const ScriptCall *const tables[] = {text_calls, place_calls, people_calls, editor_calls};

void calls_register(lua_State *L)
{
    for (size_t i = 0; i < sizeof tables / sizeof *tables; i++)
        for (const ScriptCall *c = tables[i]; c->help.name; c++)
            if (c->run) {
                lua_pushcfunction(L, c->run);
                lua_setglobal(L, c->help.name);
            }
}

void calls_describe(Registry *r)
{
    if (r->n_calls)
        return;
    for (size_t i = 0; i < sizeof tables / sizeof *tables; i++)
        for (const ScriptCall *c = tables[i]; c->help.name; c++)
            registry_add_call(r, &c->help);
}

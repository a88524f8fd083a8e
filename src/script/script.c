#include "script/script.h"

#include "base/own_folder.h"
#include "base/paths.h"

#include "commands/tools/kept.h"
#include "script/calls.h"
#include "script/engine.h"
#include "script/lines.h"
#include "script/own_data.h"

#include <stdlib.h>
#include <string.h>

/* The files of one name: the machine's first, then the person's. */
static void load_lines(Config *c, const char *name, bool keys)
{
    char *own = own_folder_of("CONFIG");
    const char *const folders[] = {CONFIG_MACHINE_FOLDER, own};
    static const SetBy setters[] = {BY_MACHINE, BY_PERSON};
    for (size_t i = 0; i < 2 && folders[i]; i++) {
        Bytes path = {0};
        bytes_printf(&path, "%s/%s", folders[i], name);
        c->setter = setters[i];
        lines_load(c, path.at, keys);
        bytes_free(&path);
    }
    c->setter = BY_THIS_RUN;
    free(own);
}

static void report(const Config *c, Notices *notices)
{
    const char *problems = bytes_str(&c->problems);
    size_t n = 0;
    for (const char *p = problems; *p; p++)
        n += *p == '\n';
    if (n)
        notices_warn(notices, "%.*s%s", (int)strcspn(problems, "\n"), problems,
                     n > 1 ? " (there is more: help settings)" : "");
}

void script_load_settings(Config *c)
{
    own_data_load();
    bytes_add_str(&c->problems, own_data_problems());
    load_lines(c, "settings.lua", false);
}

/* A state of Lua is begun only where there is such a file. */
static void load_start(Editor *ed, const char *folder)
{
    Bytes path = {0}, name = {0}, why = {0};
    size_t n;
    bytes_printf(&path, "%s/start.lua", folder);
    config_short_path(path.at, &name);
    char *bytes = own_data_read(&ed->config.problems, path.at, &n);
    if (bytes) {
        engine_begin(ed, calls_register);
        if (!engine_run(ed, bytes_str(&name), bytes, n, &why))
            bytes_printf(&ed->config.problems, "%s\n", bytes_str(&why));
    }
    free(bytes);
    bytes_free(&why);
    bytes_free(&name);
    bytes_free(&path);
}

void script_describe(Editor *ed)
{
    calls_describe(&ed->config.registry);
}

bool script_run(Editor *ed, const char *name, const char *bytes, size_t n, Err *e)
{
    Bytes why = {0};
    engine_begin(ed, calls_register);
    bool ok = engine_run(ed, path_base(name), bytes, n, &why) || err_set(e, "%s", bytes_str(&why));
    bytes_free(&why);
    return ok;
}

void script_run_events(Editor *ed)
{
    engine_run_events(ed);
}

void script_free(Editor *ed)
{
    engine_free(ed);
}

void script_load(Editor *ed)
{
    script_load_settings(&ed->config);
    kept_load(ed);
    load_start(ed, CONFIG_MACHINE_FOLDER);
    char *own = own_folder_of("CONFIG");
    if (own)
        load_start(ed, own);
    free(own);
    load_lines(&ed->config, "keys.lua", true); /* which may name commands of the others */
    report(&ed->config, &ed->notices);
}

/* Any bytes as files of settings, of keys and of what .editorconfig asks for, and as values that are set by
 * hand: what is wrong is told soundly, and what is set is a value that is allowed. */
#include "fuzz.h"
#include "sound.h"
#include "app/app.h"
#include "app/keys.h"
#include "files/rules.h"
#include "script/script.h"
#include "session/session_files.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static void in_bounds(const Editor *ed)
{
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        char text[SETTING_TEXT_MAX];
        const char *value = settings_value(&ed->config, s, text);
        if (s->type == SETTING_INT)
            MUST(atoi(value) >= s->min && atoi(value) <= s->max);
        else if (s->type == SETTING_BOOL)
            MUST(strcmp(value, "true") == 0 || strcmp(value, "false") == 0);
        else if (s->type == SETTING_CHOICE)
            MUST(strstr(settings_choices(s), value) != NULL);
    }
}

/* A line a setting or key: its name's number, and the value. */
static void set_by_hand(Editor *ed, const uint8_t *bytes, size_t n)
{
    while (n) {
        char value[300];
        Err e = {""};
        size_t len = 0;
        unsigned which = fuzz_byte(&bytes, &n);
        while (n && len + 1 < sizeof value && *bytes && *bytes != '\n')
            value[len++] = (char)fuzz_byte(&bytes, &n);
        value[len] = 0;
        fuzz_byte(&bytes, &n);
        char *is = strchr(value, '=');
        bool ok = which < 200 ? settings_set(&ed->config, settings_table[which % SETTINGS_COUNT].name, value,
                                             NULL, &e)
                  : is        ? (*is = 0, config_set_key(&ed->config, value, is + 1, &e))
                              : false;
        MUST(ok || e.text[0] || (which >= 200 && !is));
    }
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    enum { FILES = 5, RULES = 4 };
    static const char *const files[FILES] = {
        ".config/steady-quill/settings.lua", ".config/steady-quill/keys.lua",
        ".config/steady-quill/start.lua", ".config/steady-quill/recordings.lua", ".editorconfig"};
    char path[200];
    fuzz_home();
    Editor *ed = app_new();
    unsigned which = fuzz_byte(&bytes, &n) % (FILES + 1);
    ed->session->rules.plain = true;
    for (unsigned i = 0; i < FILES; i++)
        fuzz_put(files[i], i == which ? (const void *)bytes : "", i == which ? n : 0);
    if (which == FILES)
        set_by_hand(ed, bytes, n);
    else if (which == RULES)
        snprintf(path, sizeof path, "%s", fuzz_put("quay/berths.yaml", "open: true\n", 11)), rules_for(path);
    else
        script_load(ed);
    in_bounds(ed);
    Text t = {0};
    MUST(text_insert(&t, 0, "berth true\n\tquay\n", 17));
    editor_show(ed, session_add(ed->session, t));
    app_resize(ed, 24, 80);
    MUST(screen_sound(ed));
    static const char *const keys[] = {"Esc v s", "Esc", "F5", "Right", "Esc t s", "Down", "Enter"};
    for (size_t i = 0; i < sizeof keys / sizeof *keys; i++) {
        keys_press(ed, keys[i]);
        MUST(screen_sound(ed));
    }
    Err lost;
    app_end(ed, &lost);
    script_free(ed);
    app_free(ed);
    return 0;
}

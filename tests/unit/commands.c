/* The command table is the source of menus, routes, hints, help and keys: it must be whole. */
#include "app/app.h"
#include "app/app.h"
#include "base/data.h"
#include "base/glyph.h"
#include "check.h"
#include "commands/help/help_page.h"
#include "commands/menus.h"
#include "script/script.h"

#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static Registry all(void)
{
    Registry r = {0};
    menus_register(&r);
    return r;
}

TEST(every_command_is_complete)
{
    Registry r = all();
    for (size_t i = 0; i < r.n; i++) {
        const Command *c = r.commands[i];
        char route[ROUTE_MAX];
        size_t places = 0;
        for (size_t m = 0; m < r.n_menus; m++)
            for (size_t k = 0; k < r.menus[m].n; k++)
                places += r.menus[m].commands[k] == c;
        CHECK_INT(places, 1);
        check_case(c->name ? c->name : "(no name)");
        CHECK(c->name && c->label && c->help && c->run);
        for (const char *p = c->name; *p; p++)
            CHECK(islower((unsigned char)*p) || isdigit((unsigned char)*p) || *p == '-');
        CHECK(isupper((unsigned char)c->label[0]) && isupper((unsigned char)c->help[0]));
        CHECK(c->help[strlen(c->help) - 1] != '.');
        CHECK(registry_find(&r, c->name, strlen(c->name)) == c);
        /* Every command has a route, but for what each keyboard has a key for. */
        CHECK((registry_route(&r, c, route)[0] != 0) == ((c->flags & CMD_TYPING) == 0));
    }
    registry_free(&r);
}

/* What is added while it runs stands there like the rest. */
TEST(commands_can_be_added)
{
    static const Command tide = {.name = "tide", .label = "Tide", .letter = 'x'};
    static const Command *const own[] = {&tide, NULL};
    Registry r = all();
    char route[ROUTE_MAX];
    size_t titles = r.n_titles;
    registry_add(&r, own);
    registry_add_menu(&r, "Yours", 'y', "Esc y", "tide");
    CHECK_INT(r.n_titles, titles + 1);
    CHECK_STR(r.menus[titles].title, "Yours");
    CHECK(!r.menus[r.n_menus - 1].title && registry_title(&r, 'y') == titles);
    CHECK(registry_letter(&r.menus[titles], 'x') == &tide && registry_find(&r, "tide", 4) == &tide);
    CHECK_STR(registry_route(&r, &tide, route), "Esc y x");
    CHECK(!registry_find(&r, "tid", 3) && !registry_find(&r, "tides", 5));
    registry_free(&r);
}

TEST(no_letter_or_key_is_taken_twice)
{
    Registry r = all();
    const Menu *menus = r.menus;
    for (size_t m = 0; m < r.n_menus; m++) {
        if (menus[m].title) {
            CHECK(strchr("opx[]^_0123456789", menus[m].letter) == NULL);
            CHECK(tolower((unsigned char)menus[m].title[0]) == menus[m].letter);
        }
        for (size_t k = 0; k < m; k++)
            CHECK(!menus[m].title || menus[k].letter != menus[m].letter);
        for (size_t i = 0; i < menus[m].n; i++)
            for (size_t k = 0; k < i; k++) {
                check_case(menus[m].commands[i]->name);
                CHECK(!menus[m].commands[i]->letter ||
                      menus[m].commands[i]->letter != menus[m].commands[k]->letter);
            }
    }
    static const char *const layouts[] = {"desk", "shell"};
    for (size_t l = 0; l < 2; l++) {
        Keymap map = {0};
        size_t wanted = 0;
        for (size_t i = 0; i < r.n; i++) {
            const Command *c = r.commands[i];
            const char *keys = l && c->shell ? c->shell : c->keys ? c->keys : "";
            for (const char *p = keys; *p; wanted++) {
                Key k;
                size_t n = strcspn(p, " ");
                check_case(c->name);
                CHECK(key_parse(p, n, &k));
                p += n + strspn(p + n, " ");
            }
        }
        keymap_fill(&map, &r, layouts[l]);
        check_case(layouts[l]);
        CHECK_INT(map.n, wanted);
        static const char *const never[] = {"Ctrl+H", "Ctrl+I", "Ctrl+J", "Ctrl+M", "Ctrl+["};
        for (size_t i = 0; i < 5; i++) {
            Key k;
            CHECK(key_parse(never[i], strlen(never[i]), &k) && !keymap_find(&map, k));
        }
        keymap_free(&map);
    }
    registry_free(&r);
}

/* Every command named in a help page exists, and so does every page that a link leads to. */
TEST(help_pages_name_what_there_is)
{
    Registry r = all();
    for (size_t i = 0; i < data_file_count; i++) {
        const DataFile *d = &data_files[i];
        if (strncmp(d->path, "help/", 5) != 0)
            continue;
        check_case(d->path);
        for (const char *p = d->bytes; (p = strchr(p, '{')) != NULL; p++) {
            size_t n = strcspn(p + 1, "}");
            if ((p > d->bytes && p[-1] == '$') || p[1] == ' ' || p[1] == '\n') /* of a sample file */
                continue;
            check_result(registry_find(&r, p + 1, n) != NULL, __FILE__, __LINE__, "no command {%.*s}", (int)n,
                         p + 1);
        }
        for (const char *p = d->bytes; (p = strstr(p, "[[")) != NULL; p++) {
            char path[80];
            int n = (int)strcspn(p + 2, "]");
            snprintf(path, sizeof path, "help/%.*s.txt", n, p + 2);
            bool made = strncmp(p + 2, "keys]", 5) == 0 || strncmp(p + 2, "commands]", 9) == 0 ||
                        strncmp(p + 2, "settings]", 9) == 0 || strncmp(p + 2, "script-calls]", 13) == 0;
            check_result(made || data_find(path), __FILE__, __LINE__, "no page %s", path);
        }
        for (const char *p = d->bytes; *p; p += strcspn(p, "\n") + 1)
            check_result(strcspn(p, "\n") < 84, __FILE__, __LINE__, "too wide: %.40s", p);
    }
    registry_free(&r);
}

/* At any width no line of a page is wider, but lines of samples, which stay as they are; and nothing is lost.
 */
TEST(help_pages_fit)
{
    static const size_t widths[] = {79, 60, 39, 29};
    static const char *const made[] = {"keys", "commands", "settings", "script-calls"};
    Editor *ed = app_new();
    script_describe(ed);
    for (size_t i = 0; i < data_file_count + sizeof made / sizeof *made; i++) {
        char name[80] = "";
        const char *source = "";
        if (i < data_file_count) {
            if (sscanf(data_files[i].path, "help/%79[^.]", name) != 1)
                continue;
            source = data_files[i].bytes;
        } else {
            snprintf(name, sizeof name, "%s", made[i - data_file_count]);
        }
        size_t solid = 0;
        for (size_t w = 0; w < sizeof widths / sizeof *widths; w++) {
            HelpPage *p = help_page_new(&ed->config, name, widths[w]);
            const Bytes *text = help_page_text(p);
            size_t n = 0;
            check_case(name);
            for (const char *at = text->at, *end; *at; at = end + 1) {
                end = strchr(at, '\n');
                char line[400];
                size_t cells = 0;
                Glyph g;
                for (const char *s = at; s < end; s += g.bytes) {
                    glyph_read(s, (size_t)(end - s), &g);
                    cells += (size_t)g.width;
                    n += *s != ' ';
                }
                snprintf(line, sizeof line, "%.*s\n", (int)(end - at), at);
                check_result(cells <= widths[w] || !strchr(line + strspn(line, " "), ' ') ||
                                 (line[0] == ' ' && strstr(source, line)),
                             __FILE__, __LINE__, "at %zu: %s", widths[w], line);
            }
            if (strcmp(name, "keys") != 0) { /* which has commas in a wide table */
                check_result(!solid || n == solid, __FILE__, __LINE__, "at %zu: lost or gained letters",
                             widths[w]);
                solid = n;
            }
            help_page_free(p);
        }
    }
    script_free(ed);
    app_free(ed);
}

TEST(settings_are_checked)
{
    static const struct {
        const char *name, *value, *error;
    } cases[] = {
        {"theme", "dark", ""},
        {"hints", "purple", "hints is one of line|off|side, not “purple”"},
        {"tab_width", "4", ""},
        {"tab_width", "0", "tab_width is a number from 1 to 16, not “0”"},
        {"tab_width", "four", "tab_width is a number from 1 to 16, not “four”"},
        {"mouse", "off", ""},
        {"mouse", "maybe", "mouse is true or false, not “maybe”"},
        {"nothing", "1", "there is no setting “nothing”"},
    };
    Editor *ed = app_new();
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e = {""};
        check_case(cases[i].value);
        CHECK(settings_set(&ed->config, cases[i].name, cases[i].value, "a file", &e) ==
              (cases[i].error[0] == 0));
        CHECK_STR(e.text, cases[i].error);
    }
    char value[SETTING_TEXT_MAX];
    CHECK_STR(settings_value(&ed->config, &settings_table[0], value), "dark");
    CHECK(settings_find("keep_history") == settings_find("remember_answers"));
    CHECK_STR(settings_source(&ed->config, &settings_table[0]), "a file");
    CHECK_STR(settings_source(&ed->config, &settings_table[1]), "standard");
    app_free(ed);
}

TEST(keys_of_ones_own)
{
    static const struct {
        const char *key, *line, *error;
    } cases[] = {
        {"F5", "go-line 1", ""},
        {"F5", "go-line 2", "“F5” is set twice"},
        {"Esc g 1", "go-line 1", ""},
        {"Esc z 1", "go-line 1", "a route is Esc, the letter of a menu, and one more, not “Esc z 1”"},
        {"Ctrl+L", NULL, ""},
        {"Ctrl+Nonsense", "save", "there is no key “Ctrl+Nonsense”"},
        {"a", "save", "“a” must stay as it is: nobody could type or get out"},
        {"F6", "fly", "there is no command “fly”"},
    };
    Editor *ed = app_new();
    ed->config.setter = BY_PERSON;
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e = {""};
        check_case(cases[i].key);
        CHECK(config_set_key(&ed->config, cases[i].key, cases[i].line, &e) == (cases[i].error[0] == 0));
        CHECK_STR(e.text, cases[i].error);
    }
    Key k;
    key_parse("Ctrl+L", 6, &k);
    CHECK(keymap_find(&ed->config.keys, k) && !keymap_find(&ed->config.keys, k)->command);
    CHECK(config_route(&ed->config, "g1") != NULL);
    app_free(ed);
}

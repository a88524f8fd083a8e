/* Series: numbers, letters and dates that grow, and the command that puts them in. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "edit/series.h"
#include "ui/command.h"

#include <stdlib.h>
#include <string.h>

TEST(series_go_on)
{
    static const struct {
        const char *begin;
        long long step;
        const char *want; /* the first and the next three */
    } cases[] = {
        {"1", 1, "1 2 3 4"},
        {"007", 1, "007 008 009 010"},
        {"98", 1, "98 99 100 101"},
        {"098", 1, "098 099 100 101"},
        {"-2", 1, "-2 -1 0 1"},
        {"-02", 1, "-02 -01 00 01"},
        {"10", -5, "10 5 0 -5"},
        {"999999999999999999", 1, "999999999999999999"},
        {"y", 1, "y z aa ab"},
        {"AZ", 1, "AZ BA BB BC"},
        {"zz", 1, "zz aaa aab aac"},
        {"c", -1, "c b a"},
        {"a", 26, "a aa ba ca"},
        {"2026-11-29", 1, "2026-11-29 2026-11-30 2026-12-01 2026-12-02"},
        {"2024-02-28", 1, "2024-02-28 2024-02-29 2024-03-01 2024-03-02"},
        {"2100-02-28", 1, "2100-02-28 2100-03-01 2100-03-02 2100-03-03"},
        {"1970-01-02", -1, "1970-01-02 1970-01-01 1969-12-31 1969-12-30"},
        {"0001-01-02", -1, "0001-01-02 0001-01-01"},
        {"9999-12-31", 1, "9999-12-31"},
        {"2026-02-29", 1, ""},
        {"2026-2-029", 1, ""},
        {"2026-00-10", 1, ""},
        {"0000-01-01", 1, ""},
        {"2026-01-+1", 1, ""},
        {"1x", 1, ""},
        {"aB", 1, ""},
        {"", 1, ""},
        {"-", 1, ""},
        {"1234567890123456789", 1, ""},
        {"zzzzzzzz", 1, "zzzzzzzz"},
        {"zzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzzz", 1, ""},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Series s;
        Bytes got = {0};
        check_case(cases[i].begin);
        bool ok = series_begin(cases[i].begin, strlen(cases[i].begin), &s);
        s.step = cases[i].step;
        for (int k = 0; ok && k < 4; k++) {
            bytes_add_str(&got, k ? " " : "");
            series_write(&s, &got);
            if (!series_step(&s))
                break;
        }
        CHECK_STR(bytes_str(&got), cases[i].want);
        bytes_free(&got);
    }
}

TEST(numbers_grow_with_each_use)
{
    static const struct {
        const char *text, *keys, *commands[4], *want, *says;
    } cases[] = {
        {"", "Esc t g Enter Esc t g Enter Esc t g", {NULL}, "1\n2\n3", NULL},
        {"", "Esc 3 t g", {NULL}, "123", NULL},
        {"berth 007\n",
         "Shift+End Ctrl+Home Right Right Right Right Right Right Shift+End Esc t g",
         {NULL},
         "berth 007\n",
         "The next one is 008"},
        {"berth 007\n",
         "Right Right Right Right Right Right Shift+End Esc t g Esc t g",
         {NULL},
         "berth 007008\n",
         NULL},
        {"low\n", "Shift+End Esc t g", {"growing-number 5", NULL}, "5\n", NULL},
        {"b\n", "Shift+End Esc t g Esc t g", {"growing-number x", NULL}, "bc\n", NULL},
        {"low tide\n", "Shift+End Esc t g", {"growing-number 5", NULL}, "5\n", NULL},
        {"", "Esc t g Space Esc t g", {"growing-number 10 5", NULL}, "10 15", NULL},
        {"", "Esc t g Space Esc t g", {"growing-number 1 1 3", NULL}, "001 002", NULL},
        {"", "Esc t g Space Esc t g", {"growing-number 2026-12-31 7", NULL}, "2026-12-31 2027-01-07", NULL},
        {"", "Esc t g", {"growing-number x 0", NULL}, "1", NULL},
        {"", "Left", {"growing-number 1 2 3 4", NULL}, "", "After it you may give a step"},
        {"", "Left", {"growing-number a 1 2", NULL}, "", "After it you may give a step"},
        {"", "Left", {"growing-number ?", NULL}, "", "That is a number, letters, or a date"},
        {"x", "Shift+Right Esc t g Ctrl+Z", {NULL}, "x", NULL},
        {"x", "Shift+Right Esc t g", {NULL}, "1", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].keys);
        Editor *ed = editors_start(cases[i].text, strlen(cases[i].text), 24, 80);
        for (int k = 0; cases[i].commands[k]; k++)
            command_run_line(ed, cases[i].commands[k], 1, false);
        if (strcmp(cases[i].keys, "Left") != 0)
            editors_press(ed, cases[i].keys);
        CHECK(editors_text_is(ed, cases[i].want));
        CHECK(!cases[i].says || editors_show(ed, cases[i].says));
        app_free(ed);
    }
}

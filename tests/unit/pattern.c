/* Patterns of names, and what ignore files say with them. */
#include "check.h"
#include "base/pattern.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "files/ignored.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

TEST(patterns_of_names)
{
    static const struct {
        const char *pattern, *name;
        bool fits;
    } cases[] = {
        {"*.ini", "kiosk.ini", true},
        {"*.ini", ".ini", true},
        {"*.ini", "kiosk.ini.old", false},
        {"*", "", true},
        {"", "", true},
        {"", "a", false},
        {"a*b*c", "aXbYbZc", true},
        {"a*b*c", "aXbYbZ", false},
        {"?", "ä", true},
        {"??", "ä", false},
        {"[a-c]x", "bx", true},
        {"[a-c]x", "dx", false},
        {"[!a-c]x", "dx", true},
        {"[^a-c]x", "bx", false},
        {"[]a]", "]", true},
        {"[a-]", "-", true},
        {"[ä-ü]", "ö", true},
        {"[a", "[a", true},
        {"[a", "a", false},
        {"\\*", "*", true},
        {"\\*", "a", false},
        {"[\\]x]", "]", true},
        {"a\\", "a\\", true},
        {"\xff*", "\xff\xfe", true},
        {"*\xfe", "\xff\xfe", true},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].pattern);
        CHECK_INT(pattern_fits(cases[i].pattern, cases[i].name), cases[i].fits);
    }
    check_case(NULL);
    CHECK(pattern_fits_one("*.ini, *.conf", "a.conf"));
    CHECK(!pattern_fits_one("*.ini, *.conf", "a.config"));
    CHECK(pattern_fits_one("", "a") && pattern_fits_one(" , ", "a"));
}

/* One that would take for ever by trying all ways. */
TEST(a_hard_pattern_ends)
{
    char name[4000], pattern[2001];
    memset(name, 'a', sizeof name - 1);
    name[sizeof name - 1] = 0;
    for (size_t i = 0; i < 1000; i++)
        memcpy(pattern + 2 * i, "*a", 2);
    pattern[2000] = 0;
    CHECK(pattern_fits(pattern, name));
    pattern[1999] = 'b';
    CHECK(!pattern_fits(pattern, name));
    Bytes deep = {0}, path = {0};
    for (size_t i = 0; i < 90; i++) {
        bytes_add_str(&deep, "**/a*/");
        bytes_add_str(&path, "aa/");
    }
    bytes_add_str(&deep, "b");
    bytes_add_str(&path, "aa/aa/c");
    CHECK(!pattern_fits_path(bytes_str(&deep), bytes_str(&path)));
    bytes_free(&deep);
    bytes_free(&path);
}

TEST(what_ignore_files_leave_out)
{
    static const struct {
        const char *rules, *path; /* below the folder; a slash at its end: a folder */
        bool out;
    } cases[] = {
        {"*.log", "a.log", true},
        {"*.log", "deep/er/a.log", true},
        {"/a.log", "a.log", true},
        {"/a.log", "deep/a.log", false},
        {"deep/a.log", "deep/a.log", true},
        {"deep/a.log", "x/deep/a.log", false},
        {"cache/", "cache/", true},
        {"cache/", "deep/cache/", true},
        {"cache/", "cache", false},
        {"*.log\n!tide.log", "tide.log", false},
        {"!tide.log\n*.log", "tide.log", true},
        {"# *.log", "a.log", false},
        {"\\#a", "#a", true},
        {"\\!a", "!a", true},
        {"a\\ ", "a ", true},
        {"a  ", "a", true},
        {"*.log\r", "a.log", true},
        {"**/logs", "a/b/logs", true},
        {"**/logs", "logs", true},
        {"logs/**", "logs/a/b", true},
        {"logs/**", "logs/", false},
        {"a/**/b", "a/b", true},
        {"a/**/b", "a/x/y/b", true},
        {"a/**/b", "x/a/b", false},
        {"a/*", "a/b/c", false},
        {"a/*", "a/b", true},
        {"/", "a", false},
        {"!", "a", false},
        {"", "a", false},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char name[200];
        snprintf(name, sizeof name, "%s for %s", cases[i].rules, cases[i].path);
        check_case(name);
        check_write(check_path(".gitignore"), cases[i].rules, strlen(cases[i].rules));
        Ignored *g = ignored_read(check_folder(), NULL);
        size_t n = strlen(cases[i].path);
        bool folder = n && cases[i].path[n - 1] == '/';
        char *path = mem_string(check_path(cases[i].path));
        if (folder)
            path[strlen(path) - 1] = 0;
        CHECK_INT(ignored_is(g, path, folder), cases[i].out);
        free(path);
        ignored_free(g);
    }
    check_case(NULL);
}

/* The folder below speaks last; and what lies above counts as far as the repository goes. */
TEST(ignore_files_of_several_folders)
{
    mkdir(check_path("quay"), 0755);
    mkdir(check_path("quay/.git"), 0755);
    mkdir(check_path("quay/north"), 0755);
    mkdir(check_path("quay/north/inner"), 0755);
    check_write(check_path(".gitignore"), "*.ini\n", 6);
    check_write(check_path("quay/.gitignore"), "*.log\n/north/*.txt\n", 19);
    check_write(check_path("quay/north/.gitignore"), "!tide.log\n", 10);
    size_t n;
    Ignored **above = ignored_above(check_path("quay/north/inner"), &n);
    CHECK_INT((long)n, 2);
    const Ignored *g = n ? above[n - 1] : NULL;
    CHECK(ignored_is(g, check_path("quay/north/inner/a.log"), false));
    CHECK(!ignored_is(g, check_path("quay/north/inner/tide.log"), false));
    CHECK(ignored_is(g, check_path("quay/north/a.txt"), false));
    CHECK(!ignored_is(g, check_path("quay/north/inner/a.txt"), false));
    CHECK(!ignored_is(g, check_path("quay/north/inner/a.ini"), false)); /* above the repository */
    for (size_t i = n; i-- > 0;)
        ignored_free(above[i]);
    free(above);
}

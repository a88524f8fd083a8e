/* What is printed of the tables: completions in the real shells, manual pages by the real readers, the
 * README's table of keys. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

/* Runs a line of the shell in the test's folder; what it printed, errors too. */
static const char *printed_by(const char *line)
{
    char command[3000];
    size_t n;
    snprintf(command, sizeof command, "cd '%s' && PATH='%s':\"$PATH\" && { %s ; } >printed 2>&1",
             check_folder(), check_path("bin"), line);
    CHECK(system(command) != -1);
    return check_read(check_path("printed"), &n);
}

static void link_program(void)
{
    mkdir(check_path("bin"), 0755);
    CHECK(symlink(SQUILL, check_path("bin/squill")) == 0);
}

static const struct {
    const char *name, *make, *begin[4];
} shells[] = {
    {"bash", "squill --print bash >squill.bash", {"--norc", "--noprofile", "-i", NULL}},
    {"zsh", "squill --print zsh >_squill", {"-f", "-i", NULL, NULL}},
    {"fish", "squill --print fish >squill.fish", {"--no-config", "-i", NULL, NULL}},
};

/* How each takes its file in; what it says when it has. */
static const char *const sourced[] = {
    "PS1='re''ady> '; . ./squill.bash<Enter>",
    "PS1='re''ady> '; fpath=($PWD $fpath); autoload -Uz compinit; compinit -u -D<Enter>",
    "function fish_prompt; echo 're''ady> '; end; source squill.fish<Enter>",
};

static const struct {
    const char *typed, *shows;
} completed[] = {
    {"squill --dr\t", "squill --dry-run"},
    {"squill --kind sudo\t", "squill --kind sudoers"},
    {"squill -k tide-gau\t", "squill -k tide-gauge"},
    {"squill --do 'save-ev\t", "squill --do 'save-every-file"},
    {"squill --do 'save; trim-b\t", "squill --do 'save; trim-blanks"},
    {"squill --do 'set tab\t", "squill --do 'set tab_width"},
    {"squill --look kios\t", "squill --look kiosk.ini"},
};

TEST(shells_complete)
{
    char path[600];
    link_program();
    check_put("kiosk.ini", "volume = 3\n");
    printed_by("mkdir -p .config/steady-quill/kinds");
    check_put(".config/steady-quill/kinds/gauge.lua", "name = \"tide-gauge\"\nparts = {}\n"); /* one's own */
    snprintf(path, sizeof path, "%s:%s", check_path("bin"), getenv("PATH"));
    pty_env("PATH", path);
    for (size_t s = 0; s < sizeof shells / sizeof *shells; s++) {
        CHECK_STR(printed_by(shells[s].make), "");
        Pty *p = pty_start(shells[s].name, 24, 100, shells[s].begin);
        pty_do(p, sourced[s]);
        SHOWS(p, "ready>");
        for (size_t i = 0; i < sizeof completed / sizeof *completed; i++) {
            check_case(completed[i].typed);
            pty_others(p, completed[i].typed);
            SHOWS(p, completed[i].shows);
            pty_others(p, "\x15"); /* Ctrl+U takes the line away */
            HIDES(p, completed[i].shows);
        }
        check_case(NULL);
        pty_others(p, "exit\r");
        pty_end(p);
    }
}

TEST(manual_pages_have_no_warnings)
{
    static const char *const pages[] = {"squill.1", "squill-settings.5", "squill-scripts.5"};
    link_program();
    for (size_t i = 0; i < sizeof pages / sizeof *pages; i++) {
        char line[300];
        check_case(pages[i]);
        snprintf(line, sizeof line,
                 "squill --print %s >%s && mandoc -Tlint %s; LC_ALL=C.UTF-8 man --warnings -E UTF-8 -l "
                 "-Tutf8 -Z %s >/dev/null",
                 pages[i], pages[i], pages[i], pages[i]);
        CHECK_STR(printed_by(line), "");
    }
    check_case(NULL);
    CHECK(strstr(printed_by("MANWIDTH=90 man -l squill.1 | col -b"), "--dry-run") != NULL);
    CHECK(strstr(printed_by("MANWIDTH=90 man -l squill.1 | col -b"), "replace-all") != NULL);
    CHECK(strstr(printed_by("MANWIDTH=90 man -l squill-settings.5 | col -b"), "check_before_save") != NULL);
    CHECK(strstr(printed_by("MANWIDTH=90 man -l squill-scripts.5 | col -b"), "insert_line") != NULL);
    CHECK(strstr(printed_by("squill --print nothing"), "--print knows squill.1,") != NULL);
    CHECK(strstr(printed_by("squill kiosk.ini --do save 2>&1"), "stands before the first file name") != NULL);
    char list[400] = "", command[200];
    snprintf(list, sizeof list, "%s", strstr(printed_by("squill --print nothing 2>&1"), "knows ") + 6);
    for (char *word = strtok(list, ", \n"); word;
         word = strtok(NULL, ", \n")) { /* --help names all of them */
        snprintf(command, sizeof command, "squill --help | tr '\\n' ' ' | grep -c '[ (]%s[,). ]'", word);
        check_case(word);
        CHECK_STR(printed_by(command), "1\n");
    }
    check_case(NULL);
}

/* The tables of keys name their commands in a remark before them, and are what the program says. */
TEST(tables_of_keys_are_current)
{
    static const char *const pages[] = {SOURCE "/README.md", SOURCE "/docs/using.md"};
    link_program();
    for (size_t i = 0; i < sizeof pages / sizeof *pages; i++) {
        size_t n;
        const char *page = check_read(pages[i], &n), *mark = strstr(page, "<!-- keys: ");
        char names[2000] = "", line[2200];
        check_case(pages[i]);
        CHECK(mark && sscanf(mark, "<!-- keys: %1999[^>]", names) == 1 && strlen(names) > 100);
        names[strlen(names) - 2] = 0; /* without the end of the remark */
        snprintf(line, sizeof line, "squill --plain --print keys %s", names);
        const char *table = printed_by(line);
        CHECK(strlen(table) > 1000 && strstr(page, table) != NULL);
    }
    check_case(NULL);
}

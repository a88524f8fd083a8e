#include "printed/options.h"

#include <stdio.h>
#include <string.h>

const Option options_table[] = {
    {'l', true, "look", NULL, VALUE_NONE, "open to look only: nothing can be changed"},
    {'f', false, "follow", NULL, VALUE_NONE,
     "show what is added to the files, or comes from -, as it comes; a file that is not there is waited for"},
    {'k', true, "kind", "NAME", VALUE_KIND, "take the files to be of that kind"},
    {'D', false, "do", "'COMMANDS'", VALUE_COMMANDS,
     "run commands, separated by ';' or line ends, on each FILE without a screen; - goes from standard input "
     "to "
     "output"},
    {'s', false, "script", "FILE", VALUE_FILE, "run a script on each FILE, and save what it changed"},
    {'S', false, "strict", NULL, VALUE_NONE, "with these: it is a failure when something is not found"},
    {'n', false, "dry-run", NULL, VALUE_NONE, "with these: write nothing, show the differences as a patch"},
    {'j', false, "jobs", "N", VALUE_NUMBER, "with these: N files at the same time; 1: one after the other"},
    {'B', false, "below", "FOLDER", VALUE_FOLDER,
     "with these: also on all text files below FOLDER; those that stay as they are are not listed"},
    {'F', false, "find", "WORDS", VALUE_WORDS,
     "list the lines with these words in all text files below the folders named, or below this one"},
    {'C', false, "check", NULL, VALUE_NONE,
     "check the files without a screen: problems as FILE:LINE:COLUMN: WORDS; 0: none, 1: some, 2: it cannot "
     "be told"},
    {'W', false, "kind-of", NULL, VALUE_NONE, "print what kind each file is"},
    {'v', true, "why", NULL, VALUE_NONE, "with --kind-of: and what tells it"},
    {'R', false, "recover", NULL, VALUE_NONE, "list unsaved and dropped work that can be brought back"},
    {'L', false, "lesson", NULL, VALUE_NONE, "the guided lesson: ten minutes, on practice copies"},
    {'K', false, "keys", NULL, VALUE_NONE, "test the keyboard: what a key sends, and what it does here"},
    {'d', false, "demo", NULL, VALUE_NONE, "practise on sample files in a folder made for it"},
    {'p', false, "plain", NULL, VALUE_NONE, "ignore settings, keys, scripts and stored state"},
    {'O', false, "print", "WHAT", VALUE_PRINTED,
     "print a manual page (squill.1, squill-settings.5, squill-scripts.5), a shell's completion (bash, zsh, "
     "fish), sample settings (settings.lua), a list (kinds, commands, settings), or a table of keys (keys "
     "COMMAND...)"},
    {'h', true, "help", NULL, VALUE_NONE, "show this page"},
    {'V', true, "version", NULL, VALUE_NONE,
     "show the version, and the optional libraries that it was built with"},
    {'P', false, "save-from-pipe", "FILE", VALUE_FILE,
     "for rules of sudo: what the editor runs as root to save FILE; the text comes from standard input"},
    {'T', false, "trial-from-pipe", "FILE", VALUE_FILE,
     "for rules of sudo: the same to save FILE on trial; the seconds and the command follow"},
    {'H', false, "check-from-pipe", "FILE", VALUE_FILE,
     "for rules of sudo: what the editor runs as root to check what would be saved as FILE"},
    {0, false, NULL, NULL, VALUE_NONE, NULL},
};

const char *const options_printed[PRINTED_COUNT] = {
    [PRINTED_PAGE] = "squill.1",
    [PRINTED_SETTINGS_PAGE] = "squill-settings.5",
    [PRINTED_SCRIPTS_PAGE] = "squill-scripts.5",
    [PRINTED_BASH] = "bash",
    [PRINTED_ZSH] = "zsh",
    [PRINTED_FISH] = "fish",
    [PRINTED_SAMPLE] = "settings.lua",
    [PRINTED_KINDS] = "kinds",
    [PRINTED_COMMANDS] = "commands",
    [PRINTED_SETTINGS] = "settings",
    [PRINTED_KEYS] = "keys",
};

const char *const options_about[] = {
    "Edit text files in the terminal. FILE may also be FILE:LINE[:COLUMN], - for standard input, or "
    "ssh://[USER@]HOST/PATH on another host. A name "
    "that "
    "does not exist yet is a new file; without a name you begin an empty text. Options stand before the "
    "first "
    "file name.",
    "In the editor, Ctrl+S saves and Ctrl+Q leaves. Esc f r leaves with status 1, so that a program that "
    "waits "
    "for the text, such as a commit, is called off.",
    NULL,
};

const char *const options_status[] = {
    "0 done; 1 left with failure, --do or --script failed, or ended by a signal; 2 wrong use.",
    NULL,
};

enum { COLUMN = 19, WIDTH = 79 };

/* Words from `column` on, in lines that begin at `indent`. */
static void add_wrapped(Bytes *out, const char *words, size_t column, size_t indent)
{
    bool first = true;
    for (const char *w = words; *w; first = false) {
        size_t n = strcspn(w, " ");
        if (!first && column + 1 + n > WIDTH) {
            bytes_printf(out, "\n%*s", (int)indent, "");
            column = indent;
            first = true;
        }
        bytes_printf(out, "%s%.*s", first ? "" : " ", (int)n, w);
        column += n + !first;
        w += n + (w[n] == ' ');
    }
    bytes_add_str(out, "\n");
}

void options_help(Bytes *out)
{
    bytes_add_str(out, "Usage: squill [OPTION]... [[+LINE[:COLUMN]] FILE]...\n");
    add_wrapped(out, options_about[0], 0, 0);
    bytes_add_str(out, "\n");
    for (const Option *o = options_table; o->name; o++) {
        size_t from = out->len;
        if (o->letter)
            bytes_printf(out, "  -%c, --%s", o->code, o->name);
        else
            bytes_printf(out, "      --%s", o->name);
        bytes_printf(out, "%s%s", o->value ? " " : "", o->value ? o->value : "");
        size_t used = out->len - from;
        if (used + 2 > COLUMN)
            bytes_printf(out, "\n%*s", COLUMN, "");
        else
            bytes_printf(out, "%*s", (int)(COLUMN - used), "");
        add_wrapped(out, o->help, COLUMN, COLUMN);
    }
    bytes_add_str(out, "\n");
    add_wrapped(out, options_about[1], 0, 0);
    bytes_add_str(out, "\nExit status: ");
    add_wrapped(out, options_status[0], strlen("Exit status: "), 0);
}

#include "config/settings.h"

#include "base/glyph.h"
#include "base/mem.h"
#include "config/config.h"
#include "frame/theme.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#define AT(field) offsetof(Settings, field)

const Setting settings_table[SETTINGS_COUNT] = {
    {"theme", SETTING_CHOICE, "auto", NULL, 0, 0, AT(theme),
     "Colours: by the terminal's ground, its own, dark, light, more contrast, or none"},
    {"ground", SETTING_CHOICE, "auto", "auto|black|white", 0, 0, AT(ground),
     "What is behind the letters of your terminal, for themes that leave it as it is"},
    {"hints", SETTING_CHOICE, "line", "line|off|side", 0, 0, AT(hints),
     "Where useful keys are shown: on the last line, nowhere, or at the side"},
    {"layout", SETTING_CHOICE, "desk", "desk|shell", 0, 0, AT(layout),
     "Keys as on a desktop, or movement by single chords as in the shell's line"},
    {"mouse", SETTING_BOOL, "true", NULL, 0, 0, AT(mouse),
     "Take clicks and the wheel; off leaves the mouse to the terminal"},
    {"line_numbers", SETTING_BOOL, "true", NULL, 0, 0, AT(line_numbers), "Show line numbers"},
    {"auto_indent", SETTING_BOOL, "true", NULL, 0, 0, AT(auto_indent),
     "A new line begins under the one above, deeper after what opens something"},
    {"wrap", SETTING_BOOL, "false", NULL, 0, 0, AT(wrap),
     "Long lines go on in the next row instead of off the screen"},
    {"show_blanks", SETTING_BOOL, "false", NULL, 0, 0, AT(show_blanks),
     "Show blanks, tabs and line ends as signs"},
    {"system_clipboard", SETTING_BOOL, "true", NULL, 0, 0, AT(system_clipboard),
     "Give what is cut or copied to the desktop's clipboard too"},
    {"tab_width", SETTING_INT, "8", NULL, 1, 16, AT(tab_width), "Cells from one tab stop to the next"},
    {"ruler", SETTING_BOOL, "false", NULL, 0, 0, AT(ruler), "Show a thin line at the width of the text"},
    {"text_width", SETTING_INT, "0", NULL, 0, 1000, AT(text_width),
     "Cells at which paragraphs are wrapped; 0: as .editorconfig has it, else 80, and 72 in commit messages"},
    {"esc_wait", SETTING_INT, "50", NULL, 5, 1000, AT(esc_wait),
     "Milliseconds after which Esc is a key of its own; more for slow lines"},
    {"change_bars", SETTING_BOOL, "true", NULL, 0, 0, AT(change_bars),
     "Show a thin bar at lines that differ from the last save"},
    {"changes_since", SETTING_CHOICE, "save", "save|commit", 0, 0, AT(changes_since),
     "What these bars compare with: the last save, or the last commit of git, which is asked for it"},
    {"last_newline", SETTING_CHOICE, "keep", "keep|ask|add", 0, 0, AT(last_newline),
     "A last line without line end is saved as the file had it, after asking, or with one"},
    {"command_seconds", SETTING_INT, "60", NULL, 1, 86400, AT(command_seconds),
     "Seconds after which a command that was run is stopped"},
    {"backup", SETTING_CHOICE, "none", "none|one|numbered", 0, 0, AT(backup),
     "What saving keeps of the version before: nothing, NAME.old, or NAME.old-1 and so on"},
    {"backup_keep", SETTING_INT, "10", NULL, 1, 1000, AT(backup_keep), "How many numbered backups are kept"},
    {"backup_folder", SETTING_TEXT, "", NULL, 0, 0, AT(backup_folder),
     "Where backups go, under the file's whole path; empty: beside the file"},
    {"save_in_place", SETTING_TEXT, "", NULL, 0, 0, AT(save_in_place),
     "Files to be written in place, as others hold them open: /etc/hosts, /srv/*.ini"},
    {"keep_recovery", SETTING_BOOL, "true", NULL, 0, 0, AT(keep_recovery),
     "Keep a journal of unsaved work, to bring it back after a crash"},
    {"say_in_use", SETTING_BOOL, "true", NULL, 0, 0, AT(say_in_use),
     "Tell others who open a file that it is being edited here, and notice when they do"},
    {"auto_reload", SETTING_BOOL, "false", NULL, 0, 0, AT(auto_reload),
     "Reload a text without changes by itself when its file changed on disk"},
    {"root_program", SETTING_TEXT, "", NULL, 0, 0, AT(root_program),
     "The program that saves as root for you; empty: sudo or doas, whichever is there"},
    {"ssh_program", SETTING_TEXT, "ssh", NULL, 0, 0, AT(ssh_program),
     "The program that reaches other hosts for ssh://HOST/PATH; empty: none may be reached"},
    {"remember_answers", SETTING_BOOL, "true", NULL, 0, 0, AT(remember_answers),
     "Remember earlier answers for the next run"},
    {"remember_places", SETTING_BOOL, "true", NULL, 0, 0, AT(remember_places),
     "Open a file where you were in it last"},
    {"list_lately", SETTING_BOOL, "true", NULL, 0, 0, AT(list_lately),
     "List the files that were worked on in the last weeks, but for temporary and private ones"},
    {"keep_undo", SETTING_BOOL, "true", NULL, 0, 0, AT(keep_undo),
     "Remember what can be undone in a saved file for the next time it is opened"},
    {"keep_earlier", SETTING_BOOL, "true", NULL, 0, 0, AT(keep_earlier),
     "Keep what saving replaces for a while, as earlier saves"},
    {"keep_private_undo", SETTING_BOOL, "false", NULL, 0, 0, AT(keep_private_undo),
     "Do both, for undo and earlier saves, for files that others may not read too"},
    {"find_in_files_to", SETTING_INT, "64", NULL, 1, 4096, AT(find_in_files_to),
     "Megabytes that a file may have to be searched when you find in a folder"},
    {"follow_name", SETTING_BOOL, "true", NULL, 0, 0, AT(follow_name),
     "Follow goes on with another file that gets the name, as when a log is rotated"},
    {"follow_pipe_keeps", SETTING_INT, "256", NULL, 1, 16384, AT(follow_pipe_keeps),
     "Megabytes that are kept of a pipe that is followed, of what came last"},
    {"trial_seconds", SETTING_INT, "60", NULL, 5, 3600, AT(trial_seconds),
     "Seconds after which a file saved on trial is taken back unless you keep it"},
    {"menu_letters", SETTING_TEXT, "", NULL, 0, 0, AT(menu_letters),
     "Pairs of a letter on your keyboard and the Latin one it stands for in menus"},
    {"word_pairs", SETTING_TEXT, "", NULL, 0, 0, AT(word_pairs),
     "Further words to flip, such as: open shut, hot cold"},
    {"check_before_save", SETTING_CHOICE, "risky", "none|risky|all", 0, 0, AT(check_before_save),
     "Check no file before saving, those that lock people out when they are broken, or all"},
    {"check_off", SETTING_TEXT, "", NULL, 0, 0, AT(check_off),
     "What is not checked: all, or names of kinds and checkers: yaml, visudo"},
    {"dictionaries", SETTING_TEXT, "", NULL, 0, 0, AT(dictionaries),
     "Which ones spelling is checked by, such as en_GB de_DE; empty: that of your language"},
    {"check_on_hosts", SETTING_TEXT, "", NULL, 0, 0, AT(check_on_hosts),
     "Hosts whose own checkers may be asked about a copy of a file of theirs: all, or tern, gull"},
    {"scripts_may", SETTING_TEXT, "", NULL, 0, 0, AT(scripts_may),
     "What scripts may use of Lua that reaches further than the texts: io, os, load, require"},
};

/* ---- values ---- */

static void *place(const Config *c, const Setting *s)
{
    return (char *)&((Config *)c)->settings + s->offset;
}

const char *settings_choices(const Setting *s)
{
    return s->choices ? s->choices : theme_names();
}

/* The number of a choice, or -1. */
static int choice_number(const char *choices, const char *value)
{
    for (int i = 0;; i++) {
        size_t n = strcspn(choices, "|");
        if (strlen(value) == n && strncmp(choices, value, n) == 0)
            return i;
        if (!choices[n])
            return -1;
        choices += n + 1;
    }
}

static bool parse_bool(const char *value, bool *out)
{
    static const char *const yes[] = {"true", "on", "yes"}, *const no[] = {"false", "off", "no"};
    for (size_t i = 0; i < 3; i++) {
        if (strcmp(value, yes[i]) == 0)
            return *out = true;
        if (strcmp(value, no[i]) == 0)
            return *out = false, true;
    }
    return false;
}

static bool write_value(Config *c, const Setting *s, const char *value, Err *e)
{
    void *to = place(c, s);
    bool b;
    switch (s->type) {
    case SETTING_BOOL:
        if (!parse_bool(value, &b))
            return err_set(e, "%s is true or false, not “%s”", s->name, value);
        *(bool *)to = b;
        return true;
    case SETTING_CHOICE: {
        int n = choice_number(settings_choices(s), value);
        if (n < 0)
            return err_set(e, "%s is one of %s, not “%s”", s->name, settings_choices(s), value);
        *(int *)to = n;
        return true;
    }
    case SETTING_INT: {
        char *end;
        errno = 0;
        long n = strtol(value, &end, 10);
        if (end == value || *end || errno || n < s->min || n > s->max)
            return err_set(e, "%s is a number from %d to %d, not “%s”", s->name, s->min, s->max, value);
        *(int *)to = (int)n;
        return true;
    }
    default:
        if (strlen(value) >= sizeof c->settings.menu_letters)
            return err_set(e, "%s is too long", s->name);
        strcpy(to, value);
        return true;
    }
}

const char *settings_value(const Config *c, const Setting *s, char text[SETTING_TEXT_MAX])
{
    const void *from = place(c, s);
    if (s->type == SETTING_BOOL) {
        strcpy(text, *(const bool *)from ? "true" : "false");
    } else if (s->type == SETTING_INT) {
        snprintf(text, SETTING_TEXT_MAX, "%d", *(const int *)from);
    } else if (s->type == SETTING_CHOICE) {
        const char *choice = settings_choices(s);
        for (int i = *(const int *)from; i > 0; i--)
            choice += strcspn(choice, "|") + 1;
        snprintf(text, SETTING_TEXT_MAX, "%.*s", (int)strcspn(choice, "|"), choice);
    } else {
        snprintf(text, SETTING_TEXT_MAX, "%s", (const char *)from);
    }
    return text;
}

static const char standard[] = "standard", this_run[] = "this run";

const char *settings_source(const Config *c, const Setting *s)
{
    const char *source = c->sources[s - settings_table];
    return source ? source : standard;
}

bool settings_of_this_run(const Config *c, size_t i)
{
    return c->sources[i] && strcmp(c->sources[i], this_run) == 0;
}

void settings_refill_keys(Config *c)
{
    keymap_fill(&c->keys, &c->registry, c->settings.layout ? "shell" : "desk");
}

static void report_change(Config *c)
{
    if (c->changed)
        c->changed(c->changed_ctx);
}

/* Names that settings had before; people's files may still have them. */
static const char *const renamed[][2] = {{"remember_answers", "keep_history"},
                                         {"root_program", "become_root"}};

const char *settings_former_name(const Setting *s)
{
    for (size_t i = 0; i < sizeof renamed / sizeof *renamed; i++)
        if (strcmp(s->name, renamed[i][0]) == 0)
            return renamed[i][1];
    return NULL;
}

const Setting *settings_find(const char *name)
{
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const char *former = settings_former_name(&settings_table[i]);
        if (strcmp(settings_table[i].name, name) == 0 || (former && strcmp(former, name) == 0))
            return &settings_table[i];
    }
    return NULL;
}

bool settings_set(Config *c, const char *name, const char *value, const char *source, Err *e)
{
    const Setting *s = settings_find(name);
    if (!s)
        return err_set(e, "there is no setting “%s”", name);
    int layout = c->settings.layout;
    if (!write_value(c, s, value, e))
        return false;
    free(c->sources[s - settings_table]);
    c->sources[s - settings_table] = mem_string(source ? source : this_run);
    if (layout != c->settings.layout)
        settings_refill_keys(c);
    report_change(c);
    return true;
}

void settings_reset(Config *c)
{
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        write_value(c, &settings_table[i], settings_table[i].standard, NULL);
        free(c->sources[i]);
        c->sources[i] = NULL;
    }
    settings_refill_keys(c);
    report_change(c);
}

bool settings_flip(Config *c, const Setting *s)
{
    char next[64];
    if (s->type == SETTING_BOOL) {
        strcpy(next, *(bool *)place(c, s) ? "false" : "true");
    } else if (s->type == SETTING_CHOICE) {
        const char *choice = settings_choices(s);
        for (int i = *(int *)place(c, s); i >= 0 && choice; i--)
            choice = strchr(choice, '|') ? strchr(choice, '|') + 1 : NULL;
        choice = choice ? choice : settings_choices(s);
        snprintf(next, sizeof next, "%.*s", (int)strcspn(choice, "|"), choice);
    } else {
        return false;
    }
    return settings_set(c, s->name, next, NULL, NULL);
}

uint32_t settings_menu_letter(const Config *c, uint32_t ch)
{
    const char *p = c->settings.menu_letters;
    size_t n = strlen(p);
    while (n) {
        int32_t theirs, ours;
        size_t a = utf8_decode(p, n, &theirs);
        if (a == n)
            break;
        size_t b = utf8_decode(p + a, n - a, &ours);
        if ((uint32_t)theirs == ch)
            return (uint32_t)ours;
        p += a + b;
        n -= a + b;
    }
    return ch;
}

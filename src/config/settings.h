/* Settings: one table from which the panel, the command `set`, the help page and
 * the checks are made. Reading the files is the script room's work. */
#ifndef SETTINGS_H
#define SETTINGS_H

#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

typedef struct Config Config; /* see config.h */

typedef enum HintsMode { HINTS_LINE, HINTS_OFF, HINTS_SIDE } HintsMode;

typedef struct Settings {
    int theme;  /* see theme_number */
    int ground; /* 0 as the terminal says, 1 black, 2 white */
    int hints;  /* HintsMode */
    int layout; /* 0 desk, 1 shell */
    bool mouse;
    int text_width;
    bool ruler;
    bool line_numbers;
    bool auto_indent;
    bool wrap;
    bool system_clipboard;
    bool show_blanks;
    bool remember_answers;
    bool remember_places;
    bool list_lately;
    bool keep_undo;
    bool keep_private_undo;
    bool keep_earlier;
    bool change_bars;
    int changes_since; /* 0: the last save, 1: the last commit */
    int last_newline;  /* LastNewline, see session.h */
    int backup;        /* Backup, see save.h */
    int backup_keep;
    int trial_seconds;
    int find_in_files_to;  /* MB */
    int follow_pipe_keeps; /* MB */
    bool keep_recovery;
    bool say_in_use;
    bool follow_name;
    bool auto_reload;
    int command_seconds;
    int tab_width;
    int esc_wait; /* ms */
    char menu_letters[256];
    char word_pairs[256];
    char root_program[256];
    char ssh_program[256];
    char check_on_hosts[256];
    char save_in_place[256];
    char backup_folder[256];
    char scripts_may[256];
    int check_before_save; /* CheckBefore, see session.h */
    char check_off[256];
    char dictionaries[256];
} Settings;

typedef enum SettingType { SETTING_BOOL, SETTING_INT, SETTING_CHOICE, SETTING_TEXT } SettingType;

typedef struct Setting {
    const char *name;
    SettingType type;
    const char *standard; /* written as in the file, texts without quotes */
    const char *choices;  /* for SETTING_CHOICE: see settings_choices */
    int min, max;         /* for SETTING_INT */
    size_t offset;        /* in Settings */
    const char *help;     /* one line */
} Setting;

enum { SETTINGS_COUNT = 44 };
extern const Setting settings_table[SETTINGS_COUNT];

/* The setting of that name, or of that former name; or NULL. */
const Setting *settings_find(const char *name);
/* What a SETTING_CHOICE can be, "|"-separated; themes may be added while the program starts. */
const char *settings_choices(const Setting *s);
/* The name it had before, which is still understood; or NULL. */
const char *settings_former_name(const Setting *s);
/* Everything to its standard. */
void settings_reset(Config *c);
/* Sets one by name. `source` says where the value comes from (copied); NULL: this run. False with what is
 * expected in e. */
bool settings_set(Config *c, const char *name, const char *value, const char *source, Err *e);
/* The next value: the other of two, the next choice; false for texts and numbers. */
bool settings_flip(Config *c, const Setting *s);
enum { SETTING_TEXT_MAX = 300 };
/* Writes the value as it stands in files, and returns it. */
const char *settings_value(const Config *c, const Setting *s, char out[SETTING_TEXT_MAX]);
/* Where the value comes from: "standard", a file, or "this run". */
const char *settings_source(const Config *c, const Setting *s);
/* Was the setting number i set in this run? */
bool settings_of_this_run(const Config *c, size_t i);
/* Puts the commands on the keys of the layout that is set; own keys stay. */
void settings_refill_keys(Config *c);

/* The Latin letter that stands at the same place of the keyboard, by the setting menu_letters. */
uint32_t settings_menu_letter(const Config *c, uint32_t ch);

#endif

/* Settings: one table from which the panel, the command `set`, the help page and
 * the checks are made. Reading the files is the script side's work. */
#ifndef SETTINGS_H
#define SETTINGS_H
#include "base/err.h"

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

typedef struct Editor Editor;

typedef enum HintsMode { HINTS_LINE, HINTS_OFF, HINTS_SIDE } HintsMode;

typedef struct Settings {
    int theme;  /* index of themes */
    int hints;  /* HintsMode */
    int layout; /* 0 desk, 1 shell */
    bool mouse;
    bool line_numbers;
    bool auto_indent;
    bool wrap;
    bool system_clipboard;
    bool show_blanks;
    bool remember_answers;
    bool keep_undo;
    bool keep_private_undo;
    bool change_bars;
    int last_newline; /* LastNewline, see session.h */
    int backup;       /* Backup, see save.h */
    int backup_keep;
    bool keep_recovery;
    bool say_in_use;
    bool auto_reload;
    int command_seconds;
    int tab_width;
    int esc_wait; /* ms */
    char menu_letters[256];
    char word_pairs[256];
    char become_root[256];
} Settings;

typedef enum SettingType { SETTING_BOOL, SETTING_INT, SETTING_CHOICE, SETTING_TEXT } SettingType;

typedef struct Setting {
    const char *name;
    SettingType type;
    const char *standard; /* written as in the file, texts without quotes */
    const char *choices;  /* "|"-separated, for SETTING_CHOICE */
    int min, max;         /* for SETTING_INT */
    size_t offset;        /* in Settings */
    const char *help;     /* one line */
} Setting;

enum { SETTINGS_COUNT = 25 };
extern const Setting settings_table[SETTINGS_COUNT];

/* Everything to its standard. */
void settings_reset(Editor *ed);
/* Sets one by name. `source` says where it comes from (copied); NULL: this run.
 * False with what is expected in e. */
bool settings_set(Editor *ed, const char *name, const char *value, const char *source, Err *e);
/* The value as written; valid until the next call. */
const char *settings_value(const Editor *ed, const Setting *s);
/* Where the value comes from: "standard", a file, or "this run". */
const char *settings_source(const Editor *ed, const Setting *s);
/* Writes what was set in this run to the personal file, leaving its other lines alone.
 * *n: how many. */
bool settings_keep(Editor *ed, size_t *n, Err *e);
/* The person's settings file; NULL when there is none. The caller frees it. */
char *settings_path(void);

/* The Latin letter that stands at the same place of the keyboard, by the setting menu_letters. */
uint32_t settings_menu_letter(const Editor *ed, uint32_t ch);

/* The next value: the other of two, the next choice; false for texts and numbers. */
bool settings_flip(Editor *ed, const Setting *s);

/* ---- keys of one's own ---- */

typedef struct Command Command;

/* A route of one's own: letters of a menu and of an entry in it. */
typedef struct OwnRoute {
    char letters[3];
    const Command *command;
    char *args;
} OwnRoute;

const OwnRoute *own_route_find(const Editor *ed, const char *letters);
/* Puts a command line on a key ("F5") or route ("Esc l q") as written in words. NULL frees
 * the key. False with the reason in e. */
bool keys_set(Editor *ed, const char *key, const char *command_line, Err *e);

#endif

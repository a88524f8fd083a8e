#include "app/settings.h"

#include "app/editor.h"
#include "app/panes.h"
#include "app/shown.h"
#include "base/mem.h"
#include "base/sys.h"
#include "files/save.h"

#include <ctype.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#define AT(field) offsetof(Settings, field)

const Setting settings_table[SETTINGS_COUNT] = {
    {"theme", SETTING_CHOICE, "terminal", "terminal|dark|light|mono", 0, 0, AT(theme),
     "Colours: those of the terminal, dark, light, or none"},
    {"hints", SETTING_CHOICE, "line", "line|off|side", 0, 0, AT(hints),
     "Where useful keys are shown: on the last line, nowhere, or at the side"},
    {"layout", SETTING_CHOICE, "desk", "desk|shell", 0, 0, AT(layout),
     "Keys as on a desktop, or movement by single chords as in the shell's line"},
    {"mouse", SETTING_BOOL, "true", NULL, 0, 0, AT(mouse),
     "Take clicks and the wheel; off leaves the mouse to the terminal"},
    {"line_numbers", SETTING_BOOL, "true", NULL, 0, 0, AT(line_numbers), "Show line numbers"},
    {"auto_indent", SETTING_BOOL, "true", NULL, 0, 0, AT(auto_indent),
     "A new line begins under the one above"},
    {"wrap", SETTING_BOOL, "false", NULL, 0, 0, AT(wrap),
     "Long lines go on in the next row instead of off the screen"},
    {"show_blanks", SETTING_BOOL, "false", NULL, 0, 0, AT(show_blanks),
     "Show blanks, tabs and line ends as signs"},
    {"system_clipboard", SETTING_BOOL, "true", NULL, 0, 0, AT(system_clipboard),
     "Give what is cut or copied to the desktop's clipboard too"},
    {"tab_width", SETTING_INT, "8", NULL, 1, 16, AT(tab_width), "Cells from one tab stop to the next"},
    {"esc_wait", SETTING_INT, "50", NULL, 5, 1000, AT(esc_wait),
     "Milliseconds after which Esc is a key of its own; more for slow lines"},
    {"change_bars", SETTING_BOOL, "true", NULL, 0, 0, AT(change_bars),
     "Show a thin bar at lines that differ from the last save"},
    {"last_newline", SETTING_CHOICE, "keep", "keep|ask|add", 0, 0, AT(last_newline),
     "When a text is saved whose last line has no line end: leave it so, ask, or add one"},
    {"command_seconds", SETTING_INT, "60", NULL, 1, 86400, AT(command_seconds),
     "Seconds after which a command that was run is stopped"},
    {"backup", SETTING_CHOICE, "none", "none|one|numbered", 0, 0, AT(backup),
     "What saving keeps of the version before: nothing, NAME.old, or NAME.old-1 and so on"},
    {"backup_keep", SETTING_INT, "10", NULL, 1, 1000, AT(backup_keep), "How many numbered backups are kept"},
    {"keep_recovery", SETTING_BOOL, "true", NULL, 0, 0, AT(keep_recovery),
     "Keep a journal of unsaved work, to bring it back after a crash"},
    {"say_in_use", SETTING_BOOL, "true", NULL, 0, 0, AT(say_in_use),
     "Tell others who open a file that it is being edited here, and notice when they do"},
    {"auto_reload", SETTING_BOOL, "false", NULL, 0, 0, AT(auto_reload),
     "Reload a text without changes by itself when its file changed on disk"},
    {"become_root", SETTING_TEXT, "", NULL, 0, 0, AT(become_root),
     "The program that saves as root for you; empty: sudo or doas, whichever is there"},
    {"remember_answers", SETTING_BOOL, "true", NULL, 0, 0, AT(remember_answers),
     "Remember earlier answers for the next run"},
    {"keep_undo", SETTING_BOOL, "true", NULL, 0, 0, AT(keep_undo),
     "Remember what can be undone in a saved file for the next time it is opened"},
    {"keep_private_undo", SETTING_BOOL, "false", NULL, 0, 0, AT(keep_private_undo),
     "The same for files that others may not read"},
    {"menu_letters", SETTING_TEXT, "", NULL, 0, 0, AT(menu_letters),
     "Pairs of a letter on your keyboard and the Latin one it stands for in menus"},
    {"word_pairs", SETTING_TEXT, "", NULL, 0, 0, AT(word_pairs),
     "Further words to flip, such as: open shut, hot cold"},
};

/* ---- values ---- */

static void *place(const Editor *ed, const Setting *s)
{
    return (char *)&((Editor *)ed)->settings + s->offset;
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

static bool write_value(const Editor *ed, const Setting *s, const char *value, Err *e)
{
    void *to = place(ed, s);
    bool b;
    switch (s->type) {
    case SETTING_BOOL:
        if (!parse_bool(value, &b))
            return err_set(e, "%s is true or false, not “%s”", s->name, value);
        *(bool *)to = b;
        return true;
    case SETTING_CHOICE: {
        int n = choice_number(s->choices, value);
        if (n < 0)
            return err_set(e, "%s is one of %s, not “%s”", s->name, s->choices, value);
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
        if (strlen(value) >= sizeof ed->settings.menu_letters)
            return err_set(e, "%s is too long", s->name);
        strcpy(to, value);
        return true;
    }
}

const char *settings_value(const Editor *ed, const Setting *s)
{
    static char text[300];
    const void *from = place(ed, s);
    if (s->type == SETTING_BOOL) {
        strcpy(text, *(const bool *)from ? "true" : "false");
    } else if (s->type == SETTING_INT) {
        snprintf(text, sizeof text, "%d", *(const int *)from);
    } else if (s->type == SETTING_CHOICE) {
        const char *c = s->choices;
        for (int i = *(const int *)from; i > 0; i--)
            c += strcspn(c, "|") + 1;
        snprintf(text, sizeof text, "%.*s", (int)strcspn(c, "|"), c);
    } else {
        snprintf(text, sizeof text, "%s", (const char *)from);
    }
    return text;
}

static const char standard[] = "standard", this_run[] = "this run";

const char *settings_source(const Editor *ed, const Setting *s)
{
    const char *source = ed->setting_sources[s - settings_table];
    return source ? source : standard;
}

/* What else must follow a change. */
static void apply(Editor *ed)
{
    ed->theme = &themes[ed->settings.theme];
    for (Pane *p = panes_first(ed); p; p = panes_after(p))
        p->view.wrap = ed->settings.wrap;
    for (size_t i = 0; i < ed->session->n_files; i++)
        ed->session->files[i]->shown->tab = (size_t)ed->settings.tab_width;
    shown_rules(ed);
    keymap_fill(&ed->keys, ed->settings.layout ? "shell" : "desk");
}

bool settings_set(Editor *ed, const char *name, const char *value, const char *source, Err *e)
{
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        if (strcmp(s->name, name) != 0)
            continue;
        if (!write_value(ed, s, value, e))
            return false;
        free(ed->setting_sources[i]);
        ed->setting_sources[i] = mem_string(source ? source : this_run);
        apply(ed);
        return true;
    }
    return err_set(e, "there is no setting “%s”", name);
}

void settings_reset(Editor *ed)
{
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        write_value(ed, &settings_table[i], settings_table[i].standard, NULL);
        free(ed->setting_sources[i]);
        ed->setting_sources[i] = NULL;
    }
    apply(ed);
}

bool settings_flip(Editor *ed, const Setting *s)
{
    char next[64];
    if (s->type == SETTING_BOOL) {
        strcpy(next, *(bool *)place(ed, s) ? "false" : "true");
    } else if (s->type == SETTING_CHOICE) {
        const char *c = s->choices;
        for (int i = *(int *)place(ed, s); i >= 0 && c; i--)
            c = strchr(c, '|') ? strchr(c, '|') + 1 : NULL;
        c = c ? c : s->choices;
        snprintf(next, sizeof next, "%.*s", (int)strcspn(c, "|"), c);
    } else {
        return false;
    }
    return settings_set(ed, s->name, next, NULL, NULL);
}

uint32_t settings_menu_letter(const Editor *ed, uint32_t ch)
{
    const char *p = ed->settings.menu_letters;
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

/* ---- keeping them ---- */

char *settings_path(void)
{
    char *folder = sys_own_folder("CONFIG");
    if (!folder)
        return NULL;
    Bytes b = {0};
    bytes_printf(&b, "%s/settings.lua", folder);
    free(folder);
    return b.at;
}

/* Is this the line "name = …"? */
static bool line_sets(const char *line, size_t n, const char *name)
{
    size_t len = strlen(name), i = 0;
    while (i < n && (line[i] == ' ' || line[i] == '\t'))
        i++;
    if (n - i <= len || memcmp(line + i, name, len) != 0)
        return false;
    for (i += len; i < n && (line[i] == ' ' || line[i] == '\t');)
        i++;
    return i < n && line[i] == '=' && (i + 1 == n || line[i + 1] != '=');
}

static void put_line(const Editor *ed, const Setting *s, Bytes *out)
{
    const char *value = settings_value(ed, s);
    if (s->type == SETTING_BOOL || s->type == SETTING_INT) {
        bytes_printf(out, "%s = %s\n", s->name, value);
        return;
    }
    bytes_printf(out, "%s = \"", s->name);
    for (; *value; value++) {
        if (*value == '"' || *value == '\\')
            bytes_add(out, "\\", 1);
        bytes_add(out, value, 1);
    }
    bytes_add_str(out, "\"\n");
}

/* The old file with the lines of this run's settings exchanged, new ones at the end. */
static void merge_lines(const Editor *ed, const Bytes *old, Bytes *out, size_t *n)
{
    bool done[SETTINGS_COUNT] = {false};
    *n = 0;
    for (const char *p = bytes_str(old), *end = p + old->len; p < end;) {
        const char *next = memchr(p, '\n', (size_t)(end - p));
        next = next ? next + 1 : end;
        size_t i = 0;
        while (i < SETTINGS_COUNT && !(strcmp(settings_source(ed, &settings_table[i]), this_run) == 0 &&
                                       line_sets(p, (size_t)(next - p), settings_table[i].name)))
            i++;
        if (i == SETTINGS_COUNT) {
            bytes_add(out, p, (size_t)(next - p));
        } else if (!done[i]) {
            put_line(ed, &settings_table[i], out);
            done[i] = true;
            ++*n;
        }
        p = next;
    }
    if (out->len && out->at[out->len - 1] != '\n')
        bytes_add(out, "\n", 1);
    for (size_t i = 0; i < SETTINGS_COUNT; i++)
        if (!done[i] && strcmp(settings_source(ed, &settings_table[i]), this_run) == 0) {
            put_line(ed, &settings_table[i], out);
            ++*n;
        }
}

bool settings_keep(Editor *ed, size_t *n, Err *e)
{
    char *path = settings_path();
    if (!path)
        return err_set(e, "There is no home folder to keep settings in");
    char *folder = mem_string_n(path, (size_t)(strrchr(path, '/') - path));
    Text t = {0};
    DiskState disk;
    Bytes old = {0}, out = {0};
    bool ok = sys_make_folders(folder);
    if (!ok)
        err_set(e, "Cannot make the folder %s", folder);
    ok = ok && file_load(path, &t, &disk, e);
    for (size_t at = 0; ok && at < text_len(t);) {
        TextRun run = text_run(t, at);
        bytes_add(&old, run.at, run.len);
        at += run.len;
    }
    text_drop(&t);
    if (ok)
        merge_lines(ed, &old, &out, n);
    ok = ok && (text_insert(&t, 0, out.at, out.len) || err_set(e, "There is not enough memory"));
    ok = ok && file_save(path, t, NULL, &disk, e);
    for (size_t i = 0; ok && i < SETTINGS_COUNT; i++)
        if (strcmp(settings_source(ed, &settings_table[i]), this_run) == 0) {
            free(ed->setting_sources[i]);
            ed->setting_sources[i] = mem_string(path);
        }
    text_drop(&t);
    bytes_free(&old);
    bytes_free(&out);
    free(folder);
    free(path);
    return ok;
}

/* ---- keys of one's own ---- */

const OwnRoute *own_route_find(const Editor *ed, const char *letters)
{
    for (size_t i = 0; i < ed->n_routes; i++)
        if (strcmp(ed->routes[i].letters, letters) == 0)
            return &ed->routes[i];
    return NULL;
}

static bool letter_of_menu(char c)
{
    for (size_t i = 0; i < n_titles; i++)
        if (menus[i].letter == c)
            return true;
    return false;
}

static bool set_route(Editor *ed, const char *route, const Command *c, const char *args, Err *e)
{
    const char *p = route + 3;
    char letters[3] = "";
    size_t n = 0;
    for (; *p && n < 3; p++)
        if (*p != ' ') {
            if (n == 2)
                return err_set(e, "a route is Esc and two letters, not “%s”", route);
            letters[n++] = (char)tolower((unsigned char)*p);
        }
    if (n != 2 || *p || !letter_of_menu(letters[0]))
        return err_set(e, "a route is Esc, the letter of a menu, and one more, not “%s”", route);
    OwnRoute *r = (OwnRoute *)own_route_find(ed, letters);
    if (!r) {
        ed->routes = mem_grow(ed->routes, (ed->n_routes + 1) * sizeof *ed->routes);
        r = &ed->routes[ed->n_routes++];
        *r = (OwnRoute){0};
    }
    free(r->args);
    memcpy(r->letters, letters, 3);
    r->command = c;
    r->args = mem_string(args);
    return true;
}

bool keys_set(Editor *ed, const char *key, const char *line, Err *e)
{
    const Command *c = NULL;
    const char *args = "";
    if (line) {
        size_t n = strcspn(line, " ");
        c = command_named(line, n);
        if (!c)
            return err_set(e, "there is no command “%.*s”", (int)(n < 60 ? n : 60), line);
        args = line + n + strspn(line + n, " ");
    }
    if (strncmp(key, "Esc ", 4) == 0)
        return c ? set_route(ed, key, c, args, e) : err_set(e, "“%s”: a route cannot be freed", key);
    Key k;
    if (!key_parse(key, strlen(key), &k))
        return err_set(e, "there is no key “%s”", key);
    if (key_types(k) || (k.mods == 0 && k.code == K_ESC))
        return err_set(e, "“%s” must stay as it is: nobody could type or get out", key);
    const Binding *old = keymap_find(&ed->keys, k);
    if (old && old->own)
        return err_set(e, "“%s” is set twice", key);
    keymap_set(&ed->keys, k, c, args, true);
    keymap_fill(&ed->keys, ed->settings.layout ? "shell" : "desk");
    return true;
}

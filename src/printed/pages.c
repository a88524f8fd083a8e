/* The manual pages, in the language of man(7). */
#include "base/data.h"
#include "config/help_text.h"
#include "config/settings.h"
#include "printed/options.h"
#include "printed/printed.h"

#include <stdio.h>
#include <string.h>

/* ---- words ---- */

/* n bytes of text as part of a line: no sign of it is taken for a request. */
static void add_words(Bytes *out, const char *s, size_t n)
{
    for (size_t i = 0; i < n; i++) {
        unsigned char c = (unsigned char)s[i];
        bool begins = out->len == 0 || out->at[out->len - 1] == '\n';
        if (c == '\\')
            bytes_add_str(out, "\\e");
        else if (c == '-')
            bytes_add_str(out, "\\-");
        else if (c == '\'' || c == '`' || c == '^' || c == '~' || c == '"')
            bytes_printf(out, "\\(%s",
                         c == '\''  ? "aq"
                         : c == '`' ? "ga"
                         : c == '^' ? "ha"
                         : c == '~' ? "ti"
                                    : "dq");
        else if (c == '.' && begins)
            bytes_add_str(out, "\\&.");
        else if (c >= 0xc0) { /* a letter of several bytes */
            size_t len = c >= 0xf0 ? 4 : c >= 0xe0 ? 3 : 2;
            unsigned long code = c & (0xff >> (len + 1));
            for (size_t k = 1; k < len && i + k < n; k++)
                code = code << 6 | ((unsigned char)s[i + k] & 0x3f);
            bytes_printf(out, "\\[u%04lX]", code);
            i += len - 1;
        } else
            bytes_add(out, s + i, 1);
    }
}

static void add_text(Bytes *out, const char *s)
{
    add_words(out, s, strlen(s));
}

static void add_bold(Bytes *out, const char *s, size_t n)
{
    bytes_add_str(out, "\\fB");
    add_words(out, s, n);
    bytes_add_str(out, "\\fR");
}

static void add_line(Bytes *out, const char *s)
{
    add_text(out, s);
    bytes_add_str(out, "\n");
}

/* With a full stop, unless it ends in a sign of its own. */
static void add_sentence(Bytes *out, const char *s)
{
    size_t n = strlen(s);
    add_text(out, s);
    bytes_add_str(out, n && strchr(".?!", s[n - 1]) ? "\n" : ".\n");
}

static void begin_page(Bytes *out, const char *title, int section, const char *name, const char *about)
{
    bytes_printf(out, ".TH %s %d \"%s\" \"Steady Quill %s\"\n.nh\n.ad l\n.SH NAME\n", title, section,
                 SQUILL_DATE, SQUILL_VERSION);
    add_text(out, name);
    bytes_add_str(out, " \\- ");
    add_line(out, about);
}

static void add_heading(Bytes *out, const char *request, const char *s, size_t n)
{
    bytes_printf(out, "%s \"", request);
    for (size_t i = 0; i < n; i++) {
        char c = s[i];
        if (strcmp(request, ".SH") == 0 && c >= 'a' && c <= 'z')
            c = (char)(c - 'a' + 'A');
        add_words(out, &c, 1);
    }
    bytes_add_str(out, "\"\n");
}

static void add_section(Bytes *out, const char *title)
{
    add_heading(out, ".SH", title, strlen(title));
}

/* ---- pages of help ---- */

/* Bytes of a name that stands between these; 0: there is no such thing. */
static size_t name_between(const char *s, size_t n, const char *open, const char *close)
{
    size_t skip = strlen(open), at = skip;
    if (n < skip || memcmp(s, open, skip) != 0)
        return 0;
    while (at < n && ((s[at] >= 'a' && s[at] <= 'z') || s[at] == '-'))
        at++;
    return n - at >= skip && memcmp(s + at, close, skip) == 0 ? at - skip : 0;
}

/* One line: {commands} are bold, in a paragraph also [[pages]] and `keys`. */
static void add_marked(Bytes *out, const char *s, size_t n, bool paragraph)
{
    for (size_t i = 0; i < n;) {
        size_t len = name_between(s + i, n - i, "{", "}"), skip = 1;
        const char *tick = paragraph && s[i] == '`' ? memchr(s + i + 1, '`', n - i - 1) : NULL;
        if (tick)
            len = (size_t)(tick - s) - i - 1;
        else if (!len && paragraph)
            len = name_between(s + i, n - i, "[[", "]]"), skip = 2;
        if (len)
            add_bold(out, s + i + skip, len);
        else
            add_words(out, s + i, 1);
        i += len ? len + 2 * skip : 1;
    }
    bytes_add_str(out, "\n");
}

/* A page of help in the place of a manual page: its headings become smaller ones. */
static void add_help(Bytes *out, const char *name)
{
    char path[80];
    snprintf(path, sizeof path, "help/%.60s.txt", name);
    const DataFile *d = data_find(path);
    const char *at = d ? d->bytes : "", *end = at + (d ? d->len : 0);
    HelpBlock b = {0};
    bool code = false, begun = false;
    while (help_text_next(&at, end, &b)) {
        bool is_code = b.part == HELP_CODE;
        if (is_code != code)
            bytes_add_str(out, is_code ? begun ? ".PP\n.nf\n.RS 4\n" : ".nf\n.RS 4\n" : ".RE\n.fi\n");
        else if (is_code && b.gap)
            bytes_add_str(out, "\n");
        code = is_code;
        if (b.part == HELP_HEADING) {
            add_heading(out, ".SS", bytes_str(&b.words), b.words.len);
            begun = false;
            continue;
        }
        bytes_add_str(out, is_code ? "\\&" : b.part == HELP_ITEM ? ".TP 4\n" : begun ? ".PP\n" : "");
        begun = true;
        if (b.part == HELP_ITEM)
            add_marked(out, bytes_str(&b.term), b.term.len, true);
        add_marked(out, bytes_str(&b.words), b.words.len, !is_code);
    }
    if (code)
        bytes_add_str(out, ".RE\n.fi\n");
    help_block_free(&b);
}

/* Breaks long lines of what is filled anyway; no line may come to begin with a dot. */
static void break_lines(Bytes *page)
{
    enum { LINE_MOST = 78 };
    bool literal = false;
    size_t start = 0, blank = 0;
    for (size_t i = 0; i < page->len; i++) {
        char *p = page->at + i;
        bool end = *p == '\n', words = page->at[start] != '.' && !literal;
        if ((end || *p == ' ') && words && i - start > LINE_MOST && blank) {
            page->at[blank] = '\n';
            start = blank + 1;
            blank = 0;
        }
        if (*p == ' ' && i + 1 < page->len && p[1] != '.' && p[1] != '\'' && p[1] != ' ')
            blank = i;
        if (end) {
            literal = strncmp(page->at + start, ".nf", 3) == 0 ||
                      (literal && strncmp(page->at + start, ".fi", 3) != 0);
            start = i + 1;
            blank = 0;
        }
    }
}

/* ---- squill(1) ---- */

static void add_options(Bytes *out)
{
    for (const Option *o = options_table; o->name; o++) {
        bytes_add_str(out, ".TP 4\n");
        if (o->letter)
            bytes_printf(out, "\\fB\\-%c\\fR, ", o->code);
        bytes_add_str(out, "\\fB\\-\\-");
        add_text(out, o->name);
        bytes_add_str(out, "\\fR");
        if (o->value) {
            bytes_add_str(out, " \\fI");
            add_text(out, o->value);
            bytes_add_str(out, "\\fR");
        }
        bytes_add_str(out, "\n");
        add_line(out, o->help);
    }
}

/* Name, what may follow it, its keys and route, and what it does. */
static void add_commands(const Config *c, Bytes *out)
{
    char key[KEY_NAME_MAX], route[ROUTE_MAX];
    for (size_t m = 0; m < c->registry.n_menus; m++)
        for (size_t i = 0; i < c->registry.menus[m].n; i++) {
            const Command *command = c->registry.menus[m].commands[i];
            bytes_add_str(out, ".TP 4\n");
            add_bold(out, command->name, strlen(command->name));
            if (command->args) {
                bytes_add_str(out, " \\fI");
                add_text(out, command->args);
                bytes_add_str(out, "\\fR");
            }
            for (size_t k = 0; *keymap_key_of(&c->keys, command, k, key); k++) {
                bytes_add_str(out, k ? ", " : " (");
                add_text(out, key);
            }
            bool keys = *keymap_key_of(&c->keys, command, 0, key);
            registry_route(&c->registry, command, route);
            bytes_printf(out, "%s%s%s\n", route[0] ? keys ? ", " : " (" : "", route,
                         keys || route[0] ? ")" : "");
            add_sentence(out, command->help);
            if (command->more)
                add_line(out, command->more);
        }
}

typedef struct Entry {
    const char *name, *about;
} Entry;

static void add_entries(Bytes *out, const Entry *e, size_t n)
{
    for (size_t i = 0; i < n; i++) {
        bytes_add_str(out, ".TP 4\n");
        add_bold(out, e[i].name, strlen(e[i].name));
        bytes_add_str(out, "\n");
        add_line(out, e[i].about);
    }
}

static const Entry files[] = {
    {CONFIG_MACHINE_FOLDER "/settings.lua, ~/.config/steady-quill/settings.lua",
     "Settings of the machine and of a person; see squill-settings(5)."},
    {CONFIG_MACHINE_FOLDER "/keys.lua, ~/.config/steady-quill/keys.lua", "Keys and routes of one's own."},
    {CONFIG_MACHINE_FOLDER "/start.lua, ~/.config/steady-quill/start.lua",
     "Scripts that run at the start; see squill-scripts(5)."},
    {"kinds/*.lua, themes/*.lua", "In the same folders: kinds of file and themes."},
    {"~/.config/steady-quill/recordings.lua", "Recordings of keys that are kept."},
    {"~/.local/state/steady-quill/",
     "What is remembered: unsaved work, what can be undone, earlier saves, answers."},
    {"/run/lock/steady-quill-*", "Who edits what, while they do."},
    {".NAME.bak", "Beside a file, for as long as it is being saved: the new version."},
};

static const Entry environment[] = {
    {"LC_ALL, LC_CTYPE, LANG", "How typed letters and file names are encoded; UTF-8 if none is set."},
    {"TERM", "What the terminal is."},
    {"TMUX, STY, SSH_CONNECTION",
     "Whether a multiplexer or a network is between: what is cut goes there too."},
    {"NO_COLOR", "If it is set and not empty, nothing is coloured."},
    {"COLORFGBG", "Whether the terminal is white, for the setting ground."},
    {"SHELL", "The shell that runs commands and is gone to."},
    {"PATH", "Where sudo, doas, checkers and man are looked for."},
    {"TMPDIR", "Where copies for checkers and practice are made; /tmp otherwise."},
    {"HOME", "Where a person's settings and state are kept."},
    {"XDG_CONFIG_HOME, XDG_STATE_HOME", "In place of ~/.config and ~/.local/state."},
    {"SQUILL_FILE", "Set for commands that are run: the path of the text."},
};

static const Entry examples[] = {
    {"squill +12 /etc/fstab",
     "Edits a file from its line 12 on. What root alone may write is saved by sudo."},
    {"journalctl -b | squill -", "Shows what a command prints, as it comes."},
    {"squill --do 'replace-all brightness=40 brightness=80; save' kiosk-*.ini",
     "Changes many files without a screen."},
    {"squill --dry-run --do 'sort-lines; save' berths.txt", "Shows as a patch what would be changed."},
    {"EDITOR=squill crontab -e", "Edits for another program; Esc f r leaves so that it is called off."},
};

void printed_page(const Config *c, Bytes *out)
{
    begin_page(out, "SQUILL", 1, "squill", "edit text files in the terminal");
    bytes_add_str(out,
                  ".SH SYNOPSIS\n.B squill\n.RI [ option ]...\n.RI [[+ line [: column ]]\n.IR file ]...\n");
    add_section(out, "description");
    for (size_t i = 0; options_about[i]; i++) {
        bytes_add_str(out, i ? ".PP\n" : "");
        add_line(out, options_about[i]);
    }
    bytes_add_str(out, ".PP\n");
    add_line(
        out,
        "The last line of the screen shows the keys that are most useful. Esc shows the menus; every command "
        "stands there and is reached by letters, such as Esc f s for File, Save. F1 is help.");
    add_section(out, "options");
    add_options(out);
    add_section(out, "commands");
    add_line(out,
             "In the editor they are run by their keys, by their letters after Esc, or by name with Ctrl+P; "
             "without a screen by --do.");
    add_commands(c, out);
    add_section(out, "files");
    add_entries(out, files, sizeof files / sizeof *files);
    add_section(out, "environment");
    add_entries(out, environment, sizeof environment / sizeof *environment);
    add_section(out, "exit status");
    add_line(out, options_status[0]);
    add_section(out, "examples");
    add_entries(out, examples, sizeof examples / sizeof *examples);
    add_section(out, "see also");
    bytes_add_str(out, ".BR squill\\-settings (5),\n.BR squill\\-scripts (5)\n");
    break_lines(out);
}

/* ---- the others ---- */

static void add_values(const Setting *s, Bytes *out)
{
    Bytes b = {0};
    if (s->type == SETTING_BOOL)
        bytes_add_str(&b, "true or false");
    else if (s->type == SETTING_INT)
        bytes_printf(&b, "From %d to %d", s->min, s->max);
    else if (s->type == SETTING_CHOICE) {
        for (const char *p = settings_choices(s); *p; p += strcspn(p, "|"), p += *p == '|')
            bytes_printf(&b, "%s“%.*s”", b.len ? ", " : "One of ", (int)strcspn(p, "|"), p);
    } else
        bytes_add_str(&b, "A text in quotation marks");
    const char *quote = s->type == SETTING_BOOL || s->type == SETTING_INT ? "" : "\"";
    bytes_printf(&b, "; the standard is %s%s%s.", quote, s->standard, quote);
    add_line(out, b.at);
    bytes_free(&b);
}

void printed_settings(const Config *c, Bytes *out)
{
    (void)c;
    begin_page(out, "SQUILL\\-SETTINGS", 5, "squill-settings", "settings and keys of the editor squill");
    add_section(out, "description");
    add_line(out, "Settings are lines such as");
    bytes_add_str(out, ".PP\n.nf\n.RS 4\n");
    add_line(out, "theme = \"dark\"");
    add_line(out, "tab_width = 4");
    bytes_add_str(out, ".RE\n.fi\n.PP\n");
    add_line(out,
             "in " CONFIG_MACHINE_FOLDER
             "/settings.lua and, for one person, in ~/.config/steady-quill/settings.lua, "
             "which counts more. They have the form of Lua's assignments, but nothing in them is run. A line "
             "with a mistake is reported at the start and left out. In the editor, Esc h s shows all and "
             "keeps what "
             "is changed. As root, only files that root alone may write are read.");
    add_section(out, "settings");
    for (size_t i = 0; i < SETTINGS_COUNT; i++) {
        const Setting *s = &settings_table[i];
        bytes_add_str(out, ".TP 4\n");
        add_bold(out, s->name, strlen(s->name));
        bytes_add_str(out, "\n");
        add_sentence(out, s->help);
        add_values(s, out);
    }
    add_section(out, "keys");
    add_help(out, "own-keys");
    add_section(out, "kinds of file");
    add_help(out, "kinds");
    add_section(out, "see also");
    bytes_add_str(out, ".BR squill (1),\n.BR squill\\-scripts (5)\n");
    break_lines(out);
}

void printed_scripts(const Config *c, Bytes *out)
{
    begin_page(out, "SQUILL\\-SCRIPTS", 5, "squill-scripts", "scripts of the editor squill");
    add_section(out, "description");
    add_help(out, "scripts");
    add_section(out, "calls");
    add_line(out, "Lines and columns count from 1, columns in characters. What stands in capitals may be "
                  "left out where "
                  "that makes sense.");
    for (size_t i = 0; i < c->registry.n_calls; i++) {
        const CallHelp *call = c->registry.calls[i];
        if (!call->help) {
            add_heading(out, ".SS", call->form, strlen(call->form));
            continue;
        }
        bytes_add_str(out, ".TP 4\n");
        add_bold(out, call->form, strlen(call->form));
        bytes_add_str(out, "\n");
        add_sentence(out, call->help);
    }
    add_section(out, "see also");
    bytes_add_str(out, ".BR squill (1),\n.BR squill\\-settings (5)\n");
    break_lines(out);
}

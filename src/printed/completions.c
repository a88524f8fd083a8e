/* Completions of shells, from the table of options. Names that may be a person's own are asked for when they
 * are needed, by --print. */
#include "printed/options.h"
#include "printed/printed.h"

#include <stdio.h>
#include <string.h>

/* Words of all options that people use, or of those whose value is of that sort. */
static void add_names(Bytes *out, bool all, OptionValue of, const char *between)
{
    size_t n = 0;
    for (const Option *o = options_table; o->name; o++) {
        if (!all && o->of != of)
            continue;
        if (o->letter)
            bytes_printf(out, "%s-%c", n++ ? between : "", o->code);
        bytes_printf(out, "%s--%s", n++ ? between : "", o->name);
    }
}

static void add_printed(Bytes *out)
{
    for (size_t i = 0; i < PRINTED_COUNT; i++)
        bytes_printf(out, "%s%s", i ? " " : "", options_printed[i]);
}

static const char bash_begin[] =
    "# Completion of bash for squill, made from its table of options.\n"
    "_squill_among() { mapfile -t COMPREPLY < <(compgen -P \"$3\" -W \"$1\" -- \"$2\"); }\n"
    "_squill_list() { squill --print \"$1\" 2>/dev/null | cut -f1; }\n"
    "_squill()\n{\n"
    "    local word=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]} start=''\n"
    "    COMPREPLY=()\n"
    "    case $before in\n";

/* Several commands are one word for the shell: the last one is completed. */
static const char bash_commands[] =
    "        word=${word#[\\\"\\']}\n"
    "        while [[ $word == *\\;* || $word == ' '* ]]; do\n"
    "            if [[ $word == *\\;* ]]; then start+=${word%\\;*}\\;; word=${word##*\\;}; fi\n"
    "            if [[ $word == ' '* ]]; then start+=' '; word=${word# }; fi\n"
    "        done\n"
    "        if [[ $word == 'set '* ]]; then\n"
    "            _squill_among \"$(_squill_list settings)\" \"${word#set }\" \"${start}set \"\n"
    "        else\n"
    "            _squill_among \"$(_squill_list commands)\" \"$word\" \"$start\"\n"
    "        fi\n"
    "        compopt -o nospace\n";

static void add_case(Bytes *out, OptionValue of)
{
    bytes_add_str(out, "    ");
    add_names(out, false, of, " | ");
    bytes_add_str(out, ")\n");
}

void printed_bash(const Config *c, Bytes *out)
{
    (void)c;
    bytes_add_str(out, bash_begin);
    add_case(out, VALUE_KIND);
    bytes_add_str(out, "        _squill_among \"$(_squill_list kinds)\" \"$word\"\n        ;;\n");
    add_case(out, VALUE_COMMANDS);
    bytes_printf(out, "%s        ;;\n", bash_commands);
    add_case(out, VALUE_PRINTED);
    bytes_add_str(out, "        _squill_among \"");
    add_printed(out);
    bytes_add_str(out, "\" \"$word\"\n        ;;\n");
    add_case(out, VALUE_NUMBER);
    bytes_add_str(out, "        ;;\n");
    add_case(out, VALUE_WORDS);
    bytes_add_str(out, "        ;;\n");
    add_case(out, VALUE_FOLDER);
    bytes_add_str(out, "        compopt -o filenames\n"
                       "        mapfile -t COMPREPLY < <(compgen -d -- \"$word\")\n        ;;\n    *)\n"
                       "        if [[ $word == -* ]]; then\n            _squill_among \"");
    add_names(out, true, VALUE_NONE, " ");
    bytes_add_str(out, "\" \"$word\"\n        else\n"
                       "            compopt -o filenames\n"
                       "            mapfile -t COMPREPLY < <(compgen -f -- \"$word\")\n"
                       "        fi\n        ;;\n    esac\n}\n"
                       "complete -F _squill squill\n");
}

/* In single quotes, for a shell; in zsh brackets and colons mean something there. */
static void add_quoted(Bytes *out, const char *s, const char *marked)
{
    for (; *s; s++) {
        if (*s == '\'')
            bytes_add_str(out, "'\\''");
        else if (strchr(marked, *s))
            bytes_printf(out, "\\%c", *s);
        else
            bytes_add(out, s, 1);
    }
}

static const char *zsh_action(OptionValue of)
{
    switch (of) {
    case VALUE_KIND:
        return ":kind: _squill_list kinds"; /* after a blank zsh adds no words of its own */
    case VALUE_COMMANDS:
        return ":commands: _squill_commands";
    case VALUE_FILE:
        return ":file:_files";
    case VALUE_FOLDER:
        return ":folder:_files -/";
    case VALUE_NUMBER:
        return ":number:";
    case VALUE_WORDS:
        return ":words:";
    default:
        return "";
    }
}

void printed_zsh(const Config *c, Bytes *out)
{
    (void)c;
    bytes_add_str(out,
                  "#compdef squill\n# Completion of zsh for squill, made from its table of options.\n"
                  "_squill_list() {\n    local -a found\n"
                  "    found=(${${(f)\"$(squill --print $1 2>/dev/null)\"}//:/\\\\:})\n"
                  "    found=(${found/$'\\t'/:})\n"
                  "    _describe $1 found\n}\n"
                  "_squill_commands() {\n    compset -P '*; #'\n"
                  "    if compset -P 'set '; then _squill_list settings; else _squill_list commands; fi\n}\n"
                  "_squill() {\n    _arguments -s");
    for (const Option *o = options_table; o->name; o++) {
        for (int form = !o->letter; form < 2; form++) {
            bytes_printf(out, " \\\n        '%s%.1s%s%s[", form ? "--" : "-", form ? "" : &o->code,
                         form ? o->name : "", o->value && form ? "=" : "");
            add_quoted(out, o->help, "[]:");
            bytes_add_str(out, "]");
            if (o->of == VALUE_PRINTED) {
                bytes_add_str(out, ":what:(");
                add_printed(out);
                bytes_add_str(out, ")");
            }
            bytes_printf(out, "%s'", zsh_action(o->of));
        }
    }
    bytes_add_str(out, " \\\n        '*:file:_files'\n}\n_squill \"$@\"\n");
}

void printed_fish(const Config *c, Bytes *out)
{
    (void)c;
    bytes_add_str(out,
                  "# Completion of fish for squill, made from its table of options.\n"
                  "function __squill_commands\n"
                  "    set -l word (commandline -ct | string trim -l -c '\"\\'')\n"
                  "    set -l start (string match -r '^.*;\\s*' -- $word)\n"
                  "    if string match -qr '(^|;\\s*)set [^;]*$' -- $word\n"
                  "        set start (string match -r '^(?:.*;\\s*)?set ' -- $word)\n"
                  "        for line in (squill --print settings 2>/dev/null); echo \"$start$line\"; end\n"
                  "    else\n"
                  "        for line in (squill --print commands 2>/dev/null); echo \"$start$line\"; end\n"
                  "    end\nend\n");
    for (const Option *o = options_table; o->name; o++) {
        bytes_printf(out, "complete -c squill -l %s", o->name);
        if (o->letter)
            bytes_printf(out, " -s %c", o->code);
        if (o->of == VALUE_KIND)
            bytes_add_str(out, " -x -a '(squill --print kinds 2>/dev/null)'");
        else if (o->of == VALUE_COMMANDS)
            bytes_add_str(out, " -x -a '(__squill_commands)'");
        else if (o->of == VALUE_FILE)
            bytes_add_str(out, " -r");
        else if (o->of == VALUE_PRINTED) {
            bytes_add_str(out, " -x -a '");
            add_printed(out);
            bytes_add_str(out, "'");
        } else if (o->of == VALUE_FOLDER)
            bytes_add_str(out, " -x -a '(__fish_complete_directories)'");
        else if (o->of == VALUE_NUMBER || o->of == VALUE_WORDS)
            bytes_add_str(out, " -x");
        bytes_add_str(out, " -d '");
        add_quoted(out, o->help, "");
        bytes_add_str(out, "'\n");
    }
}

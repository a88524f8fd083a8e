#include "commands/file/properties.h"

#include "base/mem.h"
#include "base/words.h"
#include "commands/edits.h"
#include "commands/view/follow.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/session_memory.h"
#include "text/builder.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "ui/panel.h"
#include "ui/prompt.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

typedef enum Property {
    P_PATH,
    P_KIND,
    P_ENCODING,
    P_READ_AS,
    P_ENDS,
    P_LAST,
    P_INDENT,
    P_LOOK,
    P_RIGHTS,
    P_SIZE,
} Property;

static bool utf8_now(const OpenFile *f)
{
    return f->format.utf8;
}

/* ---- changing them ---- */

static void set_encoding(Editor *ed, const char *name)
{
    OpenFile *f = ed->panes.view->file;
    Encoding x;
    Text bytes;
    size_t at;
    Err e = {""};
    if (!encoding_named(name, &x)) {
        warn(ed, "“%s” is no encoding that this system knows", name);
        return;
    }
    x.mark = strncmp(x.name, "utf-16", 6) == 0 || (f->encoding.mark && !x.name[0]);
    if (!encoding_write(doc_text(f->doc), &x, &bytes, &at, &e)) {
        warn(ed, "It stays %s: %s", ENCODING_LABEL_OF(&f->encoding, utf8_now(f)), e.text);
        view_go(ed->panes.view, at);
        return;
    }
    text_drop(&bytes);
    f->format_changed = f->format_changed || strcmp(f->encoding.name, x.name) != 0;
    f->encoding = x;
    say(ed, "The next save writes %s as %s", openfile_name(f), ENCODING_LABEL_OF(&x, utf8_now(f)));
}

static void read_as(Editor *ed, const char *name)
{
    OpenFile *f = ed->panes.view->file;
    Encoding x;
    if (!encoding_named(name, &x))
        warn(ed, "“%s” is no encoding that this system knows", name);
    else if (openfile_changed(f))
        warn(ed, "%s has changes that are not saved; reading it again would mix them up", openfile_name(f));
    else
        plan_begin(ed->session, PLAN_RELOAD, f->id, NULL, &x);
}

/* Makes every line end the same, as one step. */
static void convert_ends(Editor *ed, OpenFile *f, LineEnds ends)
{
    Text t = doc_text(f->doc), out;
    TextBuilder b = {0};
    size_t from = 0, len = text_len(t), lines = 0;
    bool ok = true;
    for (size_t line = 0; ok && line < text_newlines(t); line++) {
        size_t end = text_line_end(t, line), stop = end - (end > from && text_byte(t, end - 1) == '\r');
        bool is_crlf = stop < end;
        if (is_crlf == (ends == ENDS_CRLF))
            continue;
        lines++;
        ok = builder_part(&b, t, from, stop) && (ends == ENDS_LF || builder_bytes(&b, "\r", 1));
        from = end;
    }
    ok = ok && builder_part(&b, t, from, len) && builder_finish(&b, &out);
    if (!ok) {
        builder_drop(&b);
        warn(ed, "There is not enough memory for that");
        return;
    }
    doc_seal(f->doc);
    doc_set_verb(f->doc, "Line ends");
    if (lines)
        doc_set_text(f->doc, out, ed->panes.view->cursor.at);
    doc_set_verb(f->doc, NULL);
    text_drop(&out);
    f->format.ends = ends;
    say(ed, "%s changed to %s", AMOUNT(lines, "line end"), text_format_ends_name(&f->format));
}

static void set_line_ends(Editor *ed, const char *name)
{
    bool crlf = strcmp(name, "crlf") == 0;
    if (!crlf && strcmp(name, "lf") != 0)
        warn(ed, "Line ends are lf or crlf, not “%s”", name);
    else if (edit_allowed(ed))
        convert_ends(ed, ed->panes.view->file, crlf ? ENDS_CRLF : ENDS_LF);
}

static void set_indent(Editor *ed, const char *words)
{
    TextFormat *f = &ed->panes.view->file->format;
    char style[8] = "";
    unsigned width = f->indent;
    int got = sscanf(words, "%7s %u", style, &width);
    if (got == 1 && sscanf(words, "%u", &width) == 1) /* a number alone */
        strcpy(style, f->tabs ? "tabs" : "spaces");
    bool tabs = strcmp(style, "tabs") == 0;
    if (got < 1 || (!tabs && strcmp(style, "spaces") != 0) || width < 1 || width > 16) {
        warn(ed, "Type for example “spaces 4” or “tabs 8”, from 1 to 16");
        return;
    }
    f->tabs = tabs;
    f->indent = width;
    say(ed, "Tab and indenting now use %s %u; lines that are there stay as they are", style, width);
}

static void flip_last_newline(Editor *ed)
{
    OpenFile *f = ed->panes.view->file;
    Text t = doc_text(f->doc);
    size_t len = text_len(t);
    const char *end = text_format_line_end(&f->format);
    if (!edit_allowed(ed) || len == 0)
        return;
    doc_seal(f->doc);
    f->ends_open = text_byte(t, len - 1) == '\n';
    if (!f->ends_open) {
        doc_replace(f->doc, len, 0, end, strlen(end), STEP_WHOLE, ed->panes.view->cursor.at);
        say(ed, "The last line ends with a line end now");
    } else {
        size_t n = len > 1 && text_byte(t, len - 2) == '\r' ? 2 : 1;
        doc_replace(f->doc, len - n, n, NULL, 0, STEP_WHOLE, ed->panes.view->cursor.at);
        say(ed, "The last line has no line end now");
    }
}

static void offer_encodings(const char *args, Offers *out)
{
    for (size_t i = 0; encoding_names[i]; i++)
        if (strncmp(encoding_names[i], args, strlen(args)) == 0)
            offers_add(out, encoding_names[i]);
}

static void offer_ends(const char *args, Offers *out)
{
    offers_add_words(out, "lf|crlf", args);
}

static void offer_indentation(const char *args, Offers *out)
{
    offers_add_words(out, "spaces 2|spaces 4|spaces 8|tabs 4|tabs 8", args);
}

static void offer_kinds(const char *args, Offers *out)
{
    const Kind *k;
    for (size_t i = 0; (k = kind_number(i)) != NULL; i++)
        if (strncmp(k->name, args, strlen(args)) == 0)
            offers_add(out, k->name);
}

static void fill_kinds(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const Kind *k;
    for (size_t i = 0; (k = kind_number(i)) != NULL; i++)
        panel_add(p, (long)i, k->name, k->about, ed->panes.view->file->kind == k ? "now" : NULL);
}

static void set_kind(Editor *ed, const Kind *k)
{
    session_say_kind(ed->session, ed->panes.view->file, k, true);
    say(ed, "%s is now of the kind %s", openfile_name(ed->panes.view->file), k->name);
}

static void kind_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        set_kind(ed, kind_number((size_t)id));
}

static void run_kind(Editor *ed, const Args *args)
{
    const Kind *k = kind_named(args->text);
    if (k) {
        set_kind(ed, k);
        return;
    }
    if (*args->text)
        warn(ed, "There is no kind “%s”; choose one", args->text);
    PanelSpec p = {.title = "Kind of file", .fill = fill_kinds, .chosen = kind_chosen};
    panel_open(ed, &p);
    panel_go_now(ed);
}

static const Command cmd_file_kind = {
    .name = "file-kind",
    .label = "File kind…",
    .letter = 'k',
    .help = "Say what kind of file this is",
    .words = "language syntax",
    .args = "KIND",
    .offer = offer_kinds,
    .flags = CMD_FILE,
    .run = run_kind,
};

static void run_look_only(Editor *ed, const Args *args)
{
    (void)args;
    OpenFile *f = ed->panes.view->file;
    char why[TASK_WORDS_MAX];
    if (reading_unready(f, why)) {
        say(ed, "%s", why);
        return;
    }
    if (f->following) {
        follow_end_of(ed, f);
        f->look_only = true; /* as is flipped below */
    }
    if (!f->look_only && openfile_changed(f)) {
        say(ed, "%s has changes that are not saved; save it first", openfile_name(f));
        return;
    }
    f->look_only = !f->look_only;
    say(ed, f->look_only ? "%s is now look-only: nothing can be changed" : "%s can be changed again",
        openfile_name(f));
}

static const Command cmd_look_only = {
    .name = "look-only",
    .label = "Look only",
    .letter = 'l',
    .help = "Protect this text from changes, or allow them again",
    .words = "read only view protect",
    .flags = CMD_FILE,
    .run = run_look_only,
};

/* ---- choosers ---- */

typedef void (*TakeName)(Editor *ed, const char *name);

static void fill_encodings(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)ctx;
    const OpenFile *f = ed->panes.view->file;
    const char *now = f->encoding.name[0] ? f->encoding.name : "utf-8";
    for (size_t i = 0; encoding_names[i]; i++)
        panel_add(p, (long)i, encoding_names[i], NULL, strcmp(now, encoding_names[i]) == 0 ? "now" : NULL);
    Encoding x;
    if (*filter && encoding_named(filter, &x))
        panel_exact(p, 1000, filter, "known to this system");
}

static void encoding_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    TakeName *take = ctx;
    if (id >= 0)
        (*take)(ed, id == 1000 ? typed : encoding_names[(size_t)id]);
}

static void choose_encoding(Editor *ed, const char *title, TakeName take)
{
    TakeName *ctx = mem_get(sizeof *ctx);
    *ctx = take;
    PanelSpec p = {
        .title = title, .fill = fill_encodings, .chosen = encoding_chosen, .ctx = ctx, .free_ctx = free};
    panel_open(ed, &p);
    panel_go_now(ed);
}

static const char *const line_ends[] = {"lf", "crlf"};

static void fill_ends(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const char *now = text_format_ends_name(&ed->panes.view->file->format);
    for (int i = 0; i < 2; i++)
        panel_add(p, i, line_ends[i], i ? "as on Windows" : "as on Unix",
                  strcmp(now, line_ends[i]) == 0 ? "now" : NULL);
}

static void ends_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    if (id >= 0)
        set_line_ends(ed, line_ends[id]);
}

static void choose_ends(Editor *ed)
{
    PanelSpec p = {.title = "All line ends become", .fill = fill_ends, .chosen = ends_chosen};
    panel_open(ed, &p);
    panel_go_now(ed);
}

static void indent_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    set_indent(ed, answer);
}

static void ask_indentation(Editor *ed)
{
    const TextFormat *f = &ed->panes.view->file->format;
    char now[32];
    snprintf(now, sizeof now, "%s %u", f->tabs ? "tabs" : "spaces", f->indent);
    PromptSpec p = {.label = "Indentation",
                    .initial = now,
                    .select = true,
                    .offer = offer_indentation,
                    .done = indent_given};
    prompt_ask(ed, &p);
}

/* ---- the panel ---- */

static void add(Panel *p, Property which, const char *name, const char *value)
{
    panel_add(p, (long)which, name, value, NULL);
}

/* What is used, and where it comes from or what the lines that are there have instead. */
static void indentation_words(const OpenFile *f, TextFormat there, Bytes *out)
{
    const TextFormat *used = &f->format;
    bool same = used->tabs == there.tabs && used->indent == there.indent;
    bytes_printf(out, "%s %u", used->tabs ? "tabs" : "spaces", used->indent);
    if (f->rules.indentation)
        bytes_add_str(out, ", from .editorconfig");
    if (!there.indented)
        bytes_add_str(out, f->rules.indentation ? "" : ", as is usual");
    else if (same)
        bytes_add_str(out, f->rules.indentation ? "" : ", as the text is written");
    else
        bytes_printf(out, "; the text has %s %u", there.tabs ? "tabs" : "spaces", there.indent);
}

static void fill_properties(Editor *ed, Panel *p, const char *filter, void *ctx)
{
    (void)filter, (void)ctx;
    const OpenFile *f = ed->panes.view->file;
    Text t = doc_text(f->doc);
    char words[160], size[WORDS_MAX];
    const char *asked = "";
    add(p, P_KIND, "Kind", f->kind->name);
    if (f->rules.charset && strcmp(f->rules.encoding.name, f->encoding.name) != 0)
        asked = ENCODING_LABEL_OF(&f->rules.encoding, true);
    char *rule = mem_string(asked);
    snprintf(words, sizeof words, "%s%s%s", ENCODING_LABEL_OF(&f->encoding, utf8_now(f)),
             f->encoding.guessed ? " a guess" : "", f->format_changed ? ", from the next save on" : "");
    Bytes value = {0};
    bytes_printf(&value, "%s%s%s", words, *rule ? "; .editorconfig asks for " : "", rule);
    free(rule);
    add(p, P_ENCODING, "Encoding to save in", value.at);
    if (f->path)
        add(p, P_READ_AS, "Read the file again as", "another encoding, when the letters look wrong");
    bool other = f->rules.line_ends && f->rules.format.ends != f->format.ends;
    snprintf(words, sizeof words, "%s%s%s", text_format_ends_name(&f->format),
             other ? "; .editorconfig asks for " : "", other ? text_format_ends_name(&f->rules.format) : "");
    add(p, P_ENDS, "Line ends", words);
    size_t len = text_len(t);
    add(p, P_LAST, "Last line",
        len == 0                        ? "the text is empty"
        : text_byte(t, len - 1) == '\n' ? "has a line end"
                                        : "has no line end");
    bytes_clear(&value);
    indentation_words(f, text_format_of(t), &value);
    add(p, P_INDENT, "Indentation", value.at);
    add(p, P_LOOK, "Look only", f->look_only ? "yes" : "no");
    bytes_clear(&value);
    if (f->disk.exists)
        disk_add_rights(&f->disk, filesystem_can(f->path, FILES_ARE_HERE), &value);
    add(p, P_RIGHTS, "Permissions", f->disk.exists ? value.at : "not saved yet");
    words_size(len, size);
    snprintf(words, sizeof words, "%s, %s", AMOUNT(text_line_count(t), "line"), size);
    add(p, P_SIZE, "Size", words);
    add(p, P_PATH, "Path", f->path ? f->path : "no name yet");
    bytes_free(&value);
}

static void property_chosen(Editor *ed, long id, const char *typed, void *ctx)
{
    (void)typed, (void)ctx;
    switch ((Property)id) {
    case P_KIND:
        command_run_line(ed, "file-kind", 1, false);
        break;
    case P_ENCODING:
        choose_encoding(ed, "Encoding to save in", set_encoding);
        break;
    case P_READ_AS:
        choose_encoding(ed, "Read the file again as", read_as);
        break;
    case P_ENDS:
        choose_ends(ed);
        break;
    case P_LAST:
        flip_last_newline(ed);
        break;
    case P_INDENT:
        ask_indentation(ed);
        break;
    case P_LOOK:
        command_run_line(ed, "look-only", 1, false);
        break;
    case P_PATH:
        command_run_line(ed, "rename", 1, false);
        break;
    case P_RIGHTS:
    case P_SIZE:
        say(ed, "That is only shown here");
        break;
    }
}

static void run_properties(Editor *ed, const Args *args)
{
    (void)args;
    PanelSpec p = {.title = "Properties", .fill = fill_properties, .chosen = property_chosen};
    panel_open(ed, &p);
}

static const Command cmd_properties = {
    .name = "properties",
    .label = "Properties",
    .letter = 'p',
    .help = "Show and change the kind, encoding, line ends and indentation of this text",
    .words = "information details rights permissions",
    .flags = CMD_FILE,
    .run = run_properties,
};

static void run_encoding(Editor *ed, const Args *args)
{
    if (*args->text)
        set_encoding(ed, args->text);
    else
        choose_encoding(ed, "Encoding to save in", set_encoding);
}

static const Command cmd_encoding = {
    .name = "encoding",
    .label = "Encoding…",
    .letter = 'e',
    .help = "Choose the encoding in which the next save writes this text",
    .words = "charset utf latin",
    .args = "NAME",
    .offer = offer_encodings,
    .flags = CMD_FILE,
    .run = run_encoding,
};

static void run_read_as(Editor *ed, const Args *args)
{
    if (*args->text)
        read_as(ed, args->text);
    else
        choose_encoding(ed, "Read the file again as", read_as);
}

static const Command cmd_read_as = {
    .name = "read-as",
    .label = "Read again as…",
    .letter = 'a',
    .help = "Read the file again, taking its bytes to be in another encoding",
    .args = "NAME",
    .offer = offer_encodings,
    .flags = CMD_FILE,
    .run = run_read_as,
};

static void run_line_ends(Editor *ed, const Args *args)
{
    if (*args->text)
        set_line_ends(ed, args->text);
    else
        choose_ends(ed);
}

static const Command cmd_line_ends = {
    .name = "line-ends",
    .label = "Line ends…",
    .letter = 'd',
    .help = "Make all line ends lf or crlf",
    .words = "newline crlf dos unix windows",
    .args = "lf|crlf",
    .offer = offer_ends,
    .flags = CMD_CHANGES,
    .run = run_line_ends,
};

static void run_indentation(Editor *ed, const Args *args)
{
    if (*args->text)
        set_indent(ed, args->text);
    else
        ask_indentation(ed);
}

static const Command cmd_indentation = {
    .name = "indentation",
    .label = "Indentation…",
    .letter = 'i',
    .help = "Say how Tab and indenting work in this text: tabs or spaces, and how many",
    .args = "spaces|tabs NUMBER",
    .offer = offer_indentation,
    .flags = CMD_FILE,
    .run = run_indentation,
};

const Command *const properties_commands[] = {
    &cmd_properties, &cmd_look_only, &cmd_file_kind,   &cmd_encoding,
    &cmd_read_as,    &cmd_line_ends, &cmd_indentation, NULL,
};

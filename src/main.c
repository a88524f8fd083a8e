/* The command line. */
#include "base/mem.h"
#include "base/bytes.h"
#include "base/data.h"
#include "base/folder.h"
#include "base/for_root.h"
#include "base/system.h"
#include "base/trusted.h"
#include "commands/file/opening.h"
#include "commands/file/recovering.h"
#include "commands/file/trial_save.h"
#include "commands/help/key_test.h"
#include "commands/help/lesson.h"
#include "commands/help/practice.h"
#include "commands/search/folder_find.h"
#include "commands/view/follow.h"
#include "files/location.h"
#include "files/privileged.h"
#include "hosts/hosts.h"
#include "kept/earlier.h"
#include "kept/trial.h"
#include "kept/trial_guard.h"
#include "printed/options.h"
#include "printed/printed.h"
#include "screen/loop.h"
#include "script/batch.h"
#include "script/look_over.h"
#include "script/own_data.h"
#include "script/script.h"
#include "session/reading.h"
#include "session/root_check.h"
#include "session/session_files.h"
#include "session/session_memory.h"
#include "view/scroll.h"
#include "view/wanted.h"

#include <ctype.h>
#include <errno.h>
#include <fcntl.h>
#include <getopt.h>
#include <locale.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { STATUS_FAILED = 1, STATUS_USAGE = 2 };

typedef struct Options {
    bool look, follow, demo, plain, lesson, keys, dry, recover, strict, check, kind_of, why;
    const char *commands; /* of --do, or NULL */
    const char *script;   /* the file of --script, or NULL */
    const char *jobs;
    const char *find;  /* words to be found in folders, or NULL */
    const char *below; /* the folder of --below, or NULL */
    const char *kind_name;
    const char *check_path; /* of --check-from-pipe, or NULL */
    const char *try_path;   /* of --trial-from-pipe, or NULL */
    const char *printed;    /* of --print, or NULL */
    const Kind *kind;
} Options;

/* A place to go to, as given on the command line; lines and columns from 1, 0: none. */
typedef struct Place {
    size_t line, column;
} Place;

/* Reads "LINE" or "LINE:COLUMN"; false when there is something else. */
static bool read_place(const char *s, Place *p)
{
    *p = (Place){0};
    char *end;
    if (!isdigit((unsigned char)*s))
        return false;
    p->line = strtoul(s, &end, 10);
    if (*end == ':' && isdigit((unsigned char)end[1]))
        p->column = strtoul(end + 1, &end, 10);
    if (*end == ':' && (end[1] == 0 || end[1] == ' ')) /* compilers end a place so, and say why */
        return true;
    return *end == 0;
}

/* Names in it may hold anything. */
static void complain(const char *text)
{
    fputs("squill: ", stderr);
    glyph_print(stderr, text, strlen(text));
    fputs("\n", stderr);
}

/* "FILE:LINE[:COLUMN]", unless a file has that very name. Cuts the place off; of several ways to read it the
 * one with the longest name that exists. */
static void split_place(char *arg, Place *p)
{
    char *cut = NULL;
    if (disk_exists(arg))
        return;
    char *from = arg;
    if (location_is_remote(arg)) { /* a colon before the path is for the port */
        from = strchr(arg + strlen("ssh://"), '/');
        if (!from)
            return;
    }
    for (char *colon = strchr(from, ':'); colon; colon = strchr(colon + 1, ':')) {
        Place found;
        if (colon == arg || !read_place(colon + 1, &found))
            continue;
        *colon = 0;
        bool exists = disk_exists(arg) || from != arg;
        *colon = ':';
        if (cut && !exists)
            continue;
        cut = colon;
        *p = found;
    }
    if (cut)
        *cut = 0;
}

static void go_to(Editor *ed, Place p)
{
    if (!p.line)
        return;
    wanted_line(&ed->panes, p.line - 1, p.column ? p.column - 1 : 0);
    scroll_centre(ed->panes.view);
}

static bool open_stdin(Editor *ed, bool follow, Err *e)
{
    if (isatty(STDIN_FILENO))
        return err_set(e, "- stands for standard input, but that is the keyboard; try: command | squill -");
    int fd = fcntl(STDIN_FILENO, F_DUPFD_CLOEXEC, 0);
    if (fd < 0)
        return err_set(e, "Cannot read standard input: %s", err_os(errno));
    if (follow) {
        follow_input(ed, fd);
        return true;
    }
    OpenFile *f = session_add(ed->session, (Text){0});
    f->piped = true;
    reading_begin(ed->session, f, loader_stream(fd, UNMEASURED_MOST, "standard input"));
    editor_show(ed, f);
    return true;
}

/* Opens what the arguments name; what cannot be opened is reported, and the rest still opens. */
static bool open_all(Editor *ed, char **args, int n, const Options *o)
{
    Place next = {0};
    bool all = true;
    const char *folder = NULL;
    OpenFile *first = NULL;
    for (int i = 0; i < n; i++) {
        Err e = {""};
        Place p = next;
        if (args[i][0] == '+' && read_place(args[i] + 1, &next) && i + 1 < n)
            continue;
        next = (Place){0};
        if (opening_is_folder(args[i])) { /* a list to walk */
            folder = args[i];
            continue;
        }
        bool ok;
        if (args[i][0] == '+' && (!args[i][1] || args[i][1] == '/') && !disk_exists(args[i])) {
            ok = err_set(&e,
                         "%s is not understood: before a name stands +LINE or +LINE:COLUMN; ./%s is a file",
                         args[i], args[i]);
        } else if (strcmp(args[i], "-") == 0) {
            ok = open_stdin(ed, o->follow, &e);
        } else {
            split_place(args[i], &p);
            ok = editor_open(ed, args[i], &e);
        }
        if (!ok) {
            complain(e.text);
            warn(ed, "%s", e.text);
            all = false;
            continue;
        }
        ed->panes.view->file->look_only = ed->panes.view->file->look_only || o->look;
        if (o->follow && !ed->panes.view->file->following && !follow_file(ed, ed->panes.view->file, &e))
            warn(ed, "%s", e.text);
        if (o->kind)
            session_say_kind(ed->session, ed->panes.view->file, o->kind, false);
        go_to(ed, p);
        if (!first)
            first = ed->panes.view->file;
    }
    if (first && first != ed->panes.view->file)
        editor_show(ed, first);
    if (folder && !first)
        editor_show(ed, session_add(ed->session, (Text){0}));
    if (folder)
        opening_go(ed, folder);
    return first || folder || (all && n == 0);
}

/* Finds words in the folders and files that the arguments name, or in the present one. */
static bool find_in(Editor *ed, const char *words, char **args, int n, Err *e)
{
    char *here = ".", **named = n ? args : &here, **full = mem_get((size_t)(n + 1) * sizeof *full);
    size_t count = n ? (size_t)n : 1, i = 0;
    bool ok = true;
    Bytes patterns = {0};
    editor_show(ed, session_add(ed->session, (Text){0}));
    for (; ok && i < count; i++) {
        char *names;
        folder_find_split(named[i], &full[i], &names);
        ok = !location_is_remote(named[i]) || err_set(e, "--find works on this machine's folders only");
        ok = ok && (disk_exists(full[i]) || err_set(e, "There is no folder %s", named[i]));
        bytes_printf(&patterns, "%s%s", *names && patterns.len ? "," : "", names);
        free(names);
    }
    ok = ok && folder_find_start(ed, words, NULL, full, count, bytes_str(&patterns), e);
    bytes_free(&patterns);
    while (i > 0)
        free(full[--i]);
    free(full);
    return ok;
}

/* Goes to a new folder with the sample files. */
static bool make_demo(Editor *ed, Err *e)
{
    if (!practice_make(ed->session, e))
        return false;
    if (chdir(ed->session->practice_folder) != 0)
        return err_set(e, "Cannot go to %s", ed->session->practice_folder);
    static const char *const shown[] = {"welcome.txt", "kiosk.ini"};
    for (size_t i = sizeof shown / sizeof *shown; i-- > 0;)
        if (!editor_open(ed, shown[i], e))
            return false;
    say(ed, "These are copies in %s; nothing can be spoilt here", ed->session->practice_folder);
    return true;
}

/* That exit status, unless what was printed could not be written. */
static int printed_whole(int status)
{
    if (fflush(stdout) == 0 && !ferror(stdout))
        return status;
    fprintf(stderr, "squill: what was to be printed could not be written: %s\n", err_os(errno));
    return STATUS_FAILED;
}

/* For a pipe: a line for each, without a screen. */
static int print_recoverable(void)
{
    Editor *ed = app_new();
    Bytes out = {0};
    script_load_settings(&ed->config);
    Err e;
    bool ok = recovering_print(ed, &out, &e);
    glyph_print(stdout, bytes_str(&out), out.len);
    bytes_free(&out);
    app_free(ed);
    if (!ok)
        complain(e.text);
    return printed_whole(ok ? 0 : STATUS_FAILED);
}

static int run(char **args, int n, const Options *o)
{
    Err e = {""}, lost = {""};
    Editor *ed = app_new();
    int status = STATUS_USAGE;
    ed->session->rules.plain = o->plain;
    script_describe(ed);
    if (!o->plain)
        script_load(ed);
    bool ready = o->demo || o->lesson ? make_demo(ed, &e)
                 : o->find            ? find_in(ed, o->find, args, n, &e)
                                      : open_all(ed, args, n, o);
    if (ready && ed->session->n_files == 0)
        editor_show(ed, session_add(ed->session, (Text){0}));
    if (ready && o->lesson)
        lesson_start(ed);
    if (ready && o->keys)
        key_test_open(ed);
    if (ready && o->recover)
        recovering_list(ed);
    if (ready)
        trial_save_tell_results(ed);
    if (ready)
        status = loop_run(ed, &e);
    if (!app_end(ed, &lost))
        complain(lost.text);
    script_free(ed);
    app_free(ed);
    hosts_end();
    if (e.text[0])
        complain(e.text);
    return status;
}

static void complain_of_option(const char *word)
{
    Bytes text = {0};
    bytes_printf(&text, "%s is no option, or needs something after it; squill --help lists them", word);
    complain(text.at);
    bytes_free(&text);
}

static bool keep_earlier(const char *path, Text fresh, void *ctx, Err *e)
{
    const Settings *set = ctx;
    Err ignored; /* what is to be saved counts more */
    (void)fresh, (void)e;
    if (set->keep_earlier)
        earlier_keep(path, set->keep_private_undo, &ignored);
    return true;
}

/* As root, on behalf of somebody who is not: how many backups are kept, and where, is root's to say. */
static int help_privileged(const char *path, const char *seconds, const char *command)
{
    Editor *ed = app_new();
    script_load_settings(&ed->config);
    Settings *set = &ed->config.settings;
    RootRules rules = {(unsigned)set->backup_keep, set->backup_folder, keep_earlier, set};
    int status = seconds ? trial_helper(path, seconds, command, &rules) : privileged_helper(path, &rules);
    app_free(ed);
    return status;
}

/* As root, with a guard that is root, too: it runs the command that stands there, with nothing of the
 * person's environment. */
static int help_to_try(const char *path, char *const *words)
{
    Bytes command = {0};
    if (!words[0] || !words[1]) {
        complain("--trial-from-pipe is for Steady Quill itself to call");
        return STATUS_USAGE;
    }
    for (size_t i = 1; words[i]; i++)
        bytes_printf(&command, "%s%s", i > 1 ? " " : "", words[i]);
    for_root_environment();
    int status = help_privileged(path, words[0], bytes_str(&command));
    bytes_free(&command);
    return status;
}

/* As root, too: only what root's settings and kinds say. */
static int help_to_check(const Options *o)
{
    Editor *ed = app_new();
    script_load_settings(&ed->config);
    ed->session->rules.plain = ed->session->rules.batch = true;
    own_data_load();
    const Kind *kind = o->kind_name ? kind_named(o->kind_name) : NULL;
    int status = root_check_helper(ed->session, o->check_path, kind);
    app_free(ed);
    return status;
}

/* One of a person's own, too. False when there is none of that name. */
static bool find_kind(Options *o)
{
    if (o->kind_name && !o->plain)
        own_data_load();
    o->kind = o->kind_name ? kind_named(o->kind_name) : NULL;
    if (o->kind || !o->kind_name)
        return true;
    Bytes text = {0};
    bytes_printf(&text, "there is no kind “%s”; there are", o->kind_name);
    for (size_t i = 0; kind_number(i); i++)
        bytes_printf(&text, "%s %s", i ? "," : "", kind_number(i)->name);
    complain(text.at);
    bytes_free(&text);
    return false;
}

static void print_help(void)
{
    Bytes out = {0};
    options_help(&out);
    fputs(bytes_str(&out), stdout);
    bytes_free(&out);
}

/* Lists have what is a person's own, pages only what everybody has. */
static int print(const Options *o, char *const *names)
{
    Err e = {""};
    Bytes out = {0};
    Editor *ed = app_new();
    bool list = strchr(o->printed, '.') == NULL;
    script_describe(ed);
    if (list && !o->plain)
        own_data_load();
    bool ok = printed_print(&ed->config, o->printed, names, &out, &e);
    fwrite(bytes_str(&out), 1, out.len, stdout);
    if (!ok)
        complain(e.text);
    bytes_free(&out);
    app_free(ed);
    return printed_whole(ok ? 0 : STATUS_USAGE);
}

/* The options as getopt wants them; a short one is allowed, too. */
static void fill_options(struct option *longs, char *letters)
{
    size_t n = 0;
    *letters++ = '+'; /* up to the first file name */
    for (const Option *o = options_table; o->name; o++) {
        longs[n++] = (struct option){o->name, o->value ? required_argument : no_argument, NULL, o->code};
        if (o->letter)
            *letters++ = o->code;
        if (o->letter && o->value)
            *letters++ = ':';
    }
    longs[n] = (struct option){0};
    *letters = 0;
}

/* An option among the names, which is no file: the option was meant. */
static bool misplaced_option(char *const *names)
{
    for (; *names; names++)
        for (const Option *o = options_table; o->name; o++) {
            const char *word = *names;
            bool is_long = strncmp(word, "--", 2) == 0 && strcmp(word + 2, o->name) == 0;
            bool is_short = o->letter && word[0] == '-' && word[1] == o->code && !word[2];
            if ((!is_long && !is_short) || disk_exists(word))
                continue;
            Bytes text = {0};
            bytes_printf(&text, "%s is an option: it stands before the first file name; ./%s would be a file",
                         word, word);
            complain(text.at);
            bytes_free(&text);
            return true;
        }
    return false;
}

/* Takes in one option. The exit status when that was all there is to do, -1 otherwise. */
static int take_option(int letter, Options *o)
{
    bool *const flags[] = {['l'] = &o->look,   ['f'] = &o->follow, ['d'] = &o->demo,    ['p'] = &o->plain,
                           ['n'] = &o->dry,    ['L'] = &o->lesson, ['K'] = &o->keys,    ['R'] = &o->recover,
                           ['S'] = &o->strict, ['C'] = &o->check,  ['W'] = &o->kind_of, ['v'] = &o->why};
    switch (letter) {
    case 'D':
        o->commands = optarg;
        return -1;
    case 's':
        o->script = optarg;
        return -1;
    case 'j':
        o->jobs = optarg;
        return -1;
    case 'k':
        o->kind_name = optarg;
        return -1;
    case 'F':
        o->find = optarg;
        return -1;
    case 'B':
        o->below = optarg;
        return -1;
    case 'P':
        return help_privileged(optarg, NULL, NULL);
    case 'T':
        o->try_path = optarg;
        return -1;
    case 'H':
        o->check_path = optarg;
        return -1;
    case 'O':
        o->printed = optarg;
        return -1;
    case 'h':
        print_help();
        return 0;
    case 'V':
        puts("Steady Quill " SQUILL_VERSION "\nBuilt with: " SQUILL_BUILT_WITH
             "\nBuilt without: " SQUILL_BUILT_WITHOUT);
        return 0;
    case '?':
        return STATUS_USAGE;
    default:
        *flags[letter] = true;
        return -1;
    }
}

static size_t read_jobs(const Options *o, Err *e)
{
    enum { JOBS_MOST = 16 };
    char *end = NULL;
    size_t jobs = o->jobs ? strtoul(o->jobs, &end, 10) : 0;
    if (o->jobs && (*end || jobs < 1 || jobs > JOBS_MOST))
        err_set(e, "--jobs is followed by a number from 1 to %d", JOBS_MOST);
    return jobs;
}

static int run_look_over(char **files, int n, const Options *o)
{
    Err e = {""};
    LookOver w = {
        .check = o->check, .why = o->why, .kind = o->kind, .plain = o->plain, .jobs = read_jobs(o, &e)};
    if (n == 0)
        err_set(&e, "%s needs the names of files", o->check ? "--check" : "--kind-of");
    else if (o->check && (o->kind_of || o->why))
        err_set(&e, "--check and %s do not go together", o->kind_of ? "--kind-of" : "--why");
    if (!e.text[0])
        return look_over(files, n, &w);
    complain(e.text);
    return STATUS_USAGE;
}

/* Without a screen. */
static int run_batch(char **files, int n, const Options *o)
{
    BatchWish w = {.commands = o->commands,
                   .kind = o->kind,
                   .dry = o->dry,
                   .strict = o->strict,
                   .plain = o->plain,
                   .look = o->look,
                   .below = o->below,
                   .script_name = o->script};
    Err e = {""}, why = {""};
    char *script = NULL;
    w.jobs = read_jobs(o, &e);
    if (!e.text[0] && o->commands && o->script)
        err_set(&e, "--do and --script do not go together; a script can run commands by do_command");
    else if (!e.text[0] && n == 0 && !o->below)
        err_set(&e, "%s needs the names of files", o->script ? "--script" : "--do");
    else if (!e.text[0] && o->script && !(script = trusted_read(o->script, &w.script_length, &why)))
        err_set(&e, "%s: %s", o->script, why.text[0] ? why.text : "there is no such file");
    if (e.text[0]) {
        complain(e.text);
        return STATUS_USAGE;
    }
    w.script = script;
    int status = batch_run(files, n, &w);
    free(script);
    return status;
}

static const char *value_of(const char *name)
{
    const char *value = getenv(name);
    return value ? value : "";
}

/* What letters are; words, numbers and months stay as they are written here. Machines without a locale, or
 * with the name of one that is not installed, show UTF-8 too. */
static void choose_locale(void)
{
    static const char *const names[] = {"LC_ALL", "LC_CTYPE", "LANG"};
    const char *wanted = "";
    for (size_t i = 0; !*wanted && i < sizeof names / sizeof *names; i++)
        wanted = value_of(names[i]);
    bool utf8 = !*wanted || strcasestr(wanted, "utf-8") || strcasestr(wanted, "utf8");
    if ((!setlocale(LC_CTYPE, "") || !*wanted) && utf8)
        setlocale(LC_CTYPE, "C.UTF-8");
}

int main(int argc, char **argv)
{
    if (argc == 3 && strcmp(argv[1], TRIAL_ROLE) == 0) /* nobody gives it by hand */
        return trial_guard(argv[2]);
    enum { OPTIONS_MOST = 32 };
    struct option longs[OPTIONS_MOST];
    char letters[2 * OPTIONS_MOST];
    fill_options(longs, letters);
    system_umask(); /* before there are threads */
    choose_locale();
    signal(SIGPIPE, SIG_IGN); /* a pipe whose reader is gone is an error like others, */
    signal(SIGXFSZ, SIG_IGN); /* and so is a file that may not become so large */
    hosts_begin();
    Options o = {0};
    opterr = 0;
    for (int letter; (letter = getopt_long(argc, argv, letters, longs, NULL)) != -1;) {
        int status = take_option(letter, &o);
        if (letter == '?')
            complain_of_option(argv[optind - 1]);
        if (status >= 0)
            return status == 0 ? printed_whole(0) : status;
    }
    if (o.try_path)
        return help_to_try(o.try_path, argv + optind);
    if (o.check_path)
        return help_to_check(&o);
    if (!find_kind(&o))
        return STATUS_USAGE;
    bool ended = optind > 1 && strcmp(argv[optind - 1], "--") == 0; /* whatever follows is a file */
    if (!o.printed && !ended && misplaced_option(argv + optind))
        return STATUS_USAGE;
    if (o.printed)
        return print(&o, argv + optind);
    const char *lone = o.find && (o.commands || o.script)
                           ? "--find shows a list on the screen; it does not go with --do or --script"
                       : o.below && !o.commands && !o.script ? "--below goes with --do or --script"
                                                             : NULL;
    if (lone) {
        complain(lone);
        return STATUS_USAGE;
    }
    if (o.check || o.kind_of)
        return printed_whole(run_look_over(argv + optind, argc - optind, &o));
    if (o.commands || o.script)
        return printed_whole(run_batch(argv + optind, argc - optind, &o));
    if (o.dry || o.strict || o.jobs) {
        fprintf(stderr, "squill: %s goes with --do or --script\n",
                o.dry      ? "--dry-run"
                : o.strict ? "--strict"
                           : "--jobs");
        return STATUS_USAGE;
    }
    if (o.recover && !isatty(STDOUT_FILENO))
        return print_recoverable();
    if (!isatty(STDOUT_FILENO)) {
        bool far = getenv("SSH_CONNECTION") && !isatty(STDIN_FILENO);
        fprintf(stderr, "squill: standard output is not a terminal, so there is nowhere to show the text%s\n",
                far ? "; with ssh, ask for one: ssh -t HOST squill FILE" : "");
        return STATUS_USAGE;
    }
    /* Without names, what comes from a pipe is what is meant; with names, a loop or xargs called us. */
    static char *piped[] = {"-"};
    if (optind == argc && !isatty(STDIN_FILENO) && !o.demo && !o.lesson && !o.keys && !o.recover)
        return run(piped, 1, &o);
    return run(argv + optind, argc - optind, &o);
}

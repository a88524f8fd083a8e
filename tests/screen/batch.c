/* Commands without a screen: what they change, what they leave, how they end. */
#include "check.h"
#include "drive.h"
#include "base/bytes.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

/* Runs a line of the shell in the test's folder, $S being the program; its output is the file "said". */
/* With the program as $S. */
static int run(const char *line)
{
    setenv("S", SQUILL, 1);
    return check_shell_said(line);
}

#ifdef __SANITIZE_ADDRESS__ /* whose own memory is beyond any limit */
#define LITTLE_MEMORY ""
#else
#define LITTLE_MEMORY "ulimit -v 2000000; "
#endif

TEST(what_is_done_to_files)
{
    static const struct {
        const char *name, *line;
        int status;
        const char *said, *holds; /* what a.txt holds afterwards */
    } cases[] = {
        {"a change", "$S --do 'replace-all one 1; save' a.txt", 0, "Saved a.txt", "1\ntwo\n"},
        {"no change", "$S --do 'save' a.txt", 0, "stays as it is", "one\ntwo\n"},
        {"a dry run", "$S --dry-run --do 'replace-all one 1; save' a.txt", 0, "+1", "one\ntwo\n"},
        {"what is wrong in settings is said once",
         "mkdir -p .config/steady-quill; echo 'themee = 1' >.config/steady-quill/settings.lua; "
         "$S --do 'save' a.txt a.txt 2>&1 | grep -c themee; $S --plain --do 'save' a.txt 2>&1 | grep themee; "
         "rm -r .config",
         0, "1\n", "one\ntwo\n"},
        {"a dry run renames nothing", "$S --dry-run --do 'rename b.txt' a.txt; [ ! -e b.txt ]", 0,
         "would be renamed", "one\ntwo\n"},
        {"a dry run runs nothing", "$S --dry-run --do 'run-command touch harm' a.txt; [ ! -e harm ]", 0,
         "was not run", "one\ntwo\n"},
        {"a dry run saves as nothing", "$S --dry-run --do 'save-as b.txt' a.txt; [ ! -e b.txt ]", 0,
         "would be saved as", "one\ntwo\n"},
        {"a dry run in another encoding", "$S --dry-run --do 'encoding utf-16le; save-every-file' a.txt", 0,
         "would be saved", "one\ntwo\n"},
        {"looking writes nothing", "$S --look --do 'replace-all one 1; save' a.txt", 1, "look only",
         "one\ntwo\n"},
        {"looking saves nothing", "$S --look --do save a.txt", 1, "look only", "one\ntwo\n"},
        {"a command over its time",
         "mkdir -p .config/steady-quill; echo 'command_seconds = 1' >.config/steady-quill/settings.lua;"
         " $S --do 'run-command sleep 20; save' a.txt",
         1, "took more than 1 s", "one\ntwo\n"},
        {"another one came in between",
         "$S --do 'replace-all one 1; run-command echo three >>a.txt; save' a.txt", 1,
         "changed on disk meanwhile", "one\ntwo\nthree\n"},
        {"a name that looks like an option",
         "touch -- '--do=run-command touch harm'; timeout 10 $S --do save a.txt --do=*; [ ! -e harm ]", 0,
         "--do=run-command touch harm: stays as it is", "one\ntwo\n"},
        {"settings that are a pipe",
         "mkdir -p .config/steady-quill; mkfifo .config/steady-quill/settings.lua;"
         " timeout 10 $S --do save a.txt",
         0, "stays as it is", "one\ntwo\n"},
        {"settings without end",
         "mkdir -p .config/steady-quill; yes 'while true do end' | head -n 20000"
         " >.config/steady-quill/settings.lua; timeout 10 $S --do save a.txt",
         0, "stays as it is", "one\ntwo\n"},
        {"settings that want memory",
         "mkdir -p .config/steady-quill; { echo 'theme = (function() local a = \"x\""
         " while true do a = a .. a end end)()'; echo 'tab_width = 3'; }"
         " >.config/steady-quill/settings.lua; " LITTLE_MEMORY "timeout 10 $S --do save a.txt",
         0, "stays as it is", "one\ntwo\n"},
        {"text put in",
         "$S --do 'find two; append-line \"a \\\"b\\\"\"; go-top; insert \"x\\ty\\n\"; save' a.txt", 0,
         "Saved a.txt: 4 lines", "x\ty\none\ntwo\na \"b\"\n"},
        {"literal text", "$S --do \"insert don't \\\\n; save\" a.txt", 0, "Saved", "don't \\none\ntwo\n"},
        {"text typed", "$S --do 'mark-word; type \" 1\\n2\"; save' a.txt", 0, "Saved", " 1\n 2\ntwo\n"},
        {"a semicolon in quotes", "$S --do 'insert \"a;b \"; save' a.txt", 0, "Saved", "a;b one\ntwo\n"},
        {"lines deleted", "$S --do 'delete-lines; save' a.txt", 0, "Deleted 1 line;", "two\n"},
        {"marked lines deleted", "$S --do 'mark-all; delete-lines; save' a.txt", 0, "Deleted 2 lines;", ""},
        {"a number that is none", "$S --do 'delete-lines few; save' a.txt", 1, "not “few”", "one\ntwo\n"},
        {"commands on lines", "$S --do 'go-line 2\ninsert x\n\nsave' a.txt", 0, "Saved", "one\nxtwo\n"},
        {"too much behind a name", "$S --do 'save now' a.txt", 1, "save takes nothing after its name",
         "one\ntwo\n"},
        {"too many words", "$S --do 'replace-all one two three; save' a.txt", 1, "“three” is too much",
         "one\ntwo\n"},
        {"text behind the quotes", "$S --do 'insert \"a\" b; save' a.txt", 1, "quotation marks",
         "one\ntwo\n"},
        {"not found", "$S --do 'find six; insert x; save' a.txt", 0, "“six” is not in the text",
         "xone\ntwo\n"},
        {"not found is a failure", "$S --strict --do 'find six; insert x; save' a.txt", 1,
         "“six” is not in the text", "one\ntwo\n"},
        {"nothing replaced", "$S --do 'replace-all six 6; save' a.txt", 0, "Nothing was replaced",
         "one\ntwo\n"},
        {"nothing replaced is a failure", "$S --strict --do 'replace-all six 6; save' a.txt", 1,
         "Nothing was replaced", "one\ntwo\n"},
        {"a filter", "printf 'one\\n' | $S --do 'replace-all one 1; save' - >b; cmp b - <<E\n1\nE", 0, "",
         "one\ntwo\n"},
        {"a filter in its encoding", "printf 'caf\\351\\n' | $S --do 'insert é' - | cmp - c", 0, "",
         "one\ntwo\n"},
        {"a filter that fails writes nothing",
         "printf one | $S --strict --do 'replace-all x y' - >b; [ ! -s b ]", 0,
         "standard input: failed: Nothing was replaced", "one\ntwo\n"},
        {"a kind by name", "$S --kind yaml --do 'save' a.txt", 0, "stays as it is", "one\ntwo\n"},
        {"a kind that is none", "$S -k fares --do 'save' a.txt", 2, "there is no kind “fares”", "one\ntwo\n"},
        {"a script", "echo \"replace('one', 1)\" >s.lua; $S --script s.lua a.txt", 0, "Saved a.txt: 2 lines",
         "1\ntwo\n"},
        {"a script that changes nothing", "echo 'say(lines())' >s.lua; $S --script s.lua a.txt", 0,
         "a.txt: 2\n", "one\ntwo\n"},
        {"a script in a dry run", "echo \"replace('one', 1)\" >s.lua; $S --dry-run --script s.lua a.txt", 0,
         "+1", "one\ntwo\n"},
        {"a script that runs a program in a dry run",
         "echo \"run({'touch', 'harm'})\" >s.lua; $S --dry-run --script s.lua a.txt; [ ! -e harm ] && exit 1",
         1, "no program is run in a dry run", "one\ntwo\n"},
        {"a script that runs a program",
         "echo \"replace_text((run({'sort', '-r'}, text())))\" >s.lua;"
         " $S --script s.lua a.txt",
         0, "Saved", "two\none\n"},
        {"a script that refuses",
         "echo \"insert('x') refuse('closed on Sundays')\" >s.lua; $S --script s.lua a.txt", 1,
         "a.txt: failed: closed on Sundays", "one\ntwo\n"},
        {"a script that fails", "printf 'insert(1)\nline(9)' >s.lua; $S --script s.lua a.txt", 1,
         "a.txt: failed: s.lua, line 2: there is no line 9; the text has 2", "one\ntwo\n"},
        {"a script that warns", "echo \"insert('x') warn('too late')\" >s.lua; $S --script s.lua a.txt", 1,
         "failed: too late", "one\ntwo\n"},
        {"a script with a mistake", "echo 'insert(' >s.lua; $S --script s.lua a.txt", 1,
         "failed: s.lua, line ", "one\ntwo\n"},
        {"a script that asks", "echo \"ask('Name')\" >s.lua; $S --script s.lua a.txt", 1, "nobody to ask",
         "one\ntwo\n"},
        {"a script that never ends", "echo 'while true do end' >s.lua; timeout 60 $S --script s.lua a.txt", 1,
         "it does not come to an end", "one\ntwo\n"},
        {"a script that is not there", "$S --script s.lua a.txt", 2, "s.lua: there is no such file",
         "one\ntwo\n"},
        {"a script with commands",
         "echo \"do_command('sort-lines') do_command('go-bottom') insert('x')\" >s.lua;"
         " $S --script s.lua a.txt",
         0, "Saved", "one\ntwo\nx"},
        {"a script as a filter",
         "echo \"replace('one', 1)\" >s.lua; echo one | $S --script s.lua - >b; grep -qx 1 b", 0, "",
         "one\ntwo\n"},
        {"both", "echo >s.lua; $S --do save --script s.lua a.txt", 2, "do not go together", "one\ntwo\n"},
        {"one's own command",
         "mkdir -p .config/steady-quill; echo \"command { name = 'stamp', run = function () insert('x') end "
         "}\""
         " >.config/steady-quill/start.lua; $S --do 'stamp; save' a.txt",
         0, "Saved", "xone\ntwo\n"},
        {"not with --plain",
         "mkdir -p .config/steady-quill; echo \"command { name = 'stamp', run = function () insert('x') end "
         "}\""
         " >.config/steady-quill/start.lua; $S --plain --do 'stamp; save' a.txt",
         1, "There is no command “stamp”", "one\ntwo\n"},
        {"saving refused",
         "mkdir -p .config/steady-quill; echo \"when('saving', function () refuse('frozen') end)\""
         " >.config/steady-quill/start.lua; $S --do 'insert x; save' a.txt",
         1, "was not saved: frozen", "one\ntwo\n"},
        {"told of what was opened",
         "mkdir -p .config/steady-quill; echo \"when('opened', function () insert('o') end)"
         " when('saved', function () run({'touch', 'told'}) end)\" >.config/steady-quill/start.lua;"
         " $S --do 'insert x; save' a.txt; [ -e told ]",
         0, "Saved", "oxone\ntwo\n"},
        {"changed while saving",
         "mkdir -p .config/steady-quill; echo \"when('saving', function () insert('y') end)\""
         " >.config/steady-quill/start.lua; $S --do 'insert x; save' a.txt",
         0, "Saved", "xyone\ntwo\n"},
        {"a kept recording",
         "mkdir -p .config/steady-quill; printf 'recordings = {\n[\"tick\"] = [[\n\"* \"\nDown\nHome\n]],\n}'"
         " >.config/steady-quill/recordings.lua; $S --do 'play-keys-many while-it-works tick; save' a.txt",
         0, "Played “tick” 2 times", "* one\n* two\n"},
        {"recordings that play themselves",
         "mkdir -p .config/steady-quill; printf 'recordings = {\n[\"loop\"] = [[\n\"x\"\nCtrl+P\n\"play-keys "
         "loop\"\n"
         "Enter\n]],\n}' >.config/steady-quill/recordings.lua; $S --do 'play-keys loop; save' a.txt",
         1, "recordings may play each other 10 deep, not deeper", "one\ntwo\n"},
        {"jobs that are none", "$S --jobs none --do save a.txt", 2, "a number from 1 to 16", "one\ntwo\n"},
        {"expressions at the edges",
         "seq 1 400000 >b; $S --do 'replace-all -x \\A X; save' b; head -c 3 b; tail -n 1 b", 0,
         "1 place in 1 line", "one\ntwo\n"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        CHECK_INT(run("rm -rf ./* .config"), 0);
        check_put("a.txt", "one\ntwo\n");
        check_put("c", "\xe9"
                       "caf\xe9\n");
        CHECK_INT(run(cases[i].line), cases[i].status);
        size_t n;
        check_result(check_said(cases[i].said), __FILE__, __LINE__, "it said: %s",
                     check_read(check_path("said"), &n));
        check_holds("a.txt", cases[i].holds);
        CHECK_INT(run("ls -A | grep -e unfinished -e quill"), 1);
    }
}

/* Interrupted, it stops what it runs, leaves nothing lying about, and says so by its status. */
TEST(an_interrupted_run_leaves_nothing)
{
    check_put("a.txt", "one\n");
    CHECK_INT(run("$S --do 'run-command echo $$ >pid && sleep 30; save' a.txt & run=$!;"
                  " while [ ! -s pid ]; do sleep 0.02; done; ls /run/lock /dev/shm /tmp 2>/dev/null | grep "
                  "-c steady-quill-$run-; kill -INT $run; wait $run;"
                  " echo status $?; kill -0 $(cat pid) 2>/dev/null && echo still there; ls -A . /run/lock "
                  "/dev/shm /tmp |"
                  " sed -n \"s/steady-quill-$run-.*/a note/p\""),
              0);
    CHECK(check_said("1\n") && check_said("was stopped") && check_said("status 130"));
    CHECK(!check_said("still there") && !check_said("a note"));
    check_holds("a.txt", "one\n");
    /* what it put into a session of its own is beyond us; that is said */
    CHECK_INT(run("$S --do 'run-command setsid sleep 5 & echo $! >pid && wait' a.txt & run=$!;"
                  " while [ ! -s pid ]; do sleep 0.02; done; sleep 0.2; kill -INT $run; wait $run; :"),
              0);
    CHECK(check_said("something it began goes on"));
}

/* Another engine of the same syntax makes the same of generated texts. */
TEST(as_perl_does_it)
{
    static const char *const parts[] = {"a",    "b+",    "\\A",    "\\Z",       "\\z",
                                        "^",    "(?:$)", "(?<=a)", "(?!a)",     "\\b",
                                        "[^b]", "\\s+",  "(a|b)c", "(?<=\\n)b", "x*"};
    for (int i = 0; i < 60; i++) {
        char what[60] = "", line[900], text[200];
        size_t n = 20 + check_random(150);
        for (unsigned k = 1 + check_random(3); k > 0; k--)
            strcat(what, parts[check_random(sizeof parts / sizeof *parts)]);
        for (size_t k = 0; k < n; k++)
            text[k] = "aabbc \n\n"[check_random(8)];
        text[n - 1] = '\n';
        check_write(check_path("a.txt"), text, n);
        snprintf(
            line, sizeof line,
            "perl -0777 -pe 's/%s/<X>/mg' a.txt >want; $S --plain --do 'replace-all -x %s <X>; save' a.txt;"
            " cmp a.txt want",
            what, what);
        if (strchr(what, ' '))
            continue;
        check_case(what);
        int status = run(line);
        size_t n_said;
        check_result(status == 0 || check_said("is not in the text"), __FILE__, __LINE__, "it said: %s",
                     check_read(check_path("said"), &n_said));
    }
}

/* What a dry run shows is a patch, of whatever bytes the file has. */
TEST(a_dry_run_makes_patches)
{
    static const struct {
        const char *file, *before, *change, *after;
    } cases[] = {
        {"a.txt", "one\ntwo\n", "replace-all one 1", "1\ntwo\n"},
        {"tide log.txt", "one\ntwo", "replace-all two 2", "one\n2"},
        {"kiosks/caf\xc3\xa9.ini", "k = 1\n", "replace-all k quay", "quay = 1\n"},
        {"latin.txt",
         "f\xfcr die F\xe4hre\nZuschl\xe4ge und Gep\xe4"
         "ck\n",
         "replace-all die eine",
         "f\xfcr eine F\xe4hre\nZuschl\xe4ge und Gep\xe4"
         "ck\n"},
        {"dos.txt", "one\r\ntwo\r\n", "replace-all one 1", "1\r\ntwo\r\n"},
    };
    static const char *const tools[] = {"patch -s -p0 <p", "git apply -p0 p"};
    char line[500];
    mkdir(check_path("kiosks"), 0755);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++)
        for (size_t tool = 0; tool < 2; tool++) {
            check_case(cases[i].file);
            check_put(cases[i].file, cases[i].before);
            snprintf(line, sizeof line,
                     "rm -f *.orig; $S --dry-run --do '%s; save' '%s' 2>/dev/null >p && %s", cases[i].change,
                     cases[i].file, tools[tool]);
            CHECK_INT(run(line), 0);
            check_holds(cases[i].file, cases[i].after);
        }
}

/* Many files are worked on side by side; the report comes in their order, and the same file is never changed
 * by two at once. */
TEST(many_files_side_by_side)
{
    CHECK_INT(run("for i in $(seq 10 89); do printf 'berth\\n' >f$i; done; ln -s f20 same; ln f21 other\n"
                  "echo \"insert(name() == 'f33' and refuse('closed') or '1')\" >s.lua\n"
                  "$S --jobs 4 --script s.lua f* same other f20 missing >out 2>err; echo status $?; cat err;"
                  " sed 's/:.*//' out | tr '\\n' ' '"),
              0);
    CHECK(check_said("status 1\n"));
    CHECK(check_said("f33: failed: closed\nmissing: failed: There is no file missing\n"));
    Bytes order = {0};
    for (int i = 10; i < 90; i++)
        if (i != 33)
            bytes_printf(&order, "f%d ", i);
    bytes_add_str(&order, "same other f20 ");
    CHECK(check_said(bytes_str(&order)));
    bytes_free(&order);
    check_holds("f20", "111berth\n");
    check_holds("f33", "berth\n");
    check_holds("f89", "1berth\n");
}

/* Without a screen, for hooks and pipelines. */
TEST(kinds_and_checks)
{
    check_put("fares.json", "{\"adult\": 3}\n");
    check_put("bad.json", "{\"adult\": 3,}\n");
    check_put("notes", "tide\n");
    check_put("kiosk.conf", "[main]\nberth = 3\ndepth = 4\n");
    check_put("two.ini", "[a]\nx = 1\n[a]\nx = 2\n[b\n");
    static const struct {
        const char *line;
        int status;
        const char *says[3];
    } cases[] = {
        {"--kind-of fares.json notes kiosk.conf",
         0,
         {"fares.json: json\n", "notes: text\n", "kiosk.conf: ini\n"}},
        {"--kind-of -v kiosk.conf", 0, {"kiosk.conf: ini, by what stands in it\n"}},
        {"--kind-of none fares.json", 2, {"none: there is no such file", "fares.json: json"}},
        {"--kind-of .", 2, {".: "}},
        {"--check fares.json", 0, {""}},
        {"--check bad.json fares.json", 1, {"bad.json:1:13: "}},
        {"--check two.ini",
         1,
         {"two.ini:4:1: hint: “x” stands in this section already", "two.ini:5:1: the section is not closed"}},
        {"--check notes", 0, {"notes: not checked: there is no checker for its kind"}},
        {"--check none", 2, {"none: there is no such file"}},
        {"--check none bad.json", 2, {"bad.json:1:13: "}},
        {"--check --kind json notes", 1, {"notes:1:"}},
        {"--check --jobs 4 bad.json bad.json bad.json", 1, {"bad.json:1:13: "}},
        {"--check", 2, {"--check needs the names of files"}},
        {"--check --kind-of x", 2, {"do not go together"}},
        {"--check --jobs 99 x", 2, {"--jobs is followed by a number"}},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char line[300];
        check_case(cases[i].line);
        snprintf(line, sizeof line, SQUILL " %s", cases[i].line);
        CHECK_INT(check_shell_said(line), cases[i].status);
        for (size_t k = 0; k < 3 && cases[i].says[k]; k++)
            CHECK(check_said(cases[i].says[k]));
    }
    check_case(NULL);
    CHECK(check_shell("cd \"$F\" && for i in $(seq 300); do cp fares.json $i.json; done")); /* many of them */
    CHECK_INT(check_shell_said(SQUILL " --check *.json | sort -u; test $(" SQUILL
                                      " --kind-of *.json | wc -l) = 302"),
              0);
    CHECK(check_said("bad.json:1:13: "));
}

/* Recordings and scripts of one's own, as they are met: files in the folder of settings, menus, messages. */
#include "check.h"
#include "drive.h"

#include <signal.h>
#include <stdio.h>
#include <string.h>
#include <sys/stat.h>

static void config(const char *name, const char *text)
{
    char path[100];
    mkdir(check_path(".config"), 0755);
    mkdir(check_path(".config/steady-quill"), 0755);
    snprintf(path, sizeof path, ".config/steady-quill/%s", name);
    check_put(path, text);
}

static const char recordings[] = ".config/steady-quill/recordings.lua";

TEST(a_recording_is_kept_changed_and_removed)
{
    check_put("work.ini", "a\nb\nc\n");
    config("recordings.lua", "-- by hand\nrecordings = {\n  [\"mine\"] = [[\nEnd\n\";\"\n]], -- stays\n}\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<F8><Home>* <Down><F8><Esc>ts");
    SHOWS(p, "4 keys: ");
    pty_do(p, "last<Enter>ktick<Enter>");
    SHOWS(p, "Kept as “tick”; its route is Esc y t");
    check_holds(recordings, "-- by hand\nrecordings = {\n  [\"mine\"] = [[\nEnd\n\";\"\n]], -- stays\n"
                            "  [\"tick\"] = [[\nHome\n\"* \"\nDown\n]],\n}\n");
    pty_do(p, "<Esc>yt<Esc>ym<Esc>ts");
    SHOWS(p, "mine");
    pty_do(p, "mine<Enter>");
    SHOWS(p, "t Change as text");
    pty_do(p, "t");
    SHOWS(p, "one in each line");
    pty_do(
        p,
        "<End>, and<Backspace><Backspace><Backspace><Backspace><Backspace><Down><End><Backspace>!\"<Ctrl+S>");
    SHOWS(p, "Saved recordings.lua");
    pty_do(p, "<Ctrl+PageUp><Esc>ym<Ctrl+S>");
    SHOWS(p, "Saved work.ini");
    check_holds("work.ini", "* a\n* b\nc;;!\n");
    pty_do(p, "<Esc>tstick<Enter>r");
    SHOWS(p, "“tick” is kept no longer");
    check_holds(recordings, "-- by hand\nrecordings = {\n  [\"mine\"] = [[\nEnd\n\";!\"\n]], -- stays\n}\n");
    LEAVE(p);
}

TEST(mistakes_in_recordings_are_told)
{
    static const struct {
        const char *text, *says;
    } cases[] = {
        {"recordings = {\n  [\"tick\"] = [[\nHome\nCtrl+Foo\n]],\n}\n",
         "recordings.lua, line 4: “tick”: there is no key “Ctrl+Foo”"},
        {"recordings = {\n  [\"one\"] = [[\nHome\n]] oops\n  [\"tick\"] = [[\nHome\n\"* \"\n]],\n}\n",
         "recordings.lua, line 4"},
        {"recordings = {\n  [\"tick\"] = 4,\n}\n",
         "line 2: “tick”: a name and its keys in [[ ]] are expected"},
        {"records = {}\n", "line 1: “records”: only recordings = { … } is expected here"},
        {"recordings = {\n", "recordings.lua, line"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].says);
        config("recordings.lua", cases[i].text);
        Pty *p = pty_edit("work.ini", NULL);
        SHOWS(p, cases[i].says);
        LEAVE(p);
    }
}

/* Any name is kept as it is, and what is broken in the file costs the others nothing. */
TEST(recordings_of_any_name)
{
    check_put("work.ini", "a\n");
    config("recordings.lua",
           "recordings = {\n  [\"one\"] = [[\nHome\n]] oops\n  [\"tick\"] = [[\nHome\n\"* \"\n]],\n}\n");
    Pty *p = pty_edit("work.ini", NULL);
    SHOWS(p, "recordings.lua, line 4");
    pty_do(p, "<wait><Esc>yt<F8><End>;<F8><Esc>ts");
    SHOWS(p, "2 keys: ");
    pty_do(p, "last<Enter>kMy \"big\" \\One<Enter>");
    SHOWS(p, "Kept as “My \"big\" \\One”; its route is Esc y m");
    pty_do(p, "<Esc>ym<Ctrl+S>");
    check_holds("work.ini", "* a;;\n");
    LEAVE(p);
    p = pty_edit("work.ini", NULL);
    pty_do(p, "<wait><Esc>ym<Esc>yt<Esc>ts");
    SHOWS(p, "My \"big\" \\One");
    pty_do(p, "<Esc><wait><wait><wait><Ctrl+S>");
    check_holds("work.ini", "* * a;;;\n");
    LEAVE(p);
}

TEST(a_key_runs_what_is_ones_own)
{
    config("recordings.lua", "recordings = {\n  [\"tick\"] = [=[\n\"* \"\n]=],\n}\n");
    config("start.lua", "command { name = 'stamp', run = function () insert('4 ') end }");
    config("keys.lua", "does[\"F11\"] = \"tick\"\ndoes[\"Esc g 1\"] = \"stamp\"\n");
    check_put("work.ini", "a\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<F11><Esc>g1<Ctrl+S>");
    check_holds("work.ini", "* 4 a\n");
    LEAVE(p);
    config("keys.lua", "does[\"F11\"] = \"tick\"\ndoes[\"F12\"] = \"tock\"\n");
    p = pty_edit("work.ini", NULL);
    SHOWS(p, "keys.lua, line 2: there is no command “tock”");
    LEAVE(p);
}

TEST(mistakes_in_start_are_told)
{
    static const struct {
        const char *text, *says;
    } cases[] = {
        {"say('x')\n\ncommand {", "start.lua, line 3: "},
        {"command { name = 'a-b', run = say }\nerror('no tide')", "start.lua, line 2: no tide"},
        {"print('x')", "start.lua, line 1: attempt to call a nil value (global 'print')"},
        {"insert('x')", "no text is open yet"},
        {"while true do end", "it does not come to an end"},
        {"local x = io.open('/etc/passwd')", "attempt to index a nil value (global 'io')"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].text);
        config("start.lua", cases[i].text);
        Pty *p = pty_edit("work.ini", NULL);
        SHOWS(p, cases[i].says);
        LEAVE(p);
    }
}

/* Esc stops a command that does not come to an end, and what was typed meanwhile is not lost. */
TEST(esc_stops_a_script)
{
    config("start.lua",
           "command { name = 'spin', key = 'F11', run = function ()\n insert('x')\n while true do end end }");
    check_put("work.ini", "a\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_send(p, "\033[23~", 5);
    pty_pause(p, 300);
    pty_send(p, "ok\033", 3);
    SHOWS(p, "start.lua, line 3: it was stopped; what it changed was taken");
    pty_do(p, "<Ctrl+S>");
    check_holds("work.ini", "oka\n");
    LEAVE(p);
}

/* So does it with keys that are played without end. */
/* However hard what it asks of the library is: a pattern comes to its end by itself, as its steps are
 * counted; of what takes long otherwise it says that it is at work, Esc stops it, and being asked to end
 * keeps the work and ends the program at once. */
TEST(a_hard_pattern_is_stopped)
{
    config("start.lua",
           "command { name = 'hard', label = 'Hard', help = 'Hard', key = 'F11', run = function ()\n"
           "  local s = ('a'):rep(1000) .. ('b'):rep(1000) s:find(('.-'):rep(8) .. 'x')\nend }\n"
           "command { name = 'long', label = 'Long', help = 'Long', key = 'F12', run = function ()\n"
           "  local s = ('a'):rep(90000000) for i = 1, 1e8 do utf8.len(s) end\nend }\n");
    check_put("work.ini", "berth = 3\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "x<F11>");
    SHOWS(p, "it does not come to an end");
    pty_do(p, "<wait><wait><wait>y");
    SHOWS(p, "xyberth = 3");
    pty_send(p, "\033[24~", 5);
    SHOWS(p, "Still at work.   Esc stops it");
    pty_send(p, "\033", 1);
    SHOWS(p, "it was stopped");
    pty_do(p, "<wait><wait><wait>z");
    SHOWS(p, "xyzberth = 3");
    pty_rest(p);
    pty_send(p, "\033[24~", 5);
    SHOWS(p, "Still at work.   Esc stops it");
    kill(pty_pid(p), SIGTERM);
    CHECK(pty_ended(p));
    pty_end(p);
    p = pty_edit("work.ini", NULL);
    pty_do(p, "<wait>t");
    SHOWS(p, "xyzberth = 3");
    LEAVE(p);
}

TEST(esc_stops_playing)
{
    check_put("work.ini", "a\n");
    config("start.lua",
           "command { name = 'slow', key = 'F11', run = function () for i = 1, 1000000 do end end }");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<F8>x<F11><F8><Esc>tm");
    pty_send(p, "w", 1);
    pty_pause(p, 600);
    SHOWS(p, "so far; Esc stops it");
    pty_send(p, "\033", 1);
    SHOWS(p, "was stopped"); /* the playing, or the command in it */
    pty_do(p, "<Ctrl+Z><Ctrl+S>");
    check_holds("work.ini", "xa\n");
    LEAVE(p);
}

TEST(scripts_may_what_the_settings_say)
{
    config("settings.lua", "scripts_may = \"io, load\"\n");
    config("start.lua", "say(type(io.open) .. type(load) .. type(os) .. type(require))");
    Pty *p = pty_edit("work.ini", NULL);
    SHOWS(p, "functionfunctionnilnil");
    LEAVE(p);
}

/* A program of a script runs beside the screen; Esc stops it. */
TEST(a_program_of_a_script)
{
    config("start.lua", "command { name = 'go', key = 'F11', run = function ()\n"
                        "  local out = run({'sh', '-c', 'sleep 0.3; echo done; cat'}, 'in')\n"
                        "  insert(out or 'stopped') end }\n"
                        "command { name = 'wait', key = 'F12', run = function ()\n"
                        "  insert(tostring(run({'sleep', '600'}))) end }\n");
    check_put("work.ini", "\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<F11>");
    SHOWS(p, "Running “sh”");
    SHOWS(p, "  1▎ done");
    HIDES(p, "Running “sh”");
    pty_do(p, "<F12>");
    SHOWS(p, "Running “sleep”");
    pty_do(p, "<Esc>");
    HIDES(p, "Running “sleep”");
    pty_do(p, "<Ctrl+S>");
    check_holds("work.ini", "done\ninnil\n");
    LEAVE(p);
}

/* At the sizes and on the terminals that people have. */
TEST(recording_on_small_screens)
{
    static const int sizes[][2] = {{24, 80}, {15, 40}, {12, 30}};
    for (size_t i = 0; i < 3; i++) {
        check_put("work.ini", "a\nb\n");
        Pty *p = pty_edit_at(sizes[i][0], sizes[i][1], "work.ini", NULL);
        pty_do(p, "<F8>x");
        SHOWS(p, "recording");
        SHOWS(p, "F8 Stop recording");
        pty_do(p, "<F8>");
        HIDES(p, "recording");
        LEAVE(p);
    }
}

/* What is asked about files is answered again when it is played, and only that. */
TEST(playing_answers_questions_about_files)
{
    check_put("work.ini", "a\n");
    check_put("copy.ini", "old\n");
    Pty *p = pty_edit("work.ini", NULL);
    pty_do(p, "<F8>x<Esc>fa");
    SHOWS(p, "Save as");
    pty_do(p, "<Ctrl+U>copy.ini<wait><Enter>");
    SHOWS(p, "r Replace it");
    pty_do(p, "<wait>y");
    SHOWS(p, "Saved copy.ini");
    pty_do(p, "<F8>");
    SHOWS(p, "Recorded");
    check_holds("copy.ini", "xa\n");
    pty_do(p, "<F7>"); /* it is copy.ini now: nothing is asked */
    SHOWS(p, "Playing stopped at step");
    LEAVE(p);
    check_put("work.ini", "a\n");
    check_put("copy.ini", "old\n");
    p = pty_edit("work.ini", NULL);
    pty_do(p, "<F8>x<Ctrl+Q>");
    SHOWS(p, "d Drop them");
    pty_do(p, "<Esc><F8>");
    SHOWS(p, "Recorded 3 keys");
    pty_do(p, "<F7>");
    SHOWS(p, "xxa");
    HIDES(p, "Drop them");
    LEAVE(p);
}

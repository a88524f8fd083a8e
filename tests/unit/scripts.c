/* Scripts: what they change, how they fail, what bounds them. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "base/data.h"
#include "commands/tools/kept.h"
#include "input/recorded.h"
#include "script/script.h"
#include "session/session_files.h"
#include "ui/command.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static Editor *start(const char *text)
{
    return editors_start(text, strlen(text), 24, 100);
}

static void end(Editor *ed)
{
    Err e;
    app_end(ed, &e);
    script_free(ed);
    app_free(ed);
}

static char *text_of(const Editor *ed)
{
    Text t = view_text(ed->panes.view);
    return text_string(t, 0, text_len(t));
}

static void text_is(const Editor *ed, const char *want)
{
    char *is = text_of(ed);
    if (strcmp(is, want) != 0)
        check_result(false, __FILE__, __LINE__, "the text is “%s”, wanted “%s”; it says: %s", is, want,
                     ed->notices.text);
    free(is);
}

static bool runs(Editor *ed, const char *script, Err *e)
{
    *e = (Err){""};
    return script_run(ed, "try.lua", script, strlen(script), e);
}

/* What the calls give is said; the text afterwards. */
static const struct {
    const char *before, *script, *says, *after;
} calls[] = {
    {"a\nb\nc\n", "say(lines())", "3", NULL},
    {"", "say(lines())", "1", NULL},
    {"a\nb", "say(line(2))", "b", NULL},
    {"a\nb\n", "say(#text())", "4", NULL},
    {"ähre\n", "go(1, 3) say(select(2, cursor()))", "3", NULL},
    {"ähre\n", "go(1, 2) insert('X')", NULL, "äXhre\n"},
    {"ab\ncd\n", "replace_line('xy', 2)", NULL, "ab\nxy\n"},
    {"ab\r\ncd\r\n", "replace_line('x\\ny', 1)", NULL, "x\r\ny\r\ncd\r\n"},
    {"ab\r\ncd\r\n", "say(line(1) == 'ab')", "true", NULL},
    {"ab\ncd", "insert_line('new', 1)", NULL, "new\nab\ncd"},
    {"ab\ncd", "insert_line('new', 3)", NULL, "ab\ncd\nnew"},
    {"ab\ncd\n", "insert_line('new', 3)", NULL, "ab\ncd\nnew\n"},
    {"", "insert_line('new', 1)", NULL, "new\n"},
    {"a\nb\nc\nd\n", "delete_lines(2, 3)", NULL, "a\nd\n"},
    {"a\nb\nc", "delete_lines(3)", NULL, "a\nb"},
    {"a", "delete_lines(1)", NULL, ""},
    {"one two\n", "mark(1, 5, 1, 8) say(marked())", "two", NULL},
    {"one two\n", "mark(1, 5, 1, 8) replace_marked('2') insert('!')", NULL, "one 2!\n"},
    {"a\nb\nc\n", "mark(1, 1, 3, 1) say(table.concat({marked_lines()}, ' '))", "1 2", NULL},
    {"a\n", "say(tostring(marked()))", "nil", NULL},
    {"grey heron\n", "go(1, 6) say(word())", "heron", NULL},
    {"a b a\n", "say(table.concat({find('b')}, ' '))", "1 3 b", NULL},
    {"a b a\n", "go(1, 2) say(table.concat({find('A', {letters = 'any'})}, ' '))", "1 5 a", NULL},
    {"x1 x22\n", "say(table.concat({find('x%d+')}, ' ') .. 'none')", "none", NULL},
    {"x1 x22\n", "say(table.concat({find('\\\\d\\\\d', {expression = true})}, ' '))", "1 5 22", NULL},
    {"a\nb\na\n", "say(table.concat({find('a', {line = 2})}, ' '))", "3 1 a", NULL},
    {"a b a\n", "say(replace('a', 'xx'))", "2", "xx b xx\n"},
    {"a\na\na\n", "say(replace('a', 'x', {first = 2, last = 2}))", "1", "a\nx\na\n"},
    {"k=v\n", "replace('(\\\\w)=(\\\\w)', '$2=$1', {expression = true})", NULL, "v=k\n"},
    {"old\n", "replace_text('new\\ntext\\n')", NULL, "new\ntext\n"},
    {"a\n", "say(tostring(path()) .. name() .. kind())", "nilthis texttext", NULL},
    {"a\n", "kind('shell') say(kind())", "shell", NULL},
    {"a\n", "say(tostring(changed())) insert('x') say(tostring(changed()))", "true", NULL},
    {"a\n", "set('tab_width', 3) say(setting('tab_width') + 1)", "4", NULL},
    {"a\n", "set('wrap', true) say(tostring(setting('wrap')))", "true", NULL},
    {"a\n", "say(date('%Y', 0))", "1970", NULL},
    {"a\n", "say(now() > 1700000000 and 'yes')", "yes", NULL},
    {"a\n", "say(type(environment('HOME')) .. type(environment('NO SUCH')))", "stringnil", NULL},
    {"a\n", "say(#files())", "0", NULL},
    {"a\n", "say(run({'printf', '%s|', 'a b', '$HOME'}))", "a b|$HOME|", NULL},
    {"a\n",
     "local out, status, errors = run({'sh', '-c', 'cat; echo bad >&2; exit 3'}, 'in') "
     "say(out .. status .. errors)",
     "in3bad\n", NULL},
    {"a\n", "local out, status = run({'no-such-program'}) say(status)", "127", NULL},
    {"a\nb\n", "for n = 1, lines() do replace_line(n .. ' ' .. line(n), n) end", NULL, "1 a\n2 b\n"},
    {"a\n",
     "say(table.concat({type(io), type(os), type(load), type(require), type(coroutine), type(debug)}, ' '))",
     "nil nil nil nil nil nil", NULL},
    {"a\n", "say(tostring(pcall(error, 'x')))", "false", NULL},
    {"a\n", "say('<' .. (''):rep(1e15) .. '>' .. ('ab'):rep(3, '-') .. ('x'):rep(0) .. ('x'):rep(1, 'y'))",
     "<>ab-ab-abx", NULL},
    {"a\n", "local t = {3, 1, 2} table.sort(t) say(table.concat(t, ',') .. table.remove(t, 1) .. #t)",
     "1,2,312", NULL},
    {"a\n",
     "local t = {3, 1, 2} table.sort(t, function (a, b) return a > b end) say(table.concat(t, ',', 2))",
     "2,1", NULL},
    {"a\n",
     "say(table.concat(table.move({1, 2, 3}, 1, 3, 2), ',') .. select('#', table.unpack({1, 2, nil, 4}, 1, "
     "4)))",
     "1,1,2,34", NULL},
};

TEST(calls_give_and_change)
{
    for (size_t i = 0; i < sizeof calls / sizeof *calls; i++) {
        Err e;
        check_case(calls[i].script);
        Editor *ed = start(calls[i].before);
        check_result(runs(ed, calls[i].script, &e), __FILE__, __LINE__, "failed: %s", e.text);
        if (calls[i].says)
            CHECK_STR(ed->notices.text, calls[i].says);
        text_is(ed, calls[i].after                                                 ? calls[i].after
                    : calls[i].before[0] && strstr(calls[i].script, "insert('x')") ? "xa\n"
                                                                                   : calls[i].before);
        end(ed);
    }
    check_case(NULL);
}

/* Patterns mean what they mean in Lua: the same random ones by Lua's own program and by scripts. */
TEST(patterns_are_those_of_lua)
{
    static const char program[] =
        "local seed = 7 local function random(n) seed = (seed * 1103515245 + 12345) % 2147483648 "
        "return seed // 65536 % n + 1 end\n"
        "local pieces = {'a', 'b', '%a', '%d', '.', '[ab]', '[^b]', '[%w_-]', '[a-c]', '%s', '(', ')', '()', "
        "'*', '+', "
        "'-', '?', '$', '^', '%1', '%2', '%b()', '%f[%a]', '%f[^%a]', '%%', '[]x]', '[^]]', '%', '[', '1', "
        "'%S', '%u'}\n"
        "local letters = {'a', 'b', 'A', ' ', '1', '(', ')', ']', '-', '%', '\\0', 'x', '_'}\n"
        "local function some(list, most) local t = {} for i = 1, random(most) - 1 do t[i] = "
        "list[random(#list)] end "
        "return table.concat(t) end\n"
        "local function show(...) local t = {} for i = 1, select('#', ...) do t[i] = tostring((select(i, "
        "...))) end "
        "return (table.concat(t, ';'):gsub('%c', '~'):gsub('table: %w+', 'table')) end\n"
        "local out = {}\n"
        "local function try(ok, ...) out[#out + 1] = ok and show(...) or 'fails' end\n"
        "for i = 1, 6000 do\n"
        "  local s, p, init = some(letters, 12), some(pieces, 7), random(8) - 4\n"
        "  try(pcall(string.find, s, p, init)) try(pcall(string.match, s, p, init))\n"
        "  try(pcall(string.find, s, p, init, true))\n"
        "  try(pcall(string.gsub, s, p, '<%0%1%%>', random(3))) try(pcall(string.gsub, s, p, {a = 'T', b = "
        "false}))\n"
        "  try(pcall(string.gsub, s, p, function (x) return x == 'a' and 'F' end))\n"
        "  try(pcall(function () local t = {} for x, y in s:gmatch(p, init) do t[#t + 1] = show(x, y) end "
        "return table.concat(t, '|') end))\n"
        "end\n"
        "local all = table.concat(out, '\\n') .. '\\n'\n";
    char command[600];
    Err e;
    size_t n;
    check_put("ours.lua", program);
    check_put("theirs.lua", program);
    snprintf(command, sizeof command,
             "cd '%s' && echo 'io.write(all)' >>theirs.lua && lua5.4 theirs.lua >want 2>why", check_folder());
    if (system("command -v lua5.4 >/dev/null 2>&1") != 0) {
        check_skip("lua5.4 is not installed");
        return;
    }
    CHECK(system(command) == 0);
    Bytes ours = {0};
    bytes_add_str(&ours, program);
    bytes_add_str(&ours, "replace_text(all)");
    Editor *ed = start("");
    check_result(runs(ed, ours.at, &e), __FILE__, __LINE__, "failed: %s", e.text);
    const char *want = check_read(check_path("want"), &n);
    char *is = text_of(ed);
    size_t line = 1, at = 0;
    for (; is[at] && is[at] == want[at]; at++)
        line += is[at] == '\n';
    if (is[at] != want[at])
        check_result(false, __FILE__, __LINE__, "result %zu, of try %zu, differs: %.60s, wanted %.60s", line,
                     (line - 1) / 7 + 1, is + at, want + at);
    CHECK(n > 100000);
    free(is);
    bytes_free(&ours);
    end(ed);
}

/* Each names the line, and leaves text, cursor and history as they were. */
static const struct {
    const char *script, *error;
} failures[] = {
    {"insert('x')\nerror('no tide')", "try.lua, line 2: no tide"},
    {"insert('x')\nlocal a = nil + 1", "try.lua, line 2: attempt to perform arithmetic"},
    {"insert('x') line(", "try.lua, line 1: "},
    {"insert('x')\n\nline(99)", "try.lua, line 3: there is no line 99; the text has 2"},
    {"insert('x') go(1, 0)", "columns count from 1"},
    {"insert('x') delete_lines(2, 1)", "the last line comes before the first"},
    {"insert('x') refuse('not on Sundays')", "not on Sundays"},
    {"insert('x') pcall(refuse, 'not even so')", "not even so"},
    {"insert('x') while true do end", "it does not come to an end"},
    {"insert('x') while true do pcall(function () while true do end end) end", "does not come to an end"},
    {"insert('x') local t = {} for i = 1, 1e9 do t[i] = ('x'):rep(1e6) .. i end", "not enough memory"},
    {"insert('x') local s = 'x' while true do s = s .. s end", "not enough memory"},
    {"insert('x') local s = ('a'):rep(100) s:find(('a*'):rep(40) .. 'b')",
     "try.lua, line 1: it does not come to an end"},
    {"insert('x') pcall(string.gsub, ('a'):rep(1e5), '.-.-.-.-b', '')", "it does not come to an end"},
    {"insert('x') table.move({}, 1, 1 << 50, 2)", "a list of more than 20000000 entries"},
    {"insert('x') table.move({}, math.mininteger, math.maxinteger, 2)",
     "a list of more than 20000000 entries"},
    {"insert('x') table.insert(setmetatable({}, {__len = function () return 1 << 50 end}), 1, 1)",
     "a list of more than 20000000 entries"},
    {"insert('x') table.remove(setmetatable({}, {__len = function () return 1 << 50 end}), 1)",
     "a list of more than 20000000 entries"},
    {"insert('x') table.concat(setmetatable({}, {__index = tostring}), '', 1, 1 << 50)",
     "a list of more than 20000000 entries"},
    {"insert('x') table.sort(setmetatable({}, {__len = function () return 1 << 30 end}), rawequal)",
     "a list of more than 20000000 entries"},
    {"insert('x') say(#('ab'):rep(1 << 60))", "the text would be too long"},
    {"insert('x') setmetatable({}, {__gc = function () while true do end end})", "__gc is not possible here"},
    {"insert('x') ask('Name')", "there is nobody to ask here"},
    {"insert('x') do_command('find')", "asks for something; put it after the name"},
    {"insert('x') find('')", "nothing to look for"},
    {"insert('x') find('(', {expression = true})", "missing closing parenthesis"},
    {"insert('x') replace('a', '$3', {expression = true})", "group"},
    {"insert('x') replace_marked('y')", "nothing is marked"},
    {"insert('x') in_file('/no/such', print)", "function expected"},
    {"insert('x') in_file('/no/such', say)", "is not open"},
    {"insert('x') set('no_such', 1)", "no_such"},
    {"insert('x') kind('cod')", "there is no kind of file “cod”"},
    {"insert('x') run({})", "a program and its arguments are expected"},
    {"insert('x') run({'a', {}})", "the arguments of a program are texts"},
    {"insert('x') command { name = 'save', run = say }", "there is a command “save” already"},
    {"insert('x') command { name = 'Big Ferry', run = say }", "is no name for a command"},
    {"insert('x') command { name = 'ferry', route = 'Esc f s', run = say }", "is the route of save"},
    {"insert('x') command { name = 'ferry' }", "run = function"},
    {"insert('x') does('a', 'save')", "must stay as it is"},
    {"insert('x') does('F5', 'fly')", "there is no command"},
    {"insert('x') when('sunset', say)", "there is no event “sunset”"},
    {"insert('x') error({})", "an error that is no text"},
    {"insert('x') local function f() return f() + 1 end f()", "stack overflow"},
    {"insert('x') string.rep('x', -1, 1e9) string.rep('x', 1e12)", "try.lua, line 1"},
};

TEST(failures_take_back)
{
    for (size_t i = 0; i < sizeof failures / sizeof *failures; i++) {
        Err e;
        check_case(failures[i].script);
        Editor *ed = start("a\nb\n");
        editors_press(ed, "Down Right");
        CHECK(!runs(ed, failures[i].script, &e));
        check_result(strstr(e.text, failures[i].error) != NULL, __FILE__, __LINE__,
                     "it says “%s”, wanted “%s”", e.text, failures[i].error);
        text_is(ed, "a\nb\n");
        CHECK(!doc_changed(ed->panes.view->file->doc));
        CHECK_INT(ed->panes.view->cursor.at, 3);
        editors_press(ed, "z"); /* and all goes on */
        text_is(ed, "a\nbz\n");
        CHECK(runs(ed, "go(1) insert('y')", &e));
        text_is(ed, "ya\nbz\n");
        end(ed);
    }
    check_case(NULL);
}

/* ---- commands of one's own ---- */

static const struct {
    const char *name, *before, *script, *keys, *after, *says;
} commands[] = {
    {"on a key", "a\n", "command { name = 'tick', key = 'F5', run = function () insert('* ') end }", "F5",
     "* a\n", NULL},
    {"by its route in Yours", "a\n", "command { name = 'tick', run = function () insert('* ') end }",
     "Esc y t", "* a\n", NULL},
    {"by a route in another menu", "a\n",
     "command { name = 'tick', route = 'Esc t 5', run = function () insert('* ') end }", "Esc t 5", "* a\n",
     NULL},
    {"by its name, with words", "a\n",
     "command { name = 'put', run = function (count, words) insert(count .. words) end }",
     "Ctrl+P p u t Space x y Enter", "1xya\n", NULL},
    {"a count", "a\n", "command { name = 'put', key = 'F5', run = function (count) insert(count .. '') end }",
     "Esc 4 F5", "4a\n", NULL},
    {"one step", "a\nb\n",
     "command { name = 'all', key = 'F5', run = function () for n = 1, lines() do replace_line('x', n) end "
     "end }",
     "F5 Ctrl+Z", "a\nb\n", NULL},
    {"asking", "a\n", "command { name = 'q', key = 'F5', run = function () insert(ask('Berth', '4')) end }",
     "F5 7 Enter", "7a\n", NULL},
    {"asking, one step", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert('x') insert(ask('Berth')) insert('y') end }",
     "F5 7 Enter Ctrl+Z", "a\n", NULL},
    {"not answering", "a\n",
     "command { name = 'q', key = 'F5', run = function () say(tostring(ask('Berth'))) end }", "F5 Esc", "a\n",
     "nil"},
    {"asking twice", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert(ask('A') .. ask('B')) end }",
     "F5 1 Enter 2 Enter", "12a\n", NULL},
    {"failing after asking", "a\n",
     "command { name = 'q', key = 'F5', run = function ()\n insert('x')\n insert(ask('A'))\n error('no') end "
     "}",
     "F5 1 Enter", "a\n", "try.lua, line 4: no; what it changed was taken back"},
    {"choosing", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert(table.concat({choose('Berth', {'one', "
     "'two'})}, ' ')) "
     "end }",
     "F5 Down Enter", "two 2a\n", NULL},
    {"choosing by typing", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert(choose('Berth', {'one', 'two'})) end }",
     "F5 t w Enter", "twoa\n", NULL},
    {"choosing nothing", "a\n",
     "command { name = 'q', key = 'F5', run = function () say(tostring(choose('Berth', {'one'}))) end }",
     "F5 Esc", "a\n", "nil"},
    {"confirming too soon", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert(tostring(confirm('Go?'))) end }", "F5 y Esc",
     "falsea\n", NULL},
    {"other commands", "b\na\n",
     "command { name = 'q', key = 'F5', run = function () do_command('sort-lines') do_command('go-bottom') "
     "insert('x') end }",
     "F5", "a\nb\nx", NULL},
    {"one that asks", "a\n", "command { name = 'q', key = 'F5', run = function () do_command('find') end }",
     "F5", "a\n", "asks for something; put it after the name"},
    {"one that is not", "a\n", "command { name = 'q', key = 'F5', run = function () do_command('fly') end }",
     "F5", "a\n", "There is no command “fly”"},
    {"one that fails", "a\n",
     "command { name = 'q', key = 'F5', run = function () insert('x') do_command('replace-all q r') end }",
     "F5", "a\n", NULL},
    {"itself", "a\n", "command { name = 'q', key = 'F5', run = function () insert('x') do_command('q') end }",
     "F5", "a\n", "Commands may run each other"},
    {"a program", "b\na\n",
     "command { name = 'q', key = 'F5', run = function () replace_text((run({'sort'}, text()))) end }", "F5",
     "a\nb\n", NULL},
    {"the mark computed", "tide 41 here\n",
     "command { name = 'double', key = 'F5', run = function () "
     "replace_marked(tostring(math.tointeger(marked() * 2))) "
     "end }",
     "Ctrl+Right Right Shift+Right Shift+Right F5", "tide 82 here\n", NULL},
    {"in a recording", "a\nb\nc\n",
     "command { name = 'tick', key = 'F5', run = function () insert('* ') end }",
     "F8 Home F5 Down F8 Esc 2 F7", "* a\n* b\n* c\n", NULL},
    {"asking in a recording", "a\nb\nc\n",
     "command { name = 'q', key = 'F5', run = function () insert(ask('A')) end }",
     "F8 Home F5 x Enter Down F8 Esc 2 F7", "xa\nxb\nxc\n", NULL},
    {"a key taken by a command line", "a\n", "does('F5', 'growing-number')", "F5 F5", "12a\n", NULL},
};

/* Programs that run are waited for. */
static void let_run(Editor *ed)
{
    for (int i = 0; i < 500 && ed->layer && ed->layer->kind->works; i++) {
        usleep(10000);
        app_tick(ed, editors_now);
    }
}

TEST(commands_of_scripts)
{
    for (size_t i = 0; i < sizeof commands / sizeof *commands; i++) {
        Err e;
        check_case(commands[i].name);
        Editor *ed = start(commands[i].before);
        check_result(runs(ed, commands[i].script, &e), __FILE__, __LINE__, "failed: %s", e.text);
        editors_press(ed, commands[i].keys);
        let_run(ed);
        CHECK(!ed->layer);
        text_is(ed, commands[i].after);
        if (commands[i].says)
            check_result(strstr(ed->notices.text, commands[i].says) != NULL, __FILE__, __LINE__,
                         "it says “%s”, wanted “%s”", ed->notices.text, commands[i].says);
        end(ed);
    }
    check_case(NULL);
}

TEST(own_commands_stand_everywhere)
{
    Err e;
    Editor *ed = start("a\n");
    CHECK(runs(ed, "command { name = 'tide-times', key = 'F5', help = 'Puts in the tides', run = say }", &e));
    CHECK(strstr(editors_row(ed, 0), "Yours"));
    editors_press(ed, "Esc y");
    CHECK(editors_show(ed, "Tide times") && editors_show(ed, "F5") && editors_show(ed, "Puts in the tides"));
    editors_press(ed, "Esc Esc Ctrl+P t i d e");
    CHECK(editors_show(ed, "tide-times") && editors_show(ed, "Esc y t"));
    editors_press(ed, "Esc Esc Ctrl+P h e l p Space c o m m a n d s Enter Ctrl+F t i d e - t Enter");
    CHECK(editors_show(ed, "tide-times WORDS"));
    editors_press(ed, "Esc Esc h w F5");
    CHECK(editors_show(ed, "tide-times: Puts in the tides"));
    editors_now += 1200;
    editors_press(ed, "Esc Esc");
    end(ed);
}

/* A run that still waits when the editor ends, or when its question is swept away, leaves nothing behind. */
TEST(waiting_runs_can_be_given_up)
{
    Err e;
    Editor *ed = start("a\n");
    CHECK(runs(ed,
               "command { name = 'q', key = 'F5', run = function () insert('x') ask('A') insert('y') end }",
               &e));
    editors_press(ed, "F5 Esc Esc");
    text_is(ed, "xya\n");
    editors_now += 1200;
    editors_press(ed, "Ctrl+Z");
    text_is(ed, "a\n");
    editors_press(ed, "F5");
    end(ed);
}

/* Another open file is changed by the same step, and taken back by the same failure. */
TEST(other_files)
{
    Err e;
    Editor *ed = start("here\n");
    check_put("berths.ini", "berth = 4\n");
    CHECK(editor_open(ed, check_path("berths.ini"), &e));
    editors_press(ed, "Ctrl+PageUp");
    Bytes script = {0};
    const OpenFile *berths = ed->session->files[1];
    bytes_printf(&script,
                 "local other = files()[1] insert('x') say(in_file(other, function () replace('4', '7') "
                 "return name() end)) insert('y')");
    CHECK(runs(ed, script.at, &e));
    CHECK_STR(ed->notices.text, "berths.ini");
    text_is(ed, "xyhere\n");
    CHECK_INT(text_byte(doc_text(berths->doc), 8), '7');
    bytes_add_str(&script, " in_file(other, function () replace_text('') end) error('no')");
    CHECK(!runs(ed, script.at, &e));
    text_is(ed, "xyhere\n");
    CHECK_INT(text_byte(doc_text(berths->doc), 8), '7');
    CHECK(!runs(ed, "in_file(files()[1], function () insert('z') end)", &e));
    CHECK(strstr(e.text, "berths.ini is not the text that is shown"));
    CHECK(
        runs(ed, "pcall(in_file, files()[1], function () error('no') end) insert('q')", &e)); /* back here */
    text_is(ed, "xyqhere\n");
    bytes_free(&script);
    end(ed);
}

/* ---- events ---- */

TEST(events_are_told)
{
    Err e;
    Editor *ed = start("");
    check_put("tide.ini", "low = 4\n");
    ed->session->rules.plain = false;
    ed->session->rules.keep_recovery = false;
    CHECK(runs(ed,
               "when('opened', function (path) say('opened ' .. path:match('[^/]*$')) end)\n"
               "when('kind found', function (path, kind) warn('kind ' .. kind) end)\n"
               "when('saving', function () if find('secret', {line = 1}) then refuse('it has a secret') end\n"
               "  replace('low', 'LOW') end)\n"
               "when('saved', function (path) say('saved indeed: ' .. name()) end)\n",
               &e));
    CHECK(editor_open(ed, check_path("tide.ini"), &e));
    session_settle(ed->session);
    app_tick(ed, editors_now);
    CHECK_STR(ed->notices.text, "kind ini");
    editors_press(ed, "x Ctrl+S");
    check_holds("tide.ini", "xLOW = 4\n");
    app_tick(ed, editors_now);
    CHECK_STR(ed->notices.text, "saved indeed: tide.ini");
    editors_press(ed, "s e c r e t Space Ctrl+S");
    CHECK_STR(ed->notices.text, "tide.ini was not saved: it has a secret");
    check_holds("tide.ini", "xLOW = 4\n");
    text_is(ed, "xsecret LOW = 4\n");
    end(ed);
}

/* ---- the examples of the help page ---- */

/* The example of that name as a script. */
static Bytes example(const char *name)
{
    const DataFile *page = data_find("help/scripts.txt");
    char *all = strndup(page->bytes, page->len), head[60];
    Bytes script = {0};
    snprintf(head, sizeof head, "  -- example: %s\n", name);
    const char *p = strstr(all, head);
    check_result(p != NULL, __FILE__, __LINE__, "no example %s", name);
    for (; p && (strncmp(p, "  ", 2) == 0 || *p == '\n'); p += strcspn(p, "\n") + 1)
        bytes_add(&script, p, strcspn(p, "\n") + 1);
    free(all);
    return script;
}

TEST(examples_of_the_help_page)
{
    static const struct {
        const char *name, *before, *keys, *after, *says;
    } cases[] = {
        {"fare", "group of 12 here\n", "Ctrl+Right Right Ctrl+Right Right Shift+Right Shift+Right F11",
         "group of 12 here\n", "12 passengers pay 50.40"},
        {"fare", "group of 12\n", "F11", "group of 12\n", "mark a number of passengers first"},
        {"tide-entry", "2026-01-01 00:10 low 1.2\n", "Esc t 1 Down Down Enter 5 . 1 Enter Backspace",
         "… high 5.1", NULL},
        {"tide-entry", "2026\n", "Esc t 1 Esc", "2026\n", NULL},
        {"sort-announcements", "x\nc\na\nc\nz\n",
         "Down Shift+Down Shift+Down Shift+Down Ctrl+P s o r t - a n Enter", "x\na\nc\nz\n", NULL},
        {"move-berth", "berth = 4\n", "", "berth = 7\n", "moved to berth 7"},
        {"move-berth", "berth = 44\n", "", "berth = 44\n", NULL},
    };
    size_t n = 0;
    const DataFile *page = data_find("help/scripts.txt");
    for (size_t i = 0; i + 10 < page->len; i++)
        n += memcmp(page->bytes + i, "-- example", 10) == 0;
    CHECK_INT(n, 5);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e;
        check_case(cases[i].name);
        Bytes script = example(cases[i].name);
        Editor *ed = start(cases[i].before);
        check_result(runs(ed, bytes_str(&script), &e), __FILE__, __LINE__, "failed: %s", e.text);
        editors_press(ed, cases[i].keys);
        let_run(ed);
        char *after = text_of(ed);
        if (strncmp(cases[i].after, "… ", 4) == 0)
            check_result(strstr(after, cases[i].after + 3) != NULL, __FILE__, __LINE__, "it is “%s”", after);
        else
            text_is(ed, cases[i].after);
        if (cases[i].says)
            check_result(strstr(ed->notices.text, cases[i].says) != NULL, __FILE__, __LINE__,
                         "it says “%s”, wanted “%s”", ed->notices.text, cases[i].says);
        free(after);
        bytes_free(&script);
        end(ed);
    }
    check_case("brightness");
    Bytes script = example("brightness");
    Err e;
    Editor *ed = start("");
    check_put("kiosk.ini", "[display]\nbrightness = 80\n");
    CHECK(runs(ed, bytes_str(&script), &e));
    CHECK(editor_open(ed, check_path("kiosk.ini"), &e));
    editors_press(ed, "Down End Backspace Backspace 7 Ctrl+S");
    CHECK_STR(ed->notices.text, "kiosk.ini was not saved: brightness in line 2 must be from 20 to 100");
    check_holds("kiosk.ini", "[display]\nbrightness = 80\n");
    editors_press(ed, "0 Ctrl+S");
    check_holds("kiosk.ini", "[display]\nbrightness = 70\n");
    bytes_free(&script);
    end(ed);
    check_case(NULL);
}

/* ---- whatever comes ---- */

static const char *const pieces[] = {
    "nil",
    "true",
    "0",
    "1",
    "2",
    "-1",
    "1e9",
    "1.5",
    "''",
    "'a'",
    "'x\\ny'",
    "'\\0'",
    "{}",
    "{'a'}",
    "{line=1}",
    "{expression=true}",
    "{first=1,last=1}",
    "text()",
    "line()",
    "lines()",
    "marked()",
    "cursor()",
    "say",
    "function () return insert('q') end",
    "'sort-lines'",
    "'go-line 2'",
    "'undo'",
    "('x'):rep(3000)",
    "{name='b'}",
};

/* Random calls with random arguments: none crashes, and a run that fails leaves the text as it was. */
TEST(random_calls_are_safe)
{
    Editor *probe = start("");
    script_describe(probe);
    const Registry *r = &probe->config.registry;
    for (int round = check_rounds(400); round > 0 && !check_failed(); round--) {
        Err e;
        Editor *ed = start("grey heron\r\nberth 4\n\ntide = low");
        Bytes script = {0};
        for (unsigned n = 1 + check_random(8); n > 0; n--) {
            const CallHelp *c = r->calls[check_random((unsigned)r->n_calls)];
            if (!c->name[0] || strcmp(c->name, "run") == 0)
                continue;
            bool sure = check_random(4) == 0;
            bytes_printf(&script, sure ? "%s(" : "pcall(%s", c->name);
            for (unsigned a = check_random(4), first = sure; a > 0; a--, first = 0)
                bytes_printf(&script, "%s%s", first ? "" : ", ",
                             pieces[check_random(sizeof pieces / sizeof *pieces)]);
            bytes_add_str(&script, ")\n");
        }
        char *before = text_of(ed);
        if (!runs(ed, bytes_str(&script), &e)) {
            char *after = text_of(ed);
            check_result(strcmp(before, after) == 0, __FILE__, __LINE__, "changed by\n%s\n%s", script.at,
                         e.text);
            free(after);
        } else if (doc_changed(ed->panes.view->file->doc)) {
            editors_press(ed, "Ctrl+Z");
            char *after = text_of(ed);
            check_result(strcmp(before, after) == 0, __FILE__, __LINE__, "no one step:\n%s", script.at);
            free(after);
        }
        free(before);
        bytes_free(&script);
        end(ed);
    }
    end(probe);
}

/* A script's command and a kept recording go one after the other; the keys are found again in between. */
TEST(commands_of_ones_own_go_at_the_end)
{
    Err e;
    unsigned line;
    Recorded keys = {0};
    Editor *ed = start("berth\n");
    CHECK(runs(ed, "command { name = 'stamp', run = function () insert('4 ') end }", &e));
    CHECK(recorded_read("Home\n", &keys, &e, &line) && kept_put(ed, NULL, "tick", &keys));
    CHECK(command_named(ed, "stamp") && command_named(ed, "tick"));
    script_free(ed);
    CHECK(!command_named(ed, "stamp") && command_named(ed, "tick"));
    recorded_free(&keys);
    end(ed);
}

/* Files that are opened, saved and named, as the editor does it, without a terminal. */
#include "check.h"
#include "session/caller_copy.h"
#include "session/session_files.h"
#include "editors.h"
#include "app/app.h"
#include "kept/earlier.h"
#include "text/text_line.h"
#include "view/shown.h"
#include "view/wanted.h"

#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

/* An editor with its own home and, if there is a name, that file of it. */
static Editor *start(const char *name)
{
    Err e = {""};
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
    Editor *ed = app_new();
    app_resize(ed, 24, 90);
    if (name)
        check_result(editor_open(ed, check_path(name), &e), __FILE__, __LINE__, "%s", e.text);
    return ed;
}

static void shown(Editor *ed)
{
    app_paint(ed);
    app_tick(ed, editors_now += 20);
}

/* Has this program any file in use? */
static bool taken(void)
{
    glob_t found;
    char pattern[200];
    snprintf(pattern, sizeof pattern, "%s/steady-quill-%ld-*", in_use_folder(), (long)getpid());
    bool any = glob(pattern, 0, NULL, &found) == 0;
    globfree(&found);
    return any;
}

static bool state_there(void)
{
    return access(check_path(".local/state/steady-quill/recovery.db"), F_OK) == 0;
}

/* Earlier saves are bounded: those of a file, and those of all; odd names among them are none. */
TEST(earlier_saves_are_bounded)
{
    Err e = {""};
    EarlierSave *all = NULL;
    setenv("HOME", check_folder(), 1);
    setenv("LOGNAME", "../kai", 1);
    unsetenv("XDG_STATE_HOME");
    for (int i = 0; i < 50; i++) {
        char text[20];
        snprintf(text, sizeof text, "berth %d\n", i);
        check_put("a.ini", text);
        check_put("b.ini", text);
        CHECK(earlier_keep(check_path("a.ini"), false, &e));
        CHECK(earlier_keep(check_path("a.ini"), false, &e)); /* the same once more */
        CHECK(i >= 3 || earlier_keep(check_path("b.ini"), false, &e));
    }
    CHECK_INT(earlier_list(check_path("a.ini"), &all), 40);
    CHECK_STR(all[0].who, ""); /* no name that could lead elsewhere */
    CHECK_INT(all[0].bytes, 9);
    free(all);
    glob_t found;
    CHECK(glob(check_path(".local/state/steady-quill/earlier/*"), 0, NULL, &found) == 0);
    CHECK_INT(found.gl_pathc, 2);
    for (size_t i = 0; i < found.gl_pathc; i++) {
        char odd[400];
        snprintf(odd, sizeof odd, "%s/5-1-a:b", found.gl_pathv[i]);
        FILE *file = fopen(odd, "w");
        CHECK(file && fclose(file) == 0);
    }
    globfree(&found);
    CHECK_INT(earlier_list(check_path("a.ini"), &all), 40);
    free(all);
    earlier_thin_out(100);
    size_t bytes = 0, n = 0;
    for (int file = 0; file < 2; file++) {
        size_t here = earlier_list(check_path(file ? "b.ini" : "a.ini"), &all);
        for (size_t i = 0; i < here; i++, n++)
            bytes += all[i].bytes;
        free(all);
    }
    CHECK(bytes <= 100 && bytes > 80 && n > 8);
}

TEST(the_state_folder_waits_for_the_screen)
{
    check_put("berths.txt", "berth 1 is free\n");
    Editor *ed = start("berths.txt");
    app_tick(ed, editors_now += 20);
    CHECK(!ed->session->store && !state_there() && !taken());
    CHECK_INT(app_wait(ed, editors_now), -1);
    app_paint(ed);
    CHECK_INT(app_wait(ed, editors_now), 0); /* but not for the next key */
    app_tick(ed, editors_now += 20);
    CHECK(ed->session->store && state_there() && taken());
    CHECK_INT(app_wait(ed, editors_now), -1);
    app_free(ed);
    CHECK(!taken());
}

TEST(the_first_key_finds_what_was_remembered)
{
    check_put("berths.txt", "berth 1 is free\n");
    Editor *ed = start("berths.txt");
    editors_press(ed, "x Ctrl+S y Ctrl+S");
    check_holds("berths.txt", "xyberth 1 is free\n");
    editors_press(ed, "Esc f c");
    app_free(ed);
    ed = start("berths.txt");
    editors_press(ed, "Ctrl+Z"); /* nothing was painted yet */
    CHECK(editors_text_is(ed, "xberth 1 is free\n"));
    editors_press(ed, "Ctrl+Z");
    CHECK(editors_text_is(ed, "berth 1 is free\n"));
    app_free(ed);
}

TEST(looking_takes_no_file)
{
    for (int look = 0; look < 2; look++) {
        check_put("berths.txt", "berth 1 is free\n");
        Editor *ed = start("berths.txt");
        ed->panes.view->file->look_only = look;
        shown(ed);
        CHECK_INT(taken(), !look);
        app_free(ed);
    }
}

TEST(opening_tells_although_a_line_is_gone_to)
{
    check_put("fares.txt", "Tarif\nZuschl\xe4ge f\xfcr die F\xe4hre\n");
    Editor *ed = start("fares.txt");
    wanted_line(&ed->panes, 1, 3);
    CHECK(strstr(ed->notices.text, "which is a guess"));
    CHECK_INT(ed->panes.view->cursor.at, 6 + 3);
    app_free(ed);
}

/* An editor that dies leaves its work; it is offered unless it is what stands in the file by then. */
TEST(work_that_was_saved_is_not_offered)
{
    for (int saved = 0; saved < 2; saved++) {
        check_put("berths.txt", "berth 1 is free\n");
        pid_t child = fork();
        if (child == 0) {
            Editor *ed = start("berths.txt");
            shown(ed);
            editors_press(ed, "x y");
            app_tick(ed, editors_now += 1000);
            app_emergency(ed);
            _exit(0);
        }
        waitpid(child, NULL, 0);
        check_put("berths.txt", saved ? "xyberth 1 is free\n" : "berth 1 is free\n");
        Editor *ed = start("berths.txt");
        if (!saved) { /* a key that comes before the question does not change what is asked about */
            editors_press(ed, "z");
            CHECK(editors_text_is(ed, "berth 1 is free\n"));
        }
        shown(ed);
        CHECK_INT(ed->layer != NULL, !saved);
        editors_now += 1000; /* a letter typed ahead would not answer */
        if (ed->layer)
            editors_press(ed, "t");
        CHECK(editors_text_is(ed, "xyberth 1 is free\n"));
        CHECK_INT(openfile_changed(ed->panes.view->file), !saved);
        doc_mark_saved(ed->panes.view->file->doc);
        app_free(ed);
    }
}

/* "Earlier clip" exchanges what was pasted, in the text where it was pasted, and nothing else. */
TEST(an_earlier_clip_only_where_it_was_pasted)
{
    check_put("a.txt", "one\ntwo\n");
    check_put("b.txt", "three\n");
    Err e = {""};
    Editor *ed = start("a.txt");
    shown(ed);
    OpenFile *a = ed->panes.view->file;
    editors_press(ed, "Ctrl+X Ctrl+Z Down Ctrl+X Ctrl+V");
    CHECK(editor_open(ed, check_path("b.txt"), &e));
    shown(ed);
    editors_press(ed, "x"); /* as many changes here as there */
    editors_press(ed, "Ctrl+Z y z");
    Text before = text_keep(view_text(ed->panes.view));
    editors_press(ed, "Esc e w");
    CHECK(text_same(before, view_text(ed->panes.view)));
    CHECK(strstr(ed->notices.text, "Paste first"));
    text_drop(&before);
    editor_show(ed, a);
    editors_press(ed, "Esc e w"); /* there it still can be */
    CHECK(!strstr(ed->notices.text, "Paste first"));
    doc_mark_saved(ed->panes.view->file->doc);
    app_free(ed);
}

TEST(the_width_of_a_tab_is_the_files)
{
    check_put(".editorconfig", "root = true\n[*.c]\ntab_width = 3\n");
    check_put("a.c", "\tone\n");
    check_put("b.txt", "\ttwo\n");
    Err e = {""};
    Editor *ed = start("a.c");
    CHECK_INT(view_tab(ed->panes.view), 3);
    CHECK(settings_set(&ed->config, "line_numbers", "false", NULL, &e));
    CHECK_INT(view_tab(ed->panes.view), 3);
    CHECK(editor_open(ed, check_path("b.txt"), &e));
    CHECK_INT(view_tab(ed->panes.view), 8);
    CHECK(settings_set(&ed->config, "tab_width", "4", NULL, &e));
    CHECK_INT(view_tab(ed->panes.view), 4);
    app_free(ed);
}

/* A text that is to be closed once it is written is not closed under a help page. */
TEST(nothing_is_closed_under_help)
{
    check_put("a.txt", "one\n");
    Editor *ed = start("a.txt");
    shown(ed);
    ed->session->rules.beside_from = 0;
    FileId id = ed->panes.view->file->id;
    editors_press(ed, "x Ctrl+S Esc f c F1");
    for (int i = 0; i < 30000 && session_file(ed->session, id) && session_file(ed->session, id)->writing;
         i++) {
        shown(ed);
        usleep(1000);
    }
    for (int i = 0; i < 20; i++)
        shown(ed);
    CHECK(session_file(ed->session, id) && !session_file(ed->session, id)->writing);
    editors_press(ed, "Esc");
    shown(ed);
    CHECK(!session_file(ed->session, id));
    check_holds("a.txt", "xone\n");
    app_free(ed);
}

/* One comes back to where one was; not when a place was said, or by the setting. */
TEST(places_are_remembered)
{
    static const struct {
        const char *name, *after; /* what is done after opening it again */
        bool remember;
        size_t line; /* where the cursor is then */
    } cases[] = {
        {"again", NULL, true, 2}, {"a line was given", "line", true, 0}, {"switched off", NULL, false, 0}};
    char folder[] = "/dev/shm/places-XXXXXX", path[sizeof folder + 20]; /* no temporary name */
    CHECK(mkdtemp(folder) != NULL);
    snprintf(path, sizeof path, "%s/berths.txt", folder);
    check_write(path, "one\ntwo\nthree\n", 14);
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        for (int again = 0; again < 2; again++) {
            Err e;
            Editor *ed = start(NULL);
            CHECK(
                settings_set(&ed->config, "remember_places", cases[i].remember ? "true" : "false", NULL, &e));
            CHECK(editor_open(ed, path, &e));
            if (again && cases[i].after)
                wanted_line(&ed->panes, 0, 0);
            shown(ed);
            if (again) {
                CHECK_INT(text_line_of(view_text(ed->panes.view), ed->panes.view->cursor.at), cases[i].line);
                CHECK_INT(ed->panes.view->cursor.at, cases[i].line ? 10 : 0);
            } else {
                editors_press(ed, "Ctrl+Home Down Down Right Right");
            }
            app_free(ed);
        }
    }
    unlink(path);
    rmdir(folder);
}

/* Files of the last weeks stand in a list; private ones do not, nor what was switched off; what is gone is
 * said. */
TEST(files_of_lately)
{
    static const struct {
        const char *name, *set;
        mode_t mode;
    } files[] = {{"kiosk.ini", NULL, 0644},
                 {"secret.ini", NULL, 0600},
                 {"berths.ini", NULL, 0644},
                 {"off.ini", "false", 0644}};
    char folder[] = "/dev/shm/lately-XXXXXX", path[sizeof folder + 20]; /* no temporary name */
    Err e;
    CHECK(mkdtemp(folder) != NULL);
    for (size_t i = 0; i < 4; i++) {
        Editor *ed = start(NULL);
        snprintf(path, sizeof path, "%s/%s", folder, files[i].name);
        check_write(path, "a\n", 2);
        chmod(path, files[i].mode);
        CHECK(!files[i].set || settings_set(&ed->config, "list_lately", files[i].set, NULL, &e));
        CHECK(editor_open(ed, path, &e));
        shown(ed);
        app_free(ed);
    }
    snprintf(path, sizeof path, "%s/berths.ini", folder);
    unlink(path);
    Editor *ed = start(NULL);
    CHECK(editor_open(ed, check_path("x.txt"), &e));
    editors_press(ed, "Esc f u");
    CHECK(editors_show(ed, "kiosk.ini"));
    CHECK(editors_show(ed, folder));
    CHECK(!editors_show(ed, "secret.ini") && !editors_show(ed, "off.ini"));
    for (int i = 0; i < 200 && !editors_show(ed, "gone"); i++) {
        usleep(5000);
        tasks_poll(&ed->session->tasks);
    }
    editors_press(ed, "b e r t h s Enter");
    CHECK(editors_show(ed, "is no longer there"));
    editors_press(ed, "Esc f u b e r t h s Delete");
    CHECK(!editors_show(ed, "gone"));
    editors_press(ed, "Esc Esc f u k i o s k Enter");
    CHECK_STR(openfile_name(ed->panes.view->file), "kiosk.ini");
    app_free(ed);
    for (size_t i = 0; i < 4; i++) {
        snprintf(path, sizeof path, "%s/%s", folder, files[i].name);
        unlink(path);
    }
    rmdir(folder);
}

TEST(an_untouched_text_gives_way)
{
    static const char *const keys[] = {"", "x", "x Backspace"};
    check_put("berths.txt", "one\n");
    for (size_t i = 0; i < 3; i++) {
        Err e;
        check_case(keys[i]);
        Editor *ed = start(NULL);
        editor_show(ed, session_add(ed->session, (Text){0}));
        shown(ed);
        editors_press(ed, keys[i]);
        CHECK(editor_open(ed, check_path("berths.txt"), &e));
        CHECK_INT(ed->session->n_files, i == 0 ? 1 : 2);
        app_free(ed);
    }
}

/* What the copies that other programs give to be edited stand for. */
TEST(copies_of_callers)
{
    static const struct {
        const char *path, *original, *caller; /* NULL: it is no copy */
    } cases[] = {
        {"/var/tmp/sshd_config.XhQ2kd9z", "sshd_config", "a copy for sudo -e"},
        {"/var/tmp/fstab.a1B2c3D4", "/etc/fstab", "a copy for sudo -e"},
        {"/tmp/kioskXhQ2kd9z.yaml", "kiosk.yaml", "a copy for sudo -e"},
        {"/etc/systemd/system/tide.service.d/.#override.conf0f3a9c2b11d4e5f6",
         "/etc/systemd/system/tide.service.d/override.conf", "a copy for systemctl edit"},
        {"/etc/passwd.edit", "/etc/passwd", "a copy for vipw"},
        {"/etc/sudoers.tmp", "/etc/sudoers", "a copy for visudo"},
        {"/tmp/crontab.Jd83kQ/crontab", "crontab", "a copy for crontab -e"},
        {"/tmp/crontab.Jd83kQ", "crontab", "a copy for crontab -e"},
        {"/tmp/kiosk-k3Jd9a.conf", "kiosk.conf", "a temporary copy"},
        {"/tmp/hosts.k3Jd9a", "/etc/hosts", "a temporary copy"},
        {"/tmp/notes.txt", NULL, ""},
        {"/tmp/berth.schedule", NULL, ""},
        {"/tmp/log-20261130", NULL, ""},
        {"/tmp/.#x", NULL, ""},
        {"/tmp/a.", NULL, ""},
        {"/srv/harrow/sshd_config.XhQ2kd9z", NULL, ""},
        {"/etc/kiosk.edit.d", NULL, ""},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        const char *caller = "";
        char *found = caller_original(cases[i].path, &caller);
        check_case(cases[i].path);
        CHECK(!found == !cases[i].original);
        if (found && cases[i].original) {
            CHECK_STR(found, cases[i].original);
            CHECK_STR(caller, cases[i].caller);
        }
        free(found);
    }
    check_case(NULL);
}

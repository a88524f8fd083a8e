/* The session: whatever happens at the same time, nothing is lost, nothing is written that was not agreed to,
 * and nobody is asked twice. */
#include "check.h"
#include "base/paths.h"
#include "sessions.h"
#include "kept/recoverable.h"
#include "session/keeper.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/writing.h"
#include "session/session_run.h"
#include "session/session_files.h"
#include "session/session_around.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

static void type_at(OpenFile *f, size_t at, const char *words)
{
    CHECK(doc_replace(f->doc, at, 0, words, strlen(words), STEP_WHOLE, at));
}

static bool text_is(Text t, const char *want)
{
    char bytes[600];
    size_t n = text_read(t, 0, bytes, sizeof bytes);
    return n == text_len(t) && n == strlen(want) && memcmp(bytes, want, n) == 0;
}

/* ---- one thing at a time, while a save is under way ---- */

/* Typed after the save began and the file closed, left, reloaded or renamed: the letters are asked about or
 * stay. */
TEST(what_is_typed_while_a_save_goes_on_is_not_lost)
{
    static const struct {
        const char *name;
        PlanKind kind;
        AskFor asks; /* what is asked when the save has ended */
    } cases[] = {
        {"close", PLAN_CLOSE, ASK_UNSAVED},     {"leave", PLAN_LEAVE, ASK_UNSAVED},
        {"reload", PLAN_RELOAD, ASK_RELOAD},    {"rename", PLAN_RENAME, ASK_NOTHING},
        {"save again", PLAN_SAVE, ASK_NOTHING}, {"save every", PLAN_SAVE_EVERY, ASK_NOTHING},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        unlink(check_path("other.log"));
        check_put("tide.log", "high\n");
        Session *s = sessions_start(NULL);
        s->rules.beside_from = 0;
        OpenFile *f = sessions_open(s, "tide.log");
        FileId id = f->id;
        type_at(f, 0, "first ");
        plan_begin(s, PLAN_SAVE, id, NULL, NULL);
        CHECK(f->writing != NULL);
        type_at(f, 6, "second ");
        plan_begin(s, cases[i].kind, id, cases[i].kind == PLAN_RENAME ? check_path("other.log") : NULL, NULL);
        type_at(f, 13, "third ");
        sessions_finish_writing(s);
        const Plan *p = plan_asking(s);
        CHECK_INT(p ? p->ask : ASK_NOTHING, cases[i].asks);
        CHECK(session_file(s, id) == f && !s->left);
        if (session_file(s, id))
            CHECK(text_is(doc_text(f->doc), "first second third high\n"));
        if (p && cases[i].kind != PLAN_RELOAD) {
            plan_answer(s, p->number, ANSWER_SAVE, NULL);
            sessions_finish_writing(s);
            CHECK(cases[i].kind == PLAN_LEAVE ? s->left : session_file(s, id) == NULL);
            check_holds("tide.log", "first second third high\n");
        }
        if (cases[i].kind == PLAN_RENAME)
            check_holds("other.log", "first high\n");
        if (cases[i].kind == PLAN_SAVE || cases[i].kind == PLAN_SAVE_EVERY)
            check_holds("tide.log", "first second third high\n");
        session_free(s);
    }
}

/* Another program writes while a save goes on, or just before: it is asked, and what it wrote is there. */
TEST(what_others_write_is_not_overwritten)
{
    for (int beside = 0; beside < 2; beside++)
        for (int how = 0; how < 3; how++) {
            char name[40];
            snprintf(name, sizeof name, "beside %d, how %d", beside, how);
            check_case(name);
            check_put("berths", "one\n");
            Session *s = sessions_start(NULL);
            s->rules.beside_from = beside ? 0 : SIZE_MAX;
            OpenFile *f = sessions_open(s, "berths");
            type_at(f, 0, "mine ");
            if (how == 0) /* as long as before, at the same time as far as seconds go */
                check_put("berths", "two\n");
            else if (how == 1)
                unlink(check_path("berths"));
            else if (how == 2) {
                check_put("fresh", "three\n");
                CHECK(rename(check_path("fresh"), check_path("berths")) == 0);
            }
            plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
            sessions_finish_writing(s);
            const Plan *p = plan_asking(s);
            CHECK(p && p->ask == ASK_DISK && p->news == (how == 1 ? DISK_GONE : DISK_CHANGED));
            if (how != 1)
                check_holds("berths", how == 0 ? "two\n" : "three\n");
            /* agreed to; but by then it is yet another one */
            unsigned number = p ? p->number : 0;
            check_put("berths", "four!\n");
            plan_answer(s, number, ANSWER_YES, NULL);
            sessions_finish_writing(s);
            check_holds("berths", "four!\n");
            p = plan_asking(s);
            CHECK(p && p->ask == ASK_DISK);
            plan_answer(s, number, ANSWER_YES, NULL);
            sessions_finish_writing(s);
            check_holds("berths", "mine one\n");
            CHECK(!openfile_changed(f) && s->n_plans == 0);
            session_free(s);
        }
}

TEST(names_that_are_taken_meanwhile)
{
    for (int rename_it = 0; rename_it < 2; rename_it++) {
        check_put("a.ini", "a\n");
        check_put("b.ini", "b\n");
        Session *s = sessions_start(NULL);
        OpenFile *f = sessions_open(s, "a.ini");
        type_at(f, 0, "x");
        plan_begin(s, rename_it ? PLAN_RENAME : PLAN_SAVE, f->id, check_path("b.ini"), NULL);
        const Plan *p = plan_asking(s);
        CHECK(p && p->ask == ASK_REPLACE);
        unsigned number = p ? p->number : 0;
        check_put("b.ini", "other\n"); /* it is not what was agreed to any more */
        plan_answer(s, number, ANSWER_YES, NULL);
        check_holds("b.ini", "other\n");
        CHECK((p = plan_asking(s)) && p->ask == ASK_REPLACE);
        plan_answer(s, number, ANSWER_YES, NULL);
        check_holds("b.ini", rename_it ? "a\n" : "xa\n");
        CHECK(strcmp(f->path, check_path("b.ini")) == 0 && openfile_changed(f) == rename_it);
        session_free(s);
        unlink(check_path("a.ini"));
    }
}

/* "Another name" asks for one; nothing is written until it is there, and then there. */
/* Two texts that are to get one name at the same time: the second one is refused, whoever is quicker. */
TEST(one_new_name_for_two_texts)
{
    Session *s = sessions_start(NULL);
    s->rules.beside_from = 0; /* on a thread */
    check_put("tern.ini", "tern\n");
    check_put("gull.ini", "gull\n");
    OpenFile *tern = sessions_open(s, "tern.ini"), *gull = sessions_open(s, "gull.ini");
    doc_replace(gull->doc, 0, 0, "the ", 4, STEP_TYPE, 0);
    plan_begin(s, PLAN_SAVE, tern->id, check_path("pier.ini"), NULL);
    plan_begin(s, PLAN_SAVE, gull->id, check_path("pier.ini"), NULL);
    CHECK(strstr(sessions_notices.text, "is open here as another text") != NULL);
    sessions_finish_writing(s);
    check_holds("pier.ini", "tern\n");
    CHECK(strcmp(path_base(gull->path), "gull.ini") == 0 && openfile_changed(gull));
    session_free(s);
}

TEST(another_name_is_asked_for)
{
    for (int rename_it = 0; rename_it < 2; rename_it++) {
        check_put("a.ini", "a\n");
        check_put("b.ini", "b\n");
        unlink(check_path("c.ini"));
        Session *s = sessions_start(NULL);
        OpenFile *f = sessions_open(s, "a.ini");
        type_at(f, 0, "x");
        plan_begin(s, rename_it ? PLAN_RENAME : PLAN_SAVE, f->id, check_path("b.ini"), NULL);
        const Plan *p = plan_asking(s);
        CHECK(p && p->ask == ASK_REPLACE);
        unsigned number = p ? p->number : 0;
        plan_answer(s, number, ANSWER_NAME, NULL);
        p = plan_asking(s);
        CHECK(p && p->ask == ASK_NAME && strcmp(p->path, check_path("b.ini")) == 0);
        check_holds("a.ini", "a\n");
        check_holds("b.ini", "b\n");
        plan_answer(s, number, ANSWER_NAME, check_path("c.ini"));
        CHECK(s->n_plans == 0 && strcmp(f->path, check_path("c.ini")) == 0);
        check_holds("c.ini", rename_it ? "a\n" : "xa\n");
        check_holds("b.ini", "b\n");
        CHECK((access(check_path("a.ini"), F_OK) != 0) == rename_it);
        session_free(s);
    }
}

TEST(a_closed_file_is_simply_not_there)
{
    check_put("a.ini", "a\n");
    Session *s = sessions_start(NULL);
    FileId id = sessions_open(s, "a.ini")->id;
    plan_begin(s, PLAN_RENAME, id, NULL, NULL); /* its name is asked for */
    const Plan *p = plan_asking(s);
    unsigned number = p ? p->number : 0;
    CHECK(p && p->ask == ASK_NAME);
    session_close(s, session_file(s, id));
    CHECK(session_file(s, id) == NULL);
    plan_answer(s, number, ANSWER_NAME, check_path("b.ini"));
    CHECK(s->n_plans == 0 && access(check_path("b.ini"), F_OK) != 0);
    FileId again = sessions_open(s, "a.ini")->id;
    CHECK(again != id && session_file(s, id) == NULL);
    session_free(s);
}

/* A file that is still being read, or never was to its end, is what it was if reloading it fails, and a part
 * of it is nothing to go back to. */
TEST(what_was_read_in_part_is_never_taken_for_the_whole)
{
    enum { SIZE = 65 * 1024 * 1024 };
    static const char end[] = "last tide";
    for (int stopped = 0; stopped < 2; stopped++) {
        struct stat st;
        char words[TASK_WORDS_MAX];
        check_put("tides.log", "first tide\n");
        CHECK(truncate(check_path("tides.log"), SIZE) == 0);
        Session *s = sessions_start(NULL);
        OpenFile *f = sessions_open(s, "tides.log");
        CHECK(reading_unready(f, words));
        if (stopped)
            CHECK(reading_stop(s, f));
        CHECK(rename(check_path("tides.log"), check_path("away.log")) == 0);
        plan_begin(s, PLAN_RELOAD, f->id, NULL, NULL);
        CHECK(reading_unready(f, words));
        Encoding utf16;
        CHECK(rename(check_path("away.log"), check_path("tides.log")) == 0);
        FILE *out = fopen(check_path("tides.log"), "ae");
        CHECK(out && fputs(end, out) >= 0 && fclose(out) == 0 && encoding_named("utf-16le", &utf16));
        plan_begin(s, PLAN_RELOAD, f->id, NULL, &utf16); /* an odd number of bytes */
        CHECK(reading_unready(f, words));
        plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        CHECK(stat(check_path("tides.log"), &st) == 0 && st.st_size == (off_t)(SIZE + strlen(end)));

        plan_begin(s, PLAN_RELOAD, f->id, NULL, NULL);
        CHECK(!reading_unready(f, words) && text_len(doc_text(f->doc)) == SIZE + strlen(end));
        size_t cursor;
        CHECK(!doc_changed(f->doc) && !doc_undo(f->doc, &cursor));
        session_free(s);
    }
}

/* ---- the journal at the same time ---- */

/* A child that works and dies without a word. */
static void dies(void (*work)(Session *s))
{
    check_folder();
    pid_t child = fork();
    if (child == 0) {
        Session *s = sessions_start(NULL);
        work(s);
        kill(getpid(), SIGKILL);
    }
    waitpid(child, NULL, 0);
}

static void offers(const char *name, const char *want)
{
    Session *s = sessions_start(NULL);
    OpenFile *f = sessions_open(s, name);
    Offer o = keeper_offer(f);
    CHECK(o.row != 0);
    Err e = {""};
    CHECK(o.row && keeper_take(s, f, o.row, &e));
    check_result(text_is(doc_text(f->doc), want), __FILE__, __LINE__, "other text came back");
    session_free(s);
}

static void renames_and_types(Session *s)
{
    OpenFile *f = sessions_open(s, "quay.ini");
    type_at(f, 0, "typed ");
    sessions_tick(s);
    plan_begin(s, PLAN_RENAME, f->id, check_path("pier.ini"), NULL);
    journal_settle(keeper_journal(s), 5000);
}

TEST(work_on_a_renamed_file_is_offered_under_its_new_name)
{
    check_put("quay.ini", "a\n");
    dies(renames_and_types);
    CHECK(access(check_path("quay.ini"), F_OK) != 0);
    offers("pier.ini", "typed a\n");
}

static void types_through_a_link(Session *s)
{
    type_at(sessions_open(s, "link.ini"), 0, "typed ");
    sessions_tick(s);
}

TEST(work_through_a_link_is_offered_for_the_file)
{
    check_put("real.ini", "a\n");
    CHECK(symlink("real.ini", check_path("link.ini")) == 0);
    dies(types_through_a_link);
    offers("real.ini", "typed a\n");
}

static bool no_bases; /* the file itself is the base */

static void types_while_saving(Session *s)
{
    s->rules.beside_from = 0;
    if (no_bases)
        journal_store_bases(keeper_journal(s), 0);
    OpenFile *f = sessions_open(s, "night.log");
    type_at(f, 0, "first ");
    sessions_tick(s);
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    type_at(f, 6, "second ");
    sessions_tick(s); /* the letters are in the journal, */
    while (f->writing) {
        session_poll(s);
        usleep(200);
    }
    /* and must stay there when the save ends */
    journal_settle(keeper_journal(s), 5000);
}

static void types_while_saving_without_bases(Session *s)
{
    no_bases = true;
    types_while_saving(s);
}

TEST(letters_typed_during_a_save_stay_in_the_journal)
{
    for (int i = 0; i < 2; i++) {
        check_put("night.log", "a\n");
        dies(i ? types_while_saving_without_bases : types_while_saving);
        check_holds("night.log", "first a\n");
        offers("night.log", "first second a\n");
        unlink(check_path("night.log"));
    }
}

/* The journal has what was typed, the save has ended, and the program has not taken note of that. */
static void kept_but_not_noted(Session *s)
{
    sessions_notices.now += 1000;
    keeper_poll(s);
    sessions_notices.now += 1000;
    keeper_poll(s);
    struct pollfd fds[TASK_FDS];
    poll(fds, tasks_fds(&s->tasks, fds, TASK_FDS), 5000);
    journal_settle(keeper_journal(s), 5000);
}

/* The first letter is typed while the text gets another name on disk, and the program never takes note that
 * it has it. */
static void types_while_getting_a_name(Session *s)
{
    s->rules.beside_from = 0;
    OpenFile *f = sessions_open(s, "quay.ini");
    plan_begin(s, PLAN_SAVE, f->id, check_path("pier.ini"), NULL);
    CHECK(f->writing);
    type_at(f, 0, "typed ");
    kept_but_not_noted(s);
}

TEST(work_is_offered_under_either_name_of_a_broken_save)
{
    const char *names[] = {"quay.ini", "pier.ini"};
    for (int i = 0; i < 2; i++) {
        check_put("quay.ini", "a\n");
        dies(types_while_getting_a_name);
        check_holds("pier.ini", "a\n");
        offers(names[i], "typed a\n");
        unlink(check_path("pier.ini"));
    }
}

/* The program dies after the new version took the place of the old one, before it took note of that. */
static void dies_before_the_note(Session *s)
{
    s->rules.beside_from = 0;
    journal_store_bases(keeper_journal(s), 0);
    OpenFile *f = sessions_open(s, "night.log");
    type_at(f, 0, "first ");
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    type_at(f, 6, "second ");
    kept_but_not_noted(s);
}

TEST(either_version_can_be_the_base)
{
    for (int linked = 0; linked < 2; linked++) {
        check_put("night.log", "a\n");
        if (linked)
            CHECK(link(check_path("night.log"), check_path("other.log")) == 0);
        dies(dies_before_the_note);
        check_holds("night.log", "first a\n");
        offers("night.log", "first second a\n");
        unlink(check_path("night.log"));
        unlink(check_path("other.log"));
    }
}

static void types_much(Session *s)
{
    journal_store_bases(keeper_journal(s), 0);
    type_at(sessions_open(s, "night.log"), 0, "typed ");
    sessions_tick(s);
}

TEST(what_cannot_be_put_together_is_told_and_can_be_read)
{
    Err e = {""};
    Text t;
    check_put("night.log", "a\n");
    dies(types_much);
    check_put("night.log", "somebody else\n");
    Session *s = sessions_start(NULL);
    OpenFile *f = sessions_open(s, "night.log");
    int64_t row = keeper_offer(f).row;
    CHECK(row && !keeper_text(s, row, &t, &e) && strstr(e.text, "somebody else changed"));
    CHECK(!keeper_take(s, f, row, &e) && strstr(e.text, "somebody else changed"));
    CHECK(keeper_remains(s, row, &t));
    CHECK(text_is(t, "---- at byte 1, instead of 0 bytes:\ntyped \n"));
    text_drop(&t);
    session_free(s);
    s = sessions_start(NULL); /* nothing of it is gone */
    CHECK(keeper_offer(sessions_open(s, "night.log")).row == row);
    session_free(s);
}

/* The state folder goes away while somebody works. */
TEST(a_journal_that_was_removed_is_begun_again)
{
    check_put("a.ini", "a\n");
    check_folder();
    pid_t child = fork();
    if (child == 0) {
        Session *s = sessions_start(NULL);
        OpenFile *f = sessions_open(s, "a.ini");
        type_at(f, 0, "one ");
        sessions_tick(s);
        char command[200];
        snprintf(command, sizeof command, "rm -rf '%s/.local'", check_folder());
        if (system(command) != 0)
            _exit(1);
        type_at(f, 4, "two ");
        for (int i = 0; i < 20; i++) {
            sessions_tick(s);
            usleep(50 * 1000);
        }
        kill(getpid(), SIGKILL);
    }
    int status;
    waitpid(child, &status, 0);
    CHECK(WIFSIGNALED(status));
    offers("a.ini", "one two a\n");
}

/* ---- what a save that was broken off left ---- */

/* A process number that nobody has. */
static long dead_process(void)
{
    pid_t child = fork();
    if (child == 0)
        _exit(0);
    waitpid(child, NULL, 0);
    return (long)child;
}

static void leave_behind(const char *name, const char *what, const char *text)
{
    struct stat st;
    char path[200];
    CHECK(stat(check_path(name), &st) == 0);
    snprintf(path, sizeof path, ".%s.%lx-%lx.%lx.0%s", name, (unsigned long)st.st_dev,
             (unsigned long)st.st_ino, (unsigned long)dead_process(), what);
    check_put(path, text);
}

static bool left_over(void)
{
    char command[200];
    snprintf(command, sizeof command, "ls -A '%s' | grep -q -e unfinished -e safe-copy", check_folder());
    return system(command) == 0;
}

TEST(a_broken_save_is_found_and_offered)
{
    static const struct {
        const char *name, *copy;
        CopyFate fate;
        const char *after;
    } cases[] = {
        {"taken", "whole version\n", COPY_TAKE, "whole version\n"},
        {"removed", "whole version\n", COPY_REMOVE, "half a ver"},
        {"later", "whole version\n", COPY_LATER, "half a ver"},
        {"the same", "half a ver", COPY_LATER, "half a ver"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].name);
        check_put("quay", "half a ver");
        CHECK(link(check_path("quay"), check_path("other")) == 0);
        leave_behind("quay", "-safe-copy.bak", cases[i].copy);
        leave_behind("quay", "-unfinished.bak", "who");
        Session *s = sessions_start(NULL);
        OpenFile *f = sessions_open(s, "other"); /* by its other name it is the same file */
        CHECK((f->safe_copy.path != NULL) == (i < 3));
        session_settle_copy(s, f, cases[i].fate);
        if (cases[i].fate == COPY_TAKE) {
            CHECK(openfile_changed(f) && text_is(doc_text(f->doc), cases[i].after));
            CHECK(left_over()); /* until it is saved */
            plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        }
        check_holds("quay", cases[i].after);
        session_free(s);
        s = sessions_start(NULL); /* what is unfinished goes at the next opening under its name */
        f = sessions_open(s, "quay");
        CHECK((f->safe_copy.path != NULL) == (i == 2));
        session_free(s);
        CHECK(left_over() == (i == 2));
        char command[200];
        snprintf(command, sizeof command, "rm -f '%s'/.quay* '%s'/quay '%s'/other", check_folder(),
                 check_folder(), check_folder());
        CHECK(system(command) == 0);
    }
}

/* Of many files that are opened together, each gets its own, also where names begin alike. */
TEST(copies_of_many_files_are_told_apart)
{
    static const char *const names[] = {"hosts", "hosts.allow", "hosts.a", "allow", "quay", "quay.old.2"};
    enum { N = sizeof names / sizeof *names };
    char copy[40], command[200];
    for (int with = 0; with < 1 << N; with++) {
        Session *s = sessions_start(NULL);
        OpenFile *f[N];
        Err e;
        for (int i = 0; i < N; i++) {
            check_put(names[i], "half");
            snprintf(copy, sizeof copy, "whole %d", i);
            if (with & 1 << i)
                leave_behind(names[i], "-safe-copy.bak", copy);
            f[i] = session_open(s, check_path(names[i]), &e);
        }
        session_settle(s);
        for (int i = 0; i < N; i++) {
            Text t;
            CHECK((f[i]->safe_copy.path != NULL) == (with >> i & 1));
            snprintf(copy, sizeof copy, "whole %d", i);
            if (f[i]->safe_copy.path && session_copy_text(s, f[i], &t)) {
                CHECK(text_is(t, copy));
                text_drop(&t);
            }
        }
        session_free(s);
        snprintf(command, sizeof command, "rm -f '%s'/.*.bak", check_folder());
        CHECK(system(command) == 0);
    }
}

/* ---- the journal's silence ---- */

TEST(without_a_journal_it_is_told)
{
    check_put("a.ini", "a\n");
    check_put("file", "not a folder\n");
    Session *s = sessions_start(NULL);
    setenv("HOME", check_path("file"), 1);
    OpenFile *f = sessions_open(s, "a.ini");
    type_at(f, 0, "x");
    sessions_notices.text[0] = 0;
    sessions_tick(s);
    CHECK(sessions_notices.warning &&
          strncmp(sessions_notices.text, "Unsaved work cannot be kept: ", 29) == 0);
    setenv("HOME", check_folder(), 1); /* when there is room again, nothing needs to be typed for it */
    sessions_notices.now += 20000;
    sessions_tick(s);
    CHECK(keeper_journal(s) != NULL);
    Recoverable *r;
    size_t n = recoverable_list(keeper_journal(s), NULL, &r); /* our own is not listed, but there */
    recoverable_free(r, n);
    Err e = {""};
    CHECK(session_end(s, &e) && !e.text[0]);
    session_free(s);
}

/* That what a save replaces cannot be kept stops no save; but it is said. */
TEST(what_a_save_replaces_is_kept_or_it_is_told)
{
    Session *s = sessions_start(NULL);
    s->rules.keep_earlier = true;
    check_put("kiosk.ini", "[network]\n");
    OpenFile *f = sessions_open(s, "kiosk.ini");
    CHECK(check_shell("mkdir -p -m 700 .local/state/steady-quill; : >.local/state/steady-quill/earlier"));
    doc_replace(f->doc, 0, 0, "x", 1, STEP_TYPE, 0);
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    sessions_finish_writing(s);
    check_holds("kiosk.ini", "x[network]\n");
    CHECK(strstr(sessions_notices.text, "; what it replaced could not be kept: Cannot make the folder") !=
          NULL);
    session_free(s);
}

/* Asked to end with unsaved work that cannot be kept, the program says so; without such work it says nothing.
 */
TEST(what_cannot_be_kept_at_the_end_is_named)
{
    check_put("file", "not a folder\n");
    for (int typed = 0; typed < 2; typed++) {
        Err e = {""};
        check_put("a.ini", "a\n");
        Session *s = sessions_start(NULL);
        setenv("HOME", check_path("file"), 1);
        OpenFile *f = sessions_open(s, "a.ini");
        if (typed)
            type_at(f, 0, "x");
        CHECK(session_end(s, &e) == !typed);
        CHECK(!typed || strcmp(e.text, "what was not saved of a.ini could not be kept for recovery") == 0);
        session_free(s);
        setenv("HOME", check_folder(), 1);
    }
}

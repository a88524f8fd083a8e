/* The session: whatever happens at the same time, nothing is lost, nothing is written that was not agreed to,
 * and nobody is asked twice. */
#include "check.h"
#include "base/sys.h"
#include "files/recoverable.h"
#include "session/keeper.h"
#include "session/plan.h"
#include "session/reading.h"
#include "session/writing.h"

#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

static Notices notices = {.now = 100000};

static Session *start(const SessionEvents *events)
{
    setenv("HOME", check_folder(), 1);
    unsetenv("XDG_STATE_HOME");
    Session *s = session_new(&notices);
    if (events)
        session_observe(s, events);
    s->rules.keep_recovery = s->rules.say_in_use = s->reading = true;
    s->rules.last_newline = NEWLINE_KEEP;
    return s;
}

static OpenFile *open_file(Session *s, const char *name)
{
    Err e = {""};
    OpenFile *f = session_open(s, check_path(name), &e);
    check_result(f != NULL, __FILE__, __LINE__, "%s", e.text);
    session_settle(s);
    return f;
}

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

static bool is_writing(const Session *s)
{
    for (size_t i = 0; i < s->n_files; i++)
        if (s->files[i]->writing)
            return true;
    return false;
}

/* Until nothing is being written. */
static void finish_writing(Session *s)
{
    while (is_writing(s)) {
        session_poll(s);
        usleep(200);
    }
    session_poll(s);
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
        Session *s = start(NULL);
        s->rules.beside_from = 0;
        OpenFile *f = open_file(s, "tide.log");
        FileId id = f->id;
        type_at(f, 0, "first ");
        plan_begin(s, PLAN_SAVE, id, NULL, NULL);
        CHECK(f->writing != NULL);
        type_at(f, 6, "second ");
        plan_begin(s, cases[i].kind, id, cases[i].kind == PLAN_RENAME ? check_path("other.log") : NULL, NULL);
        type_at(f, 13, "third ");
        finish_writing(s);
        const Plan *p = plan_asking(s);
        CHECK_INT(p ? p->ask : ASK_NOTHING, cases[i].asks);
        CHECK(session_file(s, id) == f && !s->left);
        if (session_file(s, id))
            CHECK(text_is(doc_text(f->doc), "first second third high\n"));
        if (p && cases[i].kind != PLAN_RELOAD) {
            plan_answer(s, p->number, ANSWER_SAVE, NULL);
            finish_writing(s);
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
            Session *s = start(NULL);
            s->rules.beside_from = beside ? 0 : SIZE_MAX;
            OpenFile *f = open_file(s, "berths");
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
            finish_writing(s);
            const Plan *p = plan_asking(s);
            CHECK(p && p->ask == ASK_DISK && p->news == (how == 1 ? DISK_GONE : DISK_CHANGED));
            if (how != 1)
                check_holds("berths", how == 0 ? "two\n" : "three\n");
            /* agreed to; but by then it is yet another one */
            unsigned number = p ? p->number : 0;
            check_put("berths", "four!\n");
            plan_answer(s, number, ANSWER_YES, NULL);
            finish_writing(s);
            check_holds("berths", "four!\n");
            p = plan_asking(s);
            CHECK(p && p->ask == ASK_DISK);
            plan_answer(s, number, ANSWER_YES, NULL);
            finish_writing(s);
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
        Session *s = start(NULL);
        OpenFile *f = open_file(s, "a.ini");
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
TEST(another_name_is_asked_for)
{
    for (int rename_it = 0; rename_it < 2; rename_it++) {
        check_put("a.ini", "a\n");
        check_put("b.ini", "b\n");
        unlink(check_path("c.ini"));
        Session *s = start(NULL);
        OpenFile *f = open_file(s, "a.ini");
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
    Session *s = start(NULL);
    FileId id = open_file(s, "a.ini")->id;
    plan_begin(s, PLAN_RENAME, id, NULL, NULL); /* its name is asked for */
    const Plan *p = plan_asking(s);
    unsigned number = p ? p->number : 0;
    CHECK(p && p->ask == ASK_NAME);
    session_close(s, session_file(s, id));
    CHECK(session_file(s, id) == NULL);
    plan_answer(s, number, ANSWER_NAME, check_path("b.ini"));
    CHECK(s->n_plans == 0 && access(check_path("b.ini"), F_OK) != 0);
    FileId again = open_file(s, "a.ini")->id;
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
        Session *s = start(NULL);
        OpenFile *f = open_file(s, "tides.log");
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
        Session *s = start(NULL);
        work(s);
        kill(getpid(), SIGKILL);
    }
    waitpid(child, NULL, 0);
}

static void offers(const char *name, const char *want)
{
    Session *s = start(NULL);
    OpenFile *f = open_file(s, name);
    Offer o = keeper_offer(f);
    CHECK(o.row != 0);
    Err e = {""};
    CHECK(o.row && keeper_take(s, f, o.row, &e));
    check_result(text_is(doc_text(f->doc), want), __FILE__, __LINE__, "other text came back");
    session_free(s);
}

static void tick(Session *s)
{
    notices.now += 1000;
    session_poll(s);
    notices.now += 1000;
    session_poll(s);
    journal_settle(keeper_journal(s), 5000);
}

static void renames_and_types(Session *s)
{
    OpenFile *f = open_file(s, "quay.ini");
    type_at(f, 0, "typed ");
    tick(s);
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
    type_at(open_file(s, "link.ini"), 0, "typed ");
    tick(s);
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
    OpenFile *f = open_file(s, "night.log");
    type_at(f, 0, "first ");
    tick(s);
    plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
    type_at(f, 6, "second ");
    tick(s); /* the letters are in the journal, */
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
    notices.now += 1000;
    keeper_poll(s);
    notices.now += 1000;
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
    OpenFile *f = open_file(s, "quay.ini");
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
    OpenFile *f = open_file(s, "night.log");
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
    type_at(open_file(s, "night.log"), 0, "typed ");
    tick(s);
}

TEST(what_cannot_be_put_together_is_told_and_can_be_read)
{
    Err e = {""};
    Text t;
    check_put("night.log", "a\n");
    dies(types_much);
    check_put("night.log", "somebody else\n");
    Session *s = start(NULL);
    OpenFile *f = open_file(s, "night.log");
    int64_t row = keeper_offer(f).row;
    CHECK(row && !keeper_text(s, row, &t, &e) && strstr(e.text, "somebody else changed"));
    CHECK(!keeper_take(s, f, row, &e) && strstr(e.text, "somebody else changed"));
    CHECK(keeper_remains(s, row, &t));
    CHECK(text_is(t, "---- at byte 1, instead of 0 bytes:\ntyped \n"));
    text_drop(&t);
    session_free(s);
    s = start(NULL); /* nothing of it is gone */
    CHECK(keeper_offer(open_file(s, "night.log")).row == row);
    session_free(s);
}

/* The state folder goes away while somebody works. */
TEST(a_journal_that_was_removed_is_begun_again)
{
    check_put("a.ini", "a\n");
    check_folder();
    pid_t child = fork();
    if (child == 0) {
        Session *s = start(NULL);
        OpenFile *f = open_file(s, "a.ini");
        type_at(f, 0, "one ");
        tick(s);
        char command[200];
        snprintf(command, sizeof command, "rm -rf '%s/.local'", check_folder());
        if (system(command) != 0)
            _exit(1);
        type_at(f, 4, "two ");
        for (int i = 0; i < 20; i++) {
            tick(s);
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
        leave_behind("quay", "-safe-copy", cases[i].copy);
        leave_behind("quay", "-unfinished", "who");
        Session *s = start(NULL);
        OpenFile *f = open_file(s, "other"); /* by its other name it is the same file */
        CHECK((f->safe_copy.path != NULL) == (i < 3));
        session_settle_copy(s, f, cases[i].fate);
        if (cases[i].fate == COPY_TAKE) {
            CHECK(openfile_changed(f) && text_is(doc_text(f->doc), cases[i].after));
            CHECK(left_over()); /* until it is saved */
            plan_begin(s, PLAN_SAVE, f->id, NULL, NULL);
        }
        check_holds("quay", cases[i].after);
        session_free(s);
        s = start(NULL); /* what is unfinished goes at the next opening under its name */
        f = open_file(s, "quay");
        CHECK((f->safe_copy.path != NULL) == (i == 2));
        session_free(s);
        CHECK(left_over() == (i == 2));
        char command[200];
        snprintf(command, sizeof command, "rm -f '%s'/.quay* '%s'/quay '%s'/other", check_folder(),
                 check_folder(), check_folder());
        CHECK(system(command) == 0);
    }
}

/* ---- the journal's silence ---- */

TEST(without_a_journal_it_is_told)
{
    check_put("a.ini", "a\n");
    check_put("file", "not a folder\n");
    Session *s = start(NULL);
    setenv("HOME", check_path("file"), 1);
    OpenFile *f = open_file(s, "a.ini");
    type_at(f, 0, "x");
    notices.text[0] = 0;
    tick(s);
    CHECK(notices.warning && strncmp(notices.text, "No recovery of unsaved work: ", 29) == 0);
    setenv("HOME", check_folder(), 1); /* when there is room again, nothing needs to be typed for it */
    notices.now += 20000;
    tick(s);
    CHECK(keeper_journal(s) != NULL);
    Recoverable *r;
    size_t n = recoverable_list(keeper_journal(s), NULL, &r); /* our own is not listed, but there */
    recoverable_free(r, n);
    Err e = {""};
    CHECK(session_end(s, &e) && !e.text[0]);
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
        Session *s = start(NULL);
        setenv("HOME", check_path("file"), 1);
        OpenFile *f = open_file(s, "a.ini");
        if (typed)
            type_at(f, 0, "x");
        CHECK(session_end(s, &e) == !typed);
        CHECK(!typed || strcmp(e.text, "what was not saved of a.ini could not be kept for recovery") == 0);
        session_free(s);
        setenv("HOME", check_folder(), 1);
    }
}

/* ---- random orders of everything ---- */

/* Of the library that makes system calls fail; NULL when it is not there. */
__attribute__((weak)) void fault_arm(long n, const char *what);
__attribute__((weak)) void fault_hold(int on);

/* What the test itself does is not made to fail. */
static void hold(bool on)
{
    if (fault_hold)
        fault_hold(on);
}

enum { NAMES = 4, TEXT_CAP = 400, VERSIONS = 200 };
static const char *const names[NAMES] = {"a", "b", "c", "d"};

/* What the parent must know when the child dies, in memory that both share. */
typedef struct Witness {
    char path[32];
    char versions[VERSIONS][TEXT_CAP]; /* of the text, the newest last */
    int n, safe;                       /* from which on it must be there */
    bool clean;                        /* since then it was once on disk, or given up */
} Witness;

typedef struct Witnesses {
    Witness files[2];
    bool outside; /* another program wrote, or a text was put in a file's place by its new name */
    long steps, saves, kills, questions, taken, others;
    char fault[40]; /* what was made to fail */
} Witnesses;

static Witnesses *shared;

/* One open file as it must be. */
typedef struct Model {
    FileId id;
    char want[TEXT_CAP];
    char known[TEXT_CAP]; /* what the session last read, wrote or was told to overwrite; "?": nothing there */
    bool drop, reload;    /* it was agreed to lose `want`, or to have it replaced by what is on disk */
    bool clean;           /* it had no changes after the last step */
    size_t state;         /* of the document */
} Model;

static Model models[2];
static unsigned typed_so_far;

static void read_disk(const char *path, char out[TEXT_CAP])
{
    hold(true);
    FILE *f = fopen(path, "rb");
    size_t n = f ? fread(out, 1, TEXT_CAP - 1, f) : 0;
    out[n] = 0;
    if (f)
        fclose(f);
    else
        strcpy(out, "?");
    hold(false);
}

static bool still(const char *path, const DiskState *state)
{
    hold(true);
    bool same = disk_is(path, state);
    hold(false);
    return same;
}

static void text_string(Text t, char out[TEXT_CAP])
{
    out[text_read(t, 0, out, TEXT_CAP - 1)] = 0;
}

/* Is there nothing in it that was not saved? By its bytes: what was typed and taken away again is no work. */
static bool is_saved(const OpenFile *f)
{
    Text now = doc_text(f->doc), saved = doc_saved_text(f->doc);
    return !f->format_changed && text_len(now) == text_len(saved) &&
           text_same_bytes(now, 0, saved, 0, text_len(now));
}

static Model *model_of(FileId id)
{
    for (int i = 0; i < 2; i++)
        if (models[i].id == id && id)
            return &models[i];
    return NULL;
}

static void on_closing(void *ctx, OpenFile *f)
{
    (void)ctx;
    Model *m = model_of(f->id);
    if (!m)
        return;
    check_result(!openfile_changed(f) || m->drop, __FILE__, __LINE__, "closed with unsaved work");
    m->id = 0;
    shared->files[m - models].n = 0;
}

static void note_version(int i)
{
    Witness *w = &shared->files[i];
    if (w->n && strcmp(w->versions[w->n - 1], models[i].want) == 0)
        return;
    if (w->n == VERSIONS) {
        memmove(w->versions, w->versions + 1, sizeof w->versions - sizeof *w->versions);
        w->n--;
        w->safe -= w->safe > 0;
    }
    strcpy(w->versions[w->n++], models[i].want);
}

static void look_after(Session *s, const char *step)
{
    for (int i = 0; i < 2; i++) {
        Model *m = &models[i];
        OpenFile *f = session_file(s, m->id);
        char is[TEXT_CAP];
        if (!m->id)
            continue;
        CHECK(f != NULL);
        if (!f)
            continue;
        text_string(doc_text(f->doc), is);
        size_t state = doc_state_now(f->doc);
        const char *verb = doc_state(f->doc, state).verb;
        if (state != m->state && verb && strcmp(verb, "Reload") == 0) {
            check_result(m->clean || m->reload, __FILE__, __LINE__, "reloaded over unsaved work");
            strcpy(m->want, is);
            m->reload = false;
        }
        m->state = state;
        m->clean = !openfile_changed(f);
        shared->files[i].clean = shared->files[i].clean || is_saved(f);
        check_result(strcmp(is, m->want) == 0, __FILE__, __LINE__, "after %s: “%s”, wanted “%s”", step, is,
                     m->want);
        if (f->path && !f->disk.exists)
            strcpy(m->known, "?");
        else if (f->path && still(f->path, &f->disk))
            read_disk(f->path, m->known);
        snprintf(shared->files[i].path, sizeof shared->files[i].path, "%s",
                 f->path ? sys_base_name(f->path) : "");
        note_version(i);
    }
}

/* Work of a life before is taken or put away, so that none of it is offered twice. */
static void take_offer(Session *s, OpenFile *f)
{
    int64_t row = keeper_offer(f).row;
    Err e = {""};
    Text t;
    if (!row)
        return;
    bool there = check_random(3) && keeper_text(s, row, &t, &e);
    if (there && keeper_take(s, f, row, &e))
        CHECK(text_len(t) == text_len(doc_text(f->doc)) &&
              text_same_bytes(t, 0, doc_text(f->doc), 0, text_len(t)));
    else /* or it cannot be had: another program changed its base since */
        keeper_put_away(s, f, row);
    if (there)
        text_drop(&t);
    shared->taken += there;
}

static void model_open(Session *s, int i)
{
    const char *name = names[check_random(NAMES)];
    for (int k = 0; k < 2; k++)
        if (models[k].id && session_file(s, models[k].id) && session_file(s, models[k].id)->path &&
            strcmp(session_file(s, models[k].id)->path, check_path(name)) == 0)
            return;
    if (models[i].id)
        return;
    Err e = {""};
    OpenFile *f = session_open(s, check_path(name), &e);
    if (!f) { /* a call failed: it was said */
        CHECK((fault_arm != NULL && e.text[0]) || strstr(e.text, "being written"));
        return;
    }
    session_settle(s);
    f->used = false;
    take_offer(s, f);
    models[i] = (Model){.id = f->id};
    text_string(doc_text(f->doc), models[i].want);
    strcpy(models[i].known, models[i].want);
    if (!f->disk.exists)
        strcpy(models[i].known, "?");
    else
        read_disk(f->path, models[i].known);
    models[i].state = doc_state_now(f->doc);
    shared->files[i].n = shared->files[i].safe = 0;
}

static void model_type(Session *s, Model *m)
{
    OpenFile *f = session_file(s, m->id);
    char words[16];
    if (!f)
        return;
    unsigned long version = doc_version(f->doc);
    if (strlen(m->want) > TEXT_CAP - 40) {
        CHECK(doc_replace(f->doc, 0, 200, NULL, 0, STEP_WHOLE, 0));
        text_string(doc_text(f->doc), m->want);
    }
    size_t at = check_random((unsigned)strlen(m->want) + 1);
    int n = snprintf(words, sizeof words, "%u ", ++typed_so_far);
    if (check_random(6) == 0 && strlen(m->want) > 3) {
        CHECK(doc_replace(f->doc, 0, 2, NULL, 0, STEP_WHOLE, 0));
    } else if (check_random(8) == 0) {
        size_t cursor;
        doc_undo(f->doc, &cursor);
    } else {
        CHECK(doc_replace(f->doc, at, 0, words, (size_t)n, STEP_TYPE, at));
    }
    text_string(doc_text(f->doc), m->want);
    if (doc_version(f->doc) != version)
        m->drop = m->reload = false;
    m->state = doc_state_now(f->doc);
}

/* Somebody else's program. */
static void model_outside(Session *s)
{
    const char *path = check_path(names[check_random(NAMES)]);
    char words[40];
    for (size_t i = 0; i < s->n_files; i++) /* between our last look and our rename nobody could know */
        if (s->files[i]->writing)
            return;
    shared->outside = true;
    hold(true);
    snprintf(words, sizeof words, "outside %u\n", ++typed_so_far);
    switch (check_random(4)) {
    case 0:
        unlink(path);
        break;
    case 1:
        check_write(check_path("fresh"), words, strlen(words));
        CHECK(rename(check_path("fresh"), path) == 0);
        break;
    default:
        check_write(path, words, strlen(words));
    }
    hold(false);
}

/* Another editor of ours, on the same files: it asks too before it writes over what it does not know. */
static void model_other(Session *s, Session *other)
{
    Err e = {""};
    char before[TEXT_CAP], after[TEXT_CAP];
    static char knows[NAMES][TEXT_CAP];
    unsigned which = check_random(NAMES);
    const char *path = check_path(names[which]);
    if (is_writing(s))
        return;
    bool opened = false;
    for (size_t i = 0; i < other->n_files; i++)
        opened = opened || (other->files[i]->path && strcmp(other->files[i]->path, path) == 0);
    OpenFile *f = session_open(other, path, &e);
    if (!f)
        return;
    read_disk(path, before);
    if (!opened)
        strcpy(knows[which], before);
    char words[16];
    int n = snprintf(words, sizeof words, "other %u ", ++typed_so_far);
    if (text_len(doc_text(f->doc)) < TEXT_CAP / 2)
        doc_replace(f->doc, 0, 0, words, (size_t)n, STEP_WHOLE, 0);
    shared->outside = true;
    shared->others++;
    plan_begin(other, PLAN_SAVE, f->id, NULL, NULL);
    const Plan *p = plan_asking(other);
    read_disk(path, after);
    check_result(strcmp(before, after) == 0 || strcmp(before, knows[which]) == 0, __FILE__, __LINE__,
                 "the other one overwrote “%s”, knew “%s”", before, knows[which]);
    if (p)
        plan_answer(other, p->number, check_random(2) ? ANSWER_YES : ANSWER_RELOAD, NULL);
    read_disk(path, knows[which]);
    session_close(other, f); /* whatever it still holds is not this test's */
}

static bool reloads(const Plan *p, Answer a)
{
    return a == ANSWER_RELOAD || (p->kind == PLAN_RELOAD && a == ANSWER_YES);
}

static void model_answer(Session *s)
{
    static const Answer answers[][6] = {
        [ASK_NAME] = {ANSWER_NAME, ANSWER_NO},
        [ASK_REPLACE] = {ANSWER_YES, ANSWER_YES, ANSWER_NO, ANSWER_NAME},
        [ASK_DISK] = {ANSWER_YES, ANSWER_YES, ANSWER_NO, ANSWER_RELOAD, ANSWER_AGAIN},
        [ASK_UNSAVED] = {ANSWER_SAVE, ANSWER_DROP, ANSWER_NO, ANSWER_SAVE_ALL, ANSWER_DROP_ALL, ANSWER_AGAIN},
        [ASK_RELOAD] = {ANSWER_YES, ANSWER_NO, ANSWER_AGAIN},
    };
    Plan *p = plan_asking(s);
    if (!p)
        return;
    Answer a = answers[p->ask][check_random(6)];
    AskFor ask = p->ask;
    unsigned number = p->number;
    OpenFile *f = session_file(s, p->file);
    Model *m = f ? model_of(f->id) : NULL;
    DiskState seen = p->seen;
    unsigned long version = f ? doc_version(f->doc) : 0;
    shared->questions++;
    shared->outside = shared->outside || a == ANSWER_NAME;
    if (m && a == ANSWER_YES && ask == ASK_DISK && still(f->path, &seen))
        read_disk(f->path, m->known);
    if (m && a == ANSWER_DROP)
        m->drop = true;
    for (int i = 0; i < 2 && a == ANSWER_DROP_ALL; i++)
        models[i].drop = true;
    if (m && reloads(p, a))
        m->reload = true;
    plan_answer(s, number, a, check_path(names[check_random(NAMES)]));
    p = plan_numbered(s, number);
    bool same = p && p->state == PLAN_ASKS && p->ask == ask && f && session_file(s, p->file) == f &&
                doc_version(f->doc) == version && disk_same(&p->seen, &seen);
    if (same && ask != ASK_NAME && (a == ANSWER_YES || a == ANSWER_DROP))
        check_result(false, __FILE__, __LINE__, "asked twice: %d of plan %d, %s", (int)ask, (int)p->kind,
                     notices.text);
}

static void model_plan(Session *s, Model *m)
{
    static const PlanKind kinds[] = {PLAN_SAVE,  PLAN_SAVE,   PLAN_SAVE,       PLAN_SAVE, PLAN_RENAME,
                                     PLAN_CLOSE, PLAN_RELOAD, PLAN_SAVE_EVERY, PLAN_LEAVE};
    PlanKind kind = kinds[check_random(sizeof kinds / sizeof *kinds)];
    const char *path = NULL;
    if (kind == PLAN_RENAME || (kind == PLAN_SAVE && check_random(5) == 0))
        path = check_path(names[check_random(NAMES)]);
    shared->outside = shared->outside || path;
    OpenFile *f = session_file(s, m->id);
    if (!f && kind != PLAN_LEAVE && kind != PLAN_SAVE_EVERY)
        return;
    if (kind == PLAN_LEAVE && check_random(4))
        return;
    char before[TEXT_CAP] = "?";
    bool own = kind == PLAN_SAVE && f && f->path && !path && !f->writing;
    if (own)
        read_disk(f->path, before);
    plan_begin(s, kind, f ? f->id : 0, path, NULL);
    f = session_file(s, m->id);
    if (own && f && (f->writing || !openfile_changed(f)) && !plan_asking(s))
        check_result(strcmp(before, m->known) == 0, __FILE__, __LINE__, "overwrote “%s”, knew “%s”", before,
                     m->known);
    shared->saves += own;
}

static void settle_all(Session *s)
{
    Err e;
    tick(s);
    if (!keeper_journal(s) || journal_trouble(keeper_journal(s), &e) || journal_waits(keeper_journal(s)))
        return;
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        shared->files[i].safe = shared->files[i].n ? shared->files[i].n - 1 : 0;
        shared->files[i].clean = !f || is_saved(f);
    }
}

/* A life of the program, up to its end or its death. */
static void live(int steps, unsigned round)
{
    SessionEvents events = {.closing = on_closing};
    static const char *const kinds[] = {"eio",   "enospc",      "eintr",     "eacces",
                                        "short", "kill-before", "kill-after"};
    Session *s = start(&events), *other = start(NULL);
    other->rules.keep_recovery = false;
    other->rules.beside_from = SIZE_MAX;
    keeper_journal(s);
    if (fault_arm) {
        long n = 1 + (long)check_random(round % 2 ? 300 : 3000);
        const char *kind = kinds[check_random(7)];
        snprintf(shared->fault, sizeof shared->fault, ", call %ld %s", n, kind);
        fault_arm(n, kind);
    }
    s->rules.beside_from = round % 3 ? 0 : SIZE_MAX;
    s->rules.backup = (Backup)(round / 3 % 3);
    s->rules.backup_keep = 2;
    bool file_bases = round % 5 == 1;
    if (file_bases && keeper_journal(s))
        journal_store_bases(keeper_journal(s), 0);
    const char *step = "";
    model_open(s, 0);
    model_open(s, 1);
    look_after(s, "opening");
    for (int i = 0; i < steps && !s->left; i++) {
        Model *m = &models[check_random(2)];
        shared->steps++;
        switch (check_random(17)) {
        case 0:
            step = "opening";
            model_open(s, (int)check_random(2));
            break;
        case 1:
        case 2:
            step = "a plan";
            model_plan(s, m);
            break;
        case 3:
        case 4:
        case 5:
            step = "an answer";
            model_answer(s);
            break;
        case 6:
            step = "somebody else";
            if (!file_bases)
                model_outside(s);
            break;
        case 7:
            step = "waiting";
            finish_writing(s);
            break;
        case 8:
            step = "a pause";
            settle_all(s);
            break;
        case 16:
            step = "another editor";
            if (!file_bases)
                model_other(s, other);
            break;
        case 9:
            s->held = check_random(2) && !s->held;
            break;
        case 10:
        case 11:
            step = "a moment";
            notices.now += check_random(600);
            session_poll(s);
            break;
        default:
            step = "typing";
            model_type(s, m);
        }
        look_after(s, step);
    }
    for (int i = 0; i < 2; i++) {
        const OpenFile *f = session_file(s, models[i].id);
        check_result(!s->left || !f || !openfile_changed(f) || models[i].drop, __FILE__, __LINE__,
                     "left with unsaved work");
        if (s->left)
            shared->files[i].n = 0;
    }
    if (check_failed())
        _exit(1);
    if (check_random(3)) {
        shared->kills++;
        kill(getpid(), SIGKILL);
    }
    for (int i = 0; i < 2; i++)
        models[i].drop = true;
    session_free(other);
    session_free(s);
}

static bool is_version(const Witness *w, const char *text)
{
    for (int i = w->safe; i < w->n; i++)
        if (strcmp(w->versions[i], text) == 0)
            return true;
    return false;
}

/* Is one of the versions among what can be brought back? There may be older work on the same file, too. */
static bool is_offered(Session *s, const Witness *w)
{
    Recoverable *r;
    bool found = false;
    size_t n = recoverable_list(keeper_journal(s), check_path(w->path), &r);
    for (size_t i = 0; i < n && !found; i++) {
        Err e = {""};
        Text t;
        char words[TEXT_CAP];
        if (r[i].dropped || !keeper_text(s, r[i].id, &t, &e))
            continue;
        text_string(t, words);
        text_drop(&t);
        found = is_version(w, words);
    }
    recoverable_free(r, n);
    return found;
}

/* What the next run finds. */
static void come_back(unsigned round)
{
    Session *s = start(NULL);
    for (int i = 0; i < 2; i++) {
        const Witness *w = &shared->files[i];
        char found[TEXT_CAP] = "";
        if (!w->n || !w->path[0])
            continue;
        OpenFile *f = open_file(s, w->path);
        text_string(doc_text(f->doc), found);
        bool ok = is_version(w, found) || (w->clean && shared->outside) || is_offered(s, w);
        check_result(ok, __FILE__, __LINE__, "round %u%s, %s: the file has “%s”, last was “%s”", round,
                     shared->fault, w->path, found, w->versions[w->n - 1]);
    }
    for (int i = 0; i < NAMES; i++)
        open_file(s, names[i]);
    char command[200];
    snprintf(command, sizeof command, "! ls -A '%s' | grep -q -e unfinished -e older", check_folder());
    CHECK(system(command) == 0);
    session_free(s);
}

TEST(random_orders_lose_nothing)
{
    const char *wanted = getenv("ROUNDS");
    int rounds = wanted ? atoi(wanted) : 60;
    shared = mmap(NULL, sizeof *shared, PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
    char clean[200];
    snprintf(clean, sizeof clean, "rm -rf '%s'/* '%s'/.[!.]*", check_folder(), check_folder());
    const char *first = getenv("FROM"); /* a round that failed, once more */
    for (int round = 0; round < rounds && !check_failed(); round++) {
        if (first && round < atoi(first) / 3 * 3) {
            check_random(2);
            continue;
        }
        Witnesses so_far = *shared;
        *shared = (Witnesses){.steps = so_far.steps,
                              .saves = so_far.saves,
                              .kills = so_far.kills,
                              .questions = so_far.questions,
                              .taken = so_far.taken,
                              .others = so_far.others};
        if (round % 3 == 0) /* else it goes on where a life ended */
            CHECK(system(clean) == 0);
        for (int i = 0; i < NAMES && round % 3 == 0; i += 2)
            check_put(names[i], "at first\n");
        check_random(2); /* another life each time */
        pid_t child = fork();
        if (child == 0) {
            memset(models, 0, sizeof models);
            live(200, (unsigned)round);
            _exit(check_failed() ? 1 : 0);
        }
        int status;
        waitpid(child, &status, 0);
        check_result(status == 0 || (WIFSIGNALED(status) && WTERMSIG(status) == SIGKILL), __FILE__, __LINE__,
                     "round %d ended with status %x", round, (unsigned)status);
        if (WIFSIGNALED(status))
            come_back((unsigned)round);
    }
    fprintf(stderr,
            "%ld steps, %ld saves, %ld questions, %ld kills, %ld taken back, %ld saves of another editor\n",
            shared->steps, shared->saves, shared->questions, shared->kills, shared->taken, shared->others);
    munmap(shared, sizeof *shared);
}

/* What lies lowest in the house: arrays, words, tasks, folders, offers. */
#include "check.h"
#include "base/array.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/task.h"
#include "base/words.h"
#include "config/offers.h"

#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <time.h>

TEST(arrays_grow_and_shrink)
{
    size_t *items = NULL, n = 0, pushed = 0;
    for (int i = 0; i < 20000; i++) {
        if (check_random(3)) {
            items = array_room(items, n, sizeof *items);
            items[n] = n * 3;
            n++;
            pushed++;
        } else if (check_random(2000) == 0) {
            n = 0; /* its memory is used again */
        } else if (n) {
            n--;
        }
        CHECK(n == 0 || (items[0] == 0 && items[n - 1] == (n - 1) * 3 && items[n / 2] == n / 2 * 3));
    }
    CHECK(pushed > 5000);
    free(items);
}

TEST(words_for_people)
{
    static const struct {
        uint64_t n;
        const char *size, *amount;
    } cases[] = {
        {0, "0 bytes", "0 boats"},      {1, "1 byte", "1 boat"},        {999, "999 bytes", "999 boats"},
        {1000, "1.0 kB", "1000 boats"}, {2149, "2.1 kB", "2149 boats"}, {999949, "999.9 kB", "999949 boats"},
        {999950, "1.0 MB", NULL},       {1073741824, "1.1 GB", NULL},   {5000000000000, "5.0 TB", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char out[WORDS_MAX];
        CHECK_STR(words_size(cases[i].n, out), cases[i].size);
        if (cases[i].amount)
            CHECK_STR(AMOUNT((size_t)cases[i].n, "boat"), cases[i].amount);
    }
    /* Two in one message do not share their memory. */
    const char *a = AMOUNT(1, "berth"), *b = AMOUNT(2, "berth");
    CHECK_STR(a, "1 berth");
    CHECK_STR(b, "2 berths");
    setenv("TZ", "UTC", 1);
    tzset();
    char out[WORDS_MAX];
    long long now = (long long)time(NULL);
    CHECK_INT(strlen(words_when(now, out)), 5);
    CHECK_INT(strlen(words_when_exactly(now, out)), 8);
    CHECK_STR(words_when(86400 + 14 * 3600 + 120, out), "02 Jan 14:02");
    CHECK_STR(words_when_exactly(86400 + 14 * 3600 + 120, out), "02 Jan 14:02");
}

/* ---- tasks ---- */

typedef struct Work {
    Task task;
    Tasks *all;
    int polls, left, wait;
    bool cancelled;
} Work;

static void poll_work(void *ctx)
{
    Work *w = ctx;
    w->polls++;
    if (--w->left == 0)
        tasks_remove(w->all, &w->task);
}

static int wait_work(const void *ctx)
{
    return ((const Work *)ctx)->wait;
}

static size_t fds_of_work(const void *ctx, struct pollfd *out)
{
    for (size_t i = 0; i < TASK_FDS; i++)
        out[i] = (struct pollfd){.fd = ((const Work *)ctx)->wait};
    return TASK_FDS;
}

static void cancel_work(void *ctx)
{
    Work *w = ctx;
    w->cancelled = true;
    tasks_remove(w->all, &w->task);
}

static void words_of_work(const void *ctx, char out[TASK_WORDS_MAX])
{
    strcpy(out, ((const Work *)ctx)->wait == 7 ? "Counting boats" : "");
}

TEST(tasks_go_on_side_by_side)
{
    static const TaskKind kind = {.poll = poll_work, .wait = wait_work, .fds = fds_of_work},
                          stoppable = {.poll = poll_work, .cancel = cancel_work, .words = words_of_work};
    Tasks all = {0};
    Work w[4] = {
        {.left = 2, .wait = -1}, {.left = 9, .wait = 30}, {.left = 1, .wait = 20}, {.left = 9, .wait = 7}};
    char words[TASK_WORDS_MAX];
    struct pollfd fds[2 * TASK_FDS + 1];
    CHECK(tasks_wait(&all) == -1 && !tasks_cancel(&all) && tasks_fds(&all, fds, 9) == 0);
    for (int i = 0; i < 4; i++) {
        w[i].all = &all;
        tasks_add(&all, &w[i].task, i == 3 ? &stoppable : &kind, &w[i]);
    }
    CHECK_INT(tasks_wait(&all), 20);
    CHECK_INT(tasks_fds(&all, fds, 2 * TASK_FDS + 1), 2 * TASK_FDS); /* no more than there is room for */
    tasks_poll(&all);
    CHECK(w[0].polls == 1 && w[1].polls == 1 && w[2].polls == 1 && w[3].polls == 1);
    CHECK_INT(tasks_wait(&all), 30); /* the third has ended itself */
    tasks_words(&all, words);
    CHECK_STR(words, "Counting boats");
    CHECK(tasks_cancel(&all) && w[3].cancelled && !tasks_cancel(&all));
    tasks_words(&all, words);
    CHECK_STR(words, "");
    tasks_poll(&all);
    tasks_poll(&all);
    CHECK(w[0].polls == 2 && w[1].polls == 3 && w[2].polls == 1 && w[3].polls == 1);
    tasks_remove(&all, &w[2].task); /* not there any more */
    tasks_remove(&all, &w[1].task);
    CHECK(all.first == NULL);
    CHECK(task_sooner(-1, 5) == 5 && task_sooner(5, -1) == 5 && task_sooner(3, 5) == 3 &&
          task_sooner(-1, -1) == -1);
}

/* ---- folders and offers ---- */

typedef struct Seen {
    int n, most;
} Seen;

static bool see(int fd, const char *name, void *ctx)
{
    struct stat st;
    Seen *s = ctx;
    CHECK(strcmp(name, ".") != 0 && strcmp(name, "..") != 0 && fstatat(fd, name, &st, 0) == 0);
    return ++s->n < s->most;
}

TEST(folders_are_read)
{
    Seen all = {.most = 99}, some = {.most = 2};
    check_put("berth one", "");
    check_put("berth two", "");
    check_put(".hidden", "");
    CHECK(folder_read(check_folder(), see, &all) && all.n >= 3);
    CHECK(folder_read(check_folder(), see, &some) && some.n == 2);
    errno = 0;
    CHECK(!folder_read(check_path("nowhere"), see, &some) && errno == ENOENT);
    CHECK(folder_at(check_folder()) && !folder_at(check_path("berth one")) &&
          !folder_at(check_path("nowhere")));
}

TEST(offers_and_what_they_begin_with)
{
    static const struct {
        const char *words, *start;
        size_t n, common;
    } cases[] = {
        {"lf|crlf", "", 2, 0},
        {"spaces 2|spaces 4|tabs 8", "sp", 2, 7},
        {"quay", "q", 1, 4},
        {"quay", "x", 0, 0},
        {NULL, "", 0, 0},
        {"\xc3\xa9t\xc3\xa9|\xc3\xa8re", "", 2, 0}, /* no half characters */
        {"b\xc3\xa9|b\xc3\xa9!", "b", 2, 3},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Offers o = {0};
        check_case(cases[i].words ? cases[i].words : "none");
        offers_add_words(&o, cases[i].words, cases[i].start);
        CHECK_INT(o.n, cases[i].n);
        CHECK_INT(offers_common(&o), cases[i].common);
        offers_free(&o);
    }
    Offers files = {0};
    mkdir(check_path("pier"), 0700);
    check_put("pilot.ini", "");
    offers_add_files(&files, check_path("pi"));
    offers_sort(&files);
    CHECK_INT(files.n, 2);
    CHECK_STR(files.items[0] + strlen(check_folder()) + 1, "pier/");
    CHECK_STR(files.items[1] + strlen(check_folder()) + 1, "pilot.ini");
    CHECK_INT(offers_common(&files), strlen(check_path("pi")));
    offers_free(&files);
}

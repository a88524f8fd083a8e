/* Large files, read by threads. */
#include "check.h"
#include "files/load.h"
#include "files/loader.h"

#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { SIZE = 37 * 1000 * 1000 + 11 };

static char *sample(void)
{
    char *bytes = malloc(SIZE);
    for (size_t i = 0; i < SIZE; i++)
        bytes[i] = i % 61 == 60 ? '\n' : (char)('a' + (i * 7 + i / 1000) % 26);
    return bytes;
}

static void same(Text t, const char *bytes, size_t n)
{
    CHECK_INT(text_len(t), n);
    size_t newlines = 0;
    for (size_t i = 0; i < n; i++)
        newlines += bytes[i] == '\n';
    CHECK_INT(text_newlines(t), newlines);
    for (size_t at = 0; at < text_len(t);) {
        TextRun run = text_run(t, at);
        if (memcmp(run.at, bytes + at, run.len) != 0) {
            CHECK_STR("other bytes", "");
            return;
        }
        at += run.len;
    }
    CHECK(text_check(t));
}

TEST(threads_read_what_is_there)
{
    char *bytes = sample();
    const char *path = check_path("tide.log");
    Text t;
    DiskState disk;
    Err e = {""};
    check_write(path, bytes, SIZE);
    CHECK(load_file(path, &t, &disk, &e));
    same(t, bytes, SIZE);
    text_drop(&t);
    /* stopped in the middle, at once, and before it begins */
    for (int i = 0; i < 12; i++) {
        Loader *l = loader_new(open(path, O_RDONLY | O_CLOEXEC), 0, SIZE, "tide.log");
        t = (Text){0};
        if (i)
            loader_start(l);
        if (i > 3)
            usleep((unsigned)i * 300);
        CHECK(loader_take(l, &t, &e) != LOAD_FAILED);
        CHECK(text_len(t) == loader_done(l) && text_check(t));
        loader_free(l);
        text_drop(&t);
    }
    free(bytes);
}

TEST(files_grow_and_shrink_while_they_are_read)
{
    char *bytes = sample();
    const char *path = check_path("tide.log");
    Text t = {0};
    Err e = {""};
    check_write(path, bytes, SIZE);
    /* it was smaller when its size was asked for */
    Loader *l = loader_new(open(path, O_RDONLY | O_CLOEXEC), 1000, SIZE - 5 * 1000 * 1000, "tide.log");
    CHECK(loader_finish(l, &t, &e));
    same(t, bytes + 1000, SIZE - 1000);
    loader_free(l);
    text_drop(&t);
    /* it was larger */
    CHECK(truncate(path, SIZE - 9 * 1000 * 1000) == 0);
    l = loader_new(open(path, O_RDONLY | O_CLOEXEC), 0, SIZE, "tide.log");
    CHECK(loader_finish(l, &t, &e));
    same(t, bytes, SIZE - 9 * 1000 * 1000);
    loader_free(l);
    text_drop(&t);
    free(bytes);
}

/* Files that say they have no size, and pipes. */
TEST(files_without_a_size)
{
    Text t;
    DiskState disk;
    Err e = {""};
    CHECK(load_file("/proc/self/status", &t, &disk, &e));
    CHECK(text_len(t) > 100 && text_newlines(t) > 10);
    text_drop(&t);
    FILE *f = popen("seq 1 200000", "r");
    CHECK(f && load_descriptor(fileno(f), "a pipe", UNMEASURED_MOST, &t, &e));
    CHECK_INT(text_newlines(t), 200000);
    CHECK_INT(text_len(t), 1288895);
    text_drop(&t);
    if (f)
        pclose(f);
}

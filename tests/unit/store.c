/* What is remembered between runs. */
#include "check.h"
#include "config/settings.h"
#include "kept/store.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static Store *open_here(void)
{
    Err e = {""};
    unsetenv("XDG_STATE_HOME");
    setenv("HOME", check_folder(), 1);
    Store *s = store_open(&e);
    check_result(s != NULL, __FILE__, __LINE__, "%s", e.text);
    return s;
}

static void add_line(const char *answer, void *ctx)
{
    bytes_printf(ctx, "%s|", answer);
}

static void holds(Store *s, const char *kind, size_t most, const char *want)
{
    Bytes got = {0};
    store_each(s, kind, most, add_line, &got);
    CHECK_STR(bytes_str(&got), want);
    bytes_free(&got);
}

TEST(answers_newest_first)
{
    Store *s = open_here();
    store_add(s, "find", "heron");
    store_add(s, "find", "tern");
    store_add(s, "line", "12");
    store_add(s, "find", "heron"); /* again: it becomes the newest, not a second one */
    holds(s, "find", 10, "heron|tern|");
    holds(s, "find", 1, "heron|");
    holds(s, "none", 10, "");
    store_add(s, "find", "it's \"odd\"; DROP TABLE answers");
    store_close(s);
    s = open_here();
    holds(s, "find", 10, "it's \"odd\"; DROP TABLE answers|heron|tern|");
    for (int i = 0; i < 250; i++) {
        char answer[16];
        snprintf(answer, sizeof answer, "%d", i);
        store_add(s, "many", answer);
    }
    Bytes got = {0};
    store_each(s, "many", 1000, add_line, &got);
    CHECK(strncmp(got.at, "249|248|", 8) == 0 && strstr(got.at, "|50|") && !strstr(got.at, "|49|"));
    bytes_free(&got);
    holds(s, "line", 10, "12|");
    store_close(s);
}

TEST(histories_fit_only_their_content)
{
    Store *s = open_here();
    Bytes history = {0}, got = {0};
    bytes_add(&history, "\0binary\0", 8);
    store_put_undo(s, "/srv/harrow/kiosk.ini", 0xfedcba9876543210u, &history);
    CHECK(!store_get_undo(s, "/srv/harrow/kiosk.ini", 1, &got));
    CHECK(!store_get_undo(s, "/srv/harrow/other.ini", 0xfedcba9876543210u, &got));
    CHECK(store_get_undo(s, "/srv/harrow/kiosk.ini", 0xfedcba9876543210u, &got));
    CHECK_BYTES(got.at, got.len, "\0binary\0", 8);
    /* too many bytes altogether: the oldest go */
    Bytes big = {0};
    for (int i = 0; i < 1024 * 1024; i++)
        bytes_add(&big, "12345678", 8);
    for (int i = 0; i < 10; i++) {
        char path[32];
        snprintf(path, sizeof path, "/big/%d", i);
        store_put_undo(s, path, 7, &big);
    }
    bytes_clear(&got);
    CHECK(store_get_undo(s, "/big/9", 7, &got) && got.len == big.len);
    CHECK(!store_get_undo(s, "/big/0", 7, &got));
    bytes_free(&history);
    bytes_free(&got);
    bytes_free(&big);
    store_close(s);
}

TEST(private_and_only_ours)
{
    struct stat st;
    Err e = {""};
    store_close(open_here());
    CHECK(stat(check_path(".local/state/steady-quill"), &st) == 0 && (st.st_mode & 0777) == 0700);
    CHECK(stat(check_path(".local/state/steady-quill/state.db"), &st) == 0 && (st.st_mode & 0777) == 0600);
    if (geteuid() == 0) { /* as root in somebody else's home nothing is read or left */
        CHECK(chown(check_path(".local/state/steady-quill"), 1000, 1000) == 0);
        CHECK(store_open(&e) == NULL && strstr(e.text, "somebody else"));
    }
    setenv("XDG_STATE_HOME", "/dev/null/nowhere", 1);
    CHECK(store_open(&e) == NULL);
    unsetenv("XDG_STATE_HOME");
}

TEST(hashes_depend_on_bytes_alone)
{
    Text a = {0}, b = {0};
    text_insert(&a, 0, "grey heron", 10);
    text_insert(&b, 0, "heron", 5);
    text_insert(&b, 0, "grey ", 5);
    CHECK(store_hash(a) == store_hash(b));
    text_insert(&b, 3, "x", 1);
    CHECK(store_hash(a) != store_hash(b));
    text_drop(&a);
    text_drop(&b);
}

/* A small test harness: TEST(name) { … } in any file; CHECK… inside. A file is a suite. */
#ifndef CHECK_H
#define CHECK_H

#include <stdbool.h>
#include <stddef.h>

typedef void (*TestFn)(void);

void check_register(const char *file, const char *name, TestFn fn);
void check_result(bool ok, const char *file, int line, const char *format, ...)
    __attribute__((format(printf, 4, 5)));
/* The running test, or a case of it, cannot be tried here: what it needs is missing, printf-like. It counts
 * as skipped. */
void check_skip(const char *format, ...) __attribute__((format(printf, 1, 2)));
/* Has the running test failed already? */
bool check_failed(void);
/* Names the case of a table that is being checked; shown with failures. NULL: none. */
void check_case(const char *name);
bool check_equal_bytes(const char *file, int line, const void *is, size_t n_is, const void *want,
                       size_t n_want);

/* A new folder for the running test, removed when it ends. */
const char *check_folder(void);
/* "<folder>/name", valid until the test ends. */
const char *check_path(const char *name);
void check_write(const char *path, const void *bytes, size_t n);
/* The file's bytes (a zero follows them); freed when the test ends. NULL if unreadable. */
char *check_read(const char *path, size_t *n);
/* The same for a file of the test's folder that is a string: makes it, and checks what it holds. */
void check_put(const char *name, const char *text);
void check_holds(const char *name, const char *want);
/* Runs a line of the shell in the test's folder, which is its $F; was that done? */
bool check_shell(const char *line);
/* The same with what it says in the file "said" of that folder; its status, or 128 + the signal; and: are
 * these words in it? */
int check_shell_said(const char *line);
bool check_said(const char *words);
/* A repeatable generator; its seed is the day, or that of the environment (SEED), and is printed. */
unsigned check_random(unsigned below);
/* How often a random test goes round: ROUNDS of the environment, or as usual; a quarter under the sanitizers.
 */
int check_rounds(int usual);

#define TEST(name)                                                                                           \
    static void test_##name(void);                                                                           \
    __attribute__((constructor)) static void register_##name(void)                                           \
    {                                                                                                        \
        check_register(__FILE__, #name, test_##name);                                                        \
    }                                                                                                        \
    static void test_##name(void)

#define CHECK(condition) check_result((condition), __FILE__, __LINE__, "%s", #condition)
#define CHECK_INT(is, want)                                                                                  \
    do {                                                                                                     \
        long long is_ = (long long)(is), want_ = (long long)(want);                                          \
        check_result(is_ == want_, __FILE__, __LINE__, "%s is %lld, wanted %lld", #is, is_, want_);          \
    } while (0)
#define CHECK_STR(is, want) check_equal_bytes(__FILE__, __LINE__, is, strlen(is), want, strlen(want))
#define CHECK_BYTES(is, n_is, want, n_want) check_equal_bytes(__FILE__, __LINE__, is, n_is, want, n_want)

#endif

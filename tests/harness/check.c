#include "check.h"

#include <ftw.h>
#include <locale.h>
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <sys/wait.h>
#include <unistd.h>

enum { MAX_TESTS = 512, MAX_SHOWN = 20 };

static struct {
    const char *suite;
    size_t suite_len;
    const char *name;
    TestFn fn;
} tests[MAX_TESTS];
static size_t n_tests;
static unsigned failures, checks, skipped;
static const char *test_name;
static const char *case_name;
static char folder[64];
static void **kept;
static size_t n_kept;
static unsigned long long seed;

void check_register(const char *file, const char *name, TestFn fn)
{
    const char *slash = strrchr(file, '/');
    const char *suite = slash ? slash + 1 : file;
    if (n_tests == MAX_TESTS)
        abort();
    tests[n_tests].suite = suite;
    tests[n_tests].suite_len = strcspn(suite, ".");
    tests[n_tests].name = name;
    tests[n_tests++].fn = fn;
}

static unsigned failures_before; /* the running test */

void check_skip(const char *format, ...)
{
    va_list args;
    skipped++;
    fprintf(stderr, "SKIPPED %s%s%s: ", test_name, case_name ? ", " : "", case_name ? case_name : "");
    va_start(args, format);
    vfprintf(stderr, format, args);
    va_end(args);
    fputc('\n', stderr);
}

bool check_failed(void)
{
    return failures > failures_before;
}

void check_case(const char *name)
{
    case_name = name;
}

void check_result(bool ok, const char *file, int line, const char *format, ...)
{
    checks++;
    if (ok)
        return;
    if (++failures > MAX_SHOWN)
        return;
    va_list args;
    va_start(args, format);
    fprintf(stderr, "%s:%d: ", file, line);
    if (case_name)
        fprintf(stderr, "[%s] ", case_name);
    vfprintf(stderr, format, args);
    fputc('\n', stderr);
    va_end(args);
}

static void print_bytes(const char *what, const unsigned char *at, size_t n)
{
    fprintf(stderr, "  %s %zu bytes: ", what, n);
    for (size_t i = 0; i < n && i < 400; i++)
        if (at[i] == '\n')
            fputs("\\n", stderr);
        else if (at[i] < 0x20 || at[i] == 0x7f)
            fprintf(stderr, "\\x%02x", at[i]);
        else
            fputc(at[i], stderr);
    fputs(n > 400 ? "…\n" : "\n", stderr);
}

bool check_equal_bytes(const char *file, int line, const void *is, size_t n_is, const void *want,
                       size_t n_want)
{
    bool ok = is && n_is == n_want && memcmp(is, want, n_is) == 0;
    check_result(ok, file, line, "differs:");
    if (!ok && failures <= MAX_SHOWN) {
        if (is)
            print_bytes("is    ", is, n_is);
        print_bytes("wanted", want, n_want);
    }
    return ok;
}

static void *keep(void *p)
{
    if ((n_kept & (n_kept + 1)) == 0) /* twice as many each time */
        kept = realloc(kept, (2 * n_kept + 2) * sizeof *kept);
    return kept[n_kept++] = p;
}

const char *check_folder(void)
{
    if (!folder[0]) {
        strcpy(folder, "/tmp/squill-test-XXXXXX");
        if (!mkdtemp(folder))
            abort();
    }
    return folder;
}

const char *check_path(const char *name)
{
    char *path = keep(malloc(strlen(check_folder()) + strlen(name) + 2));
    sprintf(path, "%s/%s", folder, name);
    return path;
}

void check_write(const char *path, const void *bytes, size_t n)
{
    FILE *f = fopen(path, "wb");
    check_result(f && fwrite(bytes, 1, n, f) == n, __FILE__, __LINE__, "cannot write %s", path);
    if (f)
        fclose(f);
}

char *check_read(const char *path, size_t *n)
{
    FILE *f = fopen(path, "rb");
    *n = 0;
    if (!f)
        return NULL;
    fseek(f, 0, SEEK_END);
    size_t size = (size_t)ftell(f);
    rewind(f);
    char *bytes = keep(malloc(size + 1));
    *n = fread(bytes, 1, size, f);
    bytes[*n] = 0;
    fclose(f);
    return bytes;
}

void check_put(const char *name, const char *text)
{
    check_write(check_path(name), text, strlen(text));
}

void check_holds(const char *name, const char *want)
{
    size_t n = 0;
    const char *bytes = check_read(check_path(name), &n);
    check_result(bytes != NULL, __FILE__, __LINE__, "there is no %s", name);
    if (bytes)
        check_equal_bytes(__FILE__, __LINE__, bytes, n, want, strlen(want));
}

unsigned check_random(unsigned below)
{
    seed = seed * 6364136223846793005u + 1442695040888963407u;
    return (unsigned)(seed >> 33) % below;
}

static int remove_one(const char *path, const struct stat *st, int type, struct FTW *f)
{
    (void)st, (void)type, (void)f;
    return remove(path);
}

static void clean_up(void)
{
    if (folder[0])
        nftw(folder, remove_one, 16, FTW_DEPTH | FTW_PHYS);
    folder[0] = 0;
    while (n_kept)
        free(kept[--n_kept]);
    case_name = NULL;
}

/* Each day another one, so that in time all get their turn. */
static unsigned long long first_seed(void)
{
    const char *given = getenv("SEED");
    time_t now = time(NULL);
    struct tm day;
    gmtime_r(&now, &day);
    return given ? strtoull(given, NULL, 10)
                 : (unsigned long long)(day.tm_year + 1900) * 10000 + (unsigned)(day.tm_mon + 1) * 100 +
                       (unsigned)day.tm_mday;
}

int main(int argc, char **argv)
{
    enum { ALL_SKIPPED = 77 /* as CTest is told */ };
    unsigned run = 0;
    unsigned long long first = first_seed();
    setlocale(LC_ALL, "C.UTF-8");
    signal(SIGPIPE, SIG_IGN); /* as the program does */
    signal(SIGXFSZ, SIG_IGN);
    for (size_t i = 0; i < n_tests; i++) {
        bool wanted = argc < 2 || (strlen(argv[1]) == tests[i].suite_len &&
                                   memcmp(argv[1], tests[i].suite, tests[i].suite_len) == 0);
        if (!wanted || (argc > 2 && strcmp(argv[2], tests[i].name) != 0))
            continue;
        failures_before = failures;
        seed = first;
        test_name = tests[i].name;
        tests[i].fn();
        clean_up();
        run++;
        if (check_failed())
            fprintf(stderr, "FAILED %.*s/%s\n", (int)tests[i].suite_len, tests[i].suite, tests[i].name);
    }
    printf("%u tests, %u checks, %u failures, %u skipped, seed %llu\n", run, checks, failures, skipped,
           first);
    return failures || run == 0 ? 1 : skipped && !checks ? ALL_SKIPPED : 0;
}

int check_rounds(int usual)
{
    const char *wanted = getenv("ROUNDS");
    if (wanted)
        return atoi(wanted);
#if defined __SANITIZE_ADDRESS__ || defined __SANITIZE_THREAD__
    return (usual + 3) / 4;
#else
    return usual;
#endif
}

static int run_line(const char *line)
{
    char command[4000];
    setenv("F", check_folder(), 1);
    snprintf(command, sizeof command, "cd \"$F\" && { %s\n}", line);
    int status = system(command);
    return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

bool check_shell(const char *line)
{
    return run_line(line) == 0;
}

int check_shell_said(const char *line)
{
    char command[3900];
    snprintf(command, sizeof command, "{ HOME=$PWD; export HOME; %s\n} >said 2>&1", line);
    return run_line(command);
}

bool check_said(const char *words)
{
    size_t n;
    return strstr(check_read(check_path("said"), &n), words) != NULL;
}

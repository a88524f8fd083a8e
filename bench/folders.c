/* Whole folders and growing logs, against grep, sed and tail: bench_folders PROGRAM FOLDER FILES SECONDS. */
#include "files/folder_search.h"

#include <fcntl.h>
#include <poll.h>
#include <pty.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { RUNS = 5, PER_FOLDER = 100, MB_A_MINUTE = 100 };

static double now_s(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return (double)t.tv_sec + (double)t.tv_nsec / 1e9;
}

static int by_value(const void *a, const void *b)
{
    double x = *(const double *)a, y = *(const double *)b;
    return (x > y) - (x < y);
}

static double median(double *values)
{
    qsort(values, RUNS, sizeof *values, by_value);
    return values[RUNS / 2];
}

static void row(const char *what, double is, double limit, double bar)
{
    printf("| %-52s | %9.1f ms | %9.1f ms | %6.2f |", what, is * 1e3, limit * 1e3, is / limit);
    if (bar > 0)
        printf(" %5.2f | %s |\n", bar, is / limit <= bar ? "holds" : "MISSED");
    else
        printf("       |       |\n");
}

static double command(const char *line)
{
    double start = now_s();
    if (system(line) < 0)
        return -1;
    return now_s() - start;
}

/* Files of some 2 kB, one of 50 of which has what is looked for. */
static void make(const char *folder, int files)
{
    char path[400];
    for (int i = 0; i < files; i++) {
        snprintf(path, sizeof path, "%s/%03d", folder, i / PER_FOLDER);
        mkdir(path, 0755);
        snprintf(path, sizeof path, "%s/%03d/berth%02d.ini", folder, i / PER_FOLDER, i % PER_FOLDER);
        FILE *f = fopen(path, "w");
        for (int line = 0; f && line < 60; line++)
            fprintf(f, "setting_%d = value %d of file %d\n", line, line * i % 97, i);
        if (f && i % 50 == 7)
            fputs("ferry = Grey Heron\n", f);
        if (f)
            fclose(f);
    }
}

static double search(const char *folder, double *first)
{
    const char *const folders[] = {folder};
    FolderWish w = {.folders = folders,
                    .n_folders = 1,
                    .names = "",
                    .what = {"Grey Heron", 10, CASE_EXACT, false, false},
                    .most = 64 << 20};
    Err e;
    size_t mistake;
    double start = now_s();
    FolderSearch *s = folder_search_begin(&w, &e, &mistake);
    *first = 0;
    while (s && !folder_search_found(s)->ended) {
        struct pollfd fd = {.fd = folder_search_fd(s), .events = POLLIN};
        poll(&fd, 1, 1000);
        folder_search_take(s);
        if (!*first && folder_search_found(s)->n_hits)
            *first = now_s() - start;
    }
    double took = now_s() - start;
    folder_search_free(s);
    return took;
}

static void measure_finding(const char *folder)
{
    double own[RUNS], first[RUNS], limit[RUNS];
    for (int i = 0; i < RUNS; i++) {
        limit[i] = command("grep -r -c -F 'Grey Heron' \"$BENCH_FOLDER\" | cat >/dev/null");
        own[i] = search(folder, &first[i]);
    }
    row("find in a folder / grep -r -c -F", median(own), median(limit), 0.7);
    row("the first result of that / 50 ms", median(first), 0.05, 1);
}

/* The same places in 2000 files: our careful saves, sed's, and sed's when each file is on the disk, too. */
static void measure_replacing(const char *program, int files)
{
    double own[RUNS], limit[RUNS], synced[RUNS];
    char line[1000];
    for (int i = 0; i < RUNS; i++) {
        const char *from = i % 2 ? "quay" : "value", *to = i % 2 ? "value" : "quay";
        snprintf(line, sizeof line,
                 "find \"$BENCH_FOLDER\" -name '*.ini' | head -n %d | xargs sed -i 's/%s/%s/'", files, from,
                 to);
        limit[i] = command(line);
        snprintf(line, sizeof line,
                 "find \"$BENCH_FOLDER\" -name '*.ini' | head -n %d | xargs -n 1 sh -c \"sed -i 's/%s/%s/' "
                 "\\$0; sync \\$0\"",
                 files, to, from);
        synced[i] = command(line);
        snprintf(line, sizeof line,
                 "find \"$BENCH_FOLDER\" -name '*.ini' | head -n %d | xargs '%s' --do 'replace-all %s %s; "
                 "save' >/dev/null",
                 files, program, from, to);
        own[i] = command(line);
    }
    snprintf(line, sizeof line, "replace in %d files / sed -i", files);
    row(line, median(own), median(limit), 0);
    row("the same / sed -i and sync of each", median(own), median(synced), 0);
}

/* ---- a log that grows ---- */

/* Begins a program on a terminal; what it sends is thrown away by drain(). */
static pid_t begin(const char *const *args, int *fd)
{
    struct winsize size = {24, 80, 0, 0};
    pid_t child = forkpty(fd, NULL, NULL, &size);
    if (child == 0) {
        setenv("TERM", "xterm-256color", 1);
        execvp(args[0], (char *const *)args);
        _exit(98);
    }
    return child;
}

static void drain(int fd, double seconds)
{
    char bytes[65536];
    double end = now_s() + seconds;
    for (double left; (left = end - now_s()) > 0;) {
        struct pollfd p = {.fd = fd, .events = POLLIN};
        if (poll(&p, 1, (int)(left * 1000) + 1) == 1 && read(fd, bytes, sizeof bytes) <= 0)
            return;
    }
}

static long switches(pid_t pid)
{
    char path[60], line[200];
    long n = -1;
    snprintf(path, sizeof path, "/proc/%d/status", pid);
    FILE *f = fopen(path, "r");
    while (f && fgets(line, sizeof line, f))
        if (sscanf(line, "voluntary_ctxt_switches: %ld", &n) == 1)
            break;
    if (f)
        fclose(f);
    return n;
}

static double cpu_of(pid_t child, int fd)
{
    struct rusage used;
    int status;
    kill(child, SIGTERM);
    drain(fd, 0.3);
    kill(child, SIGKILL);
    wait4(child, &status, 0, &used);
    close(fd);
    return (double)used.ru_utime.tv_sec + (double)used.ru_stime.tv_sec +
           (double)(used.ru_utime.tv_usec + used.ru_stime.tv_usec) / 1e6;
}

/* CPU seconds beyond those of the start, while the log grows. */
static double follow(const char *const *args, const char *log, int seconds, long *woken)
{
    enum { STEPS = 50 /* a second */ };
    int fd, out = open(log, O_WRONLY | O_CREAT | O_TRUNC | O_APPEND, 0644);
    static char piece[MB_A_MINUTE * 1000000 / 60 / STEPS];
    for (size_t i = 0; i < sizeof piece; i++)
        piece[i] = i % 80 == 79 ? '\n' : (char)('a' + i % 26);
    pid_t child = begin(args, &fd);
    drain(fd, 1);
    *woken = switches(child);
    drain(fd, 2);
    *woken = switches(child) - *woken;
    struct timespec pause = {0, 1000000000 / STEPS};
    for (int i = 0; i < seconds * STEPS; i++) {
        if (write(out, piece, sizeof piece) < 0)
            break;
        drain(fd, (double)pause.tv_nsec / 1e9);
    }
    close(out);
    drain(fd, 0.5);
    return cpu_of(child, fd);
}

static void measure_following(const char *program, const char *folder, int seconds)
{
    char log[400];
    long woken, ignored;
    snprintf(log, sizeof log, "%s/grows.log", folder);
    const char *ours[] = {program, "--follow", log, NULL}, *tail[] = {"tail", "-F", log, NULL};
    double own = follow(ours, log, seconds, &woken), limit = follow(tail, log, seconds, &ignored);
    row("follow 100 MB a minute, own CPU / tail -F's", own, limit, 1);
    row("wake-ups in 2 s without news + 1 / 1", (double)woken + 1, 1, 1);
}

int main(int argc, char **argv)
{
    if (argc != 5) {
        fputs("usage: bench_folders PROGRAM FOLDER FILES SECONDS\n", stderr);
        return 2;
    }
    int files = atoi(argv[3]);
    setenv("BENCH_FOLDER", argv[2], 1);
    make(argv[2], files);
    printf("| %-52s | %12s | %12s | ratio |   bar |\n|---|---|---|---|---|---|\n", "what", "ours", "theirs");
    measure_finding(argv[2]);
    measure_replacing(argv[1], files / 10);
    measure_following(argv[1], argv[2], atoi(argv[4]));
    return 0;
}

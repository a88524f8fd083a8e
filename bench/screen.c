/* Measures the built program on a pseudo-terminal: screen SQUILL BARE FOLDER LOG-MIB LINE-MB. CPU times are
 * the main thread's own, by the scheduler's account. */
#include <fcntl.h>
#include <poll.h>
#include <pty.h>
#include <signal.h>
#include <stdbool.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { RUNS = 21, KEYS = 200 };

typedef struct Program {
    pid_t pid;
    int fd;
    size_t sent; /* bytes that came from it */
} Program;

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

static void row(const char *what, double is, double limit, const char *unit, double bar)
{
    printf("| %-44s | %9.2f %s | %9.2f %s | %6.2f | %5.2f | %s |\n", what, is, unit, limit, unit, is / limit,
           bar, is / limit <= bar ? "holds" : "MISSED");
}

static Program start(const char *program, const char *file)
{
    struct winsize size = {.ws_row = 40, .ws_col = 126};
    Program p = {0};
    p.pid = forkpty(&p.fd, NULL, NULL, &size);
    if (p.pid == 0) {
        setenv("TERM", "xterm-256color", 1);
        execl(program, program, file, (char *)NULL); /* no file: the list ends there */
        _exit(127);
    }
    return p;
}

/* Takes in what comes until it was quiet for so many ms, or `until` came; when the last of it came. */
static double drain(Program *p, int quiet, const char *until)
{
    static char all[1 << 20];
    size_t n = 0;
    double last = now_s();
    struct pollfd fd = {.fd = p->fd, .events = POLLIN};
    while (poll(&fd, 1, quiet) > 0) {
        ssize_t got = read(p->fd, all + n, sizeof all - 1 - n);
        if (got <= 0)
            break;
        p->sent += (size_t)got;
        last = now_s();
        n += (size_t)got;
        all[n] = 0;
        if (until && memmem(all, n, until, strlen(until)))
            break;
        if (n > sizeof all / 2)
            n = 0;
    }
    return last;
}

static void end(Program *p)
{
    kill(p->pid, SIGTERM);
    waitpid(p->pid, NULL, 0);
    close(p->fd);
}

static void press(Program *p, const char *keys)
{
    if (write(p->fd, keys, strlen(keys)) < 0)
        exit(1);
}

/* Nanoseconds on a processor, and how often it was put on one. */
static void account(const Program *p, double *ms, unsigned long *times)
{
    char path[64];
    unsigned long long ran = 0, waited;
    snprintf(path, sizeof path, "/proc/%d/schedstat", (int)p->pid);
    FILE *f = fopen(path, "r");
    if (!f || fscanf(f, "%llu %llu %lu", &ran, &waited, times) != 3)
        *times = 0;
    if (f)
        fclose(f);
    *ms = (double)ran / 1e6;
}

enum { STARTS = 4 };

/* Medians in ms until each shows its first screen. They take turns, so that a slower while is everybody's. */
static void first_screens(const char *const starts[STARTS][2], double ms[STARTS])
{
    double times[STARTS][RUNS];
    for (int i = 0; i < RUNS; i++)
        for (int s = 0; s < STARTS; s++) {
            double begin = now_s();
            Program p = start(starts[s][0], starts[s][1]);
            times[s][i] = drain(&p, 10000, "F1") - begin;
            end(&p);
        }
    for (int s = 0; s < STARTS; s++) {
        qsort(times[s], RUNS, sizeof **times, by_value);
        ms[s] = times[s][RUNS / 2] * 1e3;
    }
}

/* CPU ms of a key from being read to the finished screen: median and 99th of a hundred. */
static void key_times_apart(Program *p, const char *key, int n, int pause, double *median, double *p99)
{
    double times[KEYS];
    unsigned long ignored;
    for (int i = 0; i < n; i++) {
        double before, after;
        account(p, &before, &ignored);
        press(p, key);
        drain(p, pause, NULL);
        account(p, &after, &ignored);
        times[i] = after - before;
    }
    qsort(times, (size_t)n, sizeof *times, by_value);
    *median = times[n / 2];
    *p99 = times[n * 99 / 100];
}

static void key_times(Program *p, const char *key, int n, double *median, double *p99)
{
    key_times_apart(p, key, n, 15, median, p99);
}

static double peak_mib(const Program *p)
{
    char path[64], line[200];
    double kib = 0;
    snprintf(path, sizeof path, "/proc/%d/status", (int)p->pid);
    FILE *f = fopen(path, "r");
    while (f && fgets(line, sizeof line, f))
        if (strncmp(line, "VmHWM:", 6) == 0)
            kib = atof(line + 6);
    if (f)
        fclose(f);
    return kib / 1024;
}

static void measure_log(const char *squill, const char *log, double mib)
{
    double median, p99, before, after;
    unsigned long ignored, woken_before, woken;
    Program p = start(squill, log);
    drain(&p, 1500, NULL);
    press(&p, "\007"); /* go to the middle */
    press(&p, "50%\r");
    drain(&p, 200, NULL);
    press(&p, "\033[C\033[C\033[C");
    drain(&p, 100, NULL);
    key_times(&p, "x", KEYS, &median, &p99);
    row("peak memory after an edit / size + 2 % + 16 MiB", peak_mib(&p), mib * 1.02 + 16, "MiB", 1);
    row("typed letter, own CPU, median / 0.3 ms", median, 0.3, "ms", 1);
    row("typed letter, own CPU, 99th / 1 ms", p99, 1, "ms", 1);
    size_t sent = p.sent;
    press(&p, "x");
    drain(&p, 60, NULL);
    row("bytes for a letter in mid-line / 64", (double)(p.sent - sent), 64, "B", 1);
    press(&p, "\033[B\033[B");
    for (int i = 0; i < 40; i++)
        press(&p, "\033[B");
    drain(&p, 200, NULL);
    key_times(&p, "\033[B", 100, &median, &p99);
    row("scrolling a line, own CPU, 99th / 2 ms", p99, 2, "ms", 1);
    key_times(&p, "\033[6~", 100, &median, &p99);
    row("scrolling a screen, own CPU, 99th / 2 ms", p99, 2, "ms", 1);
    drain(&p, 3000, NULL); /* messages and the like have passed */
    account(&p, &before, &woken_before);
    sleep(mib < 100 ? 1 : 10);
    account(&p, &after, &woken);
    printf("| %-44s | %9lu    | %9d    |        |     0 | %s |\n", "wake-ups in 10 idle seconds",
           woken - woken_before, 0, woken == woken_before ? "holds" : "MISSED");
    (void)ignored;
    end(&p);
}

static void measure_paste(const char *squill, const char *file)
{
    static char piece[65536];
    Program p = start(squill, file);
    memset(piece, 'a', sizeof piece);
    for (size_t i = 60; i < sizeof piece; i += 61)
        piece[i] = '\r';
    drain(&p, 500, "F1");
    drain(&p, 100, NULL);
    double begin = now_s();
    press(&p, "\033[200~");
    for (size_t left = 10000000; left;) {
        struct pollfd fd = {.fd = p.fd, .events = POLLIN | POLLOUT};
        poll(&fd, 1, 1000);
        char out[65536];
        if ((fd.revents & POLLIN) && read(p.fd, out, sizeof out) < 0)
            break;
        if (!(fd.revents & POLLOUT))
            continue;
        ssize_t n = write(p.fd, piece, left < 4096 ? left : 4096);
        left -= n > 0 ? (size_t)n : 0;
    }
    press(&p, "\033[201~");
    row("10 MB pasted / 1 s", (drain(&p, 300, NULL) - begin) * 1e3, 1000, "ms", 1);
    end(&p);
}

/* What one finds one's way by: only the lines with a match, a letter at many cursors, an outline. */
static void measure_ways(const char *squill, const char *folder, const char *log, size_t cursors)
{
    char many[300], units[300], again[300]; /* by another name, under which nothing was left unsaved */
    double median, p99;
    snprintf(many, sizeof many, "%s/kiosks.txt", folder);
    snprintf(units, sizeof units, "%s/berths.ini", folder);
    snprintf(again, sizeof again, "%s/again.log", folder);
    FILE *f = fopen(many, "w");
    for (size_t i = 0; f && i < cursors; i++)
        fprintf(f, "kiosk %07zu at berth %zu shows the tide of Harrow Bay\n", i, i % 9);
    FILE *g = fopen(units, "w");
    for (size_t i = 0; g && i < cursors; i++)
        fprintf(
            g, "[berth %zu]\n; the ramp\nopen = yes\nname = north %zu\n\ndepth = 4.2\n# end\n\n\nfares = 3\n",
            i, i);
    if (!f || !g || fclose(f) != 0 || fclose(g) != 0 || link(log, again) != 0)
        exit(1);
    Program p = start(squill, again);
    drain(&p, 1500, NULL);
    press(&p, "\006");
    drain(&p, 300, NULL);
    double begin = now_s();
    press(&p, "\033[200~berth 4 level 5.9\033[201~"); /* it is looked for, and counted, while one types */
    double finding = drain(&p, 1500, NULL) - begin;
    press(&p, "\r");
    drain(&p, 1500, NULL);
    begin = now_s();
    press(&p, "\033vo");
    double shown = drain(&p, 10000, "shown;") - begin;
    row("only lines with a match shown / finding all", shown * 1e3, finding * 1e3, "ms", 1.1);
    end(&p);
    p = start(squill, many);
    drain(&p, 1500, NULL);
    press(&p, "\033ms");
    drain(&p, 1000, NULL);
    press(&p, "x");
    drain(&p, 1000, NULL);
    key_times_apart(&p, "x", 10, 1000, &median, &p99);
    row("letter at 100,000 cursors, own CPU / 30 ms", median, 30, "ms", 1);
    end(&p);
    p = start(squill, units);
    drain(&p, 1500, NULL);
    begin = now_s();
    press(&p, "\033go");
    row("outline of 1,000,000 lines, first rows / 50 ms", (drain(&p, 200, "line 21") - begin) * 1e3, 50, "ms",
        1);
    begin = now_s();
    row("the same to its end / 0.5 s", (drain(&p, 400, NULL) - begin) * 1e3, 500, "ms", 1);
    end(&p);
}

static bool make_line(const char *path, size_t mb, const char *words)
{
    FILE *f = fopen(path, "w");
    for (size_t n = 0; f && n < mb * 1000000;)
        n += (size_t)fprintf(f, "berth %zu %s", n % 97, words);
    return f && fclose(f) == 0;
}

/* Keys at the end of a line of 100 MB, and the first way there. */
static void measure_line(const char *squill, const char *line, const char *kind)
{
    char what[100];
    double median, p99;
    Program p = start(squill, line);
    drain(&p, 1500, NULL);
    key_times(&p, "\033[F", 1, &median, &p99);
    snprintf(what, sizeof what, "%s: first End / 2 ms", kind);
    row(what, p99, 2, "ms", 1);
    key_times(&p, "x", KEYS, &median, &p99);
    snprintf(what, sizeof what, "%s: key there, 99th / 2 ms", kind);
    row(what, p99, 2, "ms", 1);
    end(&p);
}

static bool make_json(const char *path, size_t mb)
{
    FILE *f = fopen(path, "w");
    size_t n = f ? (size_t)fprintf(f, "[") : 0;
    for (unsigned i = 0; f && n < mb * 1000000; i++)
        n += (size_t)fprintf(f, "{\"berth\": %u, \"pier\": \"north \\\"%u\\\"\", \"open\": %s}, ", i, i % 7,
                             i % 3 ? "true" : "null");
    return f && fprintf(f, "{}]") > 0 && fclose(f) == 0;
}

static bool make_program(const char *path)
{
    FILE *f = fopen(path, "w");
    for (unsigned i = 0; f && i < 20000; i++)
        fprintf(f,
                i % 10 == 0
                    ? "/* Berth %u\n   is \"open\" */\n"
                    : "static int tide_%u(const char *at) { return printf(\"%%s\\n\", at) + 0x1f; } // low\n",
                i);
    return f && fclose(f) == 0;
}

/* Letters typed while all of it is being checked, until they are on the screen. */
static void measure_checking(Program *p, int n)
{
    double late[KEYS];
    for (int i = 0; i < n; i++) {
        press(p, "\033OQ");
        drain(p, 8, NULL);
        double begin = now_s();
        press(p, "x");
        late[i] = (drain(p, 12, NULL) - begin) * 1e3;
        drain(p, 800, NULL);
    }
    qsort(late, (size_t)n, sizeof *late, by_value);
    row("letter while it is checked, to the screen, median / 2 ms", late[n / 2], 2, "ms", 1);
    row("the same, the slowest / 10 ms", late[n - 1], 10, "ms", 1);
}

/* With a kind of file that has parts over several lines: what a screen shows depends on all that is before
 * it. */
static void measure_colours(const char *squill, const char *folder, const char *log, size_t mb)
{
    char json[200], program[200], script[200];
    double median, p99, jumps[KEYS];
    int n = 0;
    snprintf(json, sizeof json, "%s/fares.json", folder);
    snprintf(program, sizeof program, "%s/tide.c", folder);
    snprintf(script, sizeof script, "%s/tide.sh", folder);
    if (!make_json(json, mb) || !make_program(program) || link(log, script) != 0)
        exit(1);
    Program p = start(squill, script);
    drain(&p, 1500, NULL);
    for (int most = mb < 10 ? 3 : 20; n < most; n++) { /* few when nothing is judged */
        char keys[20];
        snprintf(keys, sizeof keys, "\007%d%%", 30 + n * 2);
        press(&p, keys);
        drain(&p, 50, NULL);
        double begin = now_s();
        press(&p, "\r");
        jumps[n] = (drain(&p, 30, NULL) - begin) * 1e3;
        drain(&p, 100, NULL);
    }
    qsort(jumps, (size_t)n, sizeof *jumps, by_value);
    row("coloured screen after a jump / 5 ms", jumps[n / 2], 5, "ms", 1);
    end(&p);
    p = start(squill, json);
    drain(&p, 1500, NULL);
    press(&p, "\033[C\033[C\033[Cx"); /* into a name, so that it stays right; the journal begins */
    drain(&p, 1500, NULL);
    key_times(&p, "x", KEYS, &median, &p99);
    row("letter at the top of a JSON of 10 MB, 99th / 1 ms", p99, 1, "ms", 1);
    measure_checking(&p, mb < 10 ? 3 : 20);
    end(&p);
    p = start(squill, program);
    drain(&p, 1500, NULL);
    press(&p, "\00750%\r\033[C\033[C\033[Cx");
    drain(&p, 1500, NULL);
    key_times(&p, "x", KEYS, &median, &p99);
    row("letter with colours, own CPU, median / 0.3 ms", median, 0.3, "ms", 1);
    row("letter with colours, own CPU, 99th / 1 ms", p99, 1, "ms", 1);
    press(&p, "\""); /* all that follows changes its colour */
    key_times(&p, "x", KEYS, &median, &p99);
    row("the same in an open quote, 99th / 1 ms", p99, 1, "ms", 1);
    end(&p);
}

int main(int argc, char **argv)
{
    char small[300], line[300], mixed[300], log[300];
    if (argc != 6) {
        fputs("usage: screen SQUILL BARE FOLDER LOG-MIB LINE-MB\n", stderr);
        return 2;
    }
    const char *squill = argv[1];
    snprintf(small, sizeof small, "%s/small.txt", argv[3]);
    snprintf(line, sizeof line, "%s/line.txt", argv[3]);
    snprintf(mixed, sizeof mixed, "%s/mixed.txt", argv[3]);
    snprintf(log, sizeof log, "%s/tide.log", argv[3]);
    FILE *f = fopen(small, "w");
    for (int i = 0; f && i < 40; i++)
        fputs("berth 3 is open since noon\n", f);
    size_t mb = strtoul(argv[5], NULL, 10);
    if (!f || fclose(f) != 0 || !make_line(line, mb, "of Harrow Bay is open; ") ||
        !make_line(mixed, mb, "ha\u0301fen\tПаром стоит \u6e2f\u306e\u6e21\u3057\u8239 \u26f4\ufe0f; "))
        return 1;
    const char *const starts[STARTS][2] = {{squill, small}, {squill, log}, {squill, line}, {argv[2], NULL}};
    double ms[STARTS];
    first_screens(starts, ms);
    row("first screen, the log / 1 KiB", ms[1], ms[0], "ms", 1.3);
    row("start to first screen / a bare curses program", ms[0], ms[3], "ms", 2);
    measure_log(squill, log, atof(argv[4]));
    row("a line of 100 MB: first screen / 50 ms", ms[2], 50, "ms", 1);
    measure_line(squill, line, "a line of 100 MB");
    measure_line(squill, mixed, "wide letters, marks, tabs");
    measure_colours(squill, argv[3], log, mb < 10 ? mb : 10);
    measure_paste(squill, small);
    measure_ways(squill, argv[3], log, mb < 10 ? 1000 : 100000);
    return 0;
}

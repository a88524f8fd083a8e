/* Measures what the editor's core does against what the machine can do, as ratios in one
 * run: bench FILE, where FILE is a made log (bench --make FILE MIB). */
#include "edit/doc.h"
#include "edit/finder.h"
#include "files/load.h"
#include "files/save.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { RUNS = 5 };

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

/* ---- the data ---- */

static unsigned long long seed = 20261123;

static unsigned dice(unsigned below)
{
    seed = seed * 6364136223846793005u + 1442695040888963407u;
    return (unsigned)(seed >> 33) % below;
}

static int make(const char *path, size_t mib)
{
    static const char *const words[] = {"rising", "falling", "angle corrected", "motor warm", "no answer"};
    FILE *f = fopen(path, "w");
    size_t bytes = 0;
    for (unsigned i = 0; f && bytes < mib * 1024 * 1024; i++) {
        int n = fprintf(f, "2026-11-%02u %02u:%02u:%02u %s[%u]: berth %u level %u.%02u m %s\n",
                        1 + i / 86400 % 28, i / 3600 % 24, i / 60 % 60, i % 60, dice(6) ? "tide" : "ramp",
                        dice(900), 1 + dice(4), dice(6), dice(100), words[dice(5)]);
        bytes += n > 0 ? (size_t)n : 0;
    }
    return !f || fclose(f) != 0;
}

/* ---- what is measured ---- */

static Finder *finder(const char *what, bool expression)
{
    Err e;
    size_t mistake;
    FindWhat w = {.what = what, .len = strlen(what), .letters = CASE_EXACT, .expression = expression};
    return finder_new(&w, &e, &mistake);
}

static size_t count_matches(Text t, const char *what, bool expression)
{
    Finder *f = finder(what, expression);
    size_t n = 0;
    Match m;
    finder_text(f, t);
    for (size_t at = 0; finder_next(f, at, text_len(t), &m) == FOUND; at = finder_after(f, m))
        n++;
    finder_free(f);
    return n;
}

/* Seconds that a command takes; its words are fixed here but for the file's name, which is a
 * variable to the shell. */
static double command(const char *line)
{
    double start = now_s();
    if (system(line) < 0)
        return -1;
    return now_s() - start;
}

static void row(const char *what, double is, double limit, double bar)
{
    printf("| %-44s | %9.1f ms | %9.1f ms | %6.2f | %5.2f | %s |\n", what, is * 1e3, limit * 1e3, is / limit,
           bar, is / limit <= bar ? "holds" : "MISSED");
}

static void measure(const char *path)
{
    double own[RUNS], limit[RUNS], finding[RUNS], replacing[RUNS], undoing[RUNS], loading[RUNS], saving[RUNS],
        copying[RUNS];
    Text t;
    DiskState disk;
    Err e;
    Bytes copy = {0};
    setenv("BENCH_FILE", path, 1);
    bytes_printf(&copy, "%s.copy", path);
    setenv("BENCH_COPY", copy.at, 1);
    command("wc -l <\"$BENCH_FILE\" >/dev/null");
    for (int i = 0; i < RUNS; i++) {
        double start = now_s();
        if (!load_file(path, &t, &disk, &e)) {
            fprintf(stderr, "%s\n", e.text);
            exit(1);
        }
        loading[i] = now_s() - start;
        limit[i] = command("wc -l <\"$BENCH_FILE\" >/dev/null");
        if (i + 1 < RUNS)
            text_drop(&t);
    }
    printf("| %-44s | %12s | %12s | ratio |   bar |\n|---|---|---|---|---|---|\n", "what", "ours", "limit");
    row("loaded and counted / wc -l", median(loading), median(limit), 1.5);

    for (int i = 0; i < RUNS; i++) {
        double start = now_s();
        count_matches(t, "Grey Heron", false);
        own[i] = now_s() - start;
        limit[i] = command("grep -c -F 'Grey Heron' \"$BENCH_FILE\" | cat >/dev/null");
    }
    row("find literal text that is not there / grep -F", median(own), median(limit), 0.6);

    const char *expression = "level [45]\\.\\d\\d m r\\w+g";
    for (int i = 0; i < RUNS; i++) {
        double start = now_s();
        count_matches(t, expression, true);
        own[i] = now_s() - start;
        limit[i] = command(
            "LC_ALL=C.UTF-8 grep -c -P 'level [45]\\.\\d\\d m r\\w+g' \"$BENCH_FILE\" | cat >/dev/null");
    }
    row("find expression, count all / grep -P", median(own), median(limit), 0.5);

    /* about a million places in 256 MiB */
    size_t count = 0, lines = 0;
    for (int i = 0; i < RUNS; i++) {
        Finder *f = finder("berth 3", false);
        Replacement by = {"quay 3", 6, false};
        Text all;
        double start = now_s();
        count_matches(t, "berth 3", false);
        finding[i] = now_s() - start;
        Doc *d = doc_new(text_keep(t));
        start = now_s();
        finder_text(f, t);
        finder_replace_all(f, 0, text_len(t), &by, (Stop){0}, &all, &count, &lines, &e);
        doc_replace_text(d, 0, text_len(t), all, 0);
        replacing[i] = now_s() - start;
        text_drop(&all);
        size_t cursor;
        start = now_s();
        doc_undo(d, &cursor);
        undoing[i] = now_s() - start;
        finder_free(f);
        doc_free(d);
    }
    printf("| (%zu places in %zu lines) | | | | | |\n", count, lines);
    row("replace all / finding them", median(replacing), median(finding), 3);
    row("undo of that / 10 ms", median(undoing), 0.01, 1);

    text_insert(&t, text_len(t) / 2, "x", 1);
    for (int i = 0; i < RUNS; i++) {
        double start = now_s();
        save_file(copy.at, t, NULL, &disk, &e);
        saving[i] = now_s() - start;
        copying[i] = command("cp \"$BENCH_FILE\" \"$BENCH_COPY.2\" && sync \"$BENCH_COPY.2\"");
    }
    row("save after one edit / cp and sync", median(saving), median(copying), 1.15);
    command("rm -f \"$BENCH_COPY\" \"$BENCH_COPY.2\"");
    text_drop(&t);
    bytes_free(&copy);
}

static void measure_edits(void)
{
    enum { SIZE = 100 * 1000 * 1000, EDITS = 1000000 };
    char *bytes = malloc(SIZE);
    for (size_t i = 0; i < SIZE; i++)
        bytes[i] = i % 70 == 69 ? '\n' : (char)('a' + i % 26);
    for (int each = 0; each < 2; each++) {
        Text t = {0};
        text_insert(&t, 0, bytes, SIZE);
        Doc *d = doc_new(t);
        int n = each ? EDITS / 4 : EDITS;
        if (!each)
            doc_begin(d);
        double start = now_s();
        for (int i = 0; i < n; i++)
            doc_replace(d, dice(SIZE), 0, "x", 1, STEP_WHOLE, 0);
        double seconds = now_s() - start;
        if (!each)
            doc_end(d);
        row(each ? "250,000 random letters, each a step / 1 s" : "1,000,000 random letters, one step / 1 s",
            seconds, 1, 1);
        doc_free(d);
    }
    free(bytes);
}

int main(int argc, char **argv)
{
    if (argc == 4 && strcmp(argv[1], "--make") == 0)
        return make(argv[2], strtoul(argv[3], NULL, 10));
    if (argc != 2) {
        fputs("usage: bench FILE | bench --make FILE MIB\n", stderr);
        return 2;
    }
    measure(argv[1]);
    measure_edits();
    return 0;
}

/* How fast recorded keys are played, and scripts run: the whole editor without a terminal. */
#include "app/app.h"
#include "commands/tools/playing.h"
#include "script/script.h"
#include "session/session_files.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

static double now_s(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return (double)t.tv_sec + (double)t.tv_nsec / 1e9;
}

/* So many lines of a tide log. */
static Editor *start(size_t lines)
{
    Editor *ed = app_new();
    Bytes b = {0};
    Text t = {0};
    for (size_t i = 0; i < lines; i++)
        bytes_printf(&b, "%02zu:%02zu berth %zu tide low\n", i / 60 % 24, i % 60, i % 9);
    text_insert(&t, 0, b.at, b.len);
    bytes_free(&b);
    ed->session->rules.plain = true;
    editor_show(ed, session_add(ed->session, t));
    app_resize(ed, 40, 126);
    app_paint(ed);
    return ed;
}

static void end(Editor *ed)
{
    Err e;
    app_end(ed, &e);
    script_free(ed);
    app_free(ed);
}

static void measure(const char *what, const char *keys, size_t lines)
{
    Editor *ed = start(lines);
    Recorded r = {0};
    Err e;
    unsigned line;
    if (!recorded_read(keys, &r, &e, &line))
        printf("%s: %s\n", what, e.text);
    double from = now_s();
    playing_start(ed, &r, NULL, PLAY_WHILE_IT_WORKS, 0);
    playing_finish(ed, 0);
    double seconds = now_s() - from;
    printf("%-58s %10.0f a second, %5.2f s for %zu lines\n", what, (double)lines / seconds, seconds, lines);
    recorded_free(&r);
    end(ed);
}

int main(int argc, char **argv)
{
    size_t lines = argc > 1 ? strtoul(argv[1], NULL, 10) : 100000;
    measure("plays of 3 steps (Home, *, Down)", "Home\n\"*\"\nDown\n", lines);
    measure(
        "plays of 30 steps on a line",
        "Home\n\"* \"\nEnd\n\" ok;\"\nHome\nCtrl+Right\nRight\nRight\nRight\n\"-\"\nBackspace\nShift+Right\n"
        "Shift+Left\nEnd\nBackspace\n\"."
        "\"\nHome\nRight\nRight\nDelete\n\"0\"\nLeft\nRight\nEnd\nHome\nDown\n",
        lines);
    measure("plays that find and change (find, next, two letters)",
            "Ctrl+F\n\"tide low\"\nEnter\nDelete\n\"T\"\n", lines);
    Editor *ed = start(lines);
    static const char script[] = "for n = 1, lines() do replace_line('* ' .. line(n), n) end";
    Err e;
    double from = now_s();
    if (!script_run(ed, "bench.lua", script, strlen(script), &e))
        printf("%s\n", e.text);
    double seconds = now_s() - from;
    printf("%-58s %10.0f a second, %5.2f s for %zu lines\n", "lines read and replaced by a script",
           (double)lines / seconds, seconds, lines);
    end(ed);
    return 0;
}

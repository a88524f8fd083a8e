#include "editors.h"

#include "check.h"
#include "base/utf8.h"
#include "session/session_files.h"

#include <stdatomic.h>
#include <string.h>
#include <time.h>

uint64_t editors_now = 100000;

static atomic_llong stopped_at;

void editors_stop_the_clock(bool stop)
{
    stopped_at = stop ? (long long)time(NULL) : 0;
}

/* In place of libc's, for all that these tests are linked with. */
time_t time(time_t *out)
{
    struct timespec now = {.tv_sec = (time_t)stopped_at};
    if (!now.tv_sec)
        clock_gettime(CLOCK_REALTIME, &now);
    if (out)
        *out = now.tv_sec;
    return now.tv_sec;
}

static char lately[400];

const char *editors_keys(void)
{
    return lately;
}

Editor *editors_start(const char *text, size_t n, int rows, int cols)
{
    Editor *ed = app_new();
    Text t = {0};
    CHECK(text_insert(&t, 0, text, n));
    ed->session->rules.plain = true;
    editor_show(ed, session_add(ed->session, t));
    app_resize(ed, rows, cols);
    app_paint(ed);
    return ed;
}

void editors_press_key(Editor *ed, Key k)
{
    char name[KEY_NAME_MAX];
    size_t n = strlen(lately);
    if (n > 300)
        memmove(lately, lately + 100, n - 99);
    strcat(strcat(lately, " "), key_written(k, name));
    Input in = {.kind = INPUT_KEY, .key = k};
    app_input(ed, &in, editors_now += 20);
}

void editors_press(Editor *ed, const char *names)
{
    while (*names) {
        size_t n = strcspn(names, " ");
        Key k;
        CHECK(key_parse(names, n, &k));
        editors_press_key(ed, k);
        names += n + strspn(names + n, " ");
    }
}

void editors_plain(Editor *ed)
{
    editors_press(ed, "Esc Esc");
    app_tick(ed, editors_now += ESC_BRIEF);
}

const char *editors_row(Editor *ed, int r)
{
    static char text[2048];
    const Frame *f = app_paint(ed);
    size_t n = 0, used = 0;
    for (int c = 0; c < f->cols; c++) {
        const Cell *cell = frame_cell(f, r, c);
        for (int i = 0; i < cell->n_codes && n + 8 < sizeof text; i++)
            n += utf8_write(cell->codes[i], text + n);
        if (cell->n_codes && cell->codes[0] != ' ')
            used = n;
    }
    text[used] = 0;
    return text;
}

bool editors_show(Editor *ed, const char *words)
{
    for (int r = 0; r < ed->frame.rows; r++)
        if (strstr(editors_row(ed, r), words))
            return true;
    return false;
}

bool editors_text_is(const Editor *ed, const char *want)
{
    Text t = view_text(ed->panes.view);
    char bytes[200];
    size_t n = text_read(t, 0, bytes, sizeof bytes);
    return n == text_len(t) && n == strlen(want) && memcmp(bytes, want, n) == 0;
}

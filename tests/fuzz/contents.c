/* Any bytes as a file: it is shown soundly wherever one goes and however it is shown, and it is written as
 * it came. */
#include "fuzz.h"
#include "sound.h"
#include "app/app.h"
#include "files/encoding.h"
#include "files/save.h"
#include "files/text_format.h"
#include "kinds/kinds.h"

#include <stdlib.h>
#include <string.h>

static const char *const ways[] = {
    "Down Down End Ctrl+End PageUp Left Left",
    "Ctrl+End Up Home PageUp PageUp Ctrl+Home PageDown",
    "Esc v w PageDown PageDown End Right Ctrl+End Up Up",
    "Esc v b PageDown End Home",
    "Ctrl+T Down Down Right Esc l s Ctrl+Z",
    "Ctrl+F a Enter Ctrl+N Ctrl+N Ctrl+B",
    "Shift+Down Shift+Down Ctrl+X Ctrl+V Ctrl+Z Ctrl+Z",
    "Ctrl+Right Ctrl+Right Ctrl+Left Tab x Backspace Delete Enter Ctrl+Z Ctrl+Z Ctrl+Z Ctrl+Z",
    "Esc m c Right Down x Ctrl+Z",
    "Esc l u Esc l d Esc l j Ctrl+Z",
};

static void look_around(Editor *ed, unsigned way, int rows, int cols)
{
    uint64_t clock_ms = 100000;
    app_resize(ed, rows, cols);
    MUST(screen_sound(ed));
    for (const char *p = ways[way % (sizeof ways / sizeof *ways)]; *p;) {
        size_t n = strcspn(p, " ");
        Input in = {.kind = INPUT_KEY};
        MUST(key_parse(p, n, &in.key));
        app_input(ed, &in, clock_ms += 400);
        app_tick(ed, clock_ms);
        MUST(screen_sound(ed));
        p += n + strspn(p + n, " ");
    }
    MUST(text_check(view_text(ed->panes.view)));
}

/* What was read and is saved again is the same bytes. */
static void comes_back(const OpenFile *f, const uint8_t *bytes, size_t n)
{
    Text raw = {0};
    Err e;
    size_t at;
    MUST(encoding_write(doc_state_text(f->doc, 0), &f->encoding, &raw, &at, &e));
    char *out = malloc(n + 1);
    MUST(text_len(raw) == n && text_read(raw, 0, out, n) == n && (n == 0 || memcmp(out, bytes, n) == 0));
    free(out);
    text_drop(&raw);
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    static const char *const names[] = {"tide.log", "kiosk.ini", "Makefile", "announce"};
    fuzz_home();
    unsigned way = fuzz_byte(&bytes, &n), size = fuzz_byte(&bytes, &n);
    Err e;
    Editor *ed = app_new();
    ed->session->rules.plain = true;
    const char *path = fuzz_put(names[way % 4], bytes, n);
    MUST(kind_of(path, (const char *)bytes, n) != NULL);
    MUST(editor_open(ed, path, &e));
    ed->frame.ascii = size & 1;
    comes_back(ed->panes.view->file, bytes, n);
    look_around(ed, way / 4, 2 + (int)(size >> 5) * 6, 6 + (int)(size & 31) * 4);
    app_free(ed);
    return 0;
}

/* Any bytes as what a terminal sends, at any size of the screen: the screen stays sound, the way back is
 * never lost, and Esc Esc ends in plain text. The bytes fe and ff are no part of UTF-8 and stand for another
 * size and for time that passes. */
#include "fuzz.h"
#include "sound.h"
#include "app/app.h"
#include "view/shown.h"
#include "session/session_files.h"

#include <string.h>

static const char sample[] =
    "grey heron\r\n\t\xe6\xbc\xa2\xe5\xad\x97 (a[b]c) \"q\" true 0x1f 10.0.0.255\n\n"
    "\xff\xfe\x01 e\xcc\x81\nberth three is open until the tide turns at the ramp, or "
    "until the last ferry of the day has left\nend\n";

static uint64_t clock_ms;

static void take_in(Editor *ed, Decoder *d)
{
    Input in;
    while (!ed->host.leave && decoder_next(d, clock_ms, &in)) {
        app_input(ed, &in, clock_ms);
        ed->host.discard_input = ed->host.fetch_clip = ed->host.send_clip = ed->host.suspend =
            ed->host.shell = false;
        RootWish w;
        if (app_root_begin(ed, &w))
            app_root_end(ed, &w, false, "not in a test");
    }
    app_tick(ed, clock_ms);
    size_t len = text_len(view_text(ed->panes.view));
    MUST(ed->panes.view->cursor.at <= len && ed->panes.view->top.at <= len && ed->panes.view->mark.at <= len);
}

static void way_back(Editor *ed, const Doc *first)
{
    size_t at;
    Doc *d = ed->panes.view->file->doc;
    MUST(text_check(doc_text(d)));
    while (doc_undo(d, &at))
        ;
    MUST(text_check(doc_text(d)));
    if (d == first && doc_states(d) > 1 && text_len(doc_state_text(d, 0)) == sizeof sample - 1) {
        char bytes[sizeof sample];
        text_read(doc_text(d), 0, bytes, sizeof bytes);
        MUST(memcmp(bytes, sample, sizeof sample - 1) == 0);
    }
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    Text t = {0};
    fuzz_home();
    clock_ms = 100000;
    unsigned rows = fuzz_byte(&bytes, &n), cols = fuzz_byte(&bytes, &n), flags = fuzz_byte(&bytes, &n);
    Editor *ed = app_new();
    Decoder *d = decoder_new(25);
    MUST(flags & 1 || text_insert(&t, 0, sample, sizeof sample - 1));
    ed->session->rules.plain = (flags & 14) != 0; /* now and then with what is remembered and the journal */
    ed->frame.ascii = flags & 16;
    editor_show(ed, session_add(ed->session, t));
    const Doc *first = ed->panes.view->file->doc;
    app_resize(ed, 1 + (int)rows % 30, 1 + (int)cols % 90);
    while (n && !ed->host.leave) {
        const void *sign = memchr(bytes, 0xff, n), *size = memchr(bytes, 0xfe, n);
        size_t part = sign ? (size_t)((const uint8_t *)sign - bytes) : n;
        part = size && (size_t)((const uint8_t *)size - bytes) < part
                   ? (size_t)((const uint8_t *)size - bytes)
                   : part;
        part = part < 40 ? part : 40;
        decoder_feed(d, bytes, part, clock_ms);
        take_in(ed, d);
        bytes += part;
        n -= part;
        if (n && *bytes >= 0xfe && fuzz_byte(&bytes, &n) == 0xff) {
            clock_ms += 8 * fuzz_byte(&bytes, &n);
        } else if (n && part < 40) {
            rows = fuzz_byte(&bytes, &n);
            cols = fuzz_byte(&bytes, &n);
            app_resize(ed, 1 + (int)rows % 30, 1 + (int)cols % 90);
        }
        clock_ms += 5;
        take_in(ed, d);
        MUST(screen_sound(ed));
    }
    if (!ed->host.leave) {
        clock_ms += 3000;
        take_in(ed, d);
        decoder_feed(d, "\033[201~", 6, clock_ms); /* out of a paste */
        take_in(ed, d);
        for (int i = 0; i < 2; i++) {
            decoder_feed(d, "\033", 1, clock_ms += i ? 0 : 1200);
            take_in(ed, d);
            clock_ms += 100;
            take_in(ed, d);
        }
        clock_ms += 600; /* the bar that the last one may have woken goes */
        take_in(ed, d);
        MUST(ed->layer == NULL && ed->panes.view->file->id);
        MUST(screen_sound(ed));
    }
    way_back(ed, first);
    decoder_free(d);
    app_free(ed);
    return 0;
}

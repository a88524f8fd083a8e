/* Lives of the whole editor: several files of several kinds, every command by its route, keys, clicks, sizes
 * and time in any order, with checkers, scripts, recordings and panes. Each byte is one step. */
#include "fuzz.h"
#include "sound.h"
#include "app/app.h"
#include "script/own_data.h"
#include "script/script.h"
#include "view/shown.h"

#include <poll.h>
#include <stdio.h>
#include <string.h>

static uint64_t clock_ms;

static const struct {
    const char *name, *text;
} files[] = {
    {"kiosk.ini", "# Ticket kiosk\n[display]\nbrightness = 80\nlanguage=en\n[display]\nopen = yes\n"},
    {"berths.json", "{\n  \"berths\": [1, 2, {\"name\": \"north\", \"open\": true}],\n  \"tide\": 4.2,\n}\n"},
    {"crontab", "SHELL=/bin/sh\n*/5 6-22 * * * announce tide\n61 25 * * 9 wrong\n@daily clean\n"},
    {"announce.sh",
     "#!/bin/sh\nfor b in 1 2 3; do\n\techo \"berth $b\"\ndone\nif [ -n \"$1\" ]; then\n  echo 'tide\nfi\n"},
    {"tides.csv", "day,low,high\n1,04:10,10:21\n2,\"05:00\n3\",11:10\n"},
    {"notes.md",
     "# Ramp\n\n*slippery* at `low` tide [see](tides.csv\n\n- one\n- two\n\t\xff\xe6\xbc\xa2 \xe5\xad\x97\n"},
    {"compose.yaml", "kiosk:\n  image: \"harrow:1\"\n  ports:\n   - 80\n  ports: [\n"},
    {"fstab", "/dev/sda1 / ext4 defaults 0 1\nUUID=x /srv/harrow xfs nodev,noexec 0 9\n"},
};

static const char start_lua[] =
    "command { name = 'tick', route = 'Esc t 1', run = function () insert('x' .. lines()) end }\n"
    "command { name = 'swap', key = 'F12', run = function () replace('i', 'ii') go(1, 1) end }\n"
    "command { name = 'fails', route = 'Esc t 2', run = function () insert('y') error('no') end }\n"
    "command { name = 'asks', route = 'Esc t 3', run = function () local a = ask('Name', 'x') if a then "
    "insert(a) end "
    "end }\n"
    "when('saving', function () if lines() > 40 then refuse('too long') end end)\n";

/* Keys beside the routes; the first ones come more often. */
static const char *const keys[] = {
    "\033",
    "\r",
    "\t",
    "a",
    "n",
    "y",
    "r",
    "k",
    "1",
    " ",
    "\x7f",
    "\033[A",
    "\033[B",
    "\033[C",
    "\033[D",
    "\033[Z",
    "\033[H",
    "\033[F",
    "\033[5~",
    "\033[6~",
    "\033[1;2B",
    "\033[1;2C",
    "\033[1;5C",
    "\033[3~",
    "\033OP",
    "\033OQ",
    "\033OS",
    "\033[15~",
    "\033[17~",
    "\033[18~",
    "\033[19~",
    "\033[20~",
    "\033[24~",
    "\x01",
    "\x02",
    "\x03",
    "\x04",
    "\x05",
    "\x06",
    "\x07",
    "\x0b",
    "\x0c",
    "\x0e",
    "\x0f",
    "\x10",
    "\x11",
    "\x12",
    "\x13",
    "\x14",
    "\x15",
    "\x16",
    "\x17",
    "\x18",
    "\x19",
    "\x1a",
    "\x1f",
    "\033[200~two\nlines\033[201~",
    "\xc3\xa4",
    "\xe6\xbc\xa2",
    "#",
    "\"",
    "[",
    "kiosk",
    "berth\\d",
    "exit\r",
    "\033[<0;5;3M\033[<0;5;3m",
    "\033[<0;20;8M\033[<32;30;9M\033[<0;30;9m",
    "\033[<64;9;5M",
    "\033[<65;9;5M",
    "\033[<0;3;1M\033[<0;3;1m",
    "\033[I",
    "\033[O",
    "\033\033",
};
enum { N_KEYS = sizeof keys / sizeof *keys, N_FILES = sizeof files / sizeof *files };

static void take_in(Editor *ed, Decoder *d)
{
    Input in;
    for (int i = 0; i < 4000 && app_plays(ed); i++)
        app_tick(ed, clock_ms);
    while (!ed->host.leave && decoder_next(d, clock_ms, &in))
        app_input(ed, &in, clock_ms);
    ed->host.discard_input = ed->host.fetch_clip = ed->host.send_clip = ed->host.suspend = ed->host.shell =
        false;
    RootWish w;
    if (app_root_begin(ed, &w))
        app_root_end(ed, &w, false, "not in a test");
    app_tick(ed, clock_ms);
    size_t len = text_len(view_text(ed->panes.view));
    MUST(ed->panes.view->cursor.at <= len && ed->panes.view->top.at <= len && ed->panes.view->mark.at <= len);
}

static void pass(Editor *ed, Decoder *d, unsigned ms)
{
    struct pollfd fds[APP_FDS];
    size_t n = app_fds(ed, fds);
    if (n) /* what other programs do needs time of the world, too */
        poll(fds, n, 1);
    clock_ms += ms;
    take_in(ed, d);
}

static void feed(Editor *ed, Decoder *d, const char *bytes)
{
    decoder_feed(d, bytes, strlen(bytes), clock_ms);
    take_in(ed, d);
}

static void step(Editor *ed, Decoder *d, unsigned what, unsigned more)
{
    const Registry *r = &ed->config.registry;
    if (what < 120) { /* a command by its route */
        const Command *c = r->commands[(what * 256 + more) % r->n];
        char route[ROUTE_MAX], letters[8] = "\033";
        if (!*registry_route(r, c, route) || strcmp(c->name, "shell-and-back") == 0)
            return;
        snprintf(letters + 1, sizeof letters - 1, "%c%c", route[4], route[6]);
        pass(ed, d, more & 1 ? 0 : 1100);
        feed(ed, d, letters);
    } else if (what < 225) {
        feed(ed, d, keys[(what < 160 ? more % 24 : more) % N_KEYS]);
    } else if (what < 240) {
        pass(ed, d, more * 12);
    } else if (what < 250) {
        app_resize(ed, 1 + (int)more % 45, 8 + (int)(more * 7 + what) % 130);
    } else {
        feed(ed, d, "\033");
        pass(ed, d, 100);
    }
}

static void put_files(void)
{
    for (size_t i = 0; i < N_FILES; i++)
        fuzz_put(files[i].name, files[i].text, strlen(files[i].text));
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    enum { STEPS_MOST = 220 };
    static bool begun;
    fuzz_home();
    if (!begun)
        fuzz_put(".config/steady-quill/start.lua", start_lua, sizeof start_lua - 1);
    begun = true;
    put_files();
    clock_ms = 100000;
    Editor *ed = app_new();
    Decoder *d = decoder_new(25);
    Err e = {""};
    unsigned flags = fuzz_byte(&bytes, &n), first = fuzz_byte(&bytes, &n);
    ed->session->rules.plain = flags & 1;
    ed->frame.ascii = flags & 2;
    script_describe(ed);
    script_load(ed);
    for (unsigned i = 0; i <= (flags >> 2) % 3; i++)
        MUST(editor_open(ed, files[(first + i * 3) % N_FILES].name, &e));
    app_resize(ed, flags & 16 ? 24 : 12, flags & 32 ? 80 : 30);
    for (int i = 0; n && i < STEPS_MOST && !ed->host.leave; i++) {
        unsigned what = fuzz_byte(&bytes, &n);
        step(ed, d, what, fuzz_byte(&bytes, &n));
        clock_ms += 30;
        MUST(screen_sound(ed));
    }
    for (int i = 0; !ed->host.leave && i < 3; i++) { /* out of a paste, then hammering on Esc, then a pause */
        feed(ed, d, "\033[201~");
        pass(ed, d, 1200);
        feed(ed, d, "\033");
        pass(ed, d, 100);
        feed(ed, d, "\033");
        pass(ed, d, 100);
        pass(ed, d, 1200);
        if (!ed->layer)
            break;
    }
    if (!ed->host.leave) {
        MUST(ed->layer == NULL && ed->panes.view->file->id);
        MUST(text_check(doc_text(ed->panes.view->file->doc)));
        MUST(screen_sound(ed));
    }
    app_end(ed, &e);
    script_free(ed);
    decoder_free(d);
    app_free(ed);
    return 0;
}

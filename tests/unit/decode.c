/* The decoder on every sequence it knows, split at every byte, with every kind of pause. */
#include "check.h"
#include "base/bytes.h"
#include "input/decoder.h"

#include <stdio.h>
#include <string.h>

typedef struct Case {
    const char *bytes;
    const char *want; /* names of keys separated by blanks; "paste:…", "mouse", "focus+" … */
} Case;

static const Case cases[] = {
    {"a", "a"},
    {"ä", "ä"},
    {"漢", "漢"},
    {"\r", "Enter"},
    {"\n", "Enter"},
    {"\t", "Tab"},
    {"\177", "Backspace"},
    {"\010", "Backspace"},
    {"\023", "Ctrl+S"},
    {"\037", "Ctrl+_"},
    {"\033[A", "Up"},
    {"\033OA", "Up"},
    {"\033[1;2B", "Shift+Down"},
    {"\033[1;5C", "Ctrl+Right"},
    {"\033[1;3D", "Alt+Left"},
    {"\033[1;8H", "Ctrl+Alt+Shift+Home"},
    {"\033[3~", "Delete"},
    {"\033[3;5~", "Ctrl+Delete"},
    {"\033[5~", "PageUp"},
    {"\033[7~", "Home"},
    {"\033[8^", "Ctrl+End"},
    {"\033[2$", "Shift+Insert"},
    {"\033[a", "Shift+Up"},
    {"\033Oc", "Ctrl+Right"},
    {"\033[Z", "Shift+Tab"},
    {"\033OP", "F1"},
    {"\033[[A", "F1"},
    {"\033[11~", "F1"},
    {"\033[21~", "F10"},
    {"\033[24;2~", "Shift+F12"},
    {"\033OM", "Enter"},
    {"\033Op", "0"},
    {"\033f", "Alt+F"},
    {"\033\033\021", "Esc Esc Ctrl+Q"},
    {"\033\033\033[1;5H", "Esc Esc Ctrl+Home"},
    {"\033\033\033OA", "Esc Esc Up"},
    {"\033\033[H", "Alt+Home"},
    {"\033ä", "Alt+ä"},
    {"\033\023", "Ctrl+Alt+S"},
    {"\033\177", "Alt+Backspace"},
    {"\033\033[A", "Alt+Up"},
    {"\033\033OA", "Alt+Up"},
    {"\033[97;5u", "Ctrl+A"},
    {"\033[27;5;105~", "Ctrl+I"},
    {"\033[13;2u", "Shift+Enter"},
    {"\033[I", "focus+"},
    {"\033[O", "focus-"},
    {"\033[<0;5;3M", "press 1 2,4"},
    {"\033[<0;5;3m", "release 1 2,4"},
    {"\033[<65;1;1M", "wheel 0,0"},
    {"\033[M !!", "press 1 0,0"},
    {"\033[200~ab\r\033[A\023\033[201~", "paste:ab\r\033[A\023"},
    {"\033[200~\033[201~x", "paste: x"},
    /* unknown or broken: dropped whole */
    {"\033[?62;4c", ""},
    {"\033[>1;2;3c", ""},
    {"\033[99~", ""},
    {"\033[1;2;3;4;5;6;7;8;9;10;11X", ""},
    {"\033[201~", ""},
    {"\033[200;1$y", ""},
    {"\033[57441;1u", ""},
    {"\033]11;rgb:ffff/ffff/ffff\007x", "ground:ffffff x"},
    {"\033]11;rgb:ffff/0/8\033\\x", "ground:ff0088 x"},
    {"\033]11;rgb:1c1c/80/f\007", "ground:1c80ff"},
    {"\033]10;rgb:ffff/ffff/ffff\007x", "x"}, /* the letters' colour: nobody asked */
    {"\033]11;rgb:ffff/ffff\007x", "x"},
    {"\033]11;rgb:fffff/ff/ff\007x", "x"},
    {"\033]11;rgb:ff/ff/ff/ff\007x", "x"},
    {"\033]11;rgb:gg/ff/ff\007x", "x"},
    {"\033]11;?\007x", "x"},
    {"\033P>|harrow(3)\033\\x", "x"},
    {"\033P1$r0m\033\\", ""},
    {"\033]x", "Alt+] x"},
    {"\033[\033[A", "Up"},
    {"\033[12\033[B", "Down"},
    {"\033[[Zx", "x"},
};

static void describe(const Input *in, Bytes *out)
{
    char name[KEY_NAME_MAX];
    if (out->len && out->at[out->len - 1] != ' ')
        bytes_add_str(out, " ");
    switch (in->kind) {
    case INPUT_KEY:
        bytes_add_str(out, key_written(in->key, name));
        break;
    case INPUT_PASTE:
        bytes_add_str(out, "paste:");
        bytes_add(out, in->bytes, in->n_bytes);
        break;
    case INPUT_GROUND:
        bytes_printf(out, "ground:%06x", in->ground);
        break;
    case INPUT_FOCUS:
        bytes_add_str(out, in->focus_gained ? "focus+" : "focus-");
        break;
    case INPUT_MOUSE:
        if (in->mouse.action >= MOUSE_WHEEL_UP)
            bytes_printf(out, "wheel %d,%d", in->mouse.row, in->mouse.col);
        else
            bytes_printf(out, "%s %d %d,%d", in->mouse.action == MOUSE_PRESS ? "press" : "release",
                         in->mouse.button, in->mouse.row, in->mouse.col);
        break;
    default:
        break;
    }
}

static void take(Decoder *d, uint64_t now, Bytes *out)
{
    Input in;
    while (decoder_next(d, now, &in))
        describe(&in, out);
}

TEST(whole)
{
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Decoder *d = decoder_new(50);
        Bytes got = {0};
        check_case(cases[i].want);
        decoder_feed(d, cases[i].bytes, strlen(cases[i].bytes), 1000);
        take(d, 1000, &got);
        take(d, 5000, &got);
        CHECK_STR(bytes_str(&got), cases[i].want);
        bytes_free(&got);
        decoder_free(d);
    }
}

/* Split once at every byte. Pauses shorter than the patience change nothing; longer ones may
 * tell Esc from its tail, but never type what belongs to a sequence. */
/* What was pasted before is no part of the next paste, whether that comes at once or later. */
TEST(each_paste_is_its_own)
{
    static const char first[] = "\033[200~berth\033[201~", second[] = "\033[200~quay\033[201~";
    for (uint64_t pause = 0; pause < 20000; pause = 3 * pause + 7) {
        Decoder *d = decoder_new(50);
        Bytes out = {0};
        decoder_feed(d, first, sizeof first - 1, 1000);
        if (pause)
            take(d, 1000, &out);
        decoder_feed(d, second, sizeof second - 1, 1000 + pause);
        take(d, 1000 + pause, &out);
        CHECK_STR(bytes_str(&out), "paste:berth paste:quay");
        bytes_free(&out);
        decoder_free(d);
    }
}

TEST(split_at_every_byte)
{
    static const uint64_t pauses[] = {0, 20, 49, 60, 300, 499, 700, 2000};
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        size_t n = strlen(cases[i].bytes);
        for (size_t cut = 1; cut < n; cut++)
            for (size_t k = 0; k < sizeof pauses / sizeof *pauses; k++) {
                Decoder *d = decoder_new(50);
                Bytes got = {0};
                uint64_t now = 1000;
                decoder_feed(d, cases[i].bytes, cut, now);
                take(d, now, &got);
                int wait = decoder_wait(d, now);
                if (wait >= 0 && (uint64_t)wait <= pauses[k])
                    take(d, now + (uint64_t)wait, &got);
                now += pauses[k];
                take(d, now, &got);
                decoder_feed(d, cases[i].bytes + cut, n - cut, now);
                take(d, now, &got);
                take(d, now + 5000, &got);
                bool pasted = strncmp(cases[i].bytes, "\033[200~", 6) == 0;
                bool esc_last = cases[i].bytes[cut - 1] == '\033' && (cut == 1 || !pasted);
                bool in_time = pauses[k] < 50 || (pauses[k] < 500 && !esc_last);
                char name[80];
                snprintf(name, sizeof name, "%.30s cut %zu pause %d", cases[i].want, cut, (int)pauses[k]);
                check_case(name);
                if (in_time)
                    CHECK_STR(bytes_str(&got), cases[i].want);
                bytes_free(&got);
                decoder_free(d);
            }
    }
}

/* A slow line may part Esc from its tail: within a second the key is still found. */
TEST(esc_is_taken_back)
{
    static const char *const tails[] = {"[A", "OP", "[3~", "[1;5C", "[[A", "[<0;1;1M"};
    for (size_t i = 0; i < sizeof tails / sizeof *tails; i++) {
        Decoder *d = decoder_new(50);
        Input in;
        check_case(tails[i]);
        decoder_feed(d, "\033", 1, 1000);
        CHECK(!decoder_next(d, 1049, &in));
        CHECK(decoder_next(d, 1050, &in) && in.key.code == K_ESC);
        decoder_feed(d, tails[i], strlen(tails[i]), 1900);
        CHECK(decoder_next(d, 1900, &in) && in.takes_back_esc);
        CHECK(in.kind == INPUT_MOUSE || (in.kind == INPUT_KEY && !key_types(in.key)));
        decoder_free(d);
    }
    /* What a person types after Esc is not a tail. */
    static const char *const typed[] = {"[", "O", "[x", "f", "OO"};
    for (size_t i = 0; i < sizeof typed / sizeof *typed; i++) {
        Decoder *d = decoder_new(50);
        Input in;
        check_case(typed[i]);
        decoder_feed(d, "\033", 1, 1000);
        CHECK(decoder_next(d, 1100, &in));
        decoder_feed(d, typed[i], strlen(typed[i]), 1300);
        CHECK(decoder_next(d, 9000, &in) && !in.takes_back_esc && in.key.ch == (uint32_t)typed[i][0]);
        decoder_free(d);
    }
}

TEST(esc_alone_and_twice)
{
    Decoder *d = decoder_new(50);
    Bytes got = {0};
    decoder_feed(d, "\033\033", 2, 1000);
    take(d, 1020, &got);
    CHECK_STR(bytes_str(&got), "");
    take(d, 1050, &got);
    CHECK_STR(bytes_str(&got), "Esc Esc");
    bytes_clear(&got);
    decoder_feed(d, "\033\033x", 3, 3000);
    take(d, 3000, &got);
    take(d, 9000, &got);
    CHECK(strncmp(bytes_str(&got), "Esc ", 4) == 0);
    bytes_free(&got);
    decoder_free(d);
}

/* A paste in many pieces, with its end marker cut anywhere, is one and literal. */
TEST(paste_in_pieces)
{
    static const char stream[] = "\033[200~one\r\033[201two\033[201~z";
    for (size_t piece = 1; piece < sizeof stream; piece++) {
        Decoder *d = decoder_new(50);
        Bytes got = {0};
        uint64_t now = 1000;
        for (size_t at = 0; at < sizeof stream - 1; at += piece) {
            size_t n = sizeof stream - 1 - at < piece ? sizeof stream - 1 - at : piece;
            decoder_feed(d, stream + at, n, now += 5);
            take(d, now, &got);
        }
        CHECK_STR(bytes_str(&got), "paste:one\r\033[201two z");
        bytes_free(&got);
        decoder_free(d);
    }
}

/* When the end of a paste is lost, what came is shown, and Esc is the way out. */
TEST(paste_without_end)
{
    Decoder *d = decoder_new(50);
    Input in;
    decoder_feed(d, "\033[200~half", 10, 1000);
    CHECK(!decoder_next(d, 1100, &in));
    CHECK_INT(decoder_wait(d, 1100), 900);
    CHECK(decoder_next(d, 2000, &in) && in.kind == INPUT_PASTE && in.paste_goes_on && in.n_bytes == 4);
    CHECK(!decoder_next(d, 2000, &in));
    CHECK_INT(decoder_wait(d, 2000), -1);
    decoder_feed(d, "\033", 1, 4000);
    CHECK(!decoder_next(d, 4000, &in));
    CHECK(decoder_next(d, 4050, &in) && in.kind == INPUT_PASTE && !in.paste_goes_on && in.n_bytes == 0);
    decoder_feed(d, "x", 1, 4100);
    CHECK(decoder_next(d, 4100, &in) && in.kind == INPUT_KEY && in.key.ch == 'x');
    decoder_free(d);
}

/* Garbage never hangs, and bytes of sequences are not typed. */
TEST(garbage)
{
    for (int round = 0; round < 3000; round++) {
        Decoder *d = decoder_new(50);
        Input in;
        char bytes[200];
        size_t n = 1 + check_random(sizeof bytes - 1);
        for (size_t i = 0; i < n; i++)
            bytes[i] =
                check_random(4) ? "\033[;<OM0123456789~ABmu$?"[check_random(23)] : (char)check_random(256);
        unsigned events = 0;
        uint64_t now = 1000;
        for (size_t at = 0; at < n;) {
            size_t piece = 1 + check_random(20);
            piece = piece < n - at ? piece : n - at;
            decoder_feed(d, bytes + at, piece, now);
            at += piece;
            now += check_random(3) ? 3 : check_random(1500);
            while (decoder_next(d, now, &in))
                events++;
        }
        while (decoder_wait(d, now) >= 0 && events < 1000) {
            now += (uint64_t)decoder_wait(d, now);
            while (decoder_next(d, now, &in))
                events++;
        }
        CHECK(events <= n + 2);
        decoder_free(d);
    }
    /* A sequence without end is swallowed as long as it lasts. */
    Decoder *d = decoder_new(50);
    Bytes got = {0}, long_one = {0};
    bytes_add_str(&long_one, "\033[");
    for (int i = 0; i < 5000; i++)
        bytes_add_str(&long_one, "1;");
    bytes_add_str(&long_one, "Ax");
    decoder_feed(d, long_one.at, long_one.len, 1000);
    take(d, 1000, &got);
    CHECK_STR(bytes_str(&got), "x");
    bytes_free(&got);
    bytes_free(&long_one);
    decoder_free(d);
}

/* The second Esc of "Esc Esc Ctrl+Q" may come together with what follows, or not. */
TEST(a_chord_behind_two_esc_is_that_chord)
{
    static const size_t cuts[][2] = {{3, 3}, {1, 3}, {2, 3}, {1, 2}};
    for (size_t i = 0; i < 4; i++) {
        Decoder *d = decoder_new(50);
        Bytes got = {0};
        size_t from = 0;
        uint64_t now = 1000;
        const size_t ends[3] = {cuts[i][0], cuts[i][1], 3};
        for (int k = 0; k < 3; k++) {
            decoder_feed(d, &"\033\033\021"[from], ends[k] - from, now);
            take(d, now, &got);
            from = ends[k];
            take(d, now += 60, &got);
        }
        CHECK_STR(bytes_str(&got), "Esc Esc Ctrl+Q");
        bytes_free(&got);
        decoder_free(d);
    }
}

TEST(names_are_read_as_written)
{
    static const char *const names[] = {"Ctrl+S",     "Alt+F",   "Shift+Tab", "Ctrl+Alt+Shift+Home",
                                        "F10",        "a",       "A",         "Space",
                                        "Ctrl+Space", "+",       "Ctrl++",    "Ctrl+_",
                                        "ä",          "PageDown"};
    for (size_t i = 0; i < sizeof names / sizeof *names; i++) {
        Key k;
        char name[KEY_NAME_MAX];
        check_case(names[i]);
        CHECK(key_parse(names[i], strlen(names[i]), &k));
        CHECK_STR(key_written(k, name), names[i]);
    }
    Key k;
    CHECK(!key_parse("", 0, &k) && !key_parse("Ctrl+", 5, &k) && !key_parse("F13", 3, &k) &&
          !key_parse("nix", 3, &k));
}

/* A terminal's answer of any length, such as its clipboard, is no key of it; what is typed after it is. */
TEST(long_answers_are_no_keys)
{
    static const size_t sizes[] = {100, 4000, 4096, 6000, 70000};
    static const char *const ends[] = {"\007", "\033\\"};
    for (size_t i = 0; i < sizeof sizes / sizeof *sizes * 2; i++)
        for (size_t cut = 1; cut < 5000; cut = cut * 3 + check_random(5)) {
            Bytes all = {0}, got = {0};
            Decoder *d = decoder_new(50);
            uint64_t now = 1000;
            bytes_add_str(&all, "\033]52;c;");
            for (size_t k = 0; k < sizes[i / 2]; k++)
                bytes_add_str(&all, k % 5 ? "q" : "A");
            bytes_add_str(&all, ends[i % 2]);
            for (size_t at = 0; at < all.len; at += cut, now += 1) {
                decoder_feed(d, all.at + at, all.len - at < cut ? all.len - at : cut, now);
                take(d, now, &got);
            }
            decoder_feed(d, "x", 1, now);
            take(d, now, &got);
            take(d, now + 2000, &got);
            CHECK_STR(bytes_str(&got), "x");
            decoder_free(d);
            bytes_free(&all);
            bytes_free(&got);
        }
    /* One that never ends is over after a silence. */
    Decoder *d = decoder_new(50);
    Bytes got = {0};
    char many[5000];
    memset(many, 'q', sizeof many);
    memcpy(many, "\033]52;c;", 7);
    decoder_feed(d, many, sizeof many, 1000);
    take(d, 1000, &got);
    decoder_feed(d, "ok", 2, 2000);
    take(d, 2000, &got);
    CHECK_STR(bytes_str(&got), "o k");
    bytes_free(&got);
    decoder_free(d);
}

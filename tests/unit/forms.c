/* Encodings, line ends and what .editorconfig asks for. */
#include "check.h"
#include "files/encoding.h"
#include "files/rules.h"

#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static Text text_of(const char *s, size_t n)
{
    Text t = {0};
    CHECK(text_insert(&t, 0, s, n));
    return t;
}

static void same(Text t, const char *want, size_t n)
{
    char *bytes = malloc(text_len(t) + 1);
    CHECK_BYTES(bytes, text_read(t, 0, bytes, text_len(t)), want, n);
    free(bytes);
}

#define S(s) s, sizeof s - 1

static const struct {
    const char *name;
    const char *raw;
    size_t n_raw;
    const char *encoding;
    bool mark;
    const char *text;
    size_t n_text;
} guesses[] = {
    {"plain", S("berth 3\n"), "", false, S("berth 3\n")},
    {"utf-8", S("F\xc3\xa4hre\n"), "", false, S("F\xc3\xa4hre\n")},
    {"empty", S(""), "", false, S("")},
    {"latin-1",
     S("die F\xe4hre nach S\xfc"
       "den\n"),
     "iso-8859-1", false,
     S("die F\xc3\xa4hre nach S\xc3\xbc"
       "den\n")},
    {"with a euro", S("\x80 3.40\n"), "windows-1252", false, S("\xe2\x82\xac 3.40\n")},
    {"mostly utf-8", S("\xc3\xa4\xc3\xb6\xc3\xbc \xff\n"), "", false, S("\xc3\xa4\xc3\xb6\xc3\xbc \xff\n")},
    {"a program",
     S("\x7f"
       "ELF\x02\x01\x01\0\0\xff\xfe"),
     "", false,
     S("\x7f"
       "ELF\x02\x01\x01\0\0\xff\xfe")},
    {"utf-8 with mark",
     S("\xef\xbb\xbf"
       "a\n"),
     "", true, S("a\n")},
    {"utf-16le",
     S("\xff\xfe"
       "a\0\n\0\xe4\0"),
     "utf-16le", true, S("a\n\xc3\xa4")},
    {"utf-16be", S("\xfe\xff\0a\0\n"), "utf-16be", true, S("a\n")},
    {"half a utf-16",
     S("\xff\xfe"
       "a"),
     "", false,
     S("\xff\xfe"
       "a")},
};

/* Whatever is guessed, the file's bytes come back. */
TEST(guesses_come_back)
{
    for (size_t i = 0; i < sizeof guesses / sizeof *guesses; i++) {
        check_case(guesses[i].name);
        Text raw = text_of(guesses[i].raw, guesses[i].n_raw), t, back;
        Encoding x = encoding_guess(raw);
        Err e = {""};
        size_t at;
        CHECK_STR(x.name, guesses[i].encoding);
        CHECK(x.mark == guesses[i].mark);
        CHECK(encoding_read(raw, &x, &t, &e));
        same(t, guesses[i].text, guesses[i].n_text);
        CHECK(encoding_write(t, &x, &back, &at, &e));
        same(back, guesses[i].raw, guesses[i].n_raw);
        text_drop(&raw);
        text_drop(&t);
        text_drop(&back);
    }
}

TEST(random_bytes_come_back)
{
    for (int round = 0; round < 400; round++) {
        char bytes[300];
        size_t n = check_random(sizeof bytes), at;
        for (size_t i = 0; i < n; i++)
            bytes[i] = (char)(round % 2         ? check_random(256)
                              : check_random(8) ? 'a' + check_random(26)
                                                : 0xa0 + check_random(96));
        Text raw = text_of(bytes, n), t = {0}, back = {0};
        Err e = {""};
        Encoding x = encoding_guess(raw);
        CHECK(encoding_read(raw, &x, &t, &e) && encoding_write(t, &x, &back, &at, &e));
        same(back, bytes, n);
        text_drop(&raw);
        text_drop(&t);
        text_drop(&back);
    }
}

/* A character may lie across the pieces in which a long text is converted. */
TEST(long_texts_convert)
{
    Text t = {0}, raw, back;
    Err e = {""};
    size_t at;
    Encoding x;
    CHECK(encoding_named("UTF-16LE", &x));
    for (int i = 0; i < 30000; i++)
        CHECK(text_insert(&t, text_len(t), i % 3 ? "\xe6\xbc\xa2" : "\xf0\x9f\x9a\xa2x", i % 3 ? 3 : 5));
    CHECK(encoding_write(t, &x, &raw, &at, &e));
    CHECK(encoding_read(raw, &x, &back, &e));
    CHECK(text_len(back) == text_len(t) && text_same_bytes(back, 0, t, 0, text_len(t)));
    text_drop(&raw);
    text_drop(&back);
    CHECK(encoding_named("latin1", &x));
    CHECK(!encoding_write(t, &x, &raw, &at, &e));
    CHECK_INT(at, 0);
    CHECK(strstr(e.text, "in line 1 cannot be written as latin1") != NULL);
    CHECK(!encoding_named("no such thing", &x));
    text_drop(&t);
}

TEST(editorconfig)
{
    const char *rules =
        "root=true\n[*]\nindent_style=tab\ntab_width=4\n[*.{ini,conf}]\nindent_style=space\nindent_size=3\n"
        "charset=latin1\nend_of_line=crlf\ninsert_final_newline=false\ntrim_trailing_whitespace=true\n";
    check_write(check_path(".editorconfig"), rules, strlen(rules));
    Rules r = rules_for(check_path("kiosk.ini"));
    CHECK(r.indentation && !r.format.tabs && r.format.indent == 3);
    CHECK(r.charset && strcmp(r.encoding.name, "iso-8859-1") == 0);
    CHECK(r.line_ends && r.format.ends == ENDS_CRLF);
    CHECK(r.last_newline == WISH_NO && r.trim == WISH_YES);
    r = rules_for(check_path("notes.txt"));
    CHECK(r.indentation && r.format.tabs && r.format.indent == 4 && r.tab == 4);
    CHECK(r.trim == WISH_NONE && !r.charset);
    if (geteuid() == 0) { /* root follows only what root alone may write */
        CHECK(chmod(check_path(".editorconfig"), 0666) == 0);
        CHECK(!rules_for(check_path("notes.txt")).indentation);
    }
}

/* Encodings that keep a state end it; what cannot be written as it is is refused and never changed. */
TEST(every_letter_is_written)
{
    static const struct {
        const char *encoding, *text, *bytes; /* NULL: refused */
    } cases[] = {
        {"utf-7", "berth \xc3\xa9", "berth +AOk-"},
        {"iso-2022-jp", "\xe6\x97\xa5", "\x1b$BF|\x1b(B"},
        {"iso-8859-1", "\xe2\x82\xac", NULL},
        {"us-ascii", "caf\xc3\xa9", NULL},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Encoding x;
        Err e = {""};
        Text t = {0}, out;
        size_t at;
        char bytes[64];
        check_case(cases[i].encoding);
        CHECK(encoding_named(cases[i].encoding, &x));
        CHECK(text_insert(&t, 0, cases[i].text, strlen(cases[i].text)));
        bool ok = encoding_write(t, &x, &out, &at, &e);
        CHECK(ok == (cases[i].bytes != NULL));
        if (ok) {
            size_t n = text_read(out, 0, bytes, sizeof bytes);
            CHECK_BYTES(bytes, n, cases[i].bytes, strlen(cases[i].bytes));
            text_drop(&out);
        }
        text_drop(&t);
    }
    Encoding x;
    CHECK(!encoding_named("us-ascii//TRANSLIT", &x) && !encoding_named("ascii//ignore", &x));
    /* .editorconfig: only what its standard names */
    const char *rules =
        "root = true\n[a]\ncharset = us-ascii//TRANSLIT\n[b]\ncharset = koi8-r\n[c]\ncharset = latin1\n";
    check_write(check_path(".editorconfig"), rules, strlen(rules));
    CHECK(!rules_for(check_path("a")).charset && !rules_for(check_path("b")).charset);
    CHECK(rules_for(check_path("c")).charset);
}

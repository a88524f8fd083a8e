/* Kinds of file: the form of their data files, how they are recognised, and what is coloured in them. */
#include "check.h"
#include "base/bytes.h"
#include "base/data.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/plain_data.h"
#include "kinds/colour.h"
#include "kinds/kind.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* ---- the form of data files ---- */

/* A value as text, tables in braces. */
static void show_value(const PlainValue *v, Bytes *out)
{
    if (v->key)
        bytes_printf(out, "%s=", v->key);
    if (v->type == PLAIN_TEXT) {
        bytes_printf(out, "<%s>", v->text);
    } else if (v->type == PLAIN_TABLE) {
        bytes_add_str(out, "{");
        for (const PlainValue *i = v->first; i; i = i->next)
            show_value(i, out);
        bytes_add_str(out, "}");
    } else {
        bytes_printf(out, "%g", v->number);
    }
    bytes_printf(out, "@%u ", v->line);
}

TEST(data_files_are_read)
{
    static const struct {
        const char *in, *want;
    } cases[] = {
        {"", "{}@1 "},
        {"a = 1", "{a=1@1 }@1 "},
        {"-- berth\na = \"x\" -- y\nb = 'z';", "{a=<x>@2 b=<z>@3 }@1 "},
        {"a = {\n 1, 2; x = true,\n}", "{a={1@2 2@2 x=1@2 }@1 }@1 "},
        {"a = { [\"two words\"] = false }", "{a={two words=0@1 }@1 }@1 "},
        {"a = [[\\d]] b = [=[x]]y]=]", "{a=<\\d>@1 b=<x]]y>@1 }@1 "},
        {"a = [[\nfirst\nsecond]]\nb = 2", "{a=<first\nsecond>@1 b=2@4 }@1 "},
        {"a = \"\\t\\\\\\x41\\66\\\"\"", "{a=<\t\\AB\">@1 }@1 "},
        {"--[[ long\ncomment ]] a = -1.5e2", "{a=-150@2 }@1 "},
        {"a = 0x10", "{a=16@1 }@1 "},
        {"a = 1 a = 2", "{a=1@1 a=2@1 }@1 "},
        /* what is wrong, and where */
        {"a", "1: = is expected"},
        {"\n\na = ", "3: a text in quotes, a number, true, false or a table in { } is expected"},
        {"a = nothing", "1: a text in quotes, a number, true, false or a table in { } is expected"},
        {"a = 'open\nb = 1", "1: the text is not closed: ' is expected"},
        {"a = [[open", "1: the text is not closed: ]] is expected"},
        {"a = {\n1,\n", "3: the table that begins in line 1 is not closed: } is expected"},
        {"a = {1 2}", "1: a comma or } is expected"},
        {"a = '\\q'", "1: \\q means nothing in a text; for a backslash write \\\\ or use [[ ]]"},
        {"a = '\\x4'", "1: after \\x two hexadecimal digits are expected"},
        {"a = '\\999'", "1: \\999 is no byte from 1 to 255"},
        {"a = { [b] = 1 }", "1: a name in quotes is expected after ["},
        {"if x then", "1: = is expected"},
        {"= 1", "1: a line such as name = \"value\" is expected"},
        {"a={{{{{{{{{{{{{{{{{{{{{{{{{{{{{{", "1: tables lie too deep in each other"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Err e = {""};
        unsigned line = 0;
        Bytes got = {0};
        check_case(cases[i].in);
        PlainData *d = plain_data_read(cases[i].in, strlen(cases[i].in), NULL, &e, &line);
        if (d)
            show_value(plain_data_all(d), &got);
        else
            bytes_printf(&got, "%u: %s", line, e.text);
        CHECK_STR(bytes_str(&got), cases[i].want);
        plain_data_free(d);
        bytes_free(&got);
    }
}

TEST(any_bytes_are_no_data_but_do_no_harm)
{
    static const char signs[] = "{}[]=,;\"'\\-ab1 \n.x\0#";
    for (int round = 0; round < 20000; round++) {
        char bytes[64];
        size_t n = check_random(sizeof bytes);
        for (size_t i = 0; i < n; i++)
            bytes[i] = signs[check_random(sizeof signs)];
        char *exact = mem_get(n); /* so that a sanitizer sees a byte too many */
        memcpy(exact, bytes, n);
        Err e = {""};
        unsigned line = 0;
        PlainData *d = plain_data_read(exact, n, NULL, &e, &line);
        CHECK(d || (e.text[0] && line >= 1));
        plain_data_free(d);
        free(exact);
    }
}

/* ---- wrong kinds ---- */

static void note(void *ctx, unsigned line, const char *words)
{
    bytes_printf(ctx, "%u: %s\n", line, words);
}

TEST(wrong_kinds_are_reported)
{
    static const struct {
        const char *in, *want;
        bool usable;
    } cases[] = {
        {"name = 'x1'\nparts = {}", "", true},
        {"endings = { 'x' }", "1: a line such as name = \"harbour\" is expected\n", false},
        {"name = 'x2'\ncolor = 3", "2: “color” means nothing in a kind\n", true},
        {"name = 'x3'\nindentation = 99", "2: indentation: a number from 1 to 16 or \"tab\" is expected\n",
         true},
        {"name = 'c1'\ncheck = { { with = 'tides' } }", "2: there is no checker “tides”\n", true},
        {"name = 'c2'\ncheck = { { with = 'fields' } }", "2: the kind has no fields to be checked\n", true},
        {"name = 'c3'\ncheck = { {} }", "2: a checker has with = … or run = { … }\n", true},
        {"name = 'c4'\ncheck = { { run = { 'x' } } }",
         "2: run = { … } and like = … are expected in a checker that is a program\n", true},
        {"name = 'c4'\ncheck = { { run = { 'x' }, like = 'x', in_foldre = '/x' } }",
         "2: “in_foldre” means nothing in a checker\n", true},
        {"name = 'c5'\ncheck = { { run = { 1 }, like = 'x' } }", "2: run: a list of texts is expected\n",
         true},
        {"name = 'c7'\ncheck = { { run = {}, like = 'x' } }",
         "2: run = { … } and like = … are expected in a checker that is a program\n", true},
        {"name = 'c8'\ncheck = { { run = { 'x' }, like = 'x', unsure = { 300 } } }",
         "2: unsure: up to 8 exit statuses from 0 to 255 are expected\n", true},
        {"name = 'c9'\ncheck = { { run = { 'x' }, like = 'x', only_paths = { 1, 'x' } } }",
         "2: only_paths: a list of texts is expected\n", true},
        {"name = 'ca'\ncheck = { { run = { 'x' }, like = 'x', in_folder = 'x' } }",
         "2: in_folder: a full path is expected\n", true},
        {"name = 'cb'\ncheck = 3", "2: check: a list of checkers is expected\n", true},
        {"name = 'cc'\ncheck = { 3 }", "2: a checker such as { with = \"json\" } is expected\n", true},
        {"name = 'm1'\nmanual = {}\nnames = {}\nendings = {}", "", true},
        {"name = 'a b'",
         "1: name: a word of letters, digits, - _ + and . is expected\n"
         "1: a line such as name = \"harbour\" is expected\n",
         false},
        {"name = 'm2'\ncomment_sign = '#\\n'", "2: comment_sign: a few characters in quotes are expected\n",
         true},
        {"name = 'm3'\ndeeper = '('", "2: deeper: at character 2: missing closing parenthesis\n", true},
        {"name = 'm4'\nfirst_line = 4", "2: first_line: an expression in quotes is expected\n", true},
        {"name = 'f3'\nfields = { { 'a', 'b' } }\nfields_least = 4000",
         "3: fields_least: a whole number from 0 to 1 is expected\n", true},
        {"name = 'f4'\nfields = { { 'a', 'b', from = -4000, to = 4 } }",
         "2: from: a whole number from 0 to 999999999 is expected\n", true},
        {"name = 'f5'\nfields = { { 'a', 'b', from = 4, to = 3 } }",
         "2: to: a whole number from 4 to 999999999 is expected\n", true},
        {"name = 'f6'\nfields = { { 'a', 'b', from = 1e300, to = 4 } }",
         "2: from: a whole number from 0 to 999999999 is expected\n", true},
        {"name = 'f7'\nfields = 7", "2: fields: a list of fields is expected\n", true},
        {"name = 'c6'\ncheck = { { run = { 'x' }, like = '(' } }",
         "2: like: at character 2: missing closing parenthesis\n", true},
        {"name = 'f1'\nfields = { 'minute' }",
         "2: a field begins with its name and what it holds: { \"month\", \"1 to 12\" }\n", true},
        {"name = 'f2'\nfields = { { 'a', 'b', like = '(' } }",
         "2: like: at character 2: missing closing parenthesis\n", true},
        {"name = 'x4'\nendings = { 1 }", "2: endings: a list of texts is expected\n", true},
        {"name = 'x5'\nlike = 'nowhere'", "2: like: there is no kind “nowhere” before this one\n", true},
        {"name = 'x6'\nparts = { { like = '(' , as = 'name' } }",
         "2: like: not a valid expression: at character 2: missing closing parenthesis\n", true},
        {"name = 'x7'\nparts = {\n{ like = 'a', as = 'blue' } }",
         "3: as: comment, quoted, number, keyword, name, value, section, sign, variable, command, added, "
         "removed, "
         "wrong or plain is expected\n",
         true},
        {"name = 'x8'\nparts = { { from = 'a', as = 'name' } }",
         "2: to or to_like is expected: a text, or \"line end\"\n", true},
        {"name = 'x9'\nparts = { { as = 'name' } }",
         "2: like, from, from_like, words or use is expected in a part\n", true},
        {"name = 'xa'\nparts = { { use = 'b' } }", "2: use: a name that is listed in sets is expected\n",
         true},
        {"name = 'xb'\nparts = { { like = 'a', to = 'b' } }",
         "2: from or from_like is expected in a part that ends somewhere else\n", true},
        {"name = 'xc'\ncomment_open = '<!--'\nparts = 1",
         "1: comment_open and comment_close belong together\n3: parts: a list of parts is expected\n", true},
        {"name = ", "1: a text in quotes, a number, true, false or a table in { } is expected\n", false},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes got = {0};
        check_case(cases[i].in);
        CHECK(kinds_add(cases[i].in, strlen(cases[i].in), note, &got) == cases[i].usable);
        CHECK_STR(bytes_str(&got), cases[i].want);
        bytes_free(&got);
    }
    kinds_end();
}

static void colour_text(const Kind *k, const char *text, char *out, const char *letters)
{
    ColourState s = COLOUR_START;
    uint8_t roles[4096];
    for (const char *p = text; *p;) {
        size_t n = strcspn(p, "\n");
        colour_line(k, &s, &(ColourLine){p, n, 0, n + 1, true, true}, roles);
        for (size_t i = 0; i < n; i++)
            *out++ = letters[roles[i]];
        p += n;
        if (*p) {
            p++;
            *out++ = '\n';
        }
    }
    *out = 0;
}

static const char letters[ROLE_COUNT + 1] = " cqdknvhs$x+-!";

TEST(kinds_of_ones_own)
{
    static const char pier[] =
        "name = 'pier'\nlike = 'ini'\nparts = { { words = { 'tide' }, as = 'command' } }";
    static const char hold[] =
        "name = 'hold' word = '@?\\\\w+'\n"
        "parts = { { from = '/*', to = '*/', as = 'comment' }, { words = { '@x' }, as = 'keyword' },\n"
        " { from = '\"', to = '\"', as = 'quoted', one_line = true, escape = '\\\\', inside = { { like = "
        "'%d', as = "
        "'variable' } } },\n"
        " { from_like = '<<(\\\\w+)', as = 'sign', to_like = '^%1$', next_line = true },\n"
        " { from_like = '<(\\\\w+)>', as = 'name', to = '</>', holds = 1 },\n"
        " { from = '[', to = ']', as = 'value', inside = 'parts' }, { like = '(a)(b)', as = { 'number', "
        "'plain' } } }";
    static const struct {
        const char *kind, *in, *want;
    } cases[] = {
        {"pier", "tide = 1\n[x] ; y", "xxxx v d\nhhh ccc"},
        {"hold", "@x x @xy", "kk      "},
        {"hold", "a /* b\n\nc */ d", "  cccc\n\ncccc  "},
        {"hold", "\"a%d\\\"b\" \"c", "qq$$qqqq !q"},
        {"hold", "\"a\n@x", "!q\nkk"},
        {"hold", "<<A <<B @x\nx\nA\n@x\nB\n@x", "sss sss kk\ns\ns\nss\ns\nkk"},
        {"hold", "[@x[\"]\"@x]a] @x", "vkkvqqqkkvvv kk"},
        {"hold", "<pier>[q]\ntide=1</>@x", "nnnnnnvvv\nxxxxvvnnnkk"},
        {"hold", "<nothing>@x</>", "nnnnnnnnnnnnnn"},
        {"hold", "ab", "d "},
    };
    Bytes problems = {0};
    CHECK(kinds_add(pier, strlen(pier), note, &problems) && kinds_add(hold, strlen(hold), note, &problems));
    CHECK_STR(bytes_str(&problems), "");
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        char got[200];
        check_case(cases[i].in);
        const Kind *k = kind_named(cases[i].kind);
        CHECK(k != NULL);
        colour_text(k, cases[i].in, got, letters);
        CHECK_STR(got, cases[i].want);
    }
    kinds_end();
}

TEST(endless_expressions_end)
{
    static const char slow[] = "name = 'slow'\nparts = { { like = '(a+)+$', as = 'name' },"
                               " { from_like = '(?=x)', to_like = '(?=x)', as = 'name' } }";
    char line[20001], x[] = "xxxxxxxx";
    uint8_t roles[20001];
    CHECK(kinds_add(slow, strlen(slow), NULL, NULL));
    const Kind *k = kind_named("slow");
    ColourState s = COLOUR_START;
    colour_line(k, &s, &(ColourLine){x, 8, 0, 9, true, true}, roles);
    memset(line, 'a', 20000);
    line[19999] = 'b';
    for (int i = 0; i < 100 && !colour_gave_up(k); i++)
        colour_line(k, &s, &(ColourLine){line, 20000, 0, 20001, true, true}, roles);
    CHECK(colour_gave_up(k));
    /* As many here-documents as one likes, each with an end of its own, lie in each other or not. */
    k = kind_named("shell");
    s = COLOUR_START;
    for (int i = 0; i < 3000; i++) {
        int n = snprintf(line, sizeof line, i % 3 ? "cat <<W%d" : "W%d", i % 3 ? i : i - 2);
        colour_line(k, &s, &(ColourLine){line, (size_t)n, 0, (size_t)n + 1, true, true}, roles);
        n = snprintf(line, sizeof line, "\"$(x `${y:-");
        colour_line(k, &s, &(ColourLine){line, (size_t)n, 0, (size_t)n + 1, true, true}, roles);
    }
    CHECK(!colour_gave_up(k));
    kinds_end();
}

/* What tells more goes before what tells less. */
TEST(what_tells_the_kind)
{
    static const struct {
        const char *path, *head, *kind;
    } cases[] = {
        /* other programs' files of a name that is no more than a word */
        {"/etc/ansible/hosts", "[quays]\ntern\n", "ansible-inventory"},
        {"/etc/pam.d/passwd", "", "pam"},
        {"/etc/hosts", "", "hosts"},
        {"/home/mira/hosts", "", "hosts"},
        /* a folder does not count against an ending or a first line that tells */
        {"/etc/nginx/reload.sh", "nginx -s reload\n", "shell"},
        {"/etc/nginx/hook", "#!/usr/bin/python3\n", "python"},
        {"/etc/nginx/quay.pem", "-----BEGIN CERTIFICATE-----\n", "key"},
        {"/etc/nginx/sites-enabled/quay", "", "nginx"},
        {"/etc/apache2/page.html", "", "html"},
        {"/etc/freeradius/schema.sql", "", "sql"},
        {"/etc/apache2/sites-available/quay.conf", "", "apache"},
        {"/etc/cron.d/tides", "", "system-schedule"},
        /* endings that say little */
        {"/usr/lib/tmpfiles.d/dnsmasq.conf", "d /run/x\n", "tmpfiles"},
        {"/etc/fail2ban/filter.d/squid.conf", "[Definition]\n", "fail2ban"},
        {"/etc/fail2ban/README.md", "# x\n", "markdown"},
        {"read-this", "Tides\nare told each day:\n 0 5 * * * kai tell-tides\nand at night.\n", "text"},
        {"gunicorn.conf.py", "bind = 'x'\n", "python"},
        {"kiosk.service", "[Unit]\nAfter=x\n", "unit"},
        {"kiosk.service", "<?xml version=\"1.0\"?>\n<service/>\n", "xml"},
        {"kiosk.service", "[D-BUS Service]\nName=x\nExec=/x\n", "ini"},
        {"50-kiosk.rules", "polkit.addRule(function(a, s) {\n", "javascript"},
        {"50-kiosk.rules", "-w /etc/kiosk -p wa\n-a always,exit -S open\n", "audit-rules"},
        {"50-kiosk.rules", "groups:\n  - name: x\n", "prometheus"},
        {"50-kiosk.rules", "SUBSYSTEM==\"tty\", ACTION==\"add\"\n", "udev"},
        {"50-kiosk.rules", "", "conf"},
        {"kiosk.conf", "[main]\na = 1\nb = 2\n", "ini"},
        {"kiosk.conf", "<VirtualHost *:80>\n</VirtualHost>\n", "apache"},
        {"kiosk.conf", "server {\n  listen 80;\n}\n", "nginx"},
        {"kiosk.conf", "server:\n    interface: 127.0.0.1\n", "unbound"},
        {"kiosk.conf", "net.ipv4.ip_forward = 1\nvm.swappiness = 10\n", "sysctl"},
        {"kiosk.conf", "[Peer]\nAllowedIPs = 10.0.0.0/8\n", "wireguard"},
        {"kiosk.conf", "{\n  \"a\": 1\n}\n", "json"},
        {"kiosk.conf", "berth 3\n", "conf"},
        {"kiosk.cron", "*/5 * * * * /srv/x\n0 3 * * * /srv/y\n", "schedule"},
        {"numbers", "1 2 3 4 5 6\n7 8 9 1 2 3\n4 5 6 7 8 9\n", "text"},
        {"kiosk.list", "deb http://mirror.example/bay stable main\n", "sources"},
        {"verify", "# mail\n\nimport SENDER\nsystem 'x'\n", "conf"},
        {"verify", "import os\nimport sys\n", "python"},
        /* exact ones */
        {"/etc/unbound/unbound.conf", "", "unbound"},
        {"/etc/crypttab", "", "crypttab"},
        {"/etc/anacrontab", "", "anacrontab"},
        {"/etc/php/8.2/fpm/php.ini", "", "php-ini"},
        {"/etc/fail2ban/jail.conf", "", "fail2ban"},
        {"/etc/X11/app-defaults/Kiosk", "", "x-resources"},
        /* templates, samples, backups */
        {"/srv/roles/nginx.conf.j2", "", "nginx"},
        {"templates/sshd_config.erb", "", "sshd"},
        {"kiosk.yaml.tmpl", "", "yaml"},
        {"sshd_config.dpkg-dist", "", "sshd"},
        {"tides.sh.in", "", "shell"},
    };
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        check_case(cases[i].path);
        CHECK_STR(kind_of(cases[i].path, cases[i].head, strlen(cases[i].head))->name, cases[i].kind);
    }
    check_case(NULL);
    /* A person's own goes before the program's of the same evidence, and not of a stronger one. */
    const char own[] = "name = \"quay\"\nendings = { \"conf\", \"ini\" }\n";
    CHECK(kinds_add(own, sizeof own - 1, NULL, NULL));
    CHECK_STR(kind_of("x.ini", "", 0)->name, "quay");
    CHECK_STR(kind_of("x.conf", "", 0)->name, "quay");
    CHECK_STR(kind_of("nginx.conf", "", 0)->name, "nginx");
    kinds_end();
}

/* ---- each kind, by a sample ---- */

/* A sample is a file of lines: "file: PATH" a name by which the kind is recognised, "content" that it is by
 * the text alone, "| TEXT" a line of it, and below ": ROLES" what each character is, a letter each. */
typedef struct Sample {
    const Kind *kind;
    const char *name;
    ColourState state;
    bool content;
    Bytes text;
    unsigned line;
} Sample;

static size_t characters(const char *p, size_t n)
{
    size_t k = 0;
    for (size_t i = 0; i < n; i++)
        k += ((unsigned char)p[i] & 0xc0) != 0x80;
    return k;
}

static void check_roles(Sample *s, const char *text, size_t n, const char *marks, size_t n_marks)
{
    uint8_t roles[2000];
    char got[2001];
    size_t k = 0;
    char where[100];
    /* A blank need not be drawn, unless it is wrong. */
    colour_line(s->kind, &s->state, &(ColourLine){text, n, 0, n + 1, true, true}, roles);
    for (size_t i = 0; i < n; i++)
        if (((unsigned char)text[i] & 0xc0) != 0x80) {
            bool undrawn = (text[i] == ' ' || text[i] == '\t') && (k >= n_marks || marks[k] == ' ');
            got[k++] = undrawn && roles[i] != ROLE_WRONG ? ' ' : letters[roles[i]];
        }
    while (k && got[k - 1] == ' ')
        k--;
    while (n_marks && marks[n_marks - 1] == ' ')
        n_marks--;
    snprintf(where, sizeof where, "%s, line %u", s->name, s->line);
    check_case(where);
    bool same = k == n_marks && memcmp(got, marks, k) == 0;
    check_result(same, __FILE__, __LINE__, "\n| %.*s\n: %.*s\n= %.*s", (int)n, text, (int)n_marks, marks,
                 (int)k, got);
    CHECK(characters(text, n) >= n_marks);
}

static void check_sample_line(Sample *s, const char *p, size_t n, const char *next, size_t n_next)
{
    s->line++;
    if (n > 6 && memcmp(p, "file: ", 6) == 0) {
        char *path = mem_string_n(p + 6, n - 6);
        check_case(path);
        CHECK_STR(kind_of(path, "", 0)->name, s->name);
        free(path);
    } else if (n == 7 && memcmp(p, "content", 7) == 0) {
        s->content = true;
    } else if (n >= 1 && *p == '|') {
        size_t skip = n >= 2 ? 2 : 1;
        bool marked = n_next >= 1 && *next == ':';
        bytes_add(&s->text, p + skip, n - skip);
        bytes_add_str(&s->text, "\n");
        check_roles(s, p + skip, n - skip, marked && n_next > 2 ? next + 2 : "",
                    marked && n_next > 2 ? n_next - 2 : 0);
    } else if (n && *p != ':' && *p != '-') {
        check_result(false, __FILE__, __LINE__, "%s, line %u means nothing", s->name, s->line);
    }
}

static bool check_sample(int fd, const char *file, void *ctx)
{
    (void)fd;
    char path[500], name[100];
    size_t n;
    snprintf(path, sizeof path, "%s/%s", KIND_SAMPLES, file);
    snprintf(name, sizeof name, "%.*s", (int)(strlen(file) - 4), file);
    const char *text = check_read(path, &n), *end = text + n;
    Sample s = {.kind = kind_named(name), .name = name};
    check_case(name);
    CHECK(s.kind != NULL);
    const char *wanted = getenv("KIND"); /* one of them only */
    if (!s.kind || (wanted && strcmp(wanted, name) != 0))
        return true;
    for (const char *p = text; p < end;) {
        const char *stop = memchr(p, '\n', (size_t)(end - p)), *next = stop ? stop + 1 : end;
        const char *next_stop = memchr(next, '\n', (size_t)(end - next));
        check_sample_line(&s, p, (size_t)((stop ? stop : end) - p), next,
                          (size_t)((next_stop ? next_stop : end) - next));
        p = next;
    }
    check_case(name);
    if (s.content)
        CHECK_STR(kind_of(NULL, bytes_str(&s.text), s.text.len)->name, name);
    bytes_free(&s.text);
    ++*(size_t *)ctx;
    return true;
}

TEST(samples_are_coloured_as_drawn)
{
    size_t n = 0, kinds = 0;
    CHECK(folder_read(KIND_SAMPLES, check_sample, &n));
    while (kind_number(kinds))
        kinds++;
    check_case(NULL);
    if (!getenv("KIND"))
        CHECK_INT(n, kinds);
    CHECK(getenv("KIND") || kinds >= 70);
    kinds_end();
}

TEST(our_kinds_have_nothing_wrong)
{
    for (size_t i = 0; i < data_file_count; i++) {
        const DataFile *d = &data_files[i];
        if (strncmp(d->path, "kinds/", 6) != 0)
            continue;
        Bytes problems = {0};
        check_case(d->path);
        CHECK(kinds_add(d->bytes, d->len, note, &problems));
        CHECK_STR(bytes_str(&problems), "");
        bytes_free(&problems);
        PlainReport quiet = {0};
        Kind *head = kind_read(d->bytes, d->len, true, &quiet);
        CHECK(head && head->about);
        char name[100];
        snprintf(name, sizeof name, "kinds/%s.lua", head ? head->name : "");
        CHECK_STR(name, d->path);
        const Kind *whole =
            head ? kind_named(head->name) : NULL; /* what recognises it stands before its parts */
        CHECK(whole && !head->endings == !whole->endings && !head->names == !whole->names &&
              !head->paths == !whole->paths && !head->first_lines == !whole->first_lines &&
              (head->base || !head->comment_sign == !whole->comment_sign || whole->base));
        if (head)
            kind_free(head);
    }
    kinds_end();
}

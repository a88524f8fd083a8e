/* Finding in all files below a folder: against a model, and on what folders can have in them. */
#include "check.h"
#include "base/mem.h"
#include "files/folder_search.h"
#include "files/load.h"

#include <poll.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

static FolderWish wish_for(const char *words)
{
    static const char *folders[1];
    folders[0] = check_folder();
    return (FolderWish){.folders = folders,
                        .n_folders = 1,
                        .names = "",
                        .what = {words, strlen(words), CASE_AUTO, false, false},
                        .most = 1 << 20};
}

/* Begins a search and waits for its end, five minutes at most. */
static FolderSearch *searched(const FolderWish *w)
{
    Err e = {""};
    size_t mistake;
    FolderSearch *s = folder_search_begin(w, &e, &mistake);
    check_result(s != NULL, __FILE__, __LINE__, "%s", e.text);
    for (int i = 0; s && !folder_search_found(s)->ended && i < 300; i++) {
        struct pollfd fd = {.fd = folder_search_fd(s), .events = POLLIN};
        poll(&fd, 1, 1000);
        folder_search_take(s);
    }
    CHECK(s && folder_search_found(s)->ended);
    return s;
}

/* "name:line:text" of each line that was found, names below the test's folder. */
static char *lines_of(FolderSearch *s)
{
    const FolderFound *f = folder_search_found(s);
    Bytes b = {0};
    for (size_t i = 0; i < f->n_hits; i++) {
        const FolderHit *h = &f->hits[i];
        const char *path = f->files[h->file].path;
        size_t n = strlen(check_folder());
        bytes_printf(&b, "%s:%zu:%s\n", strncmp(path, check_folder(), n) == 0 ? path + n + 1 : path,
                     h->line + 1, h->text);
    }
    bytes_add_str(&b, "");
    return b.at ? b.at : mem_string("");
}

static void finds(const FolderWish *w, const char *want)
{
    FolderSearch *s = searched(w);
    char *got = lines_of(s);
    CHECK_STR(got, want);
    free(got);
    folder_search_free(s);
}

TEST(lines_are_found_in_the_order_of_paths)
{
    check_put("kiosk.ini", "[display]\n  berth = 3\nlanguage = en\n# Berth 4, berth 5\n");
    mkdir(check_path("north"), 0755);
    check_put("north/tides.log", "berth 1\nberth 2");
    check_put("motd", "no such word\n");
    FolderWish w = wish_for("berth");
    FolderSearch *s = searched(&w);
    char *got = lines_of(s);
    CHECK_STR(got, "kiosk.ini:2:berth = 3\nkiosk.ini:4:# Berth 4, berth 5\nnorth/tides.log:1:berth "
                   "1\nnorth/tides.log:2:berth 2\n");
    free(got);
    const FolderFound *f = folder_search_found(s);
    CHECK_INT((long)f->counts.files, 3);
    CHECK_INT((long)f->counts.with, 2);
    CHECK_INT((long)f->counts.lines, 4);
    CHECK_INT((long)f->files[0].lines, 2);
    CHECK_INT((long)f->hits[0].from, 0);
    CHECK_INT((long)f->hits[0].to, 5);
    CHECK_INT((long)f->hits[1].from, 2);
    folder_search_free(s);
    w.what.letters = CASE_EXACT;
    w.names = "*.ini";
    finds(&w, "kiosk.ini:2:berth = 3\nkiosk.ini:4:# Berth 4, berth 5\n");
    w.what = (FindWhat){"^berth\\s\\d$", 11, CASE_AUTO, false, true};
    w.names = "*.log";
    finds(&w, "north/tides.log:1:berth 1\nnorth/tides.log:2:berth 2\n");
    w.what = (FindWhat){"1\nb", 3, CASE_AUTO, false, false}; /* over the end of a line */
    finds(&w, "north/tides.log:1:berth 1\n");
    const char *file[] = {check_path("north/tides.log")};
    w = wish_for("2");
    w.folders = file;
    finds(&w, "north/tides.log:2:berth 2\n");
    Err e = {""};
    size_t mistake = 0;
    w.what = (FindWhat){"a(", 2, CASE_AUTO, false, true};
    CHECK(!folder_search_begin(&w, &e, &mistake));
    CHECK(e.text[0] && mistake == 2);
}

TEST(what_is_passed_over_is_counted)
{
    check_put("a", "berth\n");
    CHECK(
        check_shell("cd \"$F\"; mkdir -p .git deep/.git kept out/in; echo berth >.git/config; echo berth "
                    ">deep/.git/x; echo berth >kept/b.log; echo berth >kept/c; echo berth >out/in/d; "
                    "printf '*.log\\n/out/\\n' >.gitignore; ln -s ../kept kept/again; ln -s /etc/hosts link; "
                    "mkfifo pipe; ln -s . circle; printf 'berth\\0berth\\n' >binary; "
                    "{ echo berth; head -c 3000000 /dev/zero | tr '\\0' x; } >large; : >empty"));
    FolderWish w = wish_for("berth");
    FolderSearch *s = searched(&w);
    char *got = lines_of(s);
    CHECK_STR(got, "a:1:berth\nkept/c:1:berth\n");
    free(got);
    FolderCounts c = folder_search_found(s)->counts;
    CHECK_INT((long)c.links, 3);
    CHECK_INT((long)c.others, 1);
    CHECK_INT((long)c.binary, 1);
    CHECK_INT((long)c.large, 1);
    CHECK_INT((long)c.ignored, 4); /* two repositories, b.log, out */
    CHECK_INT((long)c.files, 4);   /* a, kept/c, empty, .gitignore */
    CHECK_INT((long)c.unreadable, 0);
    folder_search_free(s);
    w.ignored = true;
    finds(&w, "a:1:berth\nkept/b.log:1:berth\nkept/c:1:berth\nout/in/d:1:berth\n");
    CHECK(check_shell("chmod 0 \"$F\"/kept \"$F\"/a"));
    if (geteuid() == 0) {
        check_skip("root may read everything");
        return;
    }
    s = searched(&w);
    CHECK_INT((long)folder_search_found(s)->counts.unreadable, 2);
    folder_search_free(s);
    CHECK(check_shell("chmod 755 \"$F\"/kept"));
}

TEST(names_and_lines_of_any_bytes)
{
    char line[3000];
    memset(line, 'x', sizeof line);
    memcpy(line + 1500, "berth", 5);
    line[2999] = '\n';
    CHECK(check_shell(
        "cd \"$F\"; printf 'berth\\n' >\"$(printf 'a\\nb\\033[31m')\"; printf 'berth\\n' >\"$(printf "
        "'\\377')\""));
    check_write(check_path("wide"), line, sizeof line);
    FolderWish w = wish_for("berth");
    FolderSearch *s = searched(&w);
    const FolderFound *f = folder_search_found(s);
    CHECK_INT((long)f->n_hits, 3);
    for (size_t i = 0; i < f->n_hits; i++) {
        const FolderHit *h = &f->hits[i];
        CHECK(strlen(h->text) < 300 && h->to - h->from == 5);
        CHECK_BYTES(h->text + h->from, 5, "berth", 5);
    }
    folder_search_free(s);
}

/* Its letters are those of the file, and so are those of what is looked for. */
TEST(files_in_other_encodings)
{
    static const char latin[] = "F\xe4hre nach S\xfc"
                                "den, Gr\xfc\xdf"
                                "e\n";
    static const char wide[] = "\xff\xfe"
                               "F\0\xe4\0h\0r\0e\0\n";
    check_write(check_path("latin"), latin, sizeof latin - 1);
    check_write(check_path("wide"), wide, sizeof wide);
    check_put("utf8", "Fähre\n");
    FolderWish w = wish_for("fähre");
    finds(&w, "latin:1:Fähre nach Süden, Grüße\nutf8:1:Fähre\nwide:1:Fähre\n");
    w = wish_for("hre");
    finds(&w, "latin:1:Fähre nach Süden, Grüße\nutf8:1:Fähre\nwide:1:Fähre\n");
}

/* What stands on the screen counts, not what is on the disk. */
TEST(texts_that_are_open)
{
    check_put("a", "berth 1\n");
    check_put("b", "berth 2\n");
    CHECK(check_shell("ln -s a \"$F\"/link"));
    Text t = {0}, empty = {0};
    text_insert(&t, 0, "quay 1\nberth 9\n", 15);
    DiskState disk = disk_look(check_path("a")), none = {0};
    char *name = mem_string(check_path("link"));
    const OpenText open[] = {{name, &disk, t}, {check_path("b"), &none, empty}};
    FolderWish w = wish_for("berth");
    w.open = open;
    w.n_open = 2;
    finds(&w, "link:2:berth 9\n");
    text_drop(&t);
    free(name);
}

/* No more than can be listed is kept; all is counted. */
TEST(a_great_many_lines)
{
    size_t n = FOLDER_HITS_MOST + 5000;
    char *bytes = mem_get(2 * n);
    for (size_t i = 0; i < n; i++)
        memcpy(bytes + 2 * i, "b\n", 2);
    check_write(check_path("many"), bytes, 2 * n);
    free(bytes);
    FolderWish w = wish_for("b");
    FolderSearch *s = searched(&w);
    CHECK_INT((long)folder_search_found(s)->counts.lines, (long)n);
    CHECK_INT((long)folder_search_found(s)->n_hits, FOLDER_HITS_MOST);
    folder_search_free(s);
}

/* ---- against a model ---- */

typedef struct Model {
    char names[60][24];
    char *bytes[60];
    size_t n;
} Model;

static void add_file(Model *m)
{
    static const char *const words[] = {"berth", "quay", "Berth", "\n",   "\n\n",
                                        " ",     "tide", "bert",  "\r\n", "h"};
    static const char *const folders[] = {"", "a/", "a/b/", "c/", "a/b/c/"};
    Bytes b = {0};
    for (unsigned k = check_random(30); k > 0; k--)
        bytes_add_str(&b, words[check_random(sizeof words / sizeof *words)]);
    snprintf(m->names[m->n], sizeof *m->names, "%s%02u", folders[check_random(5)], (unsigned)m->n);
    m->bytes[m->n] = mem_string(bytes_str(&b));
    check_write(check_path(m->names[m->n]), bytes_str(&b), b.len);
    m->n++;
    bytes_free(&b);
}

/* Compares two paths as a walk orders them: name by name. */
static int walk_order(const void *a, const void *b)
{
    const char *x = a, *y = b;
    for (; *x && *x == *y; x++, y++)
        ;
    int u = *x == '/' ? 1 : (unsigned char)*x, v = *y == '/' ? 1 : (unsigned char)*y;
    return u - v;
}

static void add_lines(Bytes *out, const char *name, const char *bytes, const char *word)
{
    size_t number = 1;
    for (const char *line = bytes; *line; number++) {
        size_t n = strcspn(line, "\n"), from = strspn(line, " ");
        char *copy = mem_string_n(line, n);
        const char *hit = strstr(copy, word);
        if (hit) {
            size_t start = from < (size_t)(hit - copy) ? from : (size_t)(hit - copy);
            while (n > start && copy[n - 1] == '\r')
                copy[--n] = 0;
            bytes_printf(out, "%s:%zu:%s\n", name, number, copy + start);
        }
        free(copy);
        line += strcspn(line, "\n");
        line += *line == '\n';
    }
}

TEST(random_folders_against_a_model)
{
    CHECK(check_shell("cd \"$F\" && mkdir -p a/b/c c"));
    for (int round = check_rounds(60); round > 0 && !check_failed(); round--) {
        Model m = {.n = 0};
        for (unsigned k = check_random(58); k > 0; k--)
            add_file(&m);
        char sorted[60][24];
        memcpy(sorted, m.names, sizeof sorted);
        qsort(sorted, m.n, sizeof *sorted, walk_order);
        static const char *const words[] = {"berth", "quay", "h", "tide", "Berth"};
        const char *word = words[check_random(5)];
        Bytes want = {0};
        for (size_t i = 0; i < m.n; i++)
            for (size_t k = 0; k < m.n; k++)
                if (strcmp(sorted[i], m.names[k]) == 0)
                    add_lines(&want, m.names[k], m.bytes[k], word);
        FolderWish w = wish_for(word);
        w.what.letters = CASE_EXACT;
        finds(&w, bytes_str(&want));
        bytes_free(&want);
        for (size_t i = 0; i < m.n; i++) {
            unlink(check_path(m.names[i]));
            free(m.bytes[i]);
        }
    }
}

/* Files come, go, grow and become folders while they are searched; and a search is left in the middle. */
TEST(what_changes_meanwhile)
{
    CHECK(check_shell("cd \"$F\" && mkdir d && for i in $(seq 300); do echo berth >d/$i; done"));
    pid_t child = fork();
    if (child == 0) {
        execl(
            "/bin/sh", "sh", "-c",
            "cd \"$0\"/d && while :; do for i in 1 2 3 4 5 6 7 8 9; do rm -rf $i; mkdir $i; echo berth "
            ">$i/x; "
            "echo berth >>1$i; rm -rf $i; echo berth >$i; chmod 0 2$i; chmod 644 2$i; ln -sf /etc/hosts 3$i; "
            "rm -f 3$i; echo berth >3$i; done; done",
            check_folder(), (char *)NULL);
        _exit(98);
    }
    for (int i = check_rounds(60); i > 0; i--) {
        FolderWish w = wish_for("berth");
        if (i % 3) {
            FolderSearch *s = searched(&w);
            CHECK(folder_search_found(s)->counts.files > 200);
            folder_search_free(s);
        } else {
            Err e;
            size_t mistake;
            FolderSearch *s = folder_search_begin(&w, &e, &mistake);
            usleep(check_random(3000));
            folder_search_take(s);
            folder_search_free(s);
        }
    }
    kill(child, SIGKILL);
    waitpid(child, NULL, 0);
}

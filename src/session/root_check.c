#include "session/root_check.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "edit/move.h"
#include "files/load.h"
#include "files/write.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "text/text_line.h"

#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { TEXT_MOST = 64 << 20, ANSWER_MOST = 1 << 20 };

/* An answer has this line, then one for each problem, in `found_format`, then who checked, and what could not
 * be done. */
static const char head[] = "steady-quill-check 1\n";
#define FOUND_FORMAT "%zu %zu "

void root_check_args(const OpenFile *f, const char *args[ROOT_CHECK_ARGS])
{
    const char *all[ROOT_CHECK_ARGS] = {"--kind", f->kind->name, "--check-from-pipe",
                                        openfile_known_path(f) ? openfile_known_path(f) : "/text"};
    memcpy(args, all, sizeof all);
}

/* The part of a line after `name`, ended by a zero; NULL when it is another. */
static const char *after(char *line, const char *name)
{
    size_t n = strlen(name);
    return strncmp(line, name, n) == 0 ? line + n : NULL;
}

static void take_line(char *line, Problems *found, Bytes *by, Bytes *trouble)
{
    size_t at_line, column;
    int used = 0;
    const char *rest;
    if ((rest = after(line, "by ")))
        bytes_add_str(by, rest);
    else if ((rest = after(line, "not ")))
        bytes_add_str(trouble, rest);
    else if ((rest = after(line, "at ")) && sscanf(rest, FOUND_FORMAT "%n", &at_line, &column, &used) == 2 &&
             used)
        problems_add(found, at_line, column, "%s", rest + used);
}

static bool take_answer(OpenFile *f, Bytes *answer, Err *e)
{
    Problems found = {.checker = "root"};
    Bytes by = {0}, trouble = {0};
    char *rest = NULL, *line;
    if (answer->len == 0)
        return err_set(e, "It was not checked: becoming root was refused or cancelled");
    if (strncmp(answer->at, head, sizeof head - 1) != 0)
        return err_set(e, "It was not checked: %.*s", (int)strcspn(answer->at, "\n"), answer->at);
    for (line = strtok_r(answer->at + sizeof head - 1, "\n", &rest); line; line = strtok_r(NULL, "\n", &rest))
        take_line(line, &found, &by, &trouble);
    checking_add(f, &found, bytes_str(&by), bytes_str(&trouble));
    problems_free(&found);
    bytes_free(&by);
    bytes_free(&trouble);
    return true;
}

bool root_check_talk(int to, int from, OpenFile *f, Err *e)
{
    Bytes answer = {0};
    Text bytes = {0};
    char part[4096];
    size_t at;
    bool ok = encoding_write(doc_text(f->doc), &f->encoding, &bytes, &at, e);
    if (ok)
        write_text(to, bytes); /* a refused password closes the pipe: the answer tells */
    close(to);
    for (ssize_t n = 1; n > 0 || (n < 0 && errno == EINTR);) {
        n = read(from, part, sizeof part);
        if (n > 0 && answer.len < ANSWER_MOST)
            bytes_add(&answer, part, (size_t)n);
    }
    close(from);
    ok = ok && take_answer(f, &answer, e);
    text_drop(&bytes);
    bytes_free(&answer);
    return ok;
}

int root_check_helper(Session *s, const char *path, const Kind *k)
{
    Err e = {""};
    Text t = {0};
    size_t n = 0;
    if (!k || path[0] != '/' || !load_descriptor(STDIN_FILENO, "the text", TEXT_MOST, &t, &e)) {
        puts(e.text[0] ? e.text : k ? "a full path is needed" : "root knows no such kind");
        return 1;
    }
    OpenFile *f = session_add(s, t);
    openfile_set_path(f, mem_string(path));
    openfile_set_kind(f, k);
    checking_begin_as_root(s, f);
    checking_finish(s, f, (Stop){0});
    const FileProblem *all = checking_problems(f, &n);
    fputs(head, stdout);
    for (size_t i = 0; i < n; i++) {
        Text text = doc_text(f->doc);
        size_t line = text_line_of(text, all[i].from), start = text_line_start(text, line);
        bool whole = all[i].to == move_line_end(text, start);
        printf("at " FOUND_FORMAT "%s\n", line + 1, whole ? 0 : all[i].from - start + 1, all[i].words);
    }
    printf("by %s\nnot %s\n", checking_by(f), checking_trouble(f));
    return 0;
}

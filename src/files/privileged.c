#include "privileged.h"

#include "bytes.h"
#include "mem.h"
#include "save.h"
#include "sys.h"
#include "write.h"

#include <errno.h>
#include <inttypes.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* What goes before the bytes: how many, and which file is meant, so that nothing is written when the
 * sender died on the way or somebody exchanged the file; and what backup is wanted. */
static const char head_format[] = "steady-quill 2 %zu %d %" PRIuMAX " %" PRIuMAX " %u %u\n";
enum { HEAD_MOST = 128 };

/* ---- whom to ask ---- */

const char *privileged_program(const char *program)
{
    static char word[128];
    if (*program) {
        snprintf(word, sizeof word, "%.*s", (int)strcspn(program, " "), program);
        return sys_in_path(word) ? word : NULL;
    }
    return sys_in_path("sudo") ? "sudo" : sys_in_path("doas") ? "doas" : NULL;
}

bool privileged_command(const char *program, const char *path, char *argv[PRIVILEGED_ARGS], char **words,
                        Err *e)
{
    static char self[4096];
    const char *found = privileged_program(program);
    ssize_t n = readlink("/proc/self/exe", self, sizeof self - 1);
    if (!found)
        return err_set(e, "There is neither sudo nor doas here (the setting become_root names another)");
    if (n <= 0)
        return err_set(e, "Cannot find this program itself");
    self[n] = 0;
    int k = 0;
    *words = mem_string(*program ? program : found);
    for (char *w = strtok(*words, " "); w && k < PRIVILEGED_ARGS - 4; w = strtok(NULL, " "))
        argv[k++] = w;
    argv[k++] = self;
    argv[k++] = "--save-from-pipe";
    argv[k++] = (char *)path;
    argv[k] = NULL;
    return true;
}

/* ---- the two ends ---- */

bool privileged_talk(int to, int from, Text t, const SaveWish *wish, Err *e)
{
    char answer[sizeof e->text];
    size_t got = 0;
    Bytes head = {0};
    const DiskState *old = wish->only;
    bytes_printf(&head, head_format, text_len(t), old->exists, (uintmax_t)old->st.st_dev,
                 (uintmax_t)old->st.st_ino, (unsigned)wish->backup, wish->keep);
    /* A refused password closes the pipe: the answer tells. */
    bool sent = write_all(to, head.at, head.len) && write_text(to, t);
    close(to);
    for (ssize_t n = 1; n > 0 || (n < 0 && errno == EINTR);) {
        n = read(from, answer + got, sizeof answer - 1 - got);
        got += n > 0 ? (size_t)n : 0;
        if (got == sizeof answer - 1)
            break;
    }
    close(from);
    bytes_free(&head);
    answer[got] = 0;
    answer[strcspn(answer, "\n")] = 0;
    if (sent && strcmp(answer, "saved") == 0)
        return true;
    return err_set(e, "%s", got ? answer : "It was not saved: becoming root was refused or cancelled");
}

/* Reads up to the end; false when less or more came than was announced. */
static bool receive(Text *t, DiskState *old, SaveWish *wish, Err *e)
{
    unsigned backup;
    char head[HEAD_MOST] = "";
    size_t n = 0, len;
    int exists;
    uintmax_t dev, ino;
    for (ssize_t got = 1; n < sizeof head - 1 && got != 0 && (n == 0 || head[n - 1] != '\n');) {
        got = read(STDIN_FILENO, head + n, 1);
        if (got < 0 && errno != EINTR)
            return err_set(e, "Nothing was saved: the text could not be read: %s", err_os(errno));
        n += got > 0;
    }
    if (sscanf(head, head_format, &len, &exists, &dev, &ino, &backup, &wish->keep) != 6 ||
        backup > BACKUP_NUMBERED)
        return err_set(e, "Nothing was saved: this is only for Steady Quill itself to call");
    wish->backup = (Backup)backup;
    *old = (DiskState){.exists = exists};
    old->st.st_dev = (dev_t)dev;
    old->st.st_ino = (ino_t)ino;
    if (!file_load_fd(STDIN_FILENO, "the text", t, e))
        return false;
    if (text_len(*t) == len)
        return true;
    text_drop(t);
    return err_set(e, "Nothing was saved: the text did not arrive whole");
}

int privileged_helper(const char *path)
{
    Err e = {""};
    Text t = {0};
    DiskState old = {0}, disk;
    SaveWish wish = {.only = &old};
    bool ok = path[0] == '/' || err_set(&e, "Nothing was saved: a full path is needed");
    ok = ok && receive(&t, &old, &wish, &e) && file_save(path, t, &wish, &disk, &e);
    puts(ok ? "saved" : e.text);
    text_drop(&t);
    return ok ? 0 : 1;
}

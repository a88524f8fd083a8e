#include "files/privileged.h"

#include "base/bytes.h"
#include "base/mem.h"
#include "base/programs.h"
#include "base/system.h"
#include "files/save.h"
#include "files/write.h"

#include <errno.h>
#include <inttypes.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* What goes before the bytes: how many, and which file is meant, so that nothing is written when the
 * sender died on the way or somebody replaced the file; and what backup is wanted. */
static const char head_format[] = "steady-quill 4 %zu %d %d %" PRIuMAX " %" PRIuMAX " %" PRIuMAX " %" PRIuMAX
                                  " %" PRIuMAX " %jd %ld %jd %ld %u %u\n";
enum { HEAD_MOST = 320 };
static const size_t TEXT_MOST = (size_t)16 * 1024 * 1024 * 1024; /* bytes */

/* ---- whom to ask ---- */

const char *privileged_program(const char *program, char word[PRIVILEGED_WORD])
{
    if (!*program)
        program = programs_has("sudo") ? "sudo" : "doas";
    snprintf(word, PRIVILEGED_WORD, "%.*s", (int)strcspn(program, " "), program);
    return programs_has(word) ? word : NULL;
}

bool privileged_command(const char *program, const char *const *args, char *argv[PRIVILEGED_ARGS],
                        char **words, Err *e)
{
    char self[4096], word[PRIVILEGED_WORD];
    const char *found = privileged_program(program, word);
    if (!found)
        return err_set(e, "There is neither sudo nor doas here (the setting root_program names another)");
    if (!system_own_path(self, sizeof self))
        return err_set(e, "Cannot find this program itself");
    static const char gone[] = " (deleted)"; /* an upgrade has put a new one in its place */
    size_t n = strlen(self), whole = n - (sizeof gone - 1);
    if (n > sizeof gone && strcmp(self + whole, gone) == 0 && access(self, F_OK) != 0)
        self[whole] = 0;
    int k = 0;
    Bytes all = {0}; /* the words, and after their end our own path */
    bytes_add_str(&all, *program ? program : found);
    bytes_add(&all, "", 1);
    size_t own = all.len;
    bytes_add_str(&all, self);
    *words = all.at;
    for (char *w = strtok(*words, " "); w && k < PRIVILEGED_ARGS - 2 - PRIVILEGED_OWN; w = strtok(NULL, " "))
        argv[k++] = w;
    argv[k++] = *words + own;
    for (int i = 0; i < PRIVILEGED_OWN && args[i]; i++)
        argv[k++] = (char *)args[i];
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
    bytes_printf(&head, head_format, text_len(t), old->exists, old->dangling, (uintmax_t)old->folder.device,
                 (uintmax_t)old->folder.number, (uintmax_t)old->file.node.device,
                 (uintmax_t)old->file.node.number, (uintmax_t)old->file.size,
                 (intmax_t)old->file.written.seconds, old->file.written.nanoseconds,
                 (intmax_t)old->file.changed.seconds, old->file.changed.nanoseconds, (unsigned)wish->backup,
                 (unsigned)wish->in_place);
    /* A refused password closes the pipe: the answer tells. */
    bool sent = write_all(to, head.at, head.len) && write_text(to, t);
    close(to);
    for (ssize_t n = 1; n > 0 || (n < 0 && errno == EINTR);) {
        n = read(from, answer + got, sizeof answer - 1 - got);
        got += n > 0 ? (size_t)n : 0;
        if (got == sizeof answer - 1 || memchr(answer, '\n', got))
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

/* Reads what was announced, and nothing after it; false when less came. */
static bool receive(Text *t, DiskState *old, SaveWish *wish, Err *e)
{
    unsigned backup, in_place;
    char head[HEAD_MOST] = "";
    size_t n = 0, len;
    int exists, dangling;
    uintmax_t folder_device, folder_number, device, number, size;
    intmax_t written, changed;
    long written_ns, changed_ns;
    for (ssize_t got = 1; n < sizeof head - 1 && got != 0 && (n == 0 || head[n - 1] != '\n');) {
        got = read(STDIN_FILENO, head + n, 1);
        if (got < 0 && errno != EINTR)
            return err_set(e, "Nothing was saved: the text could not be read: %s", err_os(errno));
        n += got > 0;
    }
    if (sscanf(head, head_format, &len, &exists, &dangling, &folder_device, &folder_number, &device, &number,
               &size, &written, &written_ns, &changed, &changed_ns, &backup, &in_place) != 14 ||
        backup > BACKUP_NUMBERED || len > TEXT_MOST || folder_number == 0)
        return err_set(e, "Nothing was saved: this is only for Steady Quill itself to call");
    wish->backup = (Backup)backup;
    wish->in_place = in_place;
    *old = (DiskState){.exists = exists,
                       .dangling = dangling,
                       .folder = {folder_device, folder_number},
                       .file = {.node = {device, number},
                                .size = size,
                                .written = {written, written_ns},
                                .changed = {changed, changed_ns}}};
    if (!load_exactly(STDIN_FILENO, "the text", len, t, e))
        return false;
    if (text_len(*t) == len)
        return true;
    text_drop(t);
    return err_set(e, "Nothing was saved: the text did not arrive whole");
}

int privileged_helper(const char *path, const RootRules *rules)
{
    Err e = {""};
    Text t = {0};
    DiskState old = {0}, disk;
    SaveWish wish = {.only = &old, .keep = rules->backup_keep, .folder = rules->backup_folder};
    bool ok = path[0] == '/' || err_set(&e, "Nothing was saved: a full path is needed");
    ok = ok && receive(&t, &old, &wish, &e);
    ok = ok && (!rules->before || rules->before(path, t, rules->ctx, &e));
    ok = ok && save_file(path, t, &wish, &disk, &e);
    puts(ok ? "saved" : e.text);
    text_drop(&t);
    return ok ? 0 : 1;
}

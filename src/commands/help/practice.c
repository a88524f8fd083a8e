#include "commands/help/practice.h"

#include "base/data.h"
#include "base/folder.h"

#include <errno.h>
#include <fcntl.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

bool practice_make(Session *s, Err *e)
{
    if (s->practice_folder)
        return true;
    char *folder = s->practice_folder = folder_private("squill-demo");
    if (!folder)
        return err_set(e, "Cannot make a practice folder: %s", err_os(errno));
    for (size_t i = 0; i < data_file_count; i++) {
        const DataFile *d = &data_files[i];
        if (strncmp(d->path, "demo/", 5) != 0)
            continue;
        Bytes path = {0};
        bytes_printf(&path, "%s/%s", folder, d->path + 5);
        mode_t mode = strstr(d->path, ".sh") ? 0755 : 0644;
        int fd = open(path.at, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, mode);
        bool ok = fd >= 0 && write(fd, d->bytes, d->len) == (ssize_t)d->len;
        if (fd >= 0)
            close(fd);
        bytes_free(&path);
        if (!ok) {
            err_set(e, "Cannot write the sample files to %s", folder);
            practice_remove(s);
            return false;
        }
    }
    return true;
}

void practice_remove(Session *s)
{
    for (size_t i = 0; s->practice_folder && i < data_file_count; i++) {
        Bytes path = {0};
        if (strncmp(data_files[i].path, "demo/", 5) == 0) {
            bytes_printf(&path, "%s/%s", s->practice_folder, data_files[i].path + 5);
            unlink(path.at);
        }
        bytes_free(&path);
    }
    if (s->practice_folder)
        rmdir(s->practice_folder);
    free(s->practice_folder);
    s->practice_folder = NULL;
}

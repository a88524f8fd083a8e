#include "config/own_file.h"

#include "base/folder.h"
#include "base/own_folder.h"
#include "base/paths.h"

#include "files/load.h"
#include "files/save.h"

#include <stdlib.h>
#include <string.h>

char *own_file_path(const char *name)
{
    char *folder = own_folder_of("CONFIG");
    if (!folder)
        return NULL;
    Bytes b = {0};
    bytes_printf(&b, "%s/%s", folder, name);
    free(folder);
    return b.at;
}

bool own_file_read(OwnFile *f, const char *name, Err *e)
{
    Text t = {0};
    f->path = own_file_path(name);
    if (!f->path)
        return err_set(e, "There is no home folder to keep it in");
    bool ok = load_file(f->path, &t, &f->disk, e);
    if (ok)
        text_bytes(t, 0, text_len(t), &f->text);
    text_drop(&t);
    return ok;
}

void own_file_put(OwnFile *f, size_t line, size_t n, const char *with)
{
    Bytes *b = &f->text;
    if (b->len && b->at[b->len - 1] != '\n')
        bytes_add(b, "\n", 1);
    const char *begin = bytes_str(b), *from = begin;
    for (; line && *from; line--)
        from = strchr(from, '\n') + 1;
    const char *to = from;
    for (; n && *to; n--)
        to = strchr(to, '\n') + 1;
    size_t at = (size_t)(from - begin);
    bytes_delete(b, at, (size_t)(to - from));
    bytes_insert(b, at, with, strlen(with));
}

void own_file_quote(const char *s, Bytes *out)
{
    bytes_add(out, "\"", 1);
    for (; *s; s++) {
        if (*s == '"' || *s == '\\')
            bytes_add(out, "\\", 1);
        bytes_add(out, s, 1);
    }
    bytes_add(out, "\"", 1);
}

bool own_file_write(OwnFile *f, Err *e)
{
    char *folder = path_folder(f->path);
    Text t = {0};
    bool ok = folder_make(folder) || err_set(e, "Cannot make the folder %s", folder);
    ok = ok &&
         (text_insert(&t, 0, bytes_str(&f->text), f->text.len) || err_set(e, "There is not enough memory"));
    ok = ok && save_file(f->path, t, NULL, &f->disk, e);
    text_drop(&t);
    free(folder);
    return ok;
}

void own_file_free(OwnFile *f)
{
    free(f->path);
    bytes_free(&f->text);
    *f = (OwnFile){0};
}

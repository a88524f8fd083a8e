#include "ui/folders.h"

#include "base/mem.h"
#include "base/folder.h"
#include "files/location.h"
#include "ui/panel.h"

#include <stdlib.h>
#include <string.h>

/* The last one that was asked for. */
typedef struct Folders {
    Errand *errand;
} Folders;

static void told(void *ctx)
{
    panel_refresh(ctx);
}

void folders_forget(Editor *ed)
{
    if (ed->folders)
        errand_free(ed->folders->errand);
    free(ed->folders);
    ed->folders = NULL;
}

const FolderEntries *folders_in(Editor *ed, const char *folder, Err *e)
{
    Folders *f = ed->folders;
    e->text[0] = 0;
    if (!f || strcmp(f->errand->path, folder) != 0) {
        folders_forget(ed);
        f = ed->folders = mem_get(sizeof *f);
        f->errand = errand_begin(&(Errand){.kind = ERRAND_LIST, .path = (char *)folder}, &ed->session->tasks,
                                 told, ed);
    }
    if (f->errand->done && f->errand->ok)
        return &f->errand->entries;
    if (f->errand->done)
        *e = f->errand->e;
    return NULL;
}

/* Where a host's files are listed already. */
static Lies listed(Editor *ed, const char *name)
{
    Lies lies = LIES_NOTHING;
    char *folder = location_folder(name), *base = location_base(name);
    const Errand *e = ed->folders ? ed->folders->errand : NULL;
    if (!*base)
        lies = LIES_FOLDER;
    else if (e && e->done && strcmp(e->path, folder) == 0)
        for (size_t i = 0; i < e->entries.n && !lies; i++)
            if (strcmp(e->entries.at[i].name, base) == 0)
                lies = e->entries.at[i].folder ? LIES_FOLDER : LIES_FILE;
    free(folder);
    free(base);
    return lies;
}

Lies folders_what(Editor *ed, const char *name)
{
    if (location_is_remote(name))
        return listed(ed, name);
    return folder_at(name) ? LIES_FOLDER : disk_exists(name) ? LIES_FILE : LIES_NOTHING;
}

bool folders_offer(Editor *ed, const char *start, Offers *o)
{
    const char *slash = strrchr(start, '/');
    Location l;
    Err e;
    if (!location_is_remote(start) || slash < start + strlen("ssh://"))
        return false;
    char *head = mem_string_n(start, (size_t)(slash - start) + 1);
    bool ok = location_read(head, &l, &e);
    char *folder = ok ? location_write(&l) : NULL;
    const FolderEntries *all = ok ? folders_in(ed, folder, &e) : NULL;
    if (!all)
        say(ed, "%s", e.text[0] ? e.text : "The names are on their way; Tab again");
    for (size_t i = 0; all && i < all->n; i++) {
        char *name = location_in(folder, all->at[i].name);
        const char *base = strrchr(name, '/') + 1;
        Bytes item = {0};
        bytes_printf(&item, "%s%s%s", head, base, all->at[i].folder ? "/" : "");
        if (strncmp(item.at, start, strlen(start)) == 0 && (base[0] != '.' || slash[1] == '.'))
            offers_add(o, item.at);
        bytes_free(&item);
        free(name);
    }
    if (ok)
        location_free(&l);
    free(folder);
    free(head);
    return all != NULL;
}

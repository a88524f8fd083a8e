#include "config/offers.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/folder.h"
#include "base/mem.h"
#include "base/paths.h"

#include <stdlib.h>
#include <string.h>

void offers_add(Offers *o, const char *item)
{
    o->items = array_room(o->items, o->n, sizeof *o->items);
    o->items[o->n++] = mem_string(item);
}

void offers_add_words(Offers *o, const char *words, const char *start)
{
    while (words && *words) {
        size_t n = strcspn(words, "|");
        if (strncmp(words, start, strlen(start)) == 0) {
            char *word = mem_string_n(words, n);
            offers_add(o, word);
            free(word);
        }
        words += n + (words[n] == '|');
    }
}

/* A path as it is typed, taken apart. */
typedef struct Path {
    Offers *offers;
    const char *head;   /* up to the last slash, as it was typed */
    const char *folder; /* the same, as it can be opened */
    const char *name;   /* what the names begin with */
} Path;

static bool add_file(int fd, const char *name, void *ctx)
{
    (void)fd;
    const Path *p = ctx;
    if (strncmp(name, p->name, strlen(p->name)) != 0 || (name[0] == '.' && p->name[0] != '.'))
        return true;
    Bytes full = {0}, item = {0};
    bytes_printf(&full, "%s/%s", p->folder, name);
    bytes_printf(&item, "%s%s%s", p->head, name, folder_at(full.at) ? "/" : "");
    offers_add(p->offers, item.at);
    bytes_free(&full);
    bytes_free(&item);
    return true;
}

void offers_add_files(Offers *o, const char *start)
{
    const char *slash = strrchr(start, '/');
    if (!slash && strcmp(start, "~") == 0) {
        offers_add(o, "~/");
        return;
    }
    char *head = mem_string_n(start, slash ? (size_t)(slash - start) + 1 : 0);
    char *folder = path_expand_home(*head ? head : ".");
    Path p = {o, head, folder, slash ? slash + 1 : start};
    folder_read(folder, add_file, &p);
    free(folder);
    free(head);
}

void offers_files(const char *start, Offers *o)
{
    offers_add_files(o, start);
}

static int by_bytes(const void *a, const void *b)
{
    return strcmp(*(char *const *)a, *(char *const *)b);
}

void offers_sort(Offers *o)
{
    if (o->n > 1)
        qsort(o->items, o->n, sizeof *o->items, by_bytes);
}

size_t offers_common(const Offers *o)
{
    size_t n = o->n ? strlen(o->items[0]) : 0;
    for (size_t i = 1; i < o->n; i++) {
        size_t k = 0;
        while (k < n && o->items[i][k] == o->items[0][k])
            k++;
        n = k;
    }
    while (n && ((unsigned char)o->items[0][n] & 0xc0) == 0x80)
        n--;
    return n;
}

void offers_free(Offers *o)
{
    for (size_t i = 0; i < o->n; i++)
        free(o->items[i]);
    free(o->items);
    *o = (Offers){0};
}

#include "files/speller.h"

#include "base/mem.h"

#ifdef HAVE_HUNSPELL

#include <dirent.h>
#include <dlfcn.h>
#include <hunspell/hunspell.h>
#include <iconv.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { BOOKS = 4, WORD_MOST = 200 /* bytes */, PATH_MOST = 500 };

typedef struct Library {
    bool tried, there;
    __typeof__(&Hunspell_create) open;
    __typeof__(&Hunspell_spell) knows;
    __typeof__(&Hunspell_suggest) suggest;
    __typeof__(&Hunspell_free_list) free_list;
    __typeof__(&Hunspell_get_dic_encoding) encoding;
    __typeof__(&Hunspell_destroy) close;
} Library;

static Library lib;

typedef struct Book {
    Hunhandle *words;
    iconv_t to, from; /* its own encoding, and back to UTF-8 */
} Book;

struct Speller {
    Book at[BOOKS];
    size_t n;
    Bytes names;
};

static bool find_library(void)
{
    static const char *const names[] = {"libhunspell-1.7.so.0", "libhunspell-1.8.so.0", "libhunspell.so"};
    void *library = NULL;
    for (size_t i = 0; !lib.tried && !library && i < sizeof names / sizeof *names; i++)
        library = dlopen(names[i], RTLD_NOW);
    lib.tried = true;
    if (!library)
        return lib.there;
    lib.open = (__typeof__(lib.open))dlsym(library, "Hunspell_create");
    lib.knows = (__typeof__(lib.knows))dlsym(library, "Hunspell_spell");
    lib.suggest = (__typeof__(lib.suggest))dlsym(library, "Hunspell_suggest");
    lib.free_list = (__typeof__(lib.free_list))dlsym(library, "Hunspell_free_list");
    lib.encoding = (__typeof__(lib.encoding))dlsym(library, "Hunspell_get_dic_encoding");
    lib.close = (__typeof__(lib.close))dlsym(library, "Hunspell_destroy");
    lib.there = lib.open && lib.knows && lib.suggest && lib.free_list && lib.encoding && lib.close;
    return lib.there;
}

/* ---- where they lie ---- */

static const char *const folders[] = {"/usr/share/hunspell", "/usr/local/share/hunspell",
                                      "/usr/share/myspell", "/usr/share/myspell/dicts"};

static bool both_there(const char *stem)
{
    char path[PATH_MOST + 8];
    snprintf(path, sizeof path, "%s.dic", stem);
    bool words = access(path, R_OK) == 0;
    snprintf(path, sizeof path, "%s.aff", stem);
    return words && access(path, R_OK) == 0;
}

/* The first one in a folder that begins with these letters: another country's of the language. */
static bool find_alike(const char *folder, const char *language, char out[PATH_MOST])
{
    char best[100] = "";
    DIR *d = opendir(folder);
    for (struct dirent *e; d && (e = readdir(d));) {
        size_t n = strlen(e->d_name), len = strlen(language);
        bool fits = n > 4 && n < sizeof best && strcmp(e->d_name + n - 4, ".dic") == 0 &&
                    strncmp(e->d_name, language, len) == 0 &&
                    (e->d_name[len] == '_' || e->d_name[len] == '.');
        if (fits && (!best[0] || strcmp(e->d_name, best) < 0))
            memcpy(best, e->d_name, n + 1);
    }
    if (d)
        closedir(d);
    snprintf(out, PATH_MOST, "%s/%.*s", folder, (int)(strlen(best) > 4 ? strlen(best) - 4 : 0), best);
    return best[0] && both_there(out);
}

/* `alike`: that of another country will do. */
static bool find_book(const char *name, bool alike, char out[PATH_MOST])
{
    char language[20];
    if (strchr(name, '/')) {
        snprintf(out, PATH_MOST, "%s", name);
        return both_there(out);
    }
    for (size_t i = 0; i < sizeof folders / sizeof *folders; i++) {
        snprintf(out, PATH_MOST, "%s/%s", folders[i], name);
        if (both_there(out))
            return true;
    }
    snprintf(language, sizeof language, "%.*s", (int)strcspn(name, "_"), name);
    for (size_t i = 0; alike && i < sizeof folders / sizeof *folders; i++)
        if (find_alike(folders[i], language, out))
            return true;
    return false;
}

/* ---- opening ---- */

static bool open_book(Speller *s, const char *stem, const char *name)
{
    char words[PATH_MOST + 8], rules[PATH_MOST + 8];
    snprintf(words, sizeof words, "%s.dic", stem);
    snprintf(rules, sizeof rules, "%s.aff", stem);
    Hunhandle *h = lib.open(rules, words);
    const char *encoding = h ? lib.encoding(h) : NULL;
    Book b = {h, iconv_open(encoding ? encoding : "", "UTF-8"),
              iconv_open("UTF-8", encoding ? encoding : "")};
    if (!h)
        return false;
    s->at[s->n++] = b;
    bytes_printf(&s->names, "%s%s", s->names.len ? ", " : "",
                 strrchr(name, '/') ? strrchr(name, '/') + 1 : name);
    return true;
}

static bool open_named(Speller *s, const char *names, Err *e)
{
    while (*names) {
        char name[PATH_MOST], stem[PATH_MOST];
        size_t n = strcspn(names, " ,");
        snprintf(name, sizeof name, "%.*s", (int)(n < PATH_MOST ? n : PATH_MOST - 1), names);
        names += n + strspn(names + n, " ,");
        if (!n)
            continue;
        if (s->n == BOOKS)
            return err_set(e, "at most %d dictionaries can be asked at once", BOOKS);
        if (!find_book(name, false, stem) || !open_book(s, stem, name))
            return err_set(e, "there is no dictionary “%s” on this machine (below /usr/share/hunspell)",
                           name);
    }
    return true;
}

/* Of the language of a locale, "de_DE.UTF-8"; C and the like: of American English. */
static bool open_for(Speller *s, const char *locale, Err *e)
{
    char name[20], stem[PATH_MOST];
    size_t n = strcspn(locale, ".@");
    bool none = n < 2 || n >= sizeof name || strncmp(locale, "C", n) == 0 || strncmp(locale, "POSIX", n) == 0;
    snprintf(name, sizeof name, "%.*s", none ? 5 : (int)n, none ? "en_US" : locale);
    if (find_book(name, true, stem) && open_book(s, stem, strrchr(stem, '/') + 1))
        return true;
    return err_set(
        e, "this machine has no dictionary for %s; in Debian, packages such as hunspell-en-us bring one",
        name);
}

Speller *speller_new(const char *names, const char *locale, Err *e)
{
    if (!find_library()) {
        err_set(e, "the library hunspell is not installed");
        return NULL;
    }
    Speller *s = mem_get(sizeof *s);
    bool given = names[strspn(names, " ,")] != 0;
    if (given ? open_named(s, names, e) : open_for(s, locale, e))
        return s;
    speller_free(s);
    return NULL;
}

void speller_free(Speller *s)
{
    if (!s)
        return;
    for (size_t i = 0; i < s->n; i++) {
        lib.close(s->at[i].words);
        if (s->at[i].to != (iconv_t)-1)
            iconv_close(s->at[i].to);
        if (s->at[i].from != (iconv_t)-1)
            iconv_close(s->at[i].from);
    }
    bytes_free(&s->names);
    free(s);
}

const char *speller_names(const Speller *s)
{
    return bytes_str((Bytes *)&s->names);
}

/* ---- asking ---- */

static bool recode(iconv_t by, const char *word, char out[WORD_MOST])
{
    char *in = (char *)word, *to = out;
    size_t n = strlen(word), room = WORD_MOST - 1;
    if (by == (iconv_t)-1 || iconv(by, &in, &n, &to, &room) == (size_t)-1)
        return false;
    *to = 0;
    return true;
}

bool speller_knows(Speller *s, const char *word)
{
    char own[WORD_MOST];
    bool asked = false;
    for (size_t i = 0; i < s->n; i++) {
        if (!recode(s->at[i].to, word, own)) /* it has letters that this language has not */
            continue;
        asked = true;
        if (lib.knows(s->at[i].words, own))
            return true;
    }
    return !asked;
}

void speller_suggest(Speller *s, const char *word, size_t most, Bytes *out)
{
    char own[WORD_MOST], shown[WORD_MOST];
    size_t added = 0;
    for (size_t i = 0; i < s->n && added < most; i++) {
        char **all = NULL;
        int n = recode(s->at[i].to, word, own) ? lib.suggest(s->at[i].words, &all, own) : 0;
        for (int k = 0; k < n && added < most; k++)
            if (strlen(all[k]) < WORD_MOST && recode(s->at[i].from, all[k], shown))
                bytes_printf(out, "%s%s", added++ ? ", " : "", shown);
        if (all)
            lib.free_list(s->at[i].words, &all, n);
    }
}

#else

Speller *speller_new(const char *names, const char *locale, Err *e)
{
    (void)names, (void)locale;
    err_set(e, "this program was built without the library hunspell");
    return NULL;
}

void speller_free(Speller *s)
{
    (void)s;
}

const char *speller_names(const Speller *s)
{
    (void)s;
    return "";
}

bool speller_knows(Speller *s, const char *word)
{
    (void)s, (void)word;
    return true;
}

void speller_suggest(Speller *s, const char *word, size_t most, Bytes *out)
{
    (void)s, (void)word, (void)most, (void)out;
}

#endif

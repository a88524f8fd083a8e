#include "files/rules.h"

#include "base/bytes.h"
#include "base/for_root.h"
#include "base/mem.h"

#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <sys/stat.h>
#include <unistd.h>
#ifdef HAVE_EDITORCONFIG
#include <editorconfig/editorconfig.h>

static Wish wish(const char *value)
{
    return strcasecmp(value, "true") == 0 ? WISH_YES : strcasecmp(value, "false") == 0 ? WISH_NO : WISH_NONE;
}

static unsigned number(const char *value)
{
    unsigned long n = strtoul(value, NULL, 10);
    return n <= 16 ? (unsigned)n : 0;
}

/* Those that the standard names, and no others. */
static void take_charset(Rules *r, const char *value)
{
    static const struct {
        const char *value, *encoding;
        bool mark;
    } known[] = {{"utf-8", "utf-8", false},
                 {"utf-8-bom", "utf-8", true},
                 {"latin1", "iso-8859-1", false},
                 {"utf-16be", "utf-16be", true},
                 {"utf-16le", "utf-16le", true}};
    for (size_t i = 0; i < sizeof known / sizeof *known; i++)
        if (strcasecmp(value, known[i].value) == 0) {
            r->charset = encoding_named(known[i].encoding, &r->encoding);
            r->encoding.mark = known[i].mark;
        }
}

static void take(Rules *r, const char *name, const char *value)
{
    if (strcmp(name, "indent_style") == 0 &&
        (strcasecmp(value, "tab") == 0 || strcasecmp(value, "space") == 0)) {
        r->indentation = true;
        r->format.tabs = strcasecmp(value, "tab") == 0;
    } else if (strcmp(name, "indent_size") == 0) {
        r->format.indent = number(value);
    } else if (strcmp(name, "tab_width") == 0) {
        r->tab = number(value);
        r->tab_width = r->tab > 0;
    } else if (strcmp(name, "max_line_length") == 0) {
        r->width = number(value);
    } else if (strcmp(name, "end_of_line") == 0) {
        r->line_ends = strcasecmp(value, "lf") == 0 || strcasecmp(value, "crlf") == 0;
        r->format.ends = strcasecmp(value, "crlf") == 0 ? ENDS_CRLF : ENDS_LF;
    } else if (strcmp(name, "charset") == 0) {
        take_charset(r, value);
    } else if (strcmp(name, "trim_trailing_whitespace") == 0) {
        r->trim = wish(value);
    } else if (strcmp(name, "insert_final_newline") == 0) {
        r->last_newline = wish(value);
    }
}

enum { RULES_MOST = 1024 * 1024 /* bytes of such a file */ };

/* The library opens them by name and reads them to their end: only plain, short files will do. As root, only
 * those that root alone may write, in folders where nobody else can put another one in their place. */
static bool trusted(const char *full_path)
{
    Bytes path = {0};
    bool ok = true;
    for (const char *slash = full_path; ok && (slash = strchr(slash, '/')); slash++) {
        struct stat st, folder;
        bytes_clear(&path);
        bytes_add(&path, full_path, (size_t)(slash - full_path));
        bool known = stat(path.len ? path.at : "/", &folder) == 0;
        bytes_add_str(&path, "/.editorconfig");
        if (stat(path.at, &st) != 0)
            continue;
        ok = S_ISREG(st.st_mode) && st.st_size <= RULES_MOST;
        if (geteuid() == 0)
            ok = ok && known && for_root_alone(&st) && for_root_alone(&folder);
    }
    bytes_free(&path);
    return ok;
}

Rules rules_for(const char *full_path)
{
    Rules r = {.trim = WISH_NONE};
    if (!trusted(full_path))
        return r;
    editorconfig_handle h = editorconfig_handle_init();
    if (h && editorconfig_parse(full_path, h) == 0)
        for (int i = 0; i < editorconfig_handle_get_name_value_count(h); i++) {
            const char *name, *value;
            editorconfig_handle_get_name_value(h, i, &name, &value);
            take(&r, name, value);
        }
    if (h)
        editorconfig_handle_destroy(h);
    if (r.format.indent == 0 && r.indentation)
        r.format.indent = r.tab ? r.tab : r.format.tabs ? 8 : 4;
    r.indentation = r.format.indent > 0;
    return r;
}

#else

Rules rules_for(const char *full_path)
{
    (void)full_path;
    return (Rules){.trim = WISH_NONE};
}

#endif

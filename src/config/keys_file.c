#include "config/keys_file.h"

#include "config/own_file.h"

#include <string.h>

/* Is this line does["KEY"] = …, whatever the key is called there? *whole: all of it stands in this line. */
static bool is_of_key(const char *line, size_t n, Key key, bool *whole)
{
    static const char *const heads[] = {"does", "key"};
    const char *p = line + strspn(line, " \t"), *end = line + n, *quote, *close;
    Key there;
    size_t i = 0;
    while (i < 2 && strncmp(p, heads[i], strlen(heads[i])) != 0)
        i++;
    if (i == 2)
        return false;
    p += strlen(heads[i]);
    p += strspn(p, " \t");
    if (p >= end || *p++ != '[')
        return false;
    p += strspn(p, " \t");
    if (p >= end || (*p != '"' && *p != '\''))
        return false;
    quote = p++;
    close = memchr(p, *quote, (size_t)(end - p));
    if (!close || !key_parse(p, (size_t)(close - p), &there) || !key_same(there, key))
        return false;
    const char *value = memchr(close, '=', (size_t)(end - close));
    *whole = value && strspn(value + 1, " \t\r") < (size_t)(end - value - 1);
    return true;
}

/* Changes the file. */
static bool change(OwnFile *f, Key key, const char *entry, Err *e)
{
    size_t line = 0;
    bool done = false;
    for (size_t at = 0; at < f->text.len;) {
        const char *p = f->text.at + at;
        size_t n = strcspn(p, "\n");
        bool whole;
        if (!is_of_key(p, n, key, &whole)) {
            at += n + (p[n] != 0);
            line++;
            continue;
        }
        if (!whole)
            return err_set(e, "Line %zu of %s goes on in the next; change it there by hand", line + 1,
                           f->path);
        own_file_put(f, line, 1, done ? "" : entry); /* only the first stays */
        at += done ? 0 : strlen(entry);
        line += !done && *entry;
        done = true;
    }
    if (!done && *entry)
        own_file_put(f, (size_t)-1, 0, entry);
    return own_file_write(f, e);
}

bool keys_file_put(Config *c, Key key, KeyWish wish, const char *command_line, bool keep, Err *e)
{
    char name[KEY_NAME_MAX];
    OwnFile f = {0};
    Bytes entry = {0};
    key_written(key, name);
    bool ok = wish == KEY_AS_SHIPPED || config_set_key(c, name, wish == KEY_RUNS ? command_line : NULL, e);
    if (wish == KEY_AS_SHIPPED) {
        keymap_set(&c->keys, key, NULL, NULL, BY_LAYOUT);
        settings_refill_keys(c);
    } else {
        bytes_add_str(&entry, "does[");
        own_file_quote(name, &entry);
        bytes_add_str(&entry, "] = ");
        if (wish == KEY_RUNS)
            own_file_quote(command_line, &entry);
        else
            bytes_add_str(&entry, "false");
        bytes_add(&entry, "\n", 1);
    }
    ok = ok && (!keep || (own_file_read(&f, "keys.lua", e) && change(&f, key, bytes_str(&entry), e)));
    own_file_free(&f);
    bytes_free(&entry);
    return ok;
}

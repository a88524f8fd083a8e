#include "config/settings_file.h"

#include "base/bytes.h"
#include "base/letters.h"
#include "base/mem.h"
#include "config/own_file.h"

#include <stdlib.h>
#include <string.h>

#define SETTINGS_FILE "settings.lua"

char *settings_file_path(void)
{
    return own_file_path(SETTINGS_FILE);
}

/* Is this the line "name = …"? */
static bool line_assigns(const char *line, size_t n, const char *name)
{
    size_t len = strlen(name), i = 0;
    while (i < n && letter_is_blank(line[i]))
        i++;
    if (n - i <= len || memcmp(line + i, name, len) != 0)
        return false;
    for (i += len; i < n && letter_is_blank(line[i]);)
        i++;
    return i < n && line[i] == '=' && (i + 1 == n || line[i + 1] != '=');
}

static bool line_sets(const char *line, size_t n, const Setting *s)
{
    const char *former = settings_former_name(s);
    return line_assigns(line, n, s->name) || (former && line_assigns(line, n, former));
}

static void put_line(const Config *c, const Setting *s, Bytes *out)
{
    char text[SETTING_TEXT_MAX];
    const char *value = settings_value(c, s, text);
    if (s->type == SETTING_BOOL || s->type == SETTING_INT) {
        bytes_printf(out, "%s = %s\n", s->name, value);
        return;
    }
    bytes_printf(out, "%s = ", s->name);
    own_file_quote(value, out);
    bytes_add_str(out, "\n");
}

/* The old file with this run's settings in place of their lines, new ones at the end. */
static void merge_lines(const Config *c, const Bytes *old, Bytes *out, size_t *n)
{
    bool done[SETTINGS_COUNT] = {false};
    *n = 0;
    for (const char *p = bytes_str(old), *end = p + old->len; p < end;) {
        const char *next = memchr(p, '\n', (size_t)(end - p));
        next = next ? next + 1 : end;
        size_t i = 0;
        while (i < SETTINGS_COUNT &&
               !(settings_of_this_run(c, i) && line_sets(p, (size_t)(next - p), &settings_table[i])))
            i++;
        if (i == SETTINGS_COUNT) {
            bytes_add(out, p, (size_t)(next - p));
        } else if (!done[i]) {
            put_line(c, &settings_table[i], out);
            done[i] = true;
            ++*n;
        }
        p = next;
    }
    if (out->len && out->at[out->len - 1] != '\n')
        bytes_add(out, "\n", 1);
    for (size_t i = 0; i < SETTINGS_COUNT; i++)
        if (!done[i] && settings_of_this_run(c, i)) {
            put_line(c, &settings_table[i], out);
            ++*n;
        }
}

bool settings_file_keep(Config *c, size_t *n, Err *e)
{
    OwnFile f = {0};
    Bytes old = {0};
    bool ok = own_file_read(&f, SETTINGS_FILE, e);
    if (ok) {
        old = f.text;
        f.text = (Bytes){0};
        merge_lines(c, &old, &f.text, n);
    }
    ok = ok && own_file_write(&f, e);
    for (size_t i = 0; ok && i < SETTINGS_COUNT; i++)
        if (settings_of_this_run(c, i)) {
            free(c->sources[i]);
            c->sources[i] = mem_string(f.path);
        }
    bytes_free(&old);
    own_file_free(&f);
    return ok;
}

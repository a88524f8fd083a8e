#include "kinds/kinds.h"

#include <stdbool.h>
#include <string.h>

static const Kind kinds[] = {
    {"text", NULL, "txt|text|note", NULL},
    {"ini", NULL, "ini|cfg|cnf", NULL},
    {"conf", NULL, "conf|rc", NULL},
    {"yaml", NULL, "yaml|yml", NULL},
    {"json", NULL, "json", NULL},
    {"toml", NULL, "toml", NULL},
    {"markdown", NULL, "md|markdown", NULL},
    {"shell", ".profile", "sh|bash", "sh|bash|dash|ash|ksh|zsh"},
    {"python", NULL, "py", "python|python3"},
    {"perl", NULL, "pl|pm", "perl"},
    {"lua", NULL, "lua", "lua"},
    {"c", NULL, "c|h", NULL},
    {"make", "Makefile|makefile", "mk", "make"},
    {"hosts", "hosts", "hosts", NULL},
    {"fstab", "fstab", NULL, NULL},
    {"schedule", "crontab", "crontab", NULL},
    {"log", NULL, "log", NULL},
    {"unit", NULL, "service|socket|timer|mount|target", NULL},
};

/* Is the word among those of a "|"-separated list? */
static bool listed(const char *list, const char *word, size_t n)
{
    while (list && *list) {
        size_t len = strcspn(list, "|");
        if (len == n && memcmp(list, word, n) == 0)
            return true;
        list += len + (list[len] == '|');
    }
    return false;
}

/* The program a "#!" line names, after /usr/bin/env too; its length, 0 if there is none. */
static size_t program_of(const char *head, size_t n, const char **word)
{
    if (n < 2 || head[0] != '#' || head[1] != '!')
        return 0;
    const char *p = head + 2, *end = memchr(head, '\n', n);
    end = end ? end : head + n;
    for (;;) {
        while (p < end && *p == ' ')
            p++;
        const char *start = p;
        while (p < end && *p != ' ' && *p != '\r')
            p++;
        for (const char *q = start; q < p; q++)
            if (*q == '/')
                start = q + 1;
        if (!(p - start == 3 && memcmp(start, "env", 3) == 0)) {
            *word = start;
            return (size_t)(p - start);
        }
    }
}

const Kind *kind_of(const char *path, const char *head, size_t n)
{
    const char *slash = path ? strrchr(path, '/') : NULL;
    const char *name = slash ? slash + 1 : path ? path : "";
    const char *dot = strrchr(name, '.');
    const char *program = "";
    size_t program_len = program_of(head, n, &program);
    size_t count = sizeof kinds / sizeof *kinds;
    for (size_t i = 0; i < count; i++)
        if (listed(kinds[i].names, name, strlen(name)))
            return &kinds[i];
    for (size_t i = 0; dot && i < count; i++)
        if (listed(kinds[i].extensions, dot + 1, strlen(dot + 1)))
            return &kinds[i];
    for (size_t i = 0; program_len && i < count; i++)
        if (listed(kinds[i].programs, program, program_len))
            return &kinds[i];
    return &kinds[0];
}

const Kind *kind_named(const char *name)
{
    for (size_t i = 0; i < sizeof kinds / sizeof *kinds; i++)
        if (strcmp(kinds[i].name, name) == 0)
            return &kinds[i];
    return NULL;
}

const Kind *kind_number(size_t i)
{
    return i < sizeof kinds / sizeof *kinds ? &kinds[i] : NULL;
}

bool kind_is_prose(const Kind *k)
{
    return strcmp(k->name, "text") == 0 || strcmp(k->name, "markdown") == 0 || strcmp(k->name, "log") == 0;
}

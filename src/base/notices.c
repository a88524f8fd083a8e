#include "base/notices.h"

#include <stdio.h>
#include <string.h>
#include <time.h>

static void note_said(Notices *n)
{
    const NoticeSaid *last = notices_said(n, 0);
    if (!n->text[0] || (last && strcmp(last->text, n->text) == 0))
        return;
    NoticeSaid *s = &n->said[n->n_said++ % NOTICES_KEPT];
    memcpy(s->text, n->text, sizeof s->text);
    s->warning = n->warning;
    s->when = (long long)time(NULL);
}

const NoticeSaid *notices_said(const Notices *n, unsigned back)
{
    bool there = back < NOTICES_KEPT && back < n->n_said;
    return there ? &n->said[(n->n_said - 1 - back) % NOTICES_KEPT] : NULL;
}

static void note_way(Notices *n, const char *name, size_t len)
{
    for (int i = 0; i < NOTICE_WAYS && len < NOTICE_KEY_MOST; i++)
        if (!n->ways[i][0]) {
            memcpy(n->ways[i], name, len);
            n->ways[i][len] = 0;
            return;
        }
}

/* The format with the keys of its commands put in; a percent sign of theirs is doubled. */
static void put_keys(Notices *n, const char *format, char out[2 * NOTICE_MOST])
{
    size_t used = 0;
    memset(n->ways, 0, sizeof n->ways);
    for (const char *p = format; *p && used < 2 * NOTICE_MOST - 2 * NOTICE_KEY_MOST;) {
        size_t len = *p == '{' ? strcspn(p, "}") : 0;
        char key[NOTICE_KEY_MOST] = "";
        if (len > 1 && p[len] && n->key_of)
            n->key_of(n->ctx, p + 1, len - 1, key);
        if (!key[0]) {
            out[used++] = *p++;
            continue;
        }
        note_way(n, p + 1, len - 1);
        p += len + 1;
        for (const char *k = key; *k; k++) {
            out[used++] = *k;
            if (*k == '%')
                out[used++] = '%';
        }
    }
    out[used] = 0;
}

void notices_put(Notices *n, bool warning, const char *format, va_list args)
{
    char with_keys[2 * NOTICE_MOST];
    if (n->quiet && !warning)
        return;
    put_keys(n, format, with_keys);
    vsnprintf(n->text, sizeof n->text, with_keys, args);
    n->warning = warning;
    n->shown = false;
    n->since = n->now;
    n->clear_at = 0;
    note_said(n);
}

void notices_say(Notices *n, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(n, false, format, args);
    va_end(args);
}

void notices_warn(Notices *n, const char *format, ...)
{
    va_list args;
    va_start(args, format);
    notices_put(n, true, format, args);
    va_end(args);
}

void notices_pass(Notices *n, uint64_t time)
{
    if (!n->warning && n->since < time)
        notices_clear(n);
}

void notices_clear(Notices *n)
{
    n->text[0] = 0;
    n->warning = false;
    n->clear_at = 0;
}

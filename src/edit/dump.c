#include "edit/dump.h"

#include "base/array.h"
#include "base/mem.h"
#include "edit/doc_states.h"

#include <stdlib.h>
#include <string.h>

enum { FORM = 1 }; /* another number when this changes */

/* Seven bits a byte, the lowest first. */
static void put_number(Bytes *out, uint64_t v)
{
    do {
        unsigned char byte = (unsigned char)(v & 127) | (v > 127 ? 128 : 0);
        bytes_add(out, &byte, 1);
        v >>= 7;
    } while (v);
}

/* What a state needs, about. */
static size_t cost(const State *s)
{
    return 40 + s->span.removed + s->span.added;
}

/* Which states are dumped, and as what number; number 0 is the one the others begin from. */
static size_t choose(const Doc *d, size_t most, size_t *numbers)
{
    size_t total = 0, n = 0, root = 0;
    for (size_t i = 1; i < d->n_states; i++)
        total += cost(&d->states[i]);
    if (total <= most) {
        for (size_t i = 0; i < d->n_states; i++)
            numbers[i] = n++;
        return n;
    }
    total = 0;
    for (root = d->saved; root && total + cost(&d->states[root]) <= most; root = d->states[root].parent)
        total += cost(&d->states[root]);
    for (size_t i = 0; i < d->n_states; i++)
        numbers[i] = (size_t)-1;
    for (size_t i = d->saved; i != root; i = d->states[i].parent)
        n++;
    numbers[root] = 0;
    for (size_t i = d->saved, k = n; i != root; i = d->states[i].parent)
        numbers[i] = k--;
    return n + 1;
}

void dump_history(const Doc *d, size_t most, Bytes *out)
{
    size_t *numbers = mem_get(d->n_states * sizeof *numbers);
    size_t n = choose(d, most, numbers);
    put_number(out, FORM);
    put_number(out, n);
    put_number(out, numbers[d->saved]);
    for (size_t i = 0; i < d->n_states; i++) {
        const State *s = &d->states[i];
        if (numbers[i] == (size_t)-1)
            continue;
        put_number(out, (uint64_t)s->when);
        if (numbers[i] == 0)
            continue;
        put_number(out, numbers[s->parent]);
        put_number(out, s->span.at);
        put_number(out, s->span.removed);
        put_number(out, s->span.added);
        put_number(out, s->cursor_before);
        put_number(out, s->cursor_after);
        put_number(out, s->verb ? strlen(s->verb) : 0);
        bytes_add(out, s->verb ? s->verb : "", s->verb ? strlen(s->verb) : 0);
        text_bytes(doc_state_text(d, s->parent), s->span.at, s->span.removed, out);
        text_bytes(doc_state_text(d, i), s->span.at, s->span.added, out);
    }
    free(numbers);
}

/* ---- and back ---- */

typedef struct Reader {
    const unsigned char *at, *end;
    bool ok;
} Reader;

static uint64_t get_number(Reader *r)
{
    uint64_t v = 0;
    for (unsigned shift = 0; shift < 64; shift += 7) {
        if (r->at == r->end)
            break;
        unsigned char byte = *r->at++;
        v |= (uint64_t)(byte & 127) << shift;
        if (byte < 128)
            return v;
    }
    r->ok = false;
    return 0;
}

static const char *get_bytes(Reader *r, size_t n)
{
    const char *p = (const char *)r->at;
    if (!r->ok || (size_t)(r->end - r->at) < n) {
        r->ok = false;
        return NULL;
    }
    r->at += n;
    return p;
}

/* A state as it is read: its change, and the bytes of both sides. */
typedef struct Read {
    State state;
    const char *removed, *added;
} Read;

static void read_state(Reader *r, Doc *d, Read *out, size_t number)
{
    State *s = &out->state;
    s->when = (long long)get_number(r);
    if (number == 0)
        return;
    s->parent = get_number(r);
    s->span.at = get_number(r);
    s->span.removed = get_number(r);
    s->span.added = get_number(r);
    s->cursor_before = get_number(r);
    s->cursor_after = get_number(r);
    s->kind = STEP_WHOLE;
    size_t n_verb = get_number(r);
    const char *verb = get_bytes(r, n_verb);
    out->removed = get_bytes(r, s->span.removed);
    out->added = get_bytes(r, s->span.added);
    r->ok = r->ok && s->parent < number;
    if (!r->ok || n_verb == 0)
        return;
    for (size_t i = 0; i < d->n_verbs && !s->verb; i++)
        if (strlen(d->verbs[i]) == n_verb && memcmp(d->verbs[i], verb, n_verb) == 0)
            s->verb = d->verbs[i];
    if (!s->verb) {
        d->verbs = array_room(d->verbs, d->n_verbs, sizeof *d->verbs);
        s->verb = d->verbs[d->n_verbs++] = mem_string_n(verb, n_verb);
    }
}

/* `from` with n bytes at `at` replaced, as a new text; false when it does not fit. */
static bool replaced(Text from, size_t at, size_t removed, const char *bytes, size_t n, Text *out)
{
    *out = text_keep(from);
    if (at > text_len(from) || removed > text_len(from) - at)
        return false;
    return text_delete(out, at, removed) && text_insert(out, at, bytes, n);
}

/* From the saved state's text to all the others': up to the first, then down every branch. */
static bool build_texts(Read *reads, size_t n, size_t saved, Text t)
{
    bool *known = mem_get(n), ok = true;
    reads[saved].state.text = text_keep(t);
    known[saved] = true;
    for (size_t i = saved; ok && i; i = reads[i].state.parent) {
        const State *s = &reads[i].state;
        size_t p = s->parent;
        known[p] = true;
        ok = replaced(s->text, s->span.at, s->span.added, reads[i].removed, s->span.removed,
                      &reads[p].state.text);
    }
    for (size_t i = 1; ok && i < n; i++) {
        State *s = &reads[i].state;
        if (!known[i])
            ok = replaced(reads[s->parent].state.text, s->span.at, s->span.removed, reads[i].added,
                          s->span.added, &s->text);
        ok = ok && s->cursor_before <= text_len(reads[s->parent].state.text) &&
             s->cursor_after <= text_len(s->text);
    }
    free(known);
    return ok;
}

bool dump_restore(Doc *d, const void *bytes, size_t n)
{
    Reader r = {bytes, (const unsigned char *)bytes + n, true};
    if (get_number(&r) != FORM || d->n_states != 1)
        return false;
    size_t count = get_number(&r), saved = get_number(&r);
    if (!r.ok || count == 0 || count > n / 2 || saved >= count)
        return false;
    Read *reads = mem_get(count * sizeof *reads);
    for (size_t i = 0; r.ok && i < count; i++)
        read_state(&r, d, &reads[i], i);
    bool ok = r.ok && r.at == r.end && build_texts(reads, count, saved, d->text);
    if (ok) {
        doc_states_clear(d);
        for (size_t i = 0; i < count; i++)
            doc_states_add(d, reads[i].state);
        for (size_t i = 1; i < count; i++) /* redo goes to the newest child */
            d->states[d->states[i].parent].next = i;
        for (size_t i = saved; i; i = d->states[i].parent)
            d->states[d->states[i].parent].next = i;
        text_drop(&d->states[saved].text);
        d->now = d->saved = saved;
    } else {
        for (size_t i = 0; i < count; i++)
            text_drop(&reads[i].state.text);
    }
    free(reads);
    return ok;
}

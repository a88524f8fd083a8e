#include "base/mem.h"
#include "base/system.h"
#include "edit/doc_states.h"
#include "text/builder.h"

#include <assert.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum { PAUSE = 4000 /* ms that end a run of typing */ };

Doc *doc_new(Text t)
{
    Doc *d = mem_get(sizeof *d);
    d->text = t;
    doc_states_add(d, (State){.when = (long long)time(NULL)});
    return d;
}

void doc_free(Doc *d)
{
    if (!d)
        return;
    doc_states_clear(d);
    text_drop(&d->text);
    for (size_t i = 0; i < d->n_verbs; i++)
        free(d->verbs[i]);
    free(d->verbs);
    free(d);
}

Text doc_text(const Doc *d)
{
    return d->text;
}

unsigned long doc_version(const Doc *d)
{
    return d->version;
}

/* The hull of a change `a` followed by a change `b`. */
static Span hull(Span a, Span b)
{
    size_t a_end = a.at + a.added; /* in the text between the two */
    size_t b_end = b.at + b.removed;
    size_t from = a.at < b.at ? a.at : b.at;
    size_t to = a_end > b_end ? a_end : b_end;
    return (Span){from, to - from - a.added + a.removed, to - from - b.removed + b.added};
}

enum { LOOK_BACK = 256 /* steps */, COMPARED = 4096 /* bytes */ };

/* Typing something and deleting it by hand is no change. The hull of all steps since the save is
 * compared, if they are few and it is small. */
static bool back_by_hand(const Doc *d)
{
    Text saved = doc_saved_text(d);
    if (text_len(saved) != text_len(d->text))
        return false;
    Span all = d->states[d->now].span;
    size_t state = d->states[d->now].parent;
    for (int steps = 0; state != d->saved; steps++, state = d->states[state].parent) {
        const Span s = d->states[state].span;
        if (state == 0 || steps == LOOK_BACK)
            return false;
        all = hull(s, all);
    }
    if (all.removed != all.added || all.added > COMPARED)
        return false;
    return text_same_bytes(saved, all.at, d->text, all.at, all.added);
}

bool doc_changed(const Doc *d)
{
    return d->now != d->saved && (d->now == 0 || !back_by_hand(d));
}

size_t doc_state_now(const Doc *d)
{
    return d->now;
}

void doc_mark_state_saved(Doc *d, size_t i)
{
    d->saved = i;
    doc_seal(d);
}

Text doc_saved_text(const Doc *d)
{
    return doc_state_text(d, d->saved);
}

void doc_mark_saved(Doc *d)
{
    d->saved = d->now;
    doc_seal(d);
}

void doc_seal(Doc *d)
{
    if (d->group == 0)
        d->open = false;
}

size_t doc_close_state(Doc *d)
{
    d->open = false;
    d->fixed = d->fixed > d->now ? d->fixed : d->now;
    return d->now;
}

void doc_begin(Doc *d)
{
    doc_seal(d);
    d->group++;
}

void doc_end(Doc *d)
{
    assert(d->group > 0);
    d->group--;
    doc_seal(d);
}

/* ---- anchors ---- */

void doc_add_anchor(Doc *d, Anchor *a, size_t at, bool stays)
{
    *a = (Anchor){.at = at, .stays = stays, .next = d->anchors};
    if (a->next)
        a->next->prev = a;
    d->anchors = a;
}

void doc_remove_anchor(Doc *d, Anchor *a)
{
    if (a->prev)
        a->prev->next = a->next;
    else
        d->anchors = a->next;
    if (a->next)
        a->next->prev = a->prev;
    a->next = a->prev = NULL;
}

static void move_anchors(Doc *d, Span s)
{
    for (Anchor *a = d->anchors; a; a = a->next) {
        if (a->at < s.at || (a->at == s.at && a->stays))
            continue;
        if (a->at >= s.at + s.removed)
            a->at = a->at - s.removed + s.added;
        else
            a->at = s.at + (a->at - s.at < s.added ? a->at - s.at : s.added);
    }
}

/* The text is another one now, by this. */
static void note_change(Doc *d, Span s)
{
    d->changes[d->version % CHANGES_KEPT] = (DocChange){s.at, s.removed, s.added};
    d->version++;
}

bool doc_change_after(const Doc *d, unsigned long version, DocChange *change)
{
    if (version >= d->version || d->version - version > CHANGES_KEPT)
        return false;
    *change = d->changes[version % CHANGES_KEPT];
    return true;
}

/* ---- steps ---- */

static bool blank(char c)
{
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}

/* Does the change continue what the present state began? */
static bool continues(const Doc *d, Span s, const char *bytes, StepKind kind)
{
    const State *now = &d->states[d->now];
    if (!d->open || d->now == d->saved)
        return false;
    if (d->group)
        return true;
    if (now->places || kind != now->kind || system_now_ms() - d->last_change > PAUSE)
        return false;
    switch (kind) {
    case STEP_TYPE: /* a word with the blanks after it */
        return s.removed == 0 && s.at == now->span.at + now->span.added &&
               (!blank(d->last_typed) || blank(bytes[0]) || !d->word_begun);
    case STEP_DELETE_LEFT:
        return s.added == 0 && s.at + s.removed == now->span.at;
    case STEP_DELETE_RIGHT:
        return s.added == 0 && s.at == now->span.at;
    default:
        return false;
    }
}

static void begin_state(Doc *d, StepKind kind, size_t cursor)
{
    size_t fresh = doc_states_add(d, (State){.parent = d->now,
                                             .kind = kind,
                                             .cursor_before = cursor,
                                             .verb = d->verb,
                                             .when = (long long)time(NULL)});
    d->states[d->now].next = fresh;
    d->now = fresh;
}

/* Takes note that the text went from `old` to d->text by `s`, where the last byte typed is `typed`, or 0.
 * Takes over `old`. */
static void record(Doc *d, Text old, Span s, bool in_step, char typed, StepKind kind, size_t cursor)
{
    if (in_step) {
        State *now = &d->states[d->now];
        now->span = hull(now->span, s);
        text_drop(&old);
    } else {
        d->states[d->now].text = old;
        begin_state(d, kind, cursor);
        d->states[d->now].span = s;
    }
    d->states[d->now].cursor_after = s.at + s.added;
    d->open = true;
    d->last_change = system_now_ms();
    if (!in_step)
        d->word_begun = false;
    d->last_typed = kind == STEP_TYPE ? typed : 0;
    d->word_begun = d->word_begun || (d->last_typed && !blank(d->last_typed));
}

static void record_one(Doc *d, Text old, Span s, bool in_step, char typed, StepKind kind, size_t cursor)
{
    record(d, old, s, in_step, typed, kind, cursor);
    note_change(d, s);
    move_anchors(d, s);
}

bool doc_replace(Doc *d, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind, size_t cursor)
{
    Span s = {at, removed, n};
    if (removed == 0 && n == 0)
        return true;
    /* The old version is kept only where it is needed: a sole owner is changed in place. */
    bool in_step = continues(d, s, bytes, kind);
    bool single = removed == 0 || n == 0;
    Text old = in_step && single ? (Text){0} : text_keep(d->text);
    if (!text_delete(&d->text, at, removed) || !text_insert(&d->text, at, bytes, n)) {
        if (!in_step || !single) {
            text_drop(&d->text);
            d->text = old;
        }
        return false;
    }
    record_one(d, old, s, in_step, n ? ((const char *)bytes)[n - 1] : 0, kind, cursor);
    return true;
}

bool doc_replace_text(Doc *d, size_t at, size_t removed, Text with, size_t cursor)
{
    Span s = {at, removed, text_len(with)};
    Text old = text_keep(d->text);
    if (!text_delete(&d->text, at, removed) || !text_insert_text(&d->text, at, with)) {
        text_drop(&d->text);
        d->text = old;
        return false;
    }
    record_one(d, old, s, continues(d, s, NULL, STEP_WHOLE), 0, STEP_WHOLE, cursor);
    return true;
}

/* ---- at many places ---- */

static bool continues_each(const Doc *d, const DocEdit *e, size_t n, StepKind kind)
{
    const State *now = &d->states[d->now];
    if (!d->open || d->now == d->saved)
        return false;
    if (d->group)
        return true;
    if (kind == STEP_WHOLE || kind != now->kind || now->places != n ||
        system_now_ms() - d->last_change > PAUSE)
        return false;
    for (size_t i = 0; kind == STEP_TYPE && i < n; i++)
        if (e[i].removed)
            return false;
    return kind != STEP_TYPE || !blank(d->last_typed) || blank(e->bytes[0]) || !d->word_begun;
}

/* The text between the first and the last of them, as it is after all. */
static bool spliced(Text t, const DocEdit *e, size_t n, Text *out)
{
    TextBuilder b = {0};
    size_t at = e[0].at;
    bool ok = true;
    for (size_t i = 0; ok && i < n; i++) {
        ok = builder_part(&b, t, at, e[i].at) && builder_bytes(&b, e[i].bytes, e[i].n);
        at = e[i].at + e[i].removed;
    }
    ok = ok && builder_finish(&b, out);
    builder_drop(&b);
    return ok;
}

/* Where a place goes; before[i]: by how much the bytes at the i-th of them have moved. */
static size_t moved_by_each(size_t at, bool stays, const DocEdit *e, const ptrdiff_t *before, size_t n)
{
    size_t low = 0, high = n; /* how many begin at or before it */
    while (low < high) {
        size_t middle = low + (high - low) / 2;
        if (e[middle].at <= at)
            low = middle + 1;
        else
            high = middle;
    }
    if (low && stays && e[low - 1].at == at)
        low--;
    if (low == 0)
        return at;
    const DocEdit *last = &e[low - 1];
    if (at >= last->at + last->removed)
        return (size_t)((ptrdiff_t)at + before[low - 1] + (ptrdiff_t)last->n - (ptrdiff_t)last->removed);
    size_t into = at - last->at < last->n ? at - last->at : last->n;
    return (size_t)((ptrdiff_t)(last->at + into) + before[low - 1]);
}

/* One by one while they can all be kept, so that those who follow know of each. */
static void note_each(Doc *d, const DocEdit *e, const ptrdiff_t *before, size_t n, Span all)
{
    if (n > CHANGES_KEPT / 2) {
        note_change(d, all);
        return;
    }
    for (size_t i = 0; i < n; i++)
        if (e[i].removed || e[i].n)
            note_change(d, (Span){(size_t)((ptrdiff_t)e[i].at + before[i]), e[i].removed, e[i].n});
}

bool doc_replace_each(Doc *d, const DocEdit *e, size_t n, StepKind kind, size_t cursor)
{
    Text middle;
    size_t some = 0;
    while (some < n && !e[some].removed && !e[some].n)
        some++;
    if (some == n)
        return true;
    ptrdiff_t *before = mem_try(n * sizeof *before);
    if (!before || !spliced(d->text, e, n, &middle)) {
        free(before);
        return false;
    }
    Span s = {e[0].at, e[n - 1].at + e[n - 1].removed - e[0].at, text_len(middle)};
    bool in_step = continues_each(d, e, n, kind);
    Text old = text_keep(d->text);
    bool ok = text_delete(&d->text, s.at, s.removed) && text_insert_text(&d->text, s.at, middle);
    text_drop(&middle);
    if (!ok) {
        text_drop(&d->text);
        d->text = old;
        free(before);
        return false;
    }
    ptrdiff_t by = 0;
    for (size_t i = 0; i < n; i++) {
        before[i] = by;
        by += (ptrdiff_t)e[i].n - (ptrdiff_t)e[i].removed;
    }
    record(d, old, s, in_step, e[n - 1].n ? e[n - 1].bytes[e[n - 1].n - 1] : 0, kind, cursor);
    d->states[d->now].places = n;
    note_each(d, e, before, n, s);
    for (Anchor *a = d->anchors; a; a = a->next)
        a->at = moved_by_each(a->at, a->stays, e, before, n);
    free(before);
    return true;
}

bool doc_append(Doc *d, const void *bytes, size_t n, size_t cursor)
{
    size_t end = text_len(d->text);
    doc_seal(d);
    if (!doc_replace(d, end, 0, bytes, n, STEP_WHOLE, cursor))
        return false;
    for (Anchor *a = d->anchors; a; a = a->next)
        if (a->at == end + n)
            a->at = end;
    return true;
}

bool doc_set_text(Doc *d, Text to, size_t cursor)
{
    size_t len = text_len(d->text), n = text_len(to), head = text_common_start(d->text, to);
    size_t most = (len < n ? len : n) - head, tail = text_common_end(d->text, to, most);
    Text middle;
    if (head == len && len == n)
        return true;
    if (!text_slice(to, head, n - head - tail, &middle))
        return false;
    doc_seal(d);
    bool ok = doc_replace_text(d, head, len - head - tail, middle, cursor);
    doc_seal(d);
    text_drop(&middle);
    return ok;
}

bool doc_load_more(Doc *d, Text more)
{
    assert(d->n_states == 1);
    size_t end = text_len(d->text);
    if (!text_insert_text(&d->text, end, more))
        return false;
    note_change(d, (Span){end, 0, text_len(more)});
    return true;
}

bool doc_grow(Doc *d, Text more)
{
    size_t end = text_len(d->text), n = text_len(more);
    if (d->n_states == 1)
        return doc_load_more(d, more);
    if (d->now != d->grown || d->n_states - 1 != d->grown) {
        const char *verb = d->verb;
        doc_seal(d);
        d->verb = "Follow";
        bool ok = doc_replace_text(d, end, 0, more, end);
        d->verb = verb;
        if (!ok)
            return false;
        for (Anchor *a = d->anchors; a; a = a->next)
            a->at = a->at == end + n ? end : a->at;
        d->grown = d->now;
    } else {
        if (!text_insert_text(&d->text, end, more))
            return false;
        d->states[d->now].span.added += n;
        note_change(d, (Span){end, 0, n});
    }
    doc_mark_saved(d);
    return true;
}

bool doc_forget(Doc *d, size_t n)
{
    assert(d->n_states == 1);
    if (!text_delete(&d->text, 0, n))
        return false;
    note_change(d, (Span){0, n, 0});
    move_anchors(d, (Span){0, n, 0});
    return true;
}

void doc_reload(Doc *d, Text all)
{
    assert(d->n_states == 1);
    size_t same = text_common_start(d->text, all);
    Span span = {same, text_len(d->text) - same, text_len(all) - same};
    text_drop(&d->text);
    d->text = text_keep(all);
    note_change(d, span);
    move_anchors(d, span);
}

bool doc_undo(Doc *d, size_t *cursor)
{
    if (d->now == 0)
        return false;
    State *from = &d->states[d->now], *to = &d->states[from->parent];
    from->text = d->text;
    d->text = to->text;
    to->text = (Text){0};
    to->next = d->now;
    d->now = from->parent;
    d->open = false;
    Span back = {from->span.at, from->span.added, from->span.removed};
    note_change(d, back);
    *cursor = from->cursor_before;
    move_anchors(d, back);
    return true;
}

bool doc_redo(Doc *d, size_t *cursor)
{
    State *from = &d->states[d->now];
    if (from->next == 0)
        return false;
    State *to = &d->states[from->next];
    from->text = d->text;
    d->text = to->text;
    to->text = (Text){0};
    d->now = from->next;
    d->open = false;
    note_change(d, to->span);
    *cursor = to->cursor_after;
    move_anchors(d, to->span);
    return true;
}

/* ---- folding ---- */

DocSpot doc_spot(const Doc *d)
{
    return (DocSpot){d->now, d->n_states, d->states[d->now].next};
}

/* The newest state that must stay as it is, if it is younger than that spot. */
static DocSpot not_before_fixed(const Doc *d, DocSpot since)
{
    size_t fixed = d->fixed > d->saved ? d->fixed : d->saved;
    return fixed < since.states ? since : (DocSpot){fixed, fixed + 1, 0};
}

/* What led from `base` to the present state; false when it did not come from there by states of which all are
 * younger. */
static bool way_from(const Doc *d, DocSpot base, State *way)
{
    *way = d->states[d->now];
    for (size_t i = d->now; i != base.now;) {
        const State *s = &d->states[i];
        if (i < base.states)
            return false;
        if (i != d->now)
            way->span = hull(s->span, way->span);
        way->cursor_before = s->cursor_before;
        i = s->parent;
    }
    return true;
}

void doc_fold(Doc *d, DocSpot since, const char *verb)
{
    DocSpot base = not_before_fixed(d, since);
    State way;
    if (d->group) /* the group's owner may hold states by number */
        return;
    d->open = false;
    if (d->n_states == base.states || !way_from(d, base, &way))
        return;
    bool undone = d->now == base.now;
    for (size_t i = base.states; i < d->n_states; i++) {
        const State *s = &d->states[i];
        if (s->parent < base.states)
            d->states[s->parent].next = s->parent == base.now && undone ? base.next : 0;
        text_drop(&d->states[i].text); /* the present one has none here */
    }
    d->n_states = base.states;
    if (undone)
        return;
    way.parent = base.now;
    way.next = 0;
    way.kind = STEP_WHOLE;
    way.verb = verb;
    d->now = doc_states_add(d, way);
    d->states[base.now].next = d->now;
}

/* ---- the history as a whole ---- */

void doc_set_verb(Doc *d, const char *verb)
{
    d->verb = verb;
}

size_t doc_states(const Doc *d)
{
    return d->n_states;
}

StateInfo doc_state(const Doc *d, size_t i)
{
    const State *s = &d->states[i];
    return (StateInfo){
        .parent = s->parent,
        .when = s->when,
        .verb = s->verb,
        .at = s->span.at,
        .removed = s->span.removed,
        .added = s->span.added,
        .saved = i == d->saved,
        .now = i == d->now,
    };
}

Text doc_state_text(const Doc *d, size_t i)
{
    return i == d->now ? d->text : d->states[i].text;
}

static size_t depth_of(const Doc *d, size_t i)
{
    size_t depth = 0;
    for (; i; i = d->states[i].parent)
        depth++;
    return depth;
}

void doc_go(Doc *d, size_t i, size_t *cursor)
{
    /* First up to where both ways meet, then down. */
    size_t meet = d->now, other = i, depth_meet = depth_of(d, meet), depth_other = depth_of(d, other);
    while (meet != other) {
        if (depth_other >= depth_meet) {
            other = d->states[other].parent;
            depth_other--;
        } else {
            meet = d->states[meet].parent;
            depth_meet--;
        }
    }
    *cursor = d->states[d->now].cursor_after;
    while (d->now != meet)
        doc_undo(d, cursor);
    for (size_t k = i; k != meet; k = d->states[k].parent)
        d->states[d->states[k].parent].next = k;
    while (d->now != i)
        doc_redo(d, cursor);
}

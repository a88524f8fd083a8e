#include "view/colours.h"

#include "base/array.h"
#include "base/mem.h"
#include "text/text_line.h"
#include "view/shown.h"
#include "view/template_signs.h"

#include <stdlib.h>
#include <string.h>
#include <xxhash.h>

/* All in bytes. */
enum {
    SPACING = 4096,      /* from one checkpoint to the next, about */
    PIECE = 512,         /* of a long line that is coloured at once, */
    AHEAD = 512,         /* with what comes after */
    BEHIND = 64,         /* and before it in view */
    AT_ONCE = 32 * 1024, /* that are coloured before something is shown */
    IN_A_STEP = 16 * 1024,
    GUESS_BACK = 8 * 1024, /* a guess begins so far before what is shown */
    WINDOW = BEHIND + PIECE + AHEAD,
    KNOWN = 512 /* lines */
};

/* What is open at a place: the start of a line, or where a piece of a long one begins. */
typedef struct Checkpoint {
    size_t at;
    ColourState state;
    bool in_line; /* not a line's start */
    bool unsure;  /* nobody knows whether it follows from the one before */
} Checkpoint;

/* A line that was coloured: what it and the state before it amount to, and the state after it. */
typedef struct Known {
    uint64_t mark;
    ColourState state;
} Known;

typedef struct Colours {
    const Kind *kind;
    unsigned long version; /* of the document that the checkpoints are of */
    Checkpoint *points;    /* by place; the first is the text's start */
    size_t n;
    Checkpoint last; /* where colours_state was asked last */
    bool alone;      /* each line by itself: no checkpoints are needed at line starts */
    Known known[KNOWN];
} Colours;

/* ---- checkpoints ---- */

/* The last one at or before a place. */
static size_t point_at(const Colours *c, size_t at)
{
    size_t low = 0, high = c->n;
    while (high - low > 1) {
        size_t middle = (low + high) / 2;
        if (c->points[middle].at <= at)
            low = middle;
        else
            high = middle;
    }
    return low;
}

static void insert_point(Colours *c, size_t i, Checkpoint p)
{
    c->points = array_room(c->points, c->n, sizeof *c->points);
    memmove(c->points + i + 1, c->points + i, (c->n - i) * sizeof *c->points);
    c->points[i] = p;
    c->n++;
}

static void remove_points(Colours *c, size_t from, size_t to)
{
    if (to <= from)
        return;
    memmove(c->points + from, c->points + to, (c->n - to) * sizeof *c->points);
    c->n -= to - from;
    if (from < c->n)
        c->points[from].unsure = true;
}

static void begin_again(Colours *c, const OpenFile *f)
{
    c->kind = f->kind;
    c->version = doc_version(f->doc);
    c->alone = colour_lines_alone(f->kind);
    c->n = 0;
    memset(c->known, 0, sizeof c->known);
    insert_point(c, 0, (Checkpoint){.at = 0, .state = COLOUR_START});
    c->last = c->points[0];
}

/* Checkpoints in what was replaced go, later ones move along; what follows the change is unsure. */
static void follow(Colours *c, DocChange s)
{
    size_t i = c->n, end = s.at + s.removed, keep;
    while (i > 1 && c->points[i - 1].at > end + (c->points[i - 1].in_line ? BEHIND : 0)) {
        c->points[i - 1].at += s.added - s.removed;
        i--;
    }
    /* One in a line saw what comes after it. */
    keep = i;
    while (keep > 1 && c->points[keep - 1].at + (c->points[keep - 1].in_line ? PIECE + AHEAD : 0) > s.at)
        keep--;
    remove_points(c, keep, i);
    if (keep < c->n && keep > 0)
        c->points[keep].unsure = true;
}

static Colours *colours_now(OpenFile *f)
{
    Colours *c = f->shown->colours;
    DocChange change;
    if (!c)
        c = f->shown->colours = mem_get(sizeof *c);
    if (c->kind != f->kind || !c->n)
        begin_again(c, f);
    if (c->version == doc_version(f->doc))
        return c;
    while (c->version != doc_version(f->doc) && doc_change_after(f->doc, c->version, &change)) {
        follow(c, change);
        c->version++;
    }
    if (c->version != doc_version(f->doc))
        begin_again(c, f);
    c->last = c->points[0];
    return c;
}

void colours_free(OpenFile *f)
{
    Colours *c = f->shown->colours;
    if (c)
        free(c->points);
    free(c);
    f->shown->colours = NULL;
}

/* ---- colouring ---- */

/* Where the roles of some bytes are wanted. */
typedef struct Wanted {
    size_t from, to;
    uint8_t *roles; /* NULL: nowhere */
} Wanted;

static void give(const Wanted *w, size_t at, const uint8_t *roles, size_t n)
{
    size_t from = at > w->from ? at : w->from, to = at + n < w->to ? at + n : w->to;
    if (w->roles && from < to)
        memcpy(w->roles + (from - w->from), roles + (from - at), to - from);
}

/* The bytes of a line that ends nearby, where they lie; false when they are not in one piece. */
static bool short_line(Text t, size_t at, const char **bytes, size_t *n, bool *newline)
{
    TextRun run = text_run(t, at);
    const char *end = memchr(run.at, '\n', run.len < PIECE + AHEAD ? run.len : PIECE + AHEAD);
    *bytes = run.at;
    *newline = end != NULL;
    *n = end ? (size_t)(end - run.at) : run.len;
    return end || (run.len < PIECE && at + run.len == text_len(t));
}

/* From a checkpoint at a line's start over that line. */
static void over_line(Colours *c, const char *bytes, size_t n, bool newline, Checkpoint *p, const Wanted *w)
{
    uint8_t roles[PIECE + AHEAD];
    size_t shown = newline && n && bytes[n - 1] == '\r' ? n - 1 : n;
    bool wanted = w->roles && p->at < w->to && p->at + n > w->from;
    /* So that the lines on the screen are not coloured again with each key. The state is no seed: short texts
     * with different seeds come to the same. */
    uint64_t both[] = {XXH3_64bits(bytes, n), (uint64_t)p->state * 2 + newline};
    uint64_t mark = XXH3_64bits(both, sizeof both);
    Known *known = &c->known[mark % KNOWN];
    if (wanted || known->mark != mark) {
        ColourLine line = {bytes, shown, 0, shown + 1, true, true};
        colour_line(c->kind, &p->state, &line, wanted ? roles : NULL);
        *known = (Known){mark, p->state};
    }
    p->state = known->state;
    if (wanted) {
        if (shown < n)
            roles[shown] = ROLE_PLAIN; /* the \r */
        give(w, p->at, roles, n);
    }
    p->at += n + newline;
    p->unsure = false;
}

/* From a checkpoint over one line, or a piece of a long one, to the next. */
static void go_on(Colours *c, Text t, Checkpoint *p, const Wanted *w)
{
    const char *where;
    size_t length;
    bool newline;
    if (!p->in_line && short_line(t, p->at, &where, &length, &newline)) {
        over_line(c, where, length, newline, p, w);
        return;
    }
    char bytes[WINDOW];
    uint8_t roles[WINDOW];
    size_t behind = p->in_line ? p->at < BEHIND ? p->at : BEHIND : 0, begin = p->at - behind;
    size_t n = text_read(t, begin, bytes, sizeof bytes);
    const char *end = memchr(bytes + behind, '\n', n - behind);
    bool ends = end || n < sizeof bytes;
    size_t len = end ? (size_t)(end - bytes) : n;
    ColourLine line = {.bytes = bytes, .n = len, .from = behind, .begins = !p->in_line, .ends = ends};
    if (ends && line.n > behind && bytes[line.n - 1] == '\r' && end)
        line.n--;
    line.until = ends ? line.n + 1 : behind + PIECE;
    bool wanted = w->roles && p->at < w->to && begin + n > w->from;
    size_t to = colour_line(c->kind, &p->state, &line, wanted ? roles : NULL);
    if (wanted) {
        if (line.n < len)
            roles[line.n] = ROLE_PLAIN;
        give(w, p->at, roles + behind, (ends ? len : to) - behind);
    }
    p->at = ends ? begin + len + (end ? 1 : 0) : begin + to;
    p->in_line = !ends;
    p->unsure = false;
}

/* Goes on from checkpoint i, which is where `p` is, to a place and keeps checkpoints on the way. Others that
 * it meets are found right, or made so. Stops after so many bytes; false then. */
static bool go_to(Colours *c, const OpenFile *f, size_t i, size_t to, size_t most, Checkpoint *p,
                  const Wanted *w)
{
    Text t = doc_text(f->doc);
    size_t begun = c->points[i].at, len = text_len(t);
    *p = c->points[i];
    while (p->at < to && p->at < len) {
        if (p->at - begun >= most)
            return false;
        go_on(c, t, p, w);
        size_t k = i + 1;
        while (k < c->n && c->points[k].at < p->at)
            k++;
        remove_points(c, i + 1, k);
        if (i + 1 < c->n && c->points[i + 1].at == p->at) {
            Checkpoint *met = &c->points[++i];
            bool same = met->state == p->state && met->in_line == p->in_line;
            *met = *p;
            if (!same && i + 1 < c->n)
                c->points[i + 1].unsure = true;
        } else if (p->at - c->points[i].at >= SPACING) {
            insert_point(c, ++i, *p);
        }
    }
    return true;
}

/* The checkpoint from which a place is reached within what may be coloured at once: a guess, if there is no
 * better one. */
static size_t point_near(Colours *c, const OpenFile *f, size_t at)
{
    Text t = doc_text(f->doc);
    size_t i = point_at(c, at);
    if (at - c->points[i].at <= AT_ONCE)
        return i;
    size_t guess = at - GUESS_BACK, line = text_line_start(t, text_line_of(t, guess));
    Checkpoint p = {.at = line, .state = colour_plain(c->kind), .unsure = true};
    if (guess - line > GUESS_BACK) { /* in the middle of a long line */
        p.at = guess;
        p.in_line = true;
    }
    if (c->alone && !p.in_line)
        p.unsure = false;
    insert_point(c, i + 1, p);
    return i + 1;
}

/* The first unsure checkpoint up to a place; 0: there is none. */
static size_t first_unsure(const Colours *c, size_t to)
{
    for (size_t i = 1; i < c->n && c->points[i].at <= to; i++)
        if (c->points[i].unsure)
            return i;
    return 0;
}

bool colours_begin(OpenFile *f, size_t from, size_t to)
{
    if (f->purpose == FOR_READING || colour_none(f->kind) || colour_gave_up(f->kind))
        return false;
    Colours *c = colours_now(f);
    Wanted none = {0};
    Checkpoint p;
    if (c->alone)
        return true;
    point_near(c, f, from);
    size_t i, done = 0;
    while (done < AT_ONCE && (i = first_unsure(c, to)) > 0) {
        size_t begun = c->points[i - 1].at;
        if (c->points[i].at - begun > AT_ONCE) /* that takes longer: see colours_step */
            break;
        go_to(c, f, i - 1, c->points[i].at, AT_ONCE, &p, &none);
        done += p.at - begun;
    }
    i = point_near(c, f, from);
    go_to(c, f, i, from, AT_ONCE * 2, &p, &none);
    i = point_at(c, from);
    if (p.at == from && !p.in_line && from - c->points[i].at > SPACING / 4)
        insert_point(c, ++i, p);
    c->last = c->points[i];
    return true;
}

ColourState colours_state(OpenFile *f, size_t line_from)
{
    Colours *c = colours_now(f);
    Wanted none = {0};
    if (c->alone)
        return line_from ? colour_plain(c->kind) : COLOUR_START;
    if (c->last.at > line_from || line_from - c->last.at > SPACING) {
        size_t near = point_near(c, f, line_from); /* it may move the points */
        c->last = c->points[near];
    }
    while (c->last.at < line_from && c->last.at < text_len(doc_text(f->doc)))
        go_on(c, doc_text(f->doc), &c->last, &none);
    return c->last.state;
}

static void find_roles(OpenFile *f, size_t line_from, size_t from, size_t to, uint8_t *roles)
{
    Colours *c = colours_now(f);
    Wanted wanted = {from, to, roles};
    memset(roles, ROLE_PLAIN, to - from);
    Checkpoint p;
    p = (Checkpoint){.at = line_from, .state = colours_state(f, line_from)};
    if (from - line_from > PIECE + AHEAD) { /* in a long line: from a checkpoint in it */
        size_t i = point_at(c, line_from);
        if (c->points[i].at != line_from)
            insert_point(c, i + 1, p);
        i = point_near(c, f, from);
        go_to(c, f, i, to, AT_ONCE * 2, &p, &wanted);
        return;
    }
    while (p.at < to && p.at < text_len(doc_text(f->doc)))
        go_on(c, doc_text(f->doc), &p, &wanted);
}

void colours_of(OpenFile *f, size_t line_from, size_t from, size_t to, uint8_t *roles)
{
    find_roles(f, line_from, from, to, roles);
    if (f->is_template)
        template_signs(doc_text(f->doc), line_from, from, to, roles);
}

void colours_between(OpenFile *f, size_t from, size_t to, uint8_t *roles)
{
    Text t = doc_text(f->doc);
    memset(roles, ROLE_PLAIN, to - from);
    if (!colours_begin(f, from, to))
        return;
    size_t line = text_line_of(t, from);
    for (size_t at = from; at < to; line++) {
        size_t start = text_line_start(t, line), next = text_line_start(t, line + 1);
        size_t end = next < to && next > at ? next : to;
        colours_of(f, start, at, end, roles + (at - from));
        at = end;
    }
}

const Kind *colours_kind(OpenFile *f, size_t line_from)
{
    return colours_begin(f, line_from, line_from) ? colour_kind(f->kind, colours_state(f, line_from))
                                                  : f->kind;
}

bool colours_unsure(const OpenFile *f, size_t to)
{
    const Colours *c = f->shown->colours;
    return c && c->kind == f->kind && !colour_gave_up(f->kind) && first_unsure(c, to) > 0;
}

bool colours_step(OpenFile *f, size_t to)
{
    if (!f->shown->colours || f->shown->colours->kind != f->kind || colour_gave_up(f->kind))
        return false;
    Colours *c = colours_now(f);
    Wanted none = {0};
    Checkpoint p;
    size_t i = first_unsure(c, to);
    if (i)
        go_to(c, f, i - 1, c->points[i].at, IN_A_STEP, &p, &none);
    return i > 0;
}

#include "kinds/colour.h"

#include "base/array.h"
#include "base/bytes.h"
#include "base/mem.h"
#include "kinds/parts.h"

#include <assert.h>
#include <stdlib.h>
#include <string.h>

enum {
    DEPTH_MOST = 24,         /* parts that are open in each other */
    NAMED_MOST = 500,        /* of them with an end of their own, as here-documents have */
    NODES_MOST = 20000,      /* states of a kind; no more parts are opened then */
    STEPS_OF_LINE = 1000000, /* shared out among its places, */
    STEPS_MOST = 200000,     /* and for one place so many at most, */
    STEPS_LEAST = 300,       /* and at least */
    STRIKES_MOST = 20,       /* matches that took more, after which the kind is not coloured */
    STILL_MOST = 16,         /* changes at one place without a byte in between */
    PENDING_MOST = 8         /* here-documents that begin in one line */
};

/* A state: a part that is open, and the state around it. */
typedef struct Node {
    ColourState around;
    ColourState first_in,
        next_beside; /* states within it, those around which is the same; 0: there is none */
    int depth;
    const Part *part;    /* NULL: the outermost */
    const Kind *kind;    /* whose set is looked through */
    const PartSet *set;  /* or NULL */
    PartCode *code;      /* shared between states of the same part unless `own_code` */
    PartCode *close;     /* of a part that holds another kind: looked for first */
    char *to;            /* its expression, groups put in; NULL: as the part says */
    bool made, own_code; /* the expressions are there, or cannot be made */
    Role role;
} Node;

/* The expressions of a part without groups are made once. */
typedef struct Shared {
    const Part *part;
    const PartSet *set;
    PartCode *code;
} Shared;

typedef struct Colourer {
    const Kind *kind;
    Node **nodes;
    size_t n;
    Shared *shared;
    size_t n_shared, n_named;
    unsigned strikes;
    pcre2_match_data *data;
    pcre2_match_context *limits;
} Colourer;

/* ---- states ---- */

static ColourState add_node(Colourer *c, Node node)
{
    c->nodes = array_room(c->nodes, c->n, sizeof *c->nodes);
    c->nodes[c->n] = mem_get(sizeof *c->nodes[0]);
    *c->nodes[c->n] = node;
    return (ColourState)c->n++;
}

static void forget(void *what)
{
    Colourer *c = what;
    for (size_t i = 0; i < c->n; i++) {
        Node *node = c->nodes[i];
        if (node->own_code)
            part_code_free(node->code);
        if (node->own_code || node->close)
            part_code_free(node->close);
        free(node->to);
        free(node);
    }
    for (size_t i = 0; i < c->n_shared; i++)
        part_code_free(c->shared[i].code);
    pcre2_match_data_free(c->data);
    pcre2_match_context_free(c->limits);
    free(c->nodes);
    free(c->shared);
    free(c);
}

static Colourer *colourer_of(const Kind *k)
{
    if (k->made[KIND_COLOURER].what)
        return k->made[KIND_COLOURER].what;
    const KindParts *p = parts_of(k);
    Colourer *c = mem_get(sizeof *c);
    c->kind = k;
    c->data = pcre2_match_data_create(PART_GROUPS + 1, NULL);
    c->limits = pcre2_match_context_create(NULL);
    add_node(c, (Node){.kind = k, .set = p->first ? p->first : p->common});
    if (p->first)
        add_node(c, (Node){.kind = k, .set = p->common});
    kind_keep(k, KIND_COLOURER, c, forget);
    return c;
}

ColourState colour_plain(const Kind *k)
{
    return parts_of(k)->first ? 1 : 0;
}

const Kind *colour_kind(const Kind *k, ColourState state)
{
    const Colourer *c = colourer_of(k);
    return state < c->n ? c->nodes[state]->kind : k;
}

bool colour_lines_alone(const Kind *k)
{
    return parts_of(k)->lines_alone;
}

bool colour_none(const Kind *k)
{
    const KindParts *p = parts_of(k);
    return !p->common->n && !p->common->n_words && !p->first;
}

bool colour_gave_up(const Kind *k)
{
    const Colourer *c = k->made[KIND_COLOURER].what;
    return c && c->strikes >= STRIKES_MOST;
}

static PartCode *shared_code(Colourer *c, const Node *node)
{
    for (size_t i = 0; i < c->n_shared; i++)
        if (c->shared[i].part == node->part && c->shared[i].set == node->set)
            return c->shared[i].code;
    PartCode *code = part_code_new(node->kind, node->set, node->part, node->part ? node->part->to : NULL);
    c->shared = array_room(c->shared, c->n_shared, sizeof *c->shared);
    c->shared[c->n_shared++] = (Shared){node->part, node->set, code};
    return code;
}

static bool holds(const Node *node)
{
    return node->part && (node->part->holds || node->part->holds_group);
}

/* Makes the expressions of a state when it is entered first. */
static Node *node_of(Colourer *c, ColourState s)
{
    Node *node = c->nodes[s];
    if (node->made)
        return node;
    node->made = true;
    const char *to = node->to ? node->to : node->part ? node->part->to : NULL;
    if (holds(node)) {
        Node bare = {.kind = node->kind, .set = node->set};
        node->close = to ? part_code_single(c->nodes[node->around]->kind, to) : NULL;
        node->code = shared_code(c, &bare);
    } else if (node->to) {
        node->own_code = true;
        node->code = part_code_new(node->kind, node->set, node->part, to);
    } else {
        node->code = shared_code(c, node);
    }
    return node;
}

/* What closes a part, with the groups of what opened it put in as they are written. */
static char *closing(const Part *p, const char *line, const PCRE2_SIZE *groups, uint32_t n_groups)
{
    Bytes out = {0};
    for (const char *at = p->to; *at; at++) {
        unsigned g = at[0] == '%' && at[1] >= '1' && at[1] <= '8' ? (unsigned)(at[1] - '0') : 0;
        if (!g) {
            bytes_add(&out, at, 1);
            continue;
        }
        at++;
        if (g < n_groups && groups[2 * g] != PCRE2_UNSET) {
            size_t n = groups[2 * g + 1] - groups[2 * g];
            for (size_t i = 0; i < n && i < 200; i++) {
                char byte = line[groups[2 * g] + i];
                bytes_printf(&out, byte ? "\\x%02x" : "\\x00", (unsigned char)byte);
            }
        }
    }
    char *to = mem_string(bytes_str(&out));
    bytes_free(&out);
    return to;
}

static bool same_to(const char *a, const char *b)
{
    return a && b ? strcmp(a, b) == 0 : a == b;
}

/* The state in which that part is open; the same one if that cannot be. */
static ColourState opened(Colourer *c, ColourState around, const Part *p, const Kind *held, char *to)
{
    const Node *out = c->nodes[around];
    Node node = {.around = around,
                 .depth = out->depth + 1,
                 .part = p,
                 .kind = out->kind,
                 .set = p->inside,
                 .to = to,
                 .role = p->body};
    if (held) {
        node.role = ROLE_PLAIN;
        node.kind = held;
        node.set = parts_of(held)->common;
    }
    for (ColourState i = out->first_in; i; i = c->nodes[i]->next_beside) {
        const Node *n = c->nodes[i];
        if (n->part == p && n->kind == node.kind && same_to(n->to, to)) {
            free(to);
            return i;
        }
    }
    if (out->depth >= DEPTH_MOST || c->n >= NODES_MOST || (to && c->n_named >= NAMED_MOST)) {
        free(to);
        return around;
    }
    c->n_named += to != NULL;
    node.next_beside = out->first_in;
    return c->nodes[around]->first_in = add_node(c, node);
}

/* ---- a line ---- */

/* A part whose end comes first, whatever is open in it. */
typedef struct Limit {
    ColourState holder; /* the state of that part; `any` false: none */
    size_t from, to;    /* where what ends it stands */
    bool any;
} Limit;

typedef struct Pending {
    const Part *part;
    const Kind *held;
    char *to;
} Pending;

typedef struct Run {
    Colourer *c;
    const ColourLine *line;
    uint8_t *roles;
    ColourState state;
    size_t at;
    size_t opened_at[DEPTH_MOST + 2],
        opened_to[DEPTH_MOST + 2]; /* by depth: where in this line; to 0: before */
    Limit limit;
    Pending pending[PENDING_MOST];
    int n_pending;
    int still; /* changes since the place moved */
} Run;

static void paint(const Run *r, size_t from, size_t to, Role role)
{
    if (r->roles && to > from)
        memset(r->roles + from, (int)role, to - from);
}

/* Finds the next place of an expression from `at` before `end`. */
static bool match(Run *r, PartCode *code, size_t at, size_t end)
{
    if (!code)
        return false;
    part_code_use(code, end - at);
    uint32_t options = (r->line->begins ? 0 : PCRE2_NOTBOL) | (r->line->ends ? 0 : PCRE2_NOTEOL);
    /* The first one does not check again what is known to be right. */
    int (*run)(const pcre2_code *, PCRE2_SPTR, PCRE2_SIZE, PCRE2_SIZE, uint32_t, pcre2_match_data *,
               pcre2_match_context *) = code->fast ? pcre2_jit_match : pcre2_match;
    int n = run(code->code, (PCRE2_SPTR)r->line->bytes, end, at, options, r->c->data, r->c->limits);
    if (n < 0 && n != PCRE2_ERROR_NOMATCH)
        r->c->strikes++;
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    return n >= 0 && g[0] >= at && g[0] <= g[1];
}

/* Looks for the ends of all parts that hold another kind, from the outermost in. */
static void find_limit(Run *r)
{
    ColourState chain[DEPTH_MOST + 2];
    int n = 0;
    r->limit = (Limit){.from = r->line->n};
    for (ColourState s = r->state; r->c->nodes[s]->depth > 0; s = r->c->nodes[s]->around)
        if (holds(node_of(r->c, s)))
            chain[n++] = s;
    while (n-- > 0) {
        const Node *node = r->c->nodes[chain[n]];
        size_t from = r->at;
        if (node->part->one_line && !node->close)
            continue;
        if (!match(r, node->close, from, r->limit.from))
            continue;
        const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
        if (g[0] < r->limit.from || !r->limit.any)
            r->limit = (Limit){chain[n], g[0], g[1], true};
    }
}

static void moved(Run *r, size_t to)
{
    r->still = to > r->at ? 0 : r->still + 1;
    r->at = to;
}

static void enter(Run *r, const Part *p, const Kind *held, char *to, size_t from, size_t end)
{
    ColourState s = opened(r->c, r->state, p, held, to);
    if (s == r->state)
        return;
    r->state = s;
    int depth = r->c->nodes[s]->depth;
    r->opened_at[depth] = from;
    r->opened_to[depth] = end;
    if (held)
        find_limit(r);
}

static void leave(Run *r, ColourState s)
{
    bool held = false;
    for (ColourState i = r->state;
         r->c->nodes[i]->depth >= r->c->nodes[s]->depth && r->c->nodes[i]->depth > 0;
         i = r->c->nodes[i]->around) {
        held = held || holds(r->c->nodes[i]);
        r->opened_to[r->c->nodes[i]->depth] = 0;
    }
    r->state = r->c->nodes[s]->around;
    if (held)
        find_limit(r);
}

static void open_part(Run *r, const Part *p)
{
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    uint32_t n = pcre2_get_ovector_count(r->c->data);
    size_t from = g[0], end = g[1];
    char *to = p->takes_groups ? closing(p, r->line->bytes, g, n) : NULL;
    const Kind *held = NULL;
    int group = p->holds_group;
    if (p->holds)
        held = kind_named(p->holds);
    else if (group && g[2 * group] != PCRE2_UNSET)
        held = kind_called(r->line->bytes + g[2 * group], g[2 * group + 1] - g[2 * group]);
    moved(r, end);
    if (!p->next_line)
        enter(r, p, held, to, from, end);
    else if (r->n_pending < PENDING_MOST)
        r->pending[r->n_pending++] = (Pending){p, held, to};
    else
        free(to);
}

/* The bytes of a match, each group with the role it has by itself. */
static void paint_match(const Run *r, const Part *p)
{
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    Role around = r->c->nodes[r->state]->role;
    paint(r, g[0], g[1], p->n_groups ? around : p->as);
    for (int i = 1; i <= p->n_groups; i++)
        if (g[2 * i] != PCRE2_UNSET && g[2 * i + 1] > g[2 * i])
            paint(r, g[2 * i], g[2 * i + 1], p->groups[i] == ROLE_PLAIN ? around : p->groups[i]);
}

/* Of what closes a part. */
static Role sign_role(const Node *node)
{
    return node->part->n_groups ? node->role : node->part->as;
}

static void take_match(Run *r, int which, const Node *node)
{
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    size_t from = g[0], to = g[1];
    if (which >= ALTERNATIVE_CLOSE) {
        paint(r, from, to, which == ALTERNATIVE_CLOSE ? sign_role(node) : node->role);
        moved(r, to);
        if (which == ALTERNATIVE_CLOSE)
            leave(r, r->state);
        return;
    }
    const Part *p = &node->set->parts[which];
    paint_match(r, p);
    if (p->opens)
        open_part(r, p);
    else
        moved(r, to);
}

/* The alternative that matched; -1: an expression gave a mark of its own. */
static int which_matched(const Run *r, const Node *node)
{
    int number = 0, parts = node->set ? (int)node->set->n : 0;
    for (PCRE2_SPTR mark = pcre2_get_mark(r->c->data); mark && *mark; mark++) {
        if (*mark < '0' || *mark > '9' || number > ALTERNATIVE_WORD)
            return -1;
        number = number * 10 + (*mark - '0');
    }
    return number < parts || (number >= ALTERNATIVE_CLOSE && number <= ALTERNATIVE_WORD) ? number : -1;
}

/* A word of the kind's, or what else it may be. */
static void take_word(Run *r, const Node *node, PartCode *code, size_t end)
{
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    size_t from = g[0], to = g[1];
    Role role = !node->set ? ROLE_PLAIN
                           : part_word(node->set, r->line->bytes + from, to - from, node->kind->any_case);
    if (role != ROLE_PLAIN || !match(r, code->later, from, end)) {
        paint(r, from, to, role == ROLE_PLAIN ? node->role : role);
        moved(r, to > from ? to : to + 1);
        return;
    }
    int which = which_matched(r, node);
    if (which < 0)
        moved(r, from + 1);
    else
        take_match(r, which, node);
}

/* A part that ends here as one around it does. */
static void take_limit(Run *r)
{
    Limit l = r->limit;
    paint(r, r->at, l.from, r->c->nodes[r->state]->role);
    paint(r, l.from, l.to, sign_role(r->c->nodes[l.holder]));
    moved(r, l.to);
    leave(r, l.holder);
}

/* One step: to the next thing that is recognised. False: there is no more in this line. */
static bool step(Run *r)
{
    size_t end = r->limit.from, n = r->line->n;
    const Node *node = node_of(r->c, r->state);
    if (r->still > STILL_MOST) { /* nothing moves here: over this byte */
        paint(r, r->at, r->at + 1, node->role);
        moved(r, r->at + 1);
    }
    if (r->at >= r->line->until || r->at > n)
        return false;
    if (r->at > end) { /* over what was found before */
        find_limit(r);
        end = r->limit.from;
    }
    if (!match(r, node->code, r->at, end)) {
        if (r->limit.any) {
            take_limit(r);
            return true;
        }
        return false;
    }
    const PCRE2_SIZE *g = pcre2_get_ovector_pointer(r->c->data);
    if (g[0] >= r->line->until) {
        paint(r, r->at, r->line->until, node->role);
        moved(r, r->line->until);
        return false;
    }
    paint(r, r->at, g[0], node->role);
    size_t before = r->at;
    r->at = g[0];
    int which = which_matched(r, node);
    if (which < 0)
        moved(r, r->at + 1);
    else if (which == ALTERNATIVE_WORD)
        take_word(r, node, node->code, end);
    else
        take_match(r, which, node);
    if (r->at == g[0] && r->at > before)
        r->still = 1;
    return r->at <= n;
}

/* Does what ends with its line go on in the next one? */
static bool goes_on(const Run *r, const Part *p)
{
    return p->goes_on && r->line->n && r->line->bytes[r->line->n - 1] == p->goes_on;
}

/* What ends with the line ends, with all in it; what begins with the next one begins. */
static void end_line(Run *r)
{
    ColourState outermost = 0;
    bool any = false;
    for (ColourState s = r->state; r->c->nodes[s]->depth > 0; s = r->c->nodes[s]->around) {
        const Part *p = r->c->nodes[s]->part;
        int depth = r->c->nodes[s]->depth;
        if (!p->one_line || goes_on(r, p))
            continue;
        outermost = s;
        any = true;
        if (p->to && r->opened_to[depth])
            paint(r, r->opened_at[depth], r->opened_to[depth], ROLE_WRONG);
    }
    if (any)
        r->state = r->c->nodes[outermost]->around;
    if (r->state == 0)
        r->state = colour_plain(r->c->kind);
    while (r->n_pending > 0) {
        Pending *p = &r->pending[--r->n_pending];
        r->state = opened(r->c, r->state, p->part, p->held, p->to);
    }
}

/* A match may begin at each place of a line, and at each it may take as many steps: the longer the line, the
 * fewer. */
static void bound_steps(Colourer *c, size_t n)
{
    size_t steps = STEPS_OF_LINE / (n + 1);
    steps = steps > STEPS_MOST ? STEPS_MOST : steps < STEPS_LEAST ? STEPS_LEAST : steps;
    pcre2_set_match_limit(c->limits, (uint32_t)steps);
}

size_t colour_line(const Kind *k, ColourState *state, const ColourLine *line, uint8_t *roles)
{
    Colourer *c = colourer_of(k);
    Run r = {.c = c, .line = line, .roles = roles, .state = *state, .at = line->from};
    assert(line->from <= line->n && *state < c->n);
    if (c->strikes >= STRIKES_MOST || colour_none(k)) {
        paint(&r, line->from, line->n, ROLE_PLAIN);
        return line->n;
    }
    bound_steps(c, line->n);
    find_limit(&r);
    while (step(&r))
        continue;
    if (r.at < line->n && r.at < line->until) {
        size_t to = line->until < line->n ? line->until : line->n;
        paint(&r, r.at, to, c->nodes[r.state]->role);
        r.at = to;
    }
    if (r.at >= line->n && line->ends)
        end_line(&r);
    while (r.n_pending > 0)
        free(r.pending[--r.n_pending].to);
    *state = r.state;
    return r.at < line->n ? r.at : line->n;
}

#include "commands/tools/spelling.h"

#include "base/array.h"
#include "base/utf8.h"
#include "base/mem.h"
#include "base/side_thread.h"
#include "base/system.h"
#include "base/words.h"
#include "edit/move.h"
#include "files/speller.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "text/text_line.h"
#include "ui/command.h"
#include "view/colours.h"

#include <poll.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    SLICE = 12,            /* ms in which words are gathered before keys are heard again */
    LINE_MOST = 16 * 1024, /* bytes of a line that are looked at */
    WORD_MOST = 100,       /* bytes of a word; what is longer is none */
    WORDS_MOST = 1000000,  /* of a text */
    SUGGESTED = 3,         /* words for one that is not known */
    SUGGESTING = 800,      /* ms after which none are looked for any more */
    LOOK = 100             /* ms between looks at the thread */
};

static const Check spelling = {.name = "spelling"};

typedef struct Use {
    char *word;
    size_t from; /* bytes of the text */
    bool unknown;
    char *perhaps; /* what may be meant; of the first use of a word only, NULL: not known */
} Use;

/* Gathering the words of a text, in steps; then a thread looks them up. */
typedef struct Gathering {
    Editor *ed;
    Task task;
    FileId file;
    Text text;
    unsigned long version;
    size_t at;  /* so far they are gathered */
    bool ended; /* all are */
    Use *uses;
    size_t n;
    /* the thread's: */
    SideThread *thread;
    char *dictionaries, *locale;
    atomic_bool stop;
    bool called_off; /* it ends as soon as the thread does */
    bool ok;
    Err why;
    Bytes names;
} Gathering;

static void free_gathering(Gathering *g)
{
    tasks_remove(&g->ed->session->tasks, &g->task);
    g->ed->spelling = NULL;
    atomic_store(&g->stop, true);
    if (g->thread)
        side_thread_end(g->thread);
    for (size_t i = 0; i < g->n; i++) {
        free(g->uses[i].word);
        free(g->uses[i].perhaps);
    }
    free(g->uses);
    free(g->dictionaries);
    free(g->locale);
    bytes_free(&g->names);
    text_drop(&g->text);
    free(g);
}

void spelling_end(Editor *ed)
{
    if (ed->spelling)
        free_gathering(ed->spelling);
}

/* ---- the words ---- */

/* What is written for people: in code, comments; in prose all but what is quoted or a comment. */
static bool for_people(const Kind *k, uint8_t role)
{
    if (!k->prose)
        return role == ROLE_COMMENT;
    return role != ROLE_COMMENT && role != ROLE_QUOTED && role != ROLE_VARIABLE && role != ROLE_COMMAND &&
           role != ROLE_NUMBER && role != ROLE_VALUE;
}

/* Signs that make of letters beside them a path, an address, a name of a program. */
static bool joins(char c)
{
    return strchr("/\\@_=+~$%&#<>|*^`0123456789", c) && c;
}

/* A word with a capital in it, or of capitals only, is a name or an abbreviation. */
static bool is_name(const char *word, size_t n)
{
    int32_t code;
    for (size_t i = utf8_decode(word, n, &code); i < n;) {
        i += utf8_decode(word + i, n - i, &code);
        if (code > 0 && utf8_is_capital(code))
            return true;
    }
    return false;
}

static bool is_letter(const char *s, size_t n, size_t *bytes)
{
    int32_t code;
    *bytes = utf8_decode(s, n, &code);
    return code > 0 && utf8_is_letter(code);
}

/* An apostrophe of both sorts; its length, 0: there is none. */
static size_t apostrophe(const char *s, size_t n)
{
    return n && *s == '\'' ? 1 : n >= 3 && memcmp(s, "’", 3) == 0 ? 3 : 0;
}

/* The word that begins at s. */
static size_t word_length(const char *s, size_t n)
{
    size_t len = 0, bytes, sign;
    while (len < n && is_letter(s + len, n - len, &bytes)) {
        len += bytes;
        sign = apostrophe(s + len, n - len);
        if (sign && len + sign < n && is_letter(s + len + sign, n - len - sign, &bytes))
            len += sign;
    }
    return len;
}

/* A dot between letters, as in a host's or a file's name. */
static bool dotted(const char *line, size_t n, size_t from, size_t to)
{
    size_t bytes;
    return (to + 1 < n && strchr(".:", line[to]) && is_letter(line + to + 1, n - to - 1, &bytes)) ||
           (from > 1 && strchr(".:-", line[from - 1]) && line[from - 2] != ' ' && line[from - 1] != '-') ||
           (from > 1 && line[from - 1] == '-' && strchr(" -", line[from - 2])); /* an option */
}

static void add_words(Gathering *g, const Kind *k, size_t line_from, const char *line, size_t n,
                      const uint8_t *roles)
{
    size_t bytes;
    for (size_t at = 0; at < n && g->n < WORDS_MOST;) {
        size_t len = word_length(line + at, n - at);
        if (!len) {
            is_letter(line + at, n - at, &bytes);
            at += bytes;
            continue;
        }
        size_t to = at + len;
        bool plain = len > 1 && len < WORD_MOST && for_people(k, roles[at]) && !is_name(line + at, len) &&
                     !(at && joins(line[at - 1])) && !(to < n && (joins(line[to]) || line[to] == '(')) &&
                     !dotted(line, n, at, to);
        if (plain) {
            g->uses = array_room(g->uses, g->n, sizeof *g->uses);
            g->uses[g->n++] = (Use){.word = mem_string_n(line + at, len), .from = line_from + at};
        }
        at = to;
    }
}

/* The words of the next line, or a step towards knowing its colours. */
static void gather_some(Gathering *g, OpenFile *f)
{
    char line[LINE_MOST];
    uint8_t roles[LINE_MOST];
    size_t end = move_line_end(g->text, g->at), n = end - g->at < LINE_MOST ? end - g->at : LINE_MOST;
    if (colours_begin(f, g->at, end) && colours_unsure(f, end)) {
        colours_step(f, end);
        return;
    }
    memset(roles, ROLE_PLAIN, n);
    text_read(g->text, g->at, line, n);
    colours_between(f, g->at, g->at + n, roles);
    add_words(g, colours_kind(f, g->at), g->at, line, n, roles);
    g->ended = end == text_len(g->text) || g->n == WORDS_MOST;
    g->at = text_line_start(g->text, text_line_of(g->text, g->at) + 1);
}

/* ---- on the thread ---- */

static int by_word(const void *a, const void *b)
{
    const Use *x = *(const Use *const *)a, *y = *(const Use *const *)b;
    int c = strcmp(x->word, y->word);
    return c ? c : (x->from > y->from) - (x->from < y->from);
}

/* The typewriter's apostrophe, which dictionaries have. */
static void plain_word(const char *word, char out[WORD_MOST + 1])
{
    size_t n = 0;
    for (const char *p = word; *p && n < WORD_MOST; p++) {
        bool typed = apostrophe(p, strlen(p)) == 3;
        out[n++] = typed ? '\'' : *p;
        p += typed ? 2 : 0;
    }
    out[n] = 0;
}

static void look_up(void *ctx)
{
    Gathering *g = ctx;
    Speller *s = speller_new(g->dictionaries, g->locale, &g->why);
    Use **all = mem_get((g->n + 1) * sizeof *all);
    uint64_t until = system_now_ms() + SUGGESTING;
    for (size_t i = 0; i < g->n; i++)
        all[i] = &g->uses[i];
    if (g->n)
        qsort(all, g->n, sizeof *all, by_word);
    for (size_t i = 0; s && i < g->n && !atomic_load(&g->stop); i++) {
        char word[WORD_MOST + 1];
        if (i && strcmp(all[i]->word, all[i - 1]->word) == 0) {
            all[i]->unknown = all[i - 1]->unknown;
            continue;
        }
        plain_word(all[i]->word, word);
        all[i]->unknown = !speller_knows(s, word);
        if (!all[i]->unknown || system_now_ms() > until)
            continue;
        Bytes perhaps = {0};
        speller_suggest(s, word, SUGGESTED, &perhaps);
        all[i]->perhaps = perhaps.at;
    }
    if (s)
        bytes_add_str(&g->names, speller_names(s));
    g->ok = s != NULL;
    speller_free(s);
    free(all);
}

/* ---- telling ---- */

static void add_problem(const Gathering *g, const Use *u, Problems *found)
{
    const char *perhaps = NULL; /* that of the word's first use */
    for (const Use *first = g->uses; !perhaps && first <= u; first++)
        if (first->unknown && first->perhaps && strcmp(first->word, u->word) == 0)
            perhaps = first->perhaps;
    size_t line = text_line_of(g->text, u->from);
    problems_hint(found, line + 1, u->from - text_line_start(g->text, line) + 1,
                  "“%s” is in no dictionary (%s)%s%s", u->word, g->names.at, perhaps ? "; perhaps " : "",
                  perhaps ? perhaps : "");
}

static void conclude(Gathering *g)
{
    Editor *ed = g->ed;
    OpenFile *f = session_file(ed->session, g->file);
    Problems found = {.checker = spelling.name};
    size_t unknown = 0;
    for (size_t i = 0; g->ok && i < g->n; i++) {
        unknown += g->uses[i].unknown;
        if (g->uses[i].unknown && found.n < PROBLEMS_MOST)
            add_problem(g, &g->uses[i], &found);
    }
    if (!g->ok) {
        warn(ed, "Spelling was not checked: %s", g->why.text);
    } else if (!f || doc_version(f->doc) != g->version) {
        warn(ed, "The text was changed while its words were looked up; {check-spelling} begins again");
    } else {
        checking_put(ed->session, f, &spelling, &found);
        if (unknown)
            say(ed, "%zu of %s %s in no dictionary (%s)", unknown, AMOUNT(g->n, "word"),
                unknown == 1 ? "is" : "are", bytes_str(&g->names));
        else
            say(ed, "All %s are in a dictionary (%s)", AMOUNT(g->n, "word"), bytes_str(&g->names));
    }
    problems_free(&found);
    free_gathering(g);
}

static void begin_looking_up(Gathering *g)
{
    g->thread = side_thread_begin(look_up, g);
    if (g->thread)
        return;
    warn(g->ed, "Spelling was not checked: no thread could be started");
    free_gathering(g);
}

static void poll_gathering(void *ctx)
{
    Gathering *g = ctx;
    OpenFile *f = session_file(g->ed->session, g->file);
    uint64_t until = system_now_ms() + SLICE;
    if (g->thread) {
        if (side_thread_ended(g->thread) && g->called_off)
            free_gathering(g);
        else if (side_thread_ended(g->thread))
            conclude(g);
        return;
    }
    if (!f || doc_version(f->doc) != g->version) {
        say(g->ed, "The text was changed while its words were gathered; {check-spelling} begins again");
        free_gathering(g);
        return;
    }
    while (!g->ended && system_now_ms() < until)
        gather_some(g, f);
    if (g->ended)
        begin_looking_up(g);
}

static int wait_gathering(const void *ctx)
{
    return ((const Gathering *)ctx)->thread ? LOOK : 0;
}

static size_t fds_of_gathering(const void *ctx, struct pollfd *out)
{
    const Gathering *g = ctx;
    if (!g->thread)
        return 0;
    *out = (struct pollfd){.fd = side_thread_fd(g->thread), .events = POLLIN};
    return 1;
}

static void cancel_gathering(void *ctx)
{
    Gathering *g = ctx;
    say(g->ed, "Spelling was not checked");
    g->called_off = true;
    atomic_store(&g->stop, true);
    if (!g->thread)
        free_gathering(g);
}

static void words_of_gathering(const void *ctx, char out[TASK_WORDS_MAX])
{
    snprintf(out, TASK_WORDS_MAX, ((const Gathering *)ctx)->called_off ? "" : "Looking up the words");
}

static const TaskKind gathering_task = {.poll = poll_gathering,
                                        .wait = wait_gathering,
                                        .fds = fds_of_gathering,
                                        .cancel = cancel_gathering,
                                        .words = words_of_gathering};

static const char *locale_of_messages(void)
{
    static const char *const names[] = {"LC_ALL", "LC_MESSAGES", "LANG"};
    for (size_t i = 0; i < sizeof names / sizeof *names; i++) {
        const char *value = getenv(names[i]);
        if (value && *value)
            return value;
    }
    return "";
}

static void run_spelling(Editor *ed, const Args *args)
{
    OpenFile *f = ed->panes.view->file;
    (void)args;
    if (ed->spelling) {
        say(ed, "Words are being looked up already");
        return;
    }
    if (checking_drop(f, &spelling)) {
        say(ed, "Unknown words are not marked any more");
        return;
    }
    Gathering *g = ed->spelling = mem_get(sizeof *g);
    *g = (Gathering){.ed = ed,
                     .file = f->id,
                     .text = text_keep(doc_text(f->doc)),
                     .version = doc_version(f->doc),
                     .dictionaries = mem_string(ed->config.settings.dictionaries),
                     .locale = mem_string(locale_of_messages())};
    tasks_add(&ed->session->tasks, &g->task, &gathering_task, g);
}

static const Command cmd_check_spelling = {
    .name = "check-spelling",
    .label = "Check spelling",
    .letter = 'j',
    .help = "Mark words that no dictionary of this machine knows, in comments, texts and commit messages; "
            "again: unmark",
    .more = "The setting dictionaries names them; without it, the one for the language of your locale is "
            "asked. Names, "
            "paths, options and what is quoted are left out.",
    .words = "typo dictionary orthography spell misspelt",
    .flags = CMD_FILE,
    .run = run_spelling,
};

const Command *const spelling_commands[] = {&cmd_check_spelling, NULL};

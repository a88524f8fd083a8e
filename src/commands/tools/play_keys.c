#include "commands/tools/play_keys.h"

#include "base/mem.h"
#include "commands/tools/playing.h"
#include "commands/tools/recording.h"
#include "ui/command.h"
#include "ui/prompt.h"
#include "ui/question.h"

#include <stdlib.h>
#include <string.h>

enum { COUNT_MOST = 99999 /* times that can be asked for */ };

/* The recording of that name (of n bytes, 0: the last one), or NULL; that is said. */
static const Recorded *find(Editor *ed, const char *name, size_t n, char **kept)
{
    *kept = n ? mem_string_n(name, n) : NULL;
    const Recorded *r = recording_find(ed, *kept);
    if (!r) {
        free(*kept);
        *kept = NULL;
    }
    return r;
}

static void play(Editor *ed, const char *name, size_t n, PlayHow how, unsigned times)
{
    char *kept;
    const Recorded *r = find(ed, name, n, &kept);
    if (r)
        playing_start(ed, r, kept, how, times);
    free(kept);
}

static void run_play(Editor *ed, const Args *args)
{
    play(ed, args->text, strlen(args->text), PLAY_TIMES, args->count);
}

static const Command cmd_play_keys = {
    .name = "play-keys",
    .label = "Play keys",
    .letter = 'p',
    .keys = "F7",
    .help = "Press the recorded keys again; a count plays them that often",
    .words = "repeat replay run",
    .more = "One undo takes all of it back. It stops when a step cannot be done: something is not found, a "
            "question comes that did not come before. Without a name the keys that were recorded last are "
            "played.",
    .args = "NAME",
    .hint = "Play keys",
    .run = run_play,
};

static void count_given(Editor *ed, const char *answer, void *ctx)
{
    (void)ctx;
    char *end;
    unsigned long n = strtoul(answer, &end, 10);
    if (*answer < '0' || *answer > '9' || *end || n == 0 || n > COUNT_MOST)
        warn(ed, "“%s” is no count; a number from 1 to %d is", answer, COUNT_MOST);
    else
        play(ed, NULL, 0, PLAY_TIMES, (unsigned)n);
}

static void how_chosen(Editor *ed, char letter, void *ctx)
{
    (void)ctx;
    PromptSpec p = {.label = "How often", .done = count_given};
    if (letter == 'n')
        prompt_ask(ed, &p);
    else if (letter == 'w')
        play(ed, NULL, 0, PLAY_WHILE_IT_WORKS, 0);
    else if (letter == 'l')
        play(ed, NULL, 0, PLAY_MARKED_LINES, 0);
}

static void offer_many(const char *args, Offers *out)
{
    offers_add_words(out, "while-it-works|marked-lines", args);
}

/* COUNT, while-it-works or marked-lines, and perhaps a name. */
static void play_as_told(Editor *ed, const char *line)
{
    size_t n = strcspn(line, " ");
    const char *name = line + n + strspn(line + n, " ");
    char *end;
    unsigned long count = strtoul(line, &end, 10);
    if (n == 14 && strncmp(line, "while-it-works", n) == 0)
        play(ed, name, strlen(name), PLAY_WHILE_IT_WORKS, 0);
    else if (n == 12 && strncmp(line, "marked-lines", n) == 0)
        play(ed, name, strlen(name), PLAY_MARKED_LINES, 0);
    else if (end == line + n && *line >= '0' && *line <= '9' && count > 0 && count <= COUNT_MOST)
        play(ed, name, strlen(name), PLAY_TIMES, (unsigned)count);
    else
        warn(ed, "How often? A count up to %d, while-it-works, or marked-lines", COUNT_MOST);
}

static void run_play_many(Editor *ed, const Args *args)
{
    QuestionSpec q = {
        .answers = {{'n', "A number of times…"}, {'w', "As often as it works"}, {'l', "On each marked line"}},
        .stay = "Not at all",
        .done = how_chosen,
    };
    if (*args->text)
        play_as_told(ed, args->text);
    else if (args->counted)
        play(ed, NULL, 0, PLAY_TIMES, args->count);
    else if (recording_find(ed, NULL))
        question_ask(ed, &q, "Play the recorded keys:");
}

static const Command cmd_play_keys_many = {
    .name = "play-keys-many",
    .label = "Play keys many times…",
    .letter = 'm',
    .keys = "Shift+F8",
    .help = "Play the recorded keys so many times, as often as it works, or on each marked line",
    .words = "repeat replay loop all",
    .more = "As often as it works: until a search finds nothing more, the text ends, or nothing changes. One "
            "undo takes all of it back.",
    .args = "COUNT|while-it-works|marked-lines [NAME]",
    .offer = offer_many,
    .run = run_play_many,
};

const Command *const play_keys_commands[] = {&cmd_play_keys, &cmd_play_keys_many, NULL};

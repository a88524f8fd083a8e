#include "screen/ground.h"

#include "base/system.h"
#include "screen/terminal.h"
#include "kept/store.h"
#include "session/session_memory.h"

#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum {
    SOON = 100,   /* ms in which an answer changes the picture */
    ON_WAY = 150, /* ms in which one may still come after keys that were typed ahead */
    LATEST = 5000 /* ms after which none is an answer to us */
};

typedef enum Light { UNKNOWN, BLACK, DARK, LIGHT, WHITE } Light;

static const char *const names_of_light[] = {"", "black", "dark", "light", "white"};

static struct {
    bool looked, asked, answered;
    Light light; /* as it was the last time, or as the terminal says */
    uint64_t since;
} ground;

/* What the answers of terminals of this sort are kept under. */
static void name_of_terminal(char *out, size_t n)
{
    const char *name = getenv("TERM"), *program = getenv("TERM_PROGRAM");
    snprintf(out, n, "ground of %.60s %.60s%s", name ? name : "", program ? program : "",
             getenv("TMUX") ? " in tmux" : "");
}

static void take_last(const char *answer, void *ctx)
{
    (void)ctx;
    for (int i = BLACK; i <= WHITE; i++)
        if (strcmp(answer, names_of_light[i]) == 0)
            ground.light = (Light)i;
}

static bool may_remember(const Session *s)
{
    return s->rules.remember_places && !s->rules.plain && !s->rules.batch;
}

/* Two or three numbers of colours, the ground last. */
static Light by_environment(void)
{
    const char *says = getenv("COLORFGBG"), *last = says ? strrchr(says, ';') : NULL;
    if (!last)
        return UNKNOWN;
    return strcmp(last, ";15") == 0 || strcmp(last, ";7") == 0 ? WHITE : BLACK;
}

static void look_up_last(const Editor *ed)
{
    char name[160];
    ground.looked = true;
    ground.light = by_environment();
    Store *store = ground.light == UNKNOWN && may_remember(ed->session) ? session_store(ed->session) : NULL;
    name_of_terminal(name, sizeof name);
    if (store)
        store_each(store, name, 1, take_last, NULL);
}

Ground ground_now(Editor *ed)
{
    enum { AUTO, SAID_BLACK, SAID_WHITE };
    if (ed->config.settings.ground != AUTO)
        return (Ground){ed->config.settings.ground == SAID_WHITE, true};
    if (!ground.looked)
        look_up_last(ed);
    return (Ground){ground.light >= LIGHT, ground.light == BLACK || ground.light == WHITE};
}

void ground_ask(const Editor *ed)
{
    static const char question[] = "\033]11;?\033\\";
    if (ground.asked || ed->config.settings.ground != 0 || !terminal_answers())
        return;
    ground.asked = true;
    ground.since = system_now_ms();
    terminal_raw(question, sizeof question - 1);
}

/* By its relative luminance (WCAG 2, roughly): from where dark letters are easier to read on it than light
 * ones, and how near it is to black or white. */
static Light light_of(unsigned colour)
{
    double red = colour >> 16 & 0xff, green = colour >> 8 & 0xff, blue = colour & 0xff;
    double light = (0.2126 * red * red + 0.7152 * green * green + 0.0722 * blue * blue) / (255 * 255);
    return light > 0.88 ? WHITE : light > 0.18 ? LIGHT : light > 0.016 ? DARK : BLACK;
}

void ground_answered(Editor *ed, unsigned colour)
{
    uint64_t after = system_now_ms() - ground.since;
    Light light = light_of(colour);
    if (!ground.asked || ground.answered || after > LATEST)
        return; /* somebody else's question, or nobody's */
    ground.answered = true;
    char name[160];
    name_of_terminal(name, sizeof name);
    Store *store = light != ground.light && may_remember(ed->session) ? session_store(ed->session) : NULL;
    if (store)
        store_add(store, name, names_of_light[light]);
    if (after <= SOON)
        ground.light = light;
}

void ground_end(int terminal)
{
    char answer[64];
    struct pollfd fd = {.fd = terminal, .events = POLLIN};
    while (ground.asked && !ground.answered && system_now_ms() - ground.since < ON_WAY) {
        int left = (int)(ON_WAY - (system_now_ms() - ground.since));
        if (poll(&fd, 1, left) != 1 || read(terminal, answer, sizeof answer) <= 0)
            return;
        ground.answered = true;
    }
}

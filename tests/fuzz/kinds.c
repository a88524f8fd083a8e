/* Any bytes as the data file of a kind or a theme, and as a text that is coloured by it: every byte gets a
 * role, the same each time. */
#include "fuzz.h"
#include "frame/theme.h"
#include "kinds/colour.h"

#include <string.h>

static void no_matter(void *ctx, unsigned line, const char *words)
{
    MUST(line >= 1 && words[0]);
    ++*(int *)ctx;
}

static void colour(const Kind *k, const char *bytes, size_t n)
{
    uint8_t roles[2000], again[2000];
    ColourState s = COLOUR_START, t = COLOUR_START;
    while (n && !colour_gave_up(k)) {
        const char *end = memchr(bytes, '\n', n);
        size_t len = end ? (size_t)(end - bytes) : n;
        len = len < sizeof roles ? len : sizeof roles;
        ColourLine line = {bytes, len, 0, len + 1, true, true};
        memset(roles, 0xff, sizeof roles);
        MUST(colour_line(k, &s, &line, roles) == len);
        MUST(colour_line(k, &t, &line, again) == len);
        for (size_t i = 0; i < len; i++)
            MUST(roles[i] < ROLE_COUNT);
        MUST(colour_gave_up(k) || (s == t && memcmp(roles, again, len) == 0));
        size_t over = len + (end && len == (size_t)(end - bytes));
        bytes += over;
        n -= over;
    }
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    /* Whatever it is, some of it is looked at as what it is called. */
    static const char *const heads[] = {"name = 'bay'\n", "name = 'bay'\nlike = 'shell'\nparts = {\n",
                                        "name = 'bay' looks = {\n", ""};
    char file[5000];
    int problems = 0;
    unsigned which = fuzz_byte(&bytes, &n) % 4;
    size_t half = n / 2 < 4000 ? n / 2 : 4000, head = strlen(heads[which]);
    memcpy(file, heads[which], head);
    memcpy(file + head, bytes, half);
    bool kind = kinds_add(file, head + half, no_matter, &problems);
    MUST(kind || problems);
    problems = 0;
    MUST(theme_add(file, head + half, no_matter, &problems) || problems);
    for (size_t i = 0; i < 3; i++) {
        const Kind *k =
            i == 0 ? kind_named("bay") : kind_of(NULL, (const char *)bytes, n < KIND_HEAD ? n : KIND_HEAD);
        k = i == 2 ? kind_number(which * 20) : k;
        if (k)
            colour(k, (const char *)bytes, n);
    }
    kinds_end();
    themes_end();
    return 0;
}

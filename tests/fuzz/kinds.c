/* Any bytes as the data file of a kind or a theme, and as a text that is coloured by it: every byte gets a
 * role, the same each time. */
#include "fuzz.h"
#include "frame/theme.h"
#include "kinds/outline.h"
#include "kinds/place.h"
#include "kinds/colour.h"
#include "kinds/judging.h"
#include "kinds/schedule.h"

#include <stdlib.h>
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

/* What else a kind is good for, with what it was made of. */
static void use(const Kind *k, const char *bytes, size_t n)
{
    size_t from[FIELDS_MOST], to[FIELDS_MOST], checks, count = 0;
    time_t next;
    n = n < 2000 ? n : 2000;
    const Fields *f = fields_of(k, NULL);
    if (f) {
        Problems found = {0};
        fields_check(bytes, n, f, false, (Stop){0}, &found);
        problems_free(&found);
        count = fields_split(f, bytes, n, from, to);
        for (size_t i = 0; i < count; i++)
            MUST(from[i] <= to[i] && to[i] <= n);
        schedule_next(f, bytes, n, 1795785020, &next);
    }
    const KeyValues *settings = key_values_of(k, NULL);
    if (settings) {
        Problems found = {0};
        KeyLine l;
        key_values_check(bytes, n, settings, false, (Stop){0}, &found);
        problems_free(&found);
        if (key_values_line(settings, bytes, n, &l))
            MUST(l.name_from <= l.name_to && l.name_to <= n && l.value_from <= l.value_to && l.value_to <= n);
    }
    Place place;
    if (place_of(k, "a", bytes, n, &place))
        MUST(place.from <= n);
    const Outline *outline = outline_of(k, NULL);
    OutlineLine heading;
    if (outline && outline_line(outline, bytes, n, &heading))
        MUST(heading.from <= heading.to && heading.to <= n && heading.level >= 1);
    const Check *all = checks_of(k, &checks, NULL);
    for (size_t i = 0; i < checks; i++) {
        Problems found = {0};
        Bytes quiet = {0};
        Err why;
        CheckSaid said = {bytes, n, (int)(n % 3), 0, false};
        if (all[i].part)
            all[i].part(bytes, n, (Stop){0}, &found);
        if (!all[i].run) {
            problems_free(&found);
            continue;
        }
        MUST(all[i].name && all[i].run[0]);
        Verdict v = check_judge(&all[i], &said, bytes, n, "/x", &found, &why);
        MUST((v == VERDICT_WRONG) == (found.n > 0));
        free(check_value(&all[i], bytes, n));
        check_without_writes(&all[i], bytes, n, &quiet);
        check_fits(&all[i], "/srv/harrow/kiosk", bytes, n);
        bytes_free(&quiet);
        problems_free(&found);
    }
    for (KindWords w = k->manual; w && *w; w++)
        MUST((*w)[0]);
    MUST(!k->manual || k->manual[0]);
    kind_line_fits(k, k->deeper, bytes, n);
    kind_line_fits(k, k->back, bytes, n);
    kind_called(bytes, n < 20 ? n : 20);
}

int LLVMFuzzerTestOneInput(const uint8_t *bytes, size_t n)
{
    /* Whatever it is, some of it is looked at as what it is called. */
    static const char *const heads[] = {
        "name = 'bay'\n",
        "name = 'bay'\nlike = 'shell'\nparts = {\n",
        "name = 'bay' looks = {\n",
        "",
        "name = 'bay'\nfields_least = 3 fields = {\n",
        "name = 'bay'\ncheck = { { run = { 'x' }, like = [[(?<line>\\d+)]], \n",
        "name = 'bay'\nlike = 'schedule'\nfields = { {'minute', 'x', from = 0, to = 59 }, \n",
        "name = 'bay'\nlike = 'unit'\n",
    };
    char file[5000];
    int problems = 0;
    unsigned which = fuzz_byte(&bytes, &n) % 8;
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
        if (!k)
            continue;
        colour(k, (const char *)bytes, n);
        use(k, (const char *)bytes, n);
    }
    kinds_end();
    themes_end();
    return 0;
}

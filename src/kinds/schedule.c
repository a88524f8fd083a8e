#include "kinds/schedule.h"

#include "base/letters.h"

#include <string.h>

enum { MINUTE, HOUR, DAY, MONTH, WEEKDAY, TIMES };
enum { DAYS_AHEAD = 8 * 366 };

typedef struct Times {
    bool fits[TIMES][64];
    bool any_day, any_weekday;
    bool goes_with_clock; /* hour or minute begin with a star */
} Times;

static const struct {
    const char *word, *means;
} nicknames[] = {
    {"@yearly", "0 0 1 1 *"}, {"@annually", "0 0 1 1 *"}, {"@monthly", "0 0 1 * *"}, {"@weekly", "0 0 * * 0"},
    {"@daily", "0 0 * * *"},  {"@midnight", "0 0 * * *"}, {"@hourly", "0 * * * *"},
};

/* Each of them allows a value at least. */
static bool are_times(const Fields *f, const char *line, const size_t *from, const size_t *to)
{
    for (int i = 0; i < TIMES; i++)
        if (field_wrong(&f->at[i], line + from[i], to[i] - from[i]))
            return false;
    return true;
}

static void take_times(const Fields *f, const char *line, const size_t *from, const size_t *to, Times *t)
{
    memset(t, 0, sizeof *t);
    for (int i = 0; i < TIMES; i++)
        for (long value = f->at[i].from; value >= 0 && value <= f->at[i].to && value < 64; value++)
            t->fits[i][value] = field_fits(&f->at[i], line + from[i], to[i] - from[i], value);
    t->fits[WEEKDAY][0] = t->fits[WEEKDAY][0] || t->fits[WEEKDAY][7];
    t->any_day = line[from[DAY]] == '*';
    t->any_weekday = line[from[WEEKDAY]] == '*';
    t->goes_with_clock = line[from[MINUTE]] == '*' || line[from[HOUR]] == '*';
}

/* If both the day and the day of the week are said, either will do. */
static bool day_fits(const Times *t, const struct tm *tm)
{
    bool day = t->fits[DAY][tm->tm_mday], weekday = t->fits[WEEKDAY][tm->tm_wday];
    bool either = !t->any_day && !t->any_weekday;
    return t->fits[MONTH][tm->tm_mon + 1] && (either ? day || weekday : day && weekday);
}

/* False: the clock leaves it out, and nothing is made up for it. */
static bool moment(const Times *t, struct tm day, int hour, int minute, time_t *out)
{
    enum { LEFT_OUT_MOST = 3 * 60 /* minutes */ };
    for (int later = 0; later < LEFT_OUT_MOST; later++) {
        struct tm at = day;
        at.tm_hour = hour;
        at.tm_min = minute + later;
        at.tm_isdst = -1;
        struct tm wanted = at;
        *out = mktime(&at);
        bool same = at.tm_hour == (hour + (minute + later) / 60) % 24 && at.tm_min == wanted.tm_min % 60;
        if (same || t->goes_with_clock)
            return same;
    }
    return false;
}

static bool find(const Times *t, time_t from, time_t *next)
{
    struct tm now, tm;
    localtime_r(&from, &now);
    for (int ahead = 0; ahead < DAYS_AHEAD; ahead++) {
        tm = (struct tm){.tm_year = now.tm_year,
                         .tm_mon = now.tm_mon,
                         .tm_mday = now.tm_mday + ahead,
                         .tm_hour = 12,
                         .tm_isdst = -1};
        if (mktime(&tm) == (time_t)-1 || !day_fits(t, &tm))
            continue;
        for (int hour = 0; hour < 24; hour++)
            for (int minute = 0; t->fits[HOUR][hour] && minute < 60; minute++) {
                if (!t->fits[MINUTE][minute])
                    continue;
                if (moment(t, tm, hour, minute, next) && *next > from)
                    return true;
            }
    }
    return false;
}

static bool begins_with(const char *line, size_t n, const char *word)
{
    size_t len = strlen(word);
    return n > len && memcmp(line, word, len) == 0 && letter_is_blank(line[len]);
}

ScheduleNext schedule_next(const Fields *f, const char *line, size_t n, time_t from, time_t *next)
{
    size_t starts[FIELDS_MOST], ends[FIELDS_MOST];
    Times t;
    while (n && letter_is_blank(*line))
        line++, n--;
    if (begins_with(line, n, "@reboot"))
        return SCHEDULE_AT_START;
    for (size_t i = 0; i < sizeof nicknames / sizeof *nicknames; i++)
        if (begins_with(line, n, nicknames[i].word)) {
            line = nicknames[i].means;
            n = strlen(line);
            break;
        }
    if (f->n <= TIMES || fields_split(f, line, n, starts, ends) < TIMES || !are_times(f, line, starts, ends))
        return SCHEDULE_NONE;
    take_times(f, line, starts, ends, &t);
    return find(&t, from, next) ? SCHEDULE_AT : SCHEDULE_NEVER;
}

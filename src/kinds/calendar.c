#include "kinds/calendar.h"

#include <ctype.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

enum { YEAR, MONTH, DAY, HOUR, MINUTE, SECOND, PARTS };
enum { ITEMS_MOST = 40, YEAR_LAST = 2199, WORDS_MOST = 200 };

/* From one to the other, each so many; step 0: one value, or all of a range. */
typedef struct Item {
    long from, to, step;
    bool open; /* no end was said */
} Item;

typedef struct Part {
    Item items[ITEMS_MOST];
    size_t n; /* 0: any */
} Part;

typedef struct Calendar {
    Part parts[PARTS];
    unsigned weekdays; /* a bit each, from Monday; 0: any */
    bool from_end;     /* days are counted from the end of the month */
    bool utc;
} Calendar;

static const long least[] = {1970, 1, 1, 0, 0, 0}, most[] = {YEAR_LAST, 12, 31, 23, 59, 59};

/* ---- reading ---- */

static bool number(const char **p, long *out)
{
    char *end;
    if (!isdigit((unsigned char)**p))
        return false;
    *out = strtol(*p, &end, 10);
    bool ok = end - *p <= 4;
    *p = end;
    return ok;
}

static bool read_item(const char **p, int part, Item *i)
{
    *i = (Item){0};
    if (!number(p, &i->from))
        return false;
    if (part == YEAR && i->from < 100)
        i->from += i->from < 70 ? 2000 : 1900;
    i->to = i->from;
    i->open = true;
    if (strncmp(*p, "..", 2) == 0) {
        *p += 2;
        if (!number(p, &i->to))
            return false;
        if (part == YEAR && i->to < 100)
            i->to += i->to < 70 ? 2000 : 1900;
        i->open = false;
        i->step = 1;
    }
    if (**p == '/') {
        ++*p;
        if (!number(p, &i->step) || i->step == 0)
            return false;
    }
    return i->from >= least[part] && i->to <= most[part] && i->from <= i->to;
}

static bool read_part(const char **p, int part, Part *out)
{
    out->n = 0;
    if (**p == '*') {
        ++*p;
        return true;
    }
    do {
        if (out->n == ITEMS_MOST || !read_item(p, part, &out->items[out->n++]))
            return false;
    } while (**p == ',' && (++*p, true));
    return true;
}

static const char *const weekdays[] = {"monday", "tuesday",  "wednesday", "thursday",
                                       "friday", "saturday", "sunday"};

static int weekday_of(const char **p)
{
    size_t n = 0;
    while (isalpha((unsigned char)(*p)[n]))
        n++;
    for (int i = 0; i < 7; i++)
        if ((n == 3 || n == strlen(weekdays[i])) && strncasecmp(*p, weekdays[i], n) == 0) {
            *p += n;
            return i;
        }
    return -1;
}

static bool read_weekdays(const char **p, unsigned *out)
{
    for (;;) {
        int from = weekday_of(p), to = from;
        if (from < 0)
            return false;
        if (strncmp(*p, "..", 2) == 0 || **p == '-') {
            *p += **p == '-' ? 1 : 2;
            to = weekday_of(p);
        }
        if (to < from)
            return false;
        for (int i = from; i <= to; i++)
            *out |= 1U << i;
        if (**p != ',')
            return !**p || **p == ' ';
        ++*p;
        if (!**p || **p == ' ')
            return true;
    }
}

static bool read_date(const char **p, Calendar *c)
{
    Part first;
    const char *start = *p;
    if (!read_part(p, YEAR, &first) || (**p != '-' && **p != '~')) {
        *p = start; /* it may be a month */
        if (!read_part(p, MONTH, &c->parts[MONTH]) || (**p != '-' && **p != '~'))
            return false;
        c->from_end = *(*p)++ == '~';
        return read_part(p, DAY, &c->parts[DAY]);
    }
    bool tilde = *(*p)++ == '~';
    if (!tilde && read_part(p, MONTH, &c->parts[MONTH]) && (**p == '-' || **p == '~')) {
        c->parts[YEAR] = first;
        c->from_end = *(*p)++ == '~';
        return read_part(p, DAY, &c->parts[DAY]);
    }
    *p = start;
    c->from_end = tilde;
    if (!read_part(p, MONTH, &c->parts[MONTH]) || (**p != '-' && **p != '~'))
        return false;
    ++*p;
    return read_part(p, DAY, &c->parts[DAY]);
}

static bool read_time(const char **p, Calendar *c)
{
    if (!read_part(p, HOUR, &c->parts[HOUR]) || **p != ':')
        return false;
    ++*p;
    if (!read_part(p, MINUTE, &c->parts[MINUTE]))
        return false;
    if (**p != ':')
        return true;
    ++*p;
    return read_part(p, SECOND, &c->parts[SECOND]);
}

static void be_zero(Part *p)
{
    p->n = 1;
    p->items[0] = (Item){.open = true};
}

static const struct {
    const char *word, *means;
} shorts[] = {{"minutely", "*-*-* *:*:00"},
              {"hourly", "*-*-* *:00:00"},
              {"daily", "*-*-* 00:00:00"},
              {"weekly", "Mon *-*-* 00:00:00"},
              {"monthly", "*-*-01 00:00:00"},
              {"quarterly", "*-01,04,07,10-01 00:00:00"},
              {"semiannually", "*-01,07-01 00:00:00"},
              {"semi-annually", "*-01,07-01 00:00:00"},
              {"yearly", "*-01-01 00:00:00"},
              {"annually", "*-01-01 00:00:00"}};

/* The rest must be nothing, or UTC. */
static bool read_zone(const char *p, Calendar *c)
{
    p += strspn(p, " ");
    c->utc = strcmp(p, "UTC") == 0;
    return !*p || c->utc;
}

static bool read_calendar(const char *p, Calendar *c)
{
    size_t word = strcspn(p, " ");
    memset(c, 0, sizeof *c);
    be_zero(&c->parts[SECOND]);
    for (size_t i = 0; i < sizeof shorts / sizeof *shorts; i++)
        if (strlen(shorts[i].word) == word && strncasecmp(p, shorts[i].word, word) == 0)
            return read_calendar(shorts[i].means, c) && read_zone(p + word, c);
    bool said = false;
    if (isalpha((unsigned char)*p)) {
        if (!read_weekdays(&p, &c->weekdays))
            return false;
        said = true;
        p += strspn(p, " ");
    }
    const char *q = p;
    Calendar with_date = *c;
    bool date = *p && read_date(&q, &with_date) && (!*q || *q == ' ');
    if (date) {
        *c = with_date;
        p = q + strspn(q, " ");
    }
    bool time = *p && !isalpha((unsigned char)*p);
    if (time && !read_time(&p, c))
        return false;
    if (!time) {
        be_zero(&c->parts[HOUR]);
        be_zero(&c->parts[MINUTE]);
    }
    return (said || date || time) && (!time || !*p || *p == ' ') && read_zone(p, c);
}

/* ---- finding ---- */

static bool fits(const Part *p, long value, long last)
{
    for (size_t i = 0; i < p->n; i++) {
        const Item *x = &p->items[i];
        long to = !x->open ? x->to : x->step ? last : x->from;
        if (value >= x->from && value <= to && (x->step ? (value - x->from) % x->step == 0 : true))
            return true;
    }
    return p->n == 0;
}

static long month_length(long year, long month)
{
    static const int days[] = {31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
    bool leap = (year % 4 == 0 && year % 100 != 0) || year % 400 == 0;
    return days[month - 1] + (month == 2 && leap);
}

/* Days counted from the end begin with 1 there, and steps go towards it. */
static bool day_fits(const Calendar *c, long day, long length)
{
    const Part *p = &c->parts[DAY];
    if (!c->from_end)
        return fits(p, day, length);
    for (size_t i = 0; i < p->n; i++) {
        const Item *x = &p->items[i];
        long from = length - x->from + 1, to = !x->open ? length - x->to + 1 : x->step ? length : from;
        if (!x->open && to < from) {
            long between = to;
            to = from;
            from = between;
        }
        if (day >= from && day <= to && (x->step ? (day - from) % x->step == 0 : true))
            return true;
    }
    return p->n == 0;
}

/* From Monday. */
static int weekday(long year, long month, long day)
{
    static const int shift[] = {0, 3, 2, 5, 0, 3, 5, 1, 4, 6, 2, 4};
    long y = month < 3 ? year - 1 : year;
    return (int)((y + y / 4 - y / 100 + y / 400 + shift[month - 1] + day + 6) % 7);
}

static bool moment(const Calendar *c, const long at[PARTS], time_t *out)
{
    struct tm tm = {.tm_year = (int)at[YEAR] - 1900,
                    .tm_mon = (int)at[MONTH] - 1,
                    .tm_mday = (int)at[DAY],
                    .tm_hour = (int)at[HOUR],
                    .tm_min = (int)at[MINUTE],
                    .tm_sec = (int)at[SECOND],
                    .tm_isdst = -1};
    struct tm wanted = tm;
    *out = c->utc ? timegm(&tm) : mktime(&tm);
    /* What the clock leaves out in spring does not come. */
    return tm.tm_hour == wanted.tm_hour && tm.tm_min == wanted.tm_min && tm.tm_mday == wanted.tm_mday;
}

static bool find_in_day(const Calendar *c, long at[PARTS], time_t from, time_t *next)
{
    for (at[HOUR] = 0; at[HOUR] < 24; at[HOUR]++) {
        if (!fits(&c->parts[HOUR], at[HOUR], 23))
            continue;
        for (at[MINUTE] = 0; at[MINUTE] < 60; at[MINUTE]++) {
            if (!fits(&c->parts[MINUTE], at[MINUTE], 59))
                continue;
            at[SECOND] = 59; /* is all of this minute over? */
            time_t end;
            if (moment(c, at, &end) && end <= from)
                continue;
            for (at[SECOND] = 0; at[SECOND] < 60; at[SECOND]++)
                if (fits(&c->parts[SECOND], at[SECOND], 59) && moment(c, at, next) && *next > from)
                    return true;
        }
    }
    return false;
}

static bool find(const Calendar *c, time_t from, time_t *next)
{
    struct tm now;
    time_t yesterday = from - 24L * 3600;
    if (!(c->utc ? gmtime_r(&yesterday, &now) : localtime_r(&yesterday, &now)))
        return false;
    long first[] = {now.tm_year + 1900L, now.tm_mon + 1L, now.tm_mday}, at[PARTS];
    for (at[YEAR] = first[YEAR]; at[YEAR] <= YEAR_LAST; at[YEAR]++) {
        if (!fits(&c->parts[YEAR], at[YEAR], YEAR_LAST))
            continue;
        bool same_year = at[YEAR] == first[YEAR];
        for (at[MONTH] = same_year ? first[MONTH] : 1; at[MONTH] <= 12; at[MONTH]++) {
            long length = month_length(at[YEAR], at[MONTH]);
            if (!fits(&c->parts[MONTH], at[MONTH], 12))
                continue;
            for (at[DAY] = same_year && at[MONTH] == first[MONTH] ? first[DAY] : 1; at[DAY] <= length;
                 at[DAY]++)
                if (day_fits(c, at[DAY], length) &&
                    (!c->weekdays || (c->weekdays >> weekday(at[YEAR], at[MONTH], at[DAY]) & 1)) &&
                    find_in_day(c, at, from, next))
                    return true;
        }
    }
    return false;
}

CalendarNext calendar_next(const char *words, size_t n, time_t from, time_t *next)
{
    char line[WORDS_MOST];
    Calendar c;
    while (n && words[n - 1] == ' ')
        n--;
    while (n && *words == ' ')
        words++, n--;
    if (n == 0 || n >= sizeof line)
        return CALENDAR_NONE;
    memcpy(line, words, n);
    line[n] = 0;
    if (!read_calendar(line, &c))
        return CALENDAR_NONE;
    return find(&c, from, next) ? CALENDAR_AT : CALENDAR_NEVER;
}

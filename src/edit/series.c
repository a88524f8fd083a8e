#include "edit/series.h"

#include <stdio.h>
#include <string.h>
#include <time.h>

enum { DIGITS_MOST = 18, LETTERS_MOST = 8 };

static bool digit(char c)
{
    return c >= '0' && c <= '9';
}

/* ---- dates ---- */

enum { DAY = 86400 /* seconds */ };

/* From the year 1 to 9999. */
static bool in_calendar(long long days)
{
    return days >= -719162 && days <= 2932896;
}

static struct tm date_of(long long days)
{
    struct tm date;
    time_t seconds = (time_t)days * DAY;
    gmtime_r(&seconds, &date);
    return date;
}

static bool read_date(const char *text, size_t n, Series *s)
{
    char exact[11];
    struct tm date = {0};
    if (n != sizeof exact - 1)
        return false;
    memcpy(exact, text, n);
    exact[n] = 0;
    if (sscanf(exact, "%4d-%2d-%2d", &date.tm_year, &date.tm_mon, &date.tm_mday) != 3)
        return false;
    date.tm_year -= 1900;
    date.tm_mon--;
    *s = (Series){.kind = SERIES_DATES, .value = timegm(&date) / DAY, .step = 1};
    Bytes again = {0}; /* there is no 30th of February, and no -1st of anything */
    series_write(s, &again);
    bool same = in_calendar(s->value) && again.len == n && memcmp(again.at, text, n) == 0;
    bytes_free(&again);
    return same;
}

/* ---- letters: a to z, then aa ---- */

static bool read_letters(const char *text, size_t n, Series *s)
{
    bool capitals = n && text[0] >= 'A' && text[0] <= 'Z';
    char first = capitals ? 'A' : 'a';
    long long value = 0;
    if (n == 0 || n > LETTERS_MOST)
        return false;
    for (size_t i = 0; i < n; i++) {
        if (text[i] < first || text[i] > first + 25)
            return false;
        value = value * 26 + (text[i] - first + 1);
    }
    *s = (Series){.kind = SERIES_LETTERS, .value = value, .step = 1, .capitals = capitals};
    return true;
}

static void write_letters(const Series *s, Bytes *out)
{
    char text[20];
    size_t at = sizeof text;
    for (long long v = s->value; v > 0; v = (v - 1) / 26)
        text[--at] = (char)((s->capitals ? 'A' : 'a') + (v - 1) % 26);
    bytes_add(out, text + at, sizeof text - at);
}

/* ---- numbers ---- */

static bool read_number(const char *text, size_t n, Series *s)
{
    bool minus = n && text[0] == '-';
    size_t from = minus ? 1 : 0, digits = n - from;
    long long value = 0;
    for (size_t i = from; i < n; i++) {
        if (!digit(text[i]) || digits > DIGITS_MOST)
            return false;
        value = value * 10 + (text[i] - '0');
    }
    *s = (Series){.kind = SERIES_NUMBERS, .value = minus ? -value : value, .step = 1};
    if (digits > 1 && text[from] == '0')
        s->width = (unsigned)digits;
    return digits > 0;
}

/* ---- all ---- */

bool series_begin(const char *text, size_t n, Series *s)
{
    return read_number(text, n, s) || read_date(text, n, s) || read_letters(text, n, s);
}

bool series_step(Series *s)
{
    static const long long most = 999999999999999999;
    long long value = s->value, step = s->step;
    if (step > 0 ? value > most - step : value < -most - step)
        return false;
    value += step;
    if (s->kind == SERIES_LETTERS && (value < 1 || value > 217180147158)) /* zzzzzzzz */
        return false;
    if (s->kind == SERIES_DATES && !in_calendar(value))
        return false;
    s->value = value;
    return true;
}

void series_write(const Series *s, Bytes *out)
{
    struct tm date;
    switch (s->kind) {
    case SERIES_NUMBERS:
        bytes_printf(out, "%s%0*lld", s->value < 0 ? "-" : "", (int)s->width,
                     s->value < 0 ? -s->value : s->value);
        break;
    case SERIES_LETTERS:
        write_letters(s, out);
        break;
    case SERIES_DATES:
        date = date_of(s->value);
        bytes_printf(out, "%04d-%02d-%02d", date.tm_year + 1900, date.tm_mon + 1, date.tm_mday);
        break;
    }
}

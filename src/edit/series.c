#include "edit/series.h"

enum { DIGITS_MOST = 18, LETTERS_MOST = 8, YEAR_MOST = 9999 };

static bool digit(char c)
{
    return c >= '0' && c <= '9';
}

/* ---- dates: days of the Gregorian calendar ---- */

static long long days_before_year(long long year)
{
    year--;
    return year * 365 + year / 4 - year / 100 + year / 400;
}

static bool leap(long long year)
{
    return (year % 4 == 0 && year % 100 != 0) || year % 400 == 0;
}

static int days_of(long long year, int month)
{
    static const char days[] = {31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
    return days[month - 1] + (month == 2 && leap(year));
}

static long long days_since_1970(long long year, int month, int day)
{
    long long days = days_before_year(year) - days_before_year(1970);
    for (int m = 1; m < month; m++)
        days += days_of(year, m);
    return days + day - 1;
}

static void date_of(long long days, int *year, int *month, int *day)
{
    long long y = 1970 + days / 366; /* not after it */
    if (days < 0)
        y = 1970 + days / 365 - 1;
    while (days_since_1970(y + 1, 1, 1) <= days)
        y++;
    days -= days_since_1970(y, 1, 1);
    int m = 1;
    while (days >= days_of(y, m))
        days -= days_of(y, m++);
    *year = (int)y;
    *month = m;
    *day = (int)days + 1;
}

static int number_of(const char *text, size_t n)
{
    int value = 0;
    for (size_t i = 0; i < n; i++)
        value = value * 10 + (text[i] - '0');
    return value;
}

static bool read_date(const char *text, size_t n, Series *s)
{
    static const char form[] = "dddd-dd-dd";
    if (n != sizeof form - 1)
        return false;
    for (size_t i = 0; i < n; i++)
        if (form[i] == 'd' ? !digit(text[i]) : text[i] != form[i])
            return false;
    int year = number_of(text, 4), month = number_of(text + 5, 2), day = number_of(text + 8, 2);
    if (year < 1 || month < 1 || month > 12 || day < 1 || day > days_of(year, month))
        return false;
    *s = (Series){.kind = SERIES_DATES, .value = days_since_1970(year, month, day), .step = 1};
    return true;
}

/* ---- letters: a to z, then aa ---- */

static bool read_letters(const char *text, size_t n, Series *s)
{
    bool capitals = n && text[0] >= 'A' && text[0] <= 'Z';
    char first = capitals ? 'A' : 'a';
    long long value = 0;
    for (size_t i = 0; i < n; i++) {
        if (text[i] < first || text[i] > first + 25)
            return false;
        value = value * 26 + (text[i] - first + 1);
    }
    *s = (Series){.kind = SERIES_LETTERS, .value = value, .step = 1, .capitals = capitals};
    return n > 0 && n <= LETTERS_MOST;
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
    if (s->kind == SERIES_DATES &&
        (value < days_since_1970(1, 1, 1) || value > days_since_1970(YEAR_MOST, 12, 31)))
        return false;
    s->value = value;
    return true;
}

void series_write(const Series *s, Bytes *out)
{
    int year, month, day;
    switch (s->kind) {
    case SERIES_NUMBERS:
        bytes_printf(out, "%s%0*lld", s->value < 0 ? "-" : "", (int)s->width,
                     s->value < 0 ? -s->value : s->value);
        break;
    case SERIES_LETTERS:
        write_letters(s, out);
        break;
    case SERIES_DATES:
        date_of(s->value, &year, &month, &day);
        bytes_printf(out, "%04d-%02d-%02d", year, month, day);
        break;
    }
}

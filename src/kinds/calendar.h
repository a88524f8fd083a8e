/* When a calendar expression of the service manager comes next (systemd.time(7)): weekdays, a date, a time of
 * day. */
#ifndef CALENDAR_H
#define CALENDAR_H

#include <stdbool.h>
#include <stddef.h>
#include <time.h>

typedef enum CalendarNext {
    CALENDAR_NONE, /* it is no such expression, or one in another zone of time than this or UTC */
    CALENDAR_AT,
    CALENDAR_NEVER,
} CalendarNext;

/* The first time after `from` that fits the n bytes. */
CalendarNext calendar_next(const char *words, size_t n, time_t from, time_t *next);

#endif

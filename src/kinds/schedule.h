/* When a line of a schedule runs next (crontab(5): five fields of times, or @daily and its like). */
#ifndef SCHEDULE_H
#define SCHEDULE_H

#include "kinds/fields.h"

#include <time.h>

typedef enum ScheduleNext {
    SCHEDULE_NONE, /* the line has no times */
    SCHEDULE_AT,
    SCHEDULE_NEVER,    /* not within eight years, such as on 31 February */
    SCHEDULE_AT_START, /* @reboot */
} ScheduleNext;

/* The first time after `from` that fits a line of n bytes, whose first five fields are those of `f`. What
 * falls into the hour that is left out in spring is run when that is over, as cron(8) does it, unless hour or
 * minute begin with a star. */
ScheduleNext schedule_next(const Fields *f, const char *line, size_t n, time_t from, time_t *next);

#endif

/* When a line of a schedule runs next (crontab(5): five fields of times, or @daily and its like). */
#ifndef SCHEDULE_H
#define SCHEDULE_H

#include "kinds/fields.h"

#include <time.h>

/* The first time after `from` that fits a line of n bytes, whose first five fields are those of `f`. False
 * when the line has no times, or none that comes within eight years. */
bool schedule_next(const Fields *f, const char *line, size_t n, time_t from, time_t *next);

#endif

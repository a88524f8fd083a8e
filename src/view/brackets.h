/* Brackets and quotes that belong together, by the kind of file: those in comments and quoted texts do
 * not count for the code around them. */
#ifndef BRACKETS_H
#define BRACKETS_H

#include "view/view.h"

/* The partner of the one at byte `at` of the text, within two mebibytes; within bytes [from, to) in the
 * second form. False when there is none. */
bool brackets_partner(const View *v, size_t at, size_t *partner);
bool brackets_partner_between(const View *v, size_t at, size_t from, size_t to, size_t *partner);
/* What stands inside the innermost brackets or quotes, or the comment, around a place. */
bool brackets_inside(const View *v, size_t at, size_t *from, size_t *to);

#endif

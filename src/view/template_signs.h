/* The signs of a template language in a text of another kind: nginx.conf.j2 is nginx's configuration with {{
 * }} in it. */
#ifndef TEMPLATE_SIGNS_H
#define TEMPLATE_SIGNS_H

#include "text/text.h"

#include <stdint.h>

/* Gives what stands in {{ }}, {% %}, {# #}, <% %> and @NAME@, in the line that begins at line_from, the role
 * of a variable where it lies in [from, to), whose roles those are. Nothing on such a line is called wrong,
 * as nobody knows what will stand there. */
void template_signs(Text t, size_t line_from, size_t from, size_t to, uint8_t *roles);

#endif

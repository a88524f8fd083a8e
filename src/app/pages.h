/* Help pages: plain text with a light marking, shown as a text to look at, in which
 * finding, marking and copying work as everywhere.
 *
 * The marking: a line "= Title" is a heading, `Ctrl+S` is a key, {save} is a command with its
 * keys put in, [[moving]] is a link to another page. Enter or a click on a link follows it. */
#ifndef PAGES_H
#define PAGES_H
#include "app/editor.h"

typedef struct Page Page;

/* Shows the page data/help/NAME.txt, or one that is made: "keys", "commands", "settings". */
void page_show(Editor *ed, const char *name);
/* Back from a page to the text it was called from; false when no page is shown. */
bool page_leave(Editor *ed);
/* Is the text shown now a page? */
bool page_shown(const Editor *ed);
/* Follows the link at the cursor; false when there is none. */
bool page_follow(Editor *ed);
void page_clicked(Editor *ed);
/* The style of the byte at `at` of a page. */
Style page_style(const Page *p, size_t at);
const char *page_name(const Page *p);
void page_free(Page *p);

#endif

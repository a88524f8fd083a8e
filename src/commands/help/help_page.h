/* Help pages: plain text with a light marking, and some that are made from the tables; laid out for a width.
 *
 * The marking: the parts of config/help_text, and in their words `Ctrl+S` is a key, {save} is a command with
 * its keys put in, [[moving]] is a link to another page, [[moving?tide]] to a word
 * in it. */
#ifndef HELP_PAGE_H
#define HELP_PAGE_H

#include "config/config.h"
#include "frame/frame.h"

typedef struct HelpPage HelpPage;

/* Makes the page data/help/NAME.txt, or one from the tables: "keys", "commands", "settings"; `width` in
 * cells. NULL when there is none of that name. */
HelpPage *help_page_new(const Config *c, const char *name, size_t width);
/* Lays it out for another width; false, and it is as it was, if that makes no difference. */
bool help_page_fit(const Config *c, HelpPage *p, size_t width);
/* One of such marking. */
HelpPage *help_page_of_marking(const Config *c, const char *title, const Bytes *marking, size_t width);
/* One of a text as it is. */
HelpPage *help_page_of_text(const char *title, const Bytes *text);
void help_page_free(HelpPage *p);

const char *help_page_title(const HelpPage *p);
/* What is to be shown; the page's. */
const Bytes *help_page_text(const HelpPage *p);
/* How the byte at `at` looks; for Looks of a view. */
Style help_page_style(const void *page, size_t at);
/* The page to which the link at a byte leads, or NULL; `touching`: also right after it. */
const char *help_page_link(const HelpPage *p, size_t at, bool touching);

#endif

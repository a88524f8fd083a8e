/* What the screen side keeps with an open file, and showing files. */
#ifndef SHOWN_H
#define SHOWN_H
#include "app/editor.h"

typedef struct Shown {
    unsigned long turn;           /* grows each time it is shown */
    size_t tab;                   /* cells from one tab stop to the next, where .editorconfig does not say */
    size_t cursor, top;           /* where it was left when another one was shown */
    size_t wanted, wanted_column; /* the line (from 1) to go to when it is there, see loading.c */
    struct Place *bookmarks;
    struct Bars *bars; /* see bars.h */
    struct Page *page; /* what makes it a help page, or NULL; see pages.h */
} Shown;

/* What the session calls. */
SessionEvents shown_events(Editor *ed);
/* The settings as the session needs them. */
void shown_rules(Editor *ed);

#endif

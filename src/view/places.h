/* Where a person was in a file, kept for the next time it is opened. */
#ifndef PLACES_H
#define PLACES_H

#include "view/panes.h"

/* Observes the session: what is closed has its place kept. */
void places_begin(Panes *p);
/* Goes where one was in a file that was just opened, unless its place was said or it was moved in already. */
void places_recall(Panes *p, OpenFile *f);
/* Keeps the places of all files, at the end. */
void places_keep(Panes *p);

#endif

/* A panel: a list over the lower part of the text, narrowed by typing. One
 * implementation for all lists. */
#ifndef PANEL_H
#define PANEL_H

#include "ui/editor.h"

typedef struct Panel Panel;

typedef struct PanelSpec {
    const char *title;
    /* Adds the rows by panel_add; called again whenever the filter changes. */
    void (*fill)(Editor *ed, Panel *p, const char *filter, void *ctx);
    /* A row was chosen. `typed`: what stands in the filter. The panel is gone by then,
     * unless it `stays`. */
    void (*chosen)(Editor *ed, long id, const char *typed, void *ctx);
    /* The highlighted row changed; or NULL. */
    void (*preview)(Editor *ed, long id, void *ctx);
    void (*cancelled)(Editor *ed, void *ctx);
    /* A key that the panel does not know, with the highlighted row's id (-1: none). */
    bool (*key)(Editor *ed, Key k, long id, void *ctx);
    const char *(*enter)(long id); /* what Enter does on that row; NULL: it chooses it */
    const Hint *hints;             /* further ones, up to one with an empty key; or NULL */
    const char *empty;             /* what is shown when nothing fits */
    const char *initial;           /* the filter to begin with, or NULL */
    /* Writes the page of help on the highlighted row; or NULL. */
    void (*topic)(Editor *ed, long id, Bytes *out);
    bool stays;
    bool plain;     /* fill does the filtering itself */
    bool takes_row; /* `chosen` gets the row's text instead, and Tab puts it into the filter */
    void *ctx;
    void (*free_ctx)(void *);
} PanelSpec;

void panel_open(Editor *ed, const PanelSpec *spec);
/* Adds a row: what it is, more about it, and keys at the right edge (each may be NULL). The texts are
 * copied. Rows whose text does not fit the filter are left out, the others sorted, best first. */
void panel_add(Panel *p, long id, const char *text, const char *note, const char *keys);
/* The same for a row whose score is known; below 0 it is left out. */
void panel_add_scored(Panel *p, long id, const char *text, const char *note, const char *keys, int score);
/* In the note of the row that was added last, bytes [from, to) are what was looked for. */
void panel_mark(Panel *p, size_t from, size_t to);
/* How many there are by now. */
size_t panel_rows(const Panel *p);
/* Adds a row whatever the filter says. */
void panel_exact(Panel *p, long id, const char *text, const char *note);
/* Fills the uppermost layer's panel again, keeping the highlighted row. */
void panel_refresh(Editor *ed);

/* The id of the row that is chosen in the panel that is uppermost; -1: there is none. */
long panel_now(const Editor *ed);
/* Is the uppermost layer the panel with that ctx? And shows again what its highlighted row stands for. */
bool panel_shows(const Editor *ed, const void *ctx);
void panel_preview(Editor *ed);

/* What stands in the uppermost panel's filter (valid until it changes), and puts something else there. */
const char *panel_filter(const Editor *ed);
void panel_set_filter(Editor *ed, const char *text);

/* Highlights the row with that id in the uppermost layer's panel; or the one whose keys are "now". */
void panel_go(Editor *ed, long id);
void panel_go_now(Editor *ed);

#endif

/* The menu bar and what drops down from it; letter routes; the repeat count. */
#ifndef MENU_H
#define MENU_H

#include "ui/editor.h"

/* Wakes the bar. from_esc: by the Esc key, whose byte may still prove to be a sequence's head. */
void menu_open(Editor *ed, bool from_esc);
/* Wakes the bar with menu number m dropped down. */
void menu_drop(Editor *ed, size_t m);
/* Was the uppermost layer opened by Esc and nothing pressed since? */
bool menu_fresh_from_esc(const Editor *ed);
/* What the bar does with a letter, from plain text: "Esc f" and "Alt+F" are this. */
void menu_letter(Editor *ed, uint32_t ch);
/* The menu whose title is painted at that column of the top line, or Registry.n_titles. */
size_t menu_at_column(const Editor *ed, int col);
/* Paints the titles from column `col`; returns the column after them. */
int menu_paint_titles(const Registry *r, Frame *f, int col, size_t now, bool awake);

#endif

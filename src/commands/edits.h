/* Changing the text at the cursor: what typing, pasting and the commands share. Each says so when the text
 * may not be changed, or memory is short. */
#ifndef EDITS_H
#define EDITS_H

#include "ui/editor.h"

void edit_begin(Editor *ed);
void edit_free(Editor *ed);

/* May the text be changed? Says why not. */
bool edit_allowed(Editor *ed);
/* Replaces bytes by others and puts the cursor after them; false when nothing was changed. */
bool edit_replace(Editor *ed, size_t at, size_t removed, const void *bytes, size_t n, StepKind kind);
/* Removes the mark; false when there is none, or it may not be removed. */
bool edit_delete_mark(Editor *ed);
/* Deletes at all cursors, the marks or a character to the left or the right; false when there is but one. */
bool edit_delete_at_all(Editor *ed, bool left);
/* What typing does: replaces the mark, overtypes if that is on. */
void edit_type(Editor *ed, const char *bytes, size_t n);
/* Literal text from the terminal or elsewhere, one step; its line ends become those of the file. */
void edit_paste(Editor *ed, const char *bytes, size_t n, bool goes_on);
/* Does the cursor stand after the blanks that a new line began with, and nothing else in that line? */
bool edit_indent_is_fresh(const View *v);
/* Takes such blanks away where the cursor has left them. */
void edit_tidy(Editor *ed);
/* Adds n bytes to `out`, with the line ends of that file in place of CR, LF or both. */
void edit_own_ends(const OpenFile *f, const char *bytes, size_t n, Bytes *out);
/* Is what comes now a part of a paste that has begun? */
bool edit_paste_goes_on(const Editor *ed);
/* Something else came: what was pasted so far is a step. */
void edit_paste_ends(Editor *ed);
/* A key that leaves other programs deleted a character: says what happened and how to leave; twice, then
 * people know. */
void edit_name_way_out(Editor *ed);
/* The same after a line that is a word for leaving, or for help. */
void edit_name_way(Editor *ed, const char *word, bool help);

#endif

/* Saving and what goes with it: other names, sizes in words. */
#ifndef SAVING_H
#define SAVING_H

#include "editor.h"
#include "save.h"

enum { SIZE_TEXT_MAX = 32 };

/* "2.1 kB": sizes as people read them, in powers of 1000. */
void size_text(size_t n, char out[SIZE_TEXT_MAX]);
/* Lines as people count them: what stands behind the last newline only if there is something. */
size_t lines_of(Text t);

/* Saves under the text's name, or asks for one; then (if saved) calls `then`, if any. */
void editor_save(Editor *ed, OpenFile *f, void (*then)(Editor *));
void editor_save_as(Editor *ed, OpenFile *f, void (*then)(Editor *));
/* The same with the name given. */
void editor_save_to(Editor *ed, OpenFile *f, const char *path);
/* Renames the file on disk; an empty path asks for the name. */
void editor_rename(Editor *ed, OpenFile *f, const char *path);
/* Saves every changed text, asking for names where there are none; then calls `then`, if any. */
void editor_save_every(Editor *ed, void (*then)(Editor *));

/* What the settings ask of a save. */
SaveWish save_wish(const Editor *ed);

/* Large texts are written on a thread: takes note of those that are done. */
void saving_go_on(Editor *ed);
int saving_wait(const Editor *ed);
/* "Saving tide.log, 43%", or NULL; valid until the next call. */
const char *saving_words(const OpenFile *f);
/* Waits until it is written. */
void saving_finish(Editor *ed, OpenFile *f);

#endif

/* What the calls of scripts share: the text they speak of, its lines and places. Each raises an error when it
 * cannot be. */
#ifndef PLACES_H
#define PLACES_H

#include "script/engine.h"

/* The text that the calls speak of. */
OpenFile *call_file(lua_State *L);
/* The same, and that it may be changed. */
OpenFile *call_file_to_change(lua_State *L);
/* The view that shows it, for what speaks of the cursor or the mark. */
View *call_view(lua_State *L);
/* Lines as people count them. */
size_t call_lines(Text t);
/* A line's number from argument `arg`, from 0; without one that of the cursor. `beyond`: the one after the
 * last is fine too. */
size_t call_line(lua_State *L, int arg, Text t, bool beyond);
/* The place of a line and a column (arguments `arg` and `arg` + 1; without the latter column 1). */
size_t call_place(lua_State *L, int arg, Text t);
/* Pushes line and column of a place. */
int call_push_place(lua_State *L, Text t, size_t at);
/* Pushes the bytes from one place to another. */
int call_push_text(lua_State *L, Text t, size_t from, size_t to);
/* Replaces bytes by what argument `arg` says, with the file's own line ends. */
void call_replace(lua_State *L, OpenFile *f, size_t at, size_t removed, int arg);

#endif

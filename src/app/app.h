/* The wiring: what the screen side and main drive. Input goes in and a Frame comes out; what is due by itself
 * is done in app_tick. */
#ifndef APP_H
#define APP_H

#include "ui/editor.h"

Editor *app_new(void);
/* Nothing more is done with it; false, with the reason, when unsaved work could not be kept for recovery. */
bool app_end(Editor *ed, Err *e);
void app_free(Editor *ed);

void app_resize(Editor *ed, int rows, int cols);
void app_input(Editor *ed, const Input *in, uint64_t now);
/* Are keys played? Then what a person presses waits until app_tick has played them; but for Esc, which they
 * look for by Editor.stop. */
bool app_plays(const Editor *ed);
/* Lays out the screen; the Frame stays the editor's. */
const Frame *app_paint(Editor *ed);

/* What is due by itself; app_wait: milliseconds until then, -1: nothing. */
void app_tick(Editor *ed, uint64_t now);
int app_wait(const Editor *ed, uint64_t now);
/* What else to wait for beside the keyboard, APP_FDS at most; returns how many. Then call app_tick. */
enum { APP_FDS = 16 };
size_t app_fds(const Editor *ed, struct pollfd *out);

/* What the system's clipboard held; `why` not NULL: it could not be read. */
void app_fetched(Editor *ed, const char *bytes, size_t n, const char *why);
/* The terminal is ours again after a shell had it: other files may have changed. */
void app_returned(Editor *ed);
/* The program ends by a failure: lets the journal finish what it has. For signal handlers. */
void app_emergency(const Editor *ed);

/* What root's helper is to write; false when there is nothing for it. Then, how that went; it frees
 * what the wish holds. */
typedef struct RootWish {
    unsigned plan;
    char *path;
    Text bytes;
    DiskState only;
    SaveWish wish;
    bool on_trial; /* for so many seconds, with that command (kept until the end); and then the pipes to its
                      guard */
    char seconds[16];
    const char *command;
    int to, from;
} RootWish;
bool app_root_begin(Editor *ed, RootWish *out);
void app_root_end(Editor *ed, RootWish *w, bool ok, const char *why);

/* Root's helper has checked the file, or could not, and why. */
void app_root_checked(Editor *ed, OpenFile *f, const char *why);

#endif

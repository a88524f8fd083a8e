/* Drives the built program on a pseudo-terminal, with libvterm as the terminal. */
#ifndef DRIVE_H
#define DRIVE_H

#include <stdbool.h>
#include <stddef.h>
#include <sys/types.h>

typedef struct Pty Pty;

/* Sets (or with NULL unsets) a variable for the programs started from now on in this test. */
void pty_env(const char *name, const char *value);
/* Gives the test's folder to nobody, with a copy of the program, and puts a stand-in for sudo into it that
 * asks for a word, "harbour", as "password 0:", "password 1:" and so on, and then really is root, at home in
 * the folder harbour. False, which is told, when nothing may become root here. */
bool pty_make_sudo(void);
/* A line for the shell that runs the program as nobody on these files. Valid until the next call. */
const char *pty_as_nobody(const char *files);
/* Starts `program` with arguments up to NULL, in the test's folder, with its own HOME. */
Pty *pty_start(const char *program, int rows, int cols, const char *const *args);
/* The same with the names of up to two files, in 24 rows of 100 columns or another size; waits until the
 * first screen is there. */
Pty *pty_edit(const char *a, const char *b);
Pty *pty_edit_at(int rows, int cols, const char *a, const char *b);
/* Types a script: characters as they are, keys by name in angle brackets, as in
 * "hello<Enter><Ctrl+S>"; "<lt>" is '<', "<wait>" is a pause of 0.4 s. Then waits as pty_idle does. */
void pty_do(Pty *p, const char *script);
/* Waits until the program has taken all that was sent, has shown what came of it, and sleeps: what is not on
 * the screen then will not come by itself, but for what a timer or work in the background brings. At once
 * when the program does not tell (it is not ours, or its environment was cleaned). */
bool pty_idle(Pty *p);
/* The same, and until no timer runs any more: the journal is written, messages have had their time. */
bool pty_rest(Pty *p);
/* Sends bytes as they are. */
void pty_send(Pty *p, const void *bytes, size_t n);
/* Takes in output for that long. */
void pty_pause(Pty *p, int ms);
void pty_resize(Pty *p, int rows, int cols);
/* Tells the program of a size that the terminal does not have. */
void pty_claim_size(Pty *p, int rows, int cols);
/* Waits up to some seconds until the screen shows (or no longer shows) a text. */
bool pty_shows(Pty *p, const char *text);
bool pty_hides(Pty *p, const char *text);
/* A row of the screen without trailing blanks; valid until the next call. */
const char *pty_row(Pty *p, int row);
/* The first row that shows a text, or -1. */
int pty_find(Pty *p, const char *text);
void pty_cursor(Pty *p, int *row, int *col);
/* How the cell looks, as letters: b bold, u underline, r reverse, f own foreground, g own background. */
const char *pty_look(Pty *p, int row, int col);
/* The number of the colour behind a cell; -1: the terminal's own. */
int pty_ground(Pty *p, int row, int col);
/* Programs that are begun from here on have that theme: "terminal" has looks that pty_look tells apart. */
void pty_theme(const char *name);
/* On the alternate screen? Is bracketed paste asked for? */
bool pty_alternate(const Pty *p);
/* Bytes the program has sent so far. */
size_t pty_sent(const Pty *p);
const char *pty_raw(const Pty *p, size_t *n);
pid_t pty_pid(const Pty *p);
/* Sends keys to another program that has the terminal for now, such as a shell. */
void pty_others(Pty *p, const char *bytes);
/* Sends keys without reading what comes back. */
void pty_feed(Pty *p, const char *bytes, size_t n);
/* Has the program ended? Reads nothing from it. */
bool pty_gone(const Pty *p);
/* Waits until all that was sent lies ready for the program, which may be stopped. */
bool pty_arrived(Pty *p);
/* Waits until the program has ended; pty_end is still to be called. */
bool pty_ended(Pty *p);
/* Are the terminal's settings those from before the start? */
bool pty_restored(const Pty *p);
/* Waits for the end; its exit status, or 128 + signal, or -1 when it had to be killed. Frees p. */
int pty_end(Pty *p);

/* Leaves the editor from wherever it is, dropping what is not saved; the exit status as above. Frees p. */
int pty_leave(Pty *p);
/* The same, and that the status is 0. */
#define LEAVE(p) CHECK_INT(pty_leave(p), 0)

/* Waits for what no screen and no pulse tells, such as another program's file. */
#define UNTIL(p, condition)                                                                                  \
    do {                                                                                                     \
        for (int left_ = 1000; left_ > 0 && !(condition); left_--)                                           \
            pty_pause(p, 10);                                                                                \
        CHECK(condition);                                                                                    \
    } while (0)

#define SHOWS(p, text)                                                                                       \
    check_result(pty_shows(p, text), __FILE__, __LINE__, "the screen never showed: %s", text)
#define HIDES(p, text)                                                                                       \
    check_result(pty_hides(p, text), __FILE__, __LINE__, "the screen still shows: %s", text)

#endif

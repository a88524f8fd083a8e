/* What was pressed, as it is kept to be pressed again: keys, pastes and answers to questions; and its form as
 * text, which a person can read and change:
 *
 *   Ctrl+F               a key by its name
 *   "berth 4"            what is typed, in quotation marks: \" \\ \n \t, and \xHH for a byte
 *   paste "two\nlines"
 *   answer "Replace"     what is chosen when a question is asked, in the words that stand there
 *   pause                a second without a key
 *   -- words             a remark
 */
#ifndef RECORDED_H
#define RECORDED_H

#include "base/bytes.h"
#include "base/err.h"
#include "input/key.h"

typedef enum RecordedKind { RECORDED_KEY, RECORDED_PASTE, RECORDED_ANSWER, RECORDED_PAUSE } RecordedKind;

typedef struct RecordedStep {
    RecordedKind kind;
    Key key;
    char *bytes; /* of a paste or an answer; a zero follows them */
    size_t n;
} RecordedStep;

/* Begin with {0}. */
typedef struct Recorded {
    RecordedStep *steps;
    size_t n;
} Recorded;

enum { RECORDED_MOST = 100000 /* steps */ };

/* `bytes` are copied; NULL for a key or a pause. */
void recorded_add(Recorded *r, RecordedKind kind, Key key, const char *bytes, size_t n);
/* Forgets all but the first n steps. */
void recorded_cut(Recorded *r, size_t n);
void recorded_copy(Recorded *to, const Recorded *from);
void recorded_free(Recorded *r);

/* Adds the text form, a step (or what is typed in a row) in each line. */
void recorded_write(const Recorded *r, Bytes *out);
/* Adds one step as it is written, for messages; what is long is cut. */
void recorded_words(const RecordedStep *s, Bytes *out);
/* Reads the text form and adds it; false with the reason in e and its line, from 1. */
bool recorded_read(const char *text, Recorded *out, Err *e, unsigned *line);

#endif

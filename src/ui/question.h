/* A question on the status line: some letters, each with its words. */
#ifndef QUESTION_H
#define QUESTION_H

#include "ui/editor.h"

enum { ANSWERS_MAX = 6 };

typedef struct AnswerLetter {
    char letter; /* lower case */
    const char *label;
} AnswerLetter;

typedef struct QuestionSpec {
    AnswerLetter answers[ANSWERS_MAX]; /* up to the first without a letter */
    const char *stay;                  /* what Esc is called */
    char yes, no;  /* the letters that y and n mean, where it is one of yes or no; no 0: n means Esc */
    bool can_lose; /* typed-ahead letters must not answer it */
    void (*done)(Editor *ed, char letter, void *ctx); /* letter 0: Esc */
    void *ctx;
    void (*free_ctx)(void *);
} QuestionSpec;

void question_ask(Editor *ed, const QuestionSpec *spec, const char *format, ...)
    __attribute__((format(printf, 3, 4)));

/* The words of the answer that this key gives to the question that is asked; NULL: none. */
const char *question_answer(const Editor *ed, Key key);
/* Is one asked? Gives the answer of those words to it; false when it has none such. */
bool question_is_asked(const Editor *ed);
bool question_answer_by(Editor *ed, const char *words);

#endif

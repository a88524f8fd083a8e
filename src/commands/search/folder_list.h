/* What a search in a folder has found: the list over the text, while more comes; what the text above shows;
 * and going through it without the list. */
#ifndef FOLDER_LIST_H
#define FOLDER_LIST_H

#include "files/folder_search.h"
#include "ui/editor.h"
#include "view/view.h"

/* A file in which nothing was replaced, and why. */
typedef struct Failure {
    char *path;
    char *why;
} Failure;

typedef struct FolderFind {
    Task task;
    FolderSearch *search; /* the last one; NULL: none yet */
    char *asked;          /* for a folder, as it was typed last; or NULL */
    char *words;          /* what it looks for, with the options below */
    FindCase letters;
    bool whole, expression;
    char **folders; /* their full names */
    size_t n_folders;
    char *with;  /* what replaces it; NULL: it is only looked for */
    bool follow; /* the letter case of what it replaces */
    bool *left;  /* lines that are not to be replaced, as many as `n_left` */
    size_t n_left;
    void (*replace)(Editor *ed); /* Enter in the list; what that does */
    Failure *failures;           /* of the last replacing */
    size_t n_failures;
    void *work;                /* a replacing that goes on, */
    void (*free_work)(void *); /* and what ends it; NULL: there is none */
    long now;                  /* the result that was gone to last */
    uint64_t filled;           /* ms, when the list was */
    bool due;                  /* it is to be filled again */
    char title[160], empty[80];
    const void *list; /* what the panel keeps, while it is there */
    OpenFile *copy;   /* of a file that is not open, shown while the list is there; in no session */
    View view;
} FolderFind;

/* Begins a search by the options of finding; `with`: what would replace it, or NULL. False with the reason in
 * e. */
bool folder_list_start(Editor *ed, const char *words, const char *with, char *const *folders, size_t n,
                       const char *names, Err *e);
void folder_list_free_failures(FolderFind *r);
/* Shows the list. */
void folder_list_open(Editor *ed);
void folder_list_begin(Editor *ed);
void folder_list_free(Editor *ed);
/* All that was found by now; there must have been a search. */
const FolderFound *folder_list_found(const Editor *ed);
/* Is that line to be replaced? */
bool folder_list_taken(const Editor *ed, size_t hit);
/* Takes all lines, or none. */
void folder_list_take_all(Editor *ed, bool take);
/* The part of a path that the folders do not say already. */
const char *folder_list_below(const Editor *ed, const char *path);
/* The text of a session that has that path, or NULL. */
OpenFile *folder_list_open_text(const Session *s, const char *path);

#endif

/* Finding in all text files below some folders: threads read and search, and the main thread takes what they
 * found in the order of the paths. No text is made of a file; the finder looks at its bytes. */
#ifndef FOLDER_SEARCH_H
#define FOLDER_SEARCH_H

#include "base/bytes.h"
#include "edit/match_lines.h"
#include "files/disk.h"

/* What is searched instead of a file's bytes: a text that is open. */
typedef struct OpenText {
    const char *path; /* its full name */
    const DiskState *disk;
    Text text;
} OpenText;

typedef struct FolderWish {
    const char *const *folders; /* full names of folders, or of files */
    size_t n_folders;
    const char *names; /* patterns of the names that count, with commas between; "": all do */
    FindWhat what;
    const Replacement *by; /* the lines are shown as they would be; NULL: as they are */
    bool ignored;          /* also what ignore files leave out */
    size_t most;           /* bytes; larger files are passed over */
    const OpenText *open;
    size_t n_open;
} FolderWish;

typedef struct FolderFile {
    char *path;
    size_t lines; /* that matched */
} FolderFile;

/* A line that matched. */
typedef struct FolderHit {
    size_t file;     /* its number in FolderFound */
    size_t line;     /* from 0 */
    char *text;      /* of the line as much as says enough, in UTF-8 or bytes, */
    size_t from, to; /* and in that the first match, or what would be another */
    size_t places;   /* matches in it */
    uint64_t was;    /* a hash of the bytes from which they would be changed */
} FolderHit;

typedef struct FolderCounts {
    size_t files, with, lines, places; /* searched; in how many of them, in how many lines, and how often */
    /* passed over: */
    size_t binary, large, unreadable, ignored, links, systems, others;
    size_t hard; /* the expression took too long there */
} FolderCounts;

typedef struct FolderFound {
    FolderFile *files; /* that have a hit */
    FolderHit *hits;
    size_t n_files, n_hits;
    FolderCounts counts;
    bool ended, stopped;
} FolderFound;

/* Lines that are kept; what is found beyond them only counts. */
enum { FOLDER_HITS_MOST = 20000 };

typedef struct FolderSearch FolderSearch;

/* The text files below, in the order of their paths, whatever is in them: the caller frees each and all. */
char **folder_search_files(const FolderWish *w, size_t *n);

/* The hash of the lines that were found last. */
uint64_t folder_search_hash(const MatchLines *m);

/* Begins. The wish's strings and texts are copied. NULL with the reason in e, and in *mistake the byte of
 * what is looked for where it was noticed. */
FolderSearch *folder_search_begin(const FolderWish *w, Err *e, size_t *mistake);
/* Readable when there is something to take. */
int folder_search_fd(const FolderSearch *s);
/* Takes what came, without waiting; true when there was something. */
bool folder_search_take(FolderSearch *s);
/* All that was taken; valid until the next call. */
const FolderFound *folder_search_found(const FolderSearch *s);
/* Nothing more is searched; what was found stays. */
void folder_search_stop(FolderSearch *s);
/* Also in the middle: its threads leave when they can. NULL is fine. */
void folder_search_free(FolderSearch *s);

#endif

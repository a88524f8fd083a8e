/* A text that is open, whether or not it has a file yet. Its session owns it; those who want to come back to
 * it later holds its FileId and looks it up: a closed one is simply not there. */
#ifndef OPENFILE_H
#define OPENFILE_H

#include "edit/doc.h"
#include "files/encoding.h"
#include "files/filesystem.h"
#include "files/load.h"
#include "files/in_use.h"
#include "files/location.h"
#include "files/rules.h"
#include "files/text_format.h"
#include "kinds/kinds.h"

/* Never given twice in a session; 0: none. */
typedef unsigned long FileId;

typedef enum Purpose {
    FOR_WORK,
    FOR_PRACTICE, /* a copy of a sample: nobody's work to be recovered */
    FOR_READING,  /* a page of help: it has no file and is never changed */
} Purpose;

/* The version on disk that was reported to the person. */
typedef struct Reported {
    bool any;
    DiskState disk;
} Reported;

/* A whole version that lies beside the file, as a save was broken off. */
typedef struct SafeCopy {
    char *path;          /* NULL: there is none */
    bool settled, taken; /* the person has decided; it is in the text, and goes when that is saved */
} SafeCopy;

/* Blanks that were put at the beginning of a new line, and nothing yet after them. */
typedef struct FreshIndent {
    size_t at, n;          /* n 0: there are none */
    unsigned long version; /* of the document; at any other they are no longer fresh */
} FreshIndent;

typedef struct OpenFile {
    FileId id;
    Doc *doc;
    char *path;         /* its full name (location.h); NULL while it has none */
    char *inside;       /* the path on its own system, */
    char *title;        /* and the name as people read it */
    char *becomes;      /* the full name that it is just being given on its disk, or NULL */
    char *original;     /* what it stands for, where another program gave a copy to be edited; or NULL */
    const char *caller; /* for people: "a copy for sudo -e" */
    DiskState disk;
    DiskNews news; /* how its file differs from that, as far as was seen last */
    TextFormat format;
    Encoding encoding;
    Rules rules;         /* what .editorconfig asks for */
    bool format_changed; /* it will be written in another form than it has on disk */
    const Kind *kind;
    bool is_template; /* something of that kind is made of it: it is none itself yet */
    bool kind_said;   /* a person said it, in this run */
    bool look_only;
    bool piped;          /* it came from a pipe: nothing of it is on disk until it has a name */
    bool marks_are_text; /* a person saves it with lines that look like those of a merge */
    bool ends_open;      /* on purpose: a person took the last line end away by the properties */
    Purpose purpose;
    bool unsettled;          /* it was just opened: what a slow disk may know of it is still to be asked */
    struct Reading *reading; /* of the rest of it, see reading.h; NULL: all is there */
    struct Following *following; /* it is followed as it grows, see following.h; NULL: it is not */
    bool incomplete;             /* reading was stopped or failed: it must not be saved */
    bool unreadable;             /* nothing of it could be had: it goes as soon as nothing lies over it */
    struct Writing *writing;     /* the save under way, see writing.h; NULL: none */
    struct Looking *looking;     /* at its disk, see looking.h; NULL: nobody does */
    struct Keeping *keeping;     /* what the recovery journal has of it, see keeper.h */
    unsigned long dropped;       /* 0, or the version (from 1) whose changes were given up on purpose */
    struct Checking *check;      /* see checking.h; NULL: it was never checked */
    struct Shown *shown;         /* whatever those who show it keep with it */
    size_t in_use;               /* its line in the session's note, 0: none */
    InUseBy used_by;             /* who has it open, if `used` */
    bool used;
    Reported reported;
    FreshIndent fresh;
    SafeCopy safe_copy;
} OpenFile;

/* A text in no session yet; takes over `t` and `path`, which is NULL where it has no name. */
OpenFile *openfile_new(Text t, char *path);
/* Nothing may be going on with it, and no anchor be left in its document. */
void openfile_free(OpenFile *f);

/* Gives it another full name, which it takes over. Its kind stays. */
void openfile_set_path(OpenFile *f, char *path);
/* The path that says what it is: its own, or that which it stands for. NULL while it has no name. */
const char *openfile_known_path(const OpenFile *f);
/* The name for messages: the last part of the path that says what it is, or "this text". */
const char *openfile_name(const OpenFile *f);
/* Has it changes that are not on disk, in its text or its form? All of it is one when its file was removed.
 */
bool openfile_changed(const OpenFile *f);
/* Was its file removed, or renamed by somebody else? */
bool openfile_gone(const OpenFile *f);
/* Is it a text that another program, such as a version control or crontab, waits to have back? By its name.
 */
bool openfile_is_awaited(const OpenFile *f);
/* Does it lie among temporary files, or in the workings of a version control? */
bool openfile_is_temporary(const OpenFile *f);
/* Removes fresh indentation when its line is left without typing anything after it. */
void openfile_drop_fresh(OpenFile *f);
/* Finds out the kind of file by its name and beginning. */
void openfile_recognise(OpenFile *f);
/* It is of that kind: indented as is usual there, unless its own lines or .editorconfig say otherwise. */
void openfile_set_kind(OpenFile *f, const Kind *k);

/* How its file differs from what we last knew of it, by what was seen of it just now. DISK_TOUCHED: its bytes
 * must be compared with openfile_bytes, and the result given to openfile_compared. */
DiskNews openfile_news_by(OpenFile *f, const Seen *seen);
bool openfile_bytes(const OpenFile *f, Text *out);
DiskNews openfile_compared(OpenFile *f, bool same, const DiskState *now);
/* Is it certain by now that it was removed? */
bool openfile_gone_by(OpenFile *f, const Seen *seen);
/* Takes its line ends and letters, as they prove to be. */
void openfile_take_format(OpenFile *f);

#endif

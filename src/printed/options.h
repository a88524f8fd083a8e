/* The options of the command line: one table from which --help, the manual page, the completions of shells
 * and the reading of the line are made. */
#ifndef OPTIONS_H
#define OPTIONS_H

#include "base/bytes.h"

#include <stdbool.h>

/* What follows an option, for shells that complete it. */
typedef enum OptionValue {
    VALUE_NONE,
    VALUE_KIND,
    VALUE_COMMANDS,
    VALUE_FILE,
    VALUE_FOLDER,
    VALUE_NUMBER,
    VALUE_WORDS,
    VALUE_PRINTED
} OptionValue;

typedef struct Option {
    char code;         /* what main knows it by; */
    bool letter;       /* it is the short option too */
    const char *name;  /* "look" */
    const char *value; /* as help writes what follows, or NULL */
    OptionValue of;
    const char *help;
} Option;

/* What --print knows; names by these numbers. */
typedef enum Printed {
    PRINTED_PAGE,
    PRINTED_SETTINGS_PAGE,
    PRINTED_SCRIPTS_PAGE,
    PRINTED_BASH,
    PRINTED_ZSH,
    PRINTED_FISH,
    PRINTED_SAMPLE,
    PRINTED_KINDS,
    PRINTED_COMMANDS,
    PRINTED_SETTINGS,
    PRINTED_KEYS,
    PRINTED_COUNT
} Printed;
extern const char *const options_printed[PRINTED_COUNT];

/* Up to one without a name. */
extern const Option options_table[];

/* What --help shows. */
void options_help(Bytes *out);
/* Parts of it that the manual page has, too: one paragraph a line. */
extern const char *const options_about[];
extern const char *const options_status[];

#endif

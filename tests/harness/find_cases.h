/* Finding and replacing: run through the core and through the screen. */
#ifndef FIND_CASES_H
#define FIND_CASES_H

#include <stddef.h>

typedef struct Case {
    const char *text, *what;
    const char *flags; /* e expression, w words, x exact case, i any case, f follow case */
    const char *with, *result;
    size_t count;
} Case;

static const Case cases[] = {
    {"berth berth", "berth", "", "quay", "quay quay", 2},
    {"Berth berth", "berth", "", "x", "x x", 2},
    {"Berth berth", "Berth", "", "x", "x berth", 1},
    {"Berth berth", "Berth", "i", "x", "x x", 2},
    {"Berth berth", "berth", "x", "x", "Berth x", 1},
    {"a.b axb", "a.b", "", "-", "- axb", 1},
    {"a.b axb", "a.b", "e", "-", "- -", 2},
    {"port ports port", "port", "w", "x", "x ports x", 2},
    {"aaa", "aa", "", "b", "ba", 1},
    {"aaa", "a", "", "aa", "aaaaaa", 3},
    {"one\ntwo\n", "^", "e", "# ", "# one\n# two\n", 2},
    {"one\ntwo", "$", "e", ";", "one;\ntwo;", 2},
    {"one\r\ntwo\r\n", "$", "e", ";", "one;\r\ntwo;\r\n;", 3},
    {"k=v", "(\\w)=(\\w)", "e", "$2=$1", "v=k", 1},
    {"k=v", "(?<a>\\w)=", "e", "${a}:", "k:v", 1},
    {"cost", "cost", "e", "$$5\\t\\\\", "$5\t\\", 1},
    {"cost", "cost", "", "$1\\n", "$1\\n", 1},
    {"a\n\n\nb", "\\n+", "e", "\\n", "a\nb", 1},
    {"\1x\xff\xfey", "y", "", "z", "\1x\xff\xfez", 1},
    {"\1x\xff\xfey", "\xff", "", "", "\1x\xfey", 1},
    {"GR\xc3\x9c\xc3\x9f"
     "E gr\xc3\xbc\xc3\x9f"
     "e",
     "gr\xc3\xbc\xc3\x9f"
     "e",
     "", "hi", "hi hi", 2},
    {"none", "x*", "e", "-", "-n-o-n-e-", 5},
    {"aXb", "(?i)x", "e", "", "ab", 1},
    {"tab\there", "\\t", "e", " ", "tab here", 1},
    {"", "a", "", "b", "", 0},
    {"quay Quay QUAY qUay", "quay", "f", "berth", "berth Berth BERTH berth", 4},
    {"Kai KAI", "kai", "f", "b\xc3\xa4r", "B\xc3\xa4r B\xc3\x84R", 2},
    {"xabx", "ab", "x", "", "xx", 1},
};

enum { N_FIND_CASES = sizeof cases / sizeof *cases };

#endif

/* Words that a dictionary does not know: where they are looked for, and what is left out. */
#include "check.h"
#include "editors.h"
#include "app/app.h"
#include "files/speller.h"
#include "session/checking.h"
#include "session/session_files.h"
#include "text/text_line.h"

#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A dictionary of the harbour; false, and the test is skipped, where the library is missing. */
static bool make_dictionary(void)
{
    Err e;
    check_put("harbour.aff", "SET UTF-8\nSFX S Y 1\nSFX S 0 s .\n");
    check_put("harbour.dic", "9\nthe/S\nferry\nberth/S\nopen/S\nat\nfähre\ndoesn't\nnot\nis\n");
    Speller *s = speller_new(check_path("harbour"), "", &e);
    if (!s)
        check_skip("%s", e.text);
    else
        CHECK_STR(speller_names(s), "harbour");
    speller_free(s);
    return s != NULL;
}

/* Runs it to its end; the words that are marked, divided by blanks. */
static void marked(Editor *ed, Bytes *out)
{
    editors_press(ed, "Esc t j");
    for (int i = 0; i < 2000 && ed->spelling; i++) {
        tasks_poll(&ed->session->tasks);
        poll(NULL, 0, 2);
    }
    size_t n;
    const FileProblem *all = checking_problems(ed->panes.view->file, &n);
    for (size_t i = 0; i < n; i++) {
        char *word = text_string(view_text(ed->panes.view), all[i].from, all[i].to);
        bytes_printf(out, "%s%s", i ? " " : "", word);
        CHECK(all[i].hint && strstr(all[i].words, "is in no dictionary (harbour)") != NULL);
        free(word);
    }
}

TEST(words_that_are_marked)
{
    static const struct {
        const char *kind, *text, *want;
    } cases[] = {
        {"shell", "# the ferrry\nferrry='the brth' # brth\n", "ferrry brth"},
        {"shell", "# berths open at the brth\n", "brth"},
        {"c", "int brth; /* not the brth\n opnes */ // ist\n", "brth opnes ist"},
        {"text",
         "the fery is at /usr/fery, fery.example, --fery, fery_no, fery2, FERY, feryBoat or fery@bay\n",
         "fery or"},
        {"text", "Fery doesn't doesn’t dosen't\n", "Fery dosen"},
        {"text", "fähre fahre Fähre\n", "fahre"},
        {"markdown", "# the berthh\n\n`berthh` is opn\n\n```\nopn\n```\n", "berthh opn"},
        {"git-message", "opn the ferry\n\nnot opn\n# opn is not\n", "opn opn"},
        {"json", "{\"opn\": \"fery\"}\n", ""},
        {"text", "", ""},
    };
    if (!make_dictionary())
        return;
    for (size_t i = 0; i < sizeof cases / sizeof *cases; i++) {
        Bytes words = {0};
        check_case(cases[i].text);
        Editor *ed = editors_start(cases[i].text, strlen(cases[i].text), 24, 100);
        openfile_set_kind(ed->panes.view->file, kind_named(cases[i].kind));
        snprintf(ed->config.settings.dictionaries, sizeof ed->config.settings.dictionaries, "%s",
                 check_path("harbour"));
        marked(ed, &words);
        CHECK_STR(bytes_str(&words), cases[i].want);
        bytes_free(&words);
        app_free(ed);
    }
}

/* Marks go with what is typed there, and all of them when it is asked for again; Esc ends what goes on. */
TEST(marks_of_spelling)
{
    Bytes words = {0};
    if (!make_dictionary())
        return;
    Editor *ed = editors_start("fery brth\n", 10, 24, 100);
    openfile_set_kind(ed->panes.view->file, kind_named("text"));
    snprintf(ed->config.settings.dictionaries, sizeof ed->config.settings.dictionaries, "%s",
             check_path("harbour"));
    marked(ed, &words);
    CHECK_STR(bytes_str(&words), "fery brth");
    CHECK(editors_show(ed, "2 of 2 words are in no dictionary"));
    editors_press(ed, "F4");
    CHECK(editors_show(ed, "perhaps berth"));
    editors_press(ed, "Ctrl+Home Right Right r");
    bytes_clear(&words);
    marked(ed, &words);
    CHECK_STR(bytes_str(&words), "brth");
    bytes_clear(&words);
    marked(ed, &words);
    CHECK_STR(bytes_str(&words), "");
    CHECK(editors_show(ed, "not marked any more"));
    editors_press(ed, "x Esc t j Esc");
    for (int i = 0; i < 1000 && ed->spelling; i++) {
        tasks_poll(&ed->session->tasks);
        poll(NULL, 0, 2);
    }
    CHECK(!ed->spelling && editors_show(ed, "Spelling was not checked"));
    snprintf(ed->config.settings.dictionaries, sizeof ed->config.settings.dictionaries, "xx_XX");
    bytes_clear(&words);
    marked(ed, &words);
    CHECK(editors_show(ed, "there is no dictionary “xx_XX”"));
    bytes_free(&words);
    app_free(ed);
}

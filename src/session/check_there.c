#include "session/check_there.h"

#include "base/arguments.h"
#include "base/mem.h"
#include "base/paths.h"

#include <stdlib.h>
#include <string.h>

/* Its first line names the private folder, or none; its last one says that it was not cut off. */
#define FOLDER_IS "private folder "
#define ENDED "ended there\n"

bool check_there_can(const Check *c, const char **why)
{
    *why = c->loads
               ? "is not asked on other machines, as nothing there keeps it from running what the text names"
           : c->as_root ? "is not asked on other machines, as it works for root only"
           : c->in_folder || c->binds || c->writes
               ? "is not asked on other machines, as it wants more than the text"
               : NULL;
    return !*why;
}

static bool wants_copy(const Check *c)
{
    bool wants = false;
    for (KindWords w = c->run; *w; w++)
        wants = wants || strcmp(*w, "FILE") == 0;
    return wants;
}

static void add_words(const Check *c, const char *name, Text bytes, Bytes *out)
{
    Bytes all = {0};
    if (c->given)
        text_bytes(bytes, 0, text_len(bytes), &all);
    char *value = check_value(c, bytes_str(&all), all.len);
    for (KindWords w = c->run; *w; w++) {
        bytes_add_str(out, w == c->run ? "" : " ");
        if (strcmp(*w, "FILE") == 0) {
            bytes_add_str(out, "\"$d\"/");
            arguments_for_shell(name, out);
        } else {
            arguments_for_shell(strcmp(*w, "VALUE") == 0 ? value : *w, out);
        }
    }
    free(value);
    bytes_free(&all);
}

void check_there_script(const Check *c, const char *path, Text bytes, Bytes *out)
{
    Bytes script = {0};
    const char *name = path_base(path);
    bytes_add_str(
        &script,
        "umask 077; PATH=$PATH:/usr/local/sbin:/usr/sbin:/sbin; LC_ALL=C.UTF-8; TERM=dumb; unset LANGUAGE; "
        "export PATH LC_ALL TERM; command -v ");
    arguments_for_shell(c->run[0], &script);
    bytes_printf(&script, " >/dev/null || exit %d; ", THERE_NOT_INSTALLED);
    if (wants_copy(c)) {
        bytes_printf(&script, "d=$(mktemp -d) || exit %d; trap 'rm -rf \"$d\"' EXIT; cat >\"$d\"/",
                     THERE_NOT_POSSIBLE);
        arguments_for_shell(name, &script);
        bytes_printf(&script, " || exit %d; cd \"$d\"; ", THERE_NOT_POSSIBLE);
    }
    bytes_add_str(&script, "echo \"" FOLDER_IS "$d\"; ");
    add_words(c, name, bytes, &script);
    bytes_add_str(&script, "; s=$?; printf \"ended there\\\\n\"; exit $s");
    bytes_add_str(out, "exec /bin/sh -c ");
    arguments_for_shell(script.at, out);
    bytes_free(&script);
}

static void replace(const char *in, const char *what, const char *with, Bytes *out)
{
    for (const char *hit; *in; in = hit + strlen(what)) {
        hit = *what ? strstr(in, what) : NULL;
        bytes_add(out, in, hit ? (size_t)(hit - in) : strlen(in));
        if (!hit)
            return;
        bytes_add_str(out, with);
    }
}

bool check_there_translate(const char *path, const Bytes *said, Bytes *out)
{
    size_t tail = strlen(ENDED);
    char *all = mem_string_n(bytes_str(said), said->len), *from = strstr(all, FOLDER_IS);
    bool whole = from && said->len >= tail && strcmp(all + said->len - tail, ENDED) == 0;
    if (!whole) {
        bytes_add(out, bytes_str(said), said->len);
        free(all);
        return false;
    }
    all[said->len - tail] = 0;
    char *folder = from + strlen(FOLDER_IS), *rest = folder + strcspn(folder, "\n"),
         *real = path_folder(path);
    rest += *rest != 0;
    folder[strcspn(folder, "\n")] = *from = 0;
    replace(all, folder, real, out);
    replace(rest, folder, real, out);
    free(real);
    free(all);
    return true;
}

/* Programs that call an editor and wait for it, each once for real: the text is given back, and leaving with
 * failure calls the matter off where that is their way. */
#include "check.h"
#include "drive.h"

#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

#define SHOWS(p, text)                                                                                       \
    check_result(pty_shows(p, text), __FILE__, __LINE__, "the screen never showed: %s", text)

/* The program ends by them: nobody would tell that they arrived. */
#define BYE "\021"
#define ABORT "\033fr"

enum { STEPS = 8 };

typedef struct Step {
    const char *shows, *keys; /* wait for that (with '!': until it is gone), then press these; */
    const char *others;       /* or type these for the caller */
} Step;

typedef struct Caller {
    const char *name, *program; /* what must be installed */
    const char *prepare, *command;
    Step steps[STEPS];
    const char *check; /* true afterwards */
} Caller;

#define GIT "git -c user.name=mira -c user.email=mira@harrow.example "

static const Caller callers[] = {
    {"git commit",
     "git",
     "git init -q r",
     "cd r; " GIT "commit --allow-empty",
     {{"Esc f r Abort", "Berth 3 opens<Ctrl+S>", NULL}, {"Saved COMMIT_EDITMSG", NULL, BYE}},
     "[ \"$(git -C r log --format=%s)\" = 'Berth 3 opens' ]"},
    {"git commit, called off",
     "git",
     "git init -q r",
     "cd r; ! " GIT "commit --allow-empty",
     {{"Esc f r Abort", "Berth 3 opens<Ctrl+S>", NULL}, {"Saved COMMIT_EDITMSG", NULL, ABORT}},
     "! git -C r log -1 2>/dev/null"},
    {"git rebase",
     "git",
     "git init -q r; cd r; for n in 1 2 3; do " GIT "commit -q --allow-empty -m \"berth $n\"; done",
     "cd r; " GIT "rebase -q -i --root --empty=keep",
     {{"git-rebase-todo", "<Down><Ctrl+X><Ctrl+S>", NULL}, {"Saved git-rebase-todo", NULL, BYE}},
     "[ \"$(git -C r log --format=%s | tr '\\n' ,)\" = 'berth 3,berth 1,' ]"},
    {"git rebase, called off",
     "git",
     "git init -q r; cd r; for n in 1 2 3; do " GIT "commit -q --allow-empty -m \"berth $n\"; done",
     "cd r; ! " GIT "rebase -q -i --root --empty=keep",
     {{"git-rebase-todo", "<Down><Ctrl+X><Ctrl+S>", NULL}, {"Saved git-rebase-todo", NULL, ABORT}},
     "[ \"$(git -C r log --format=%s | wc -l)\" = 3 ]"},
    /* crontab tells a change by the second in which it came */
    {"crontab",
     "crontab",
     "crontab -u nobody -r 2>/dev/null; true",
     "crontab -u nobody -e",
     {{"Esc f r Abort", "<Ctrl+End>5 4 * * 1 tide-log<Enter><wait><wait><wait><Ctrl+S>", NULL},
      {"Saved crontab", NULL, BYE}},
     "crontab -u nobody -l | grep -q '^5 4 \\* \\* 1 tide-log$' && crontab -u nobody -r"},
    {"crontab, called off",
     "crontab",
     "crontab -u nobody -r 2>/dev/null; true",
     "! crontab -u nobody -e",
     {{"Esc f r Abort", "<Ctrl+End>5 4 * * 1 tide-log<Enter><wait><wait><wait><Ctrl+S>", NULL},
      {"Saved crontab", NULL, ABORT}},
     "! crontab -u nobody -l 2>/dev/null"},
    {"visudo",
     "visudo",
     "echo 'root ALL=(ALL) ALL' >s; chmod 440 s; chown 0:0 s",
     "visudo -f \"$PWD/s\"",
     {{"Line 1 of", "# the ferries' own<Enter><Ctrl+S>", NULL}, {"Saved s.tmp", NULL, BYE}},
     "head -n 1 s | grep -q \"^# the ferries' own$\""},
    {"visudo, with a mistake",
     "visudo",
     "echo 'root ALL=(ALL) ALL' >s; chmod 440 s; chown 0:0 s",
     "visudo -f \"$PWD/s\"",
     {{"Line 1 of", "mira may sail<Enter><Ctrl+S>", NULL},
      {"Saved s.tmp", NULL, BYE},
      {"What now?", NULL, "e\n"},
      {"Line 1 of", "<Ctrl+X><Ctrl+S>", NULL},
      {"Saved s.tmp", NULL, BYE}},
     "[ \"$(cat s)\" = 'root ALL=(ALL) ALL' ]"},
    {"sudoedit",
     "sudoedit",
     "echo 'volume = 7' >kiosk.ini",
     "sudoedit \"$PWD/kiosk.ini\"",
     {{"volume = 7", "# loud<Enter><Ctrl+S>", NULL}, {"Saved kiosk", NULL, BYE}},
     "[ \"$(head -n 1 kiosk.ini)\" = '# loud' ]"},
    {"vipw",
     "vipw",
     "cat /etc/passwd >before",
     "vipw",
     {{"/etc/passwd, a copy for vipw", NULL, BYE}},
     "cmp -s before /etc/passwd && [ ! -e /etc/passwd.edit ]"},
    {"vipw, called off",
     "vipw",
     "cat /etc/passwd >before",
     "! vipw",
     {{"Esc f r Abort", "quay:x:4242:4242::/:/bin/sh<Enter><Ctrl+S>", NULL}, {"Saved passwd: ", NULL, ABORT}},
     "cmp -s before /etc/passwd && [ ! -e /etc/passwd.edit ]"},
    {"bash's own line",
     "bash",
     "true",
     "PS1='berth: ' bash --norc --noprofile -i",
     {{"berth:", NULL, "echo tide\030\005"},
      {"bash-fc", "<End> >log<Ctrl+S>", NULL},
      {"Saved bash-fc", NULL, BYE},
      {"!Saved", NULL, "exit 0\n"}},
     "[ \"$(cat log)\" = tide ]"},
    {"bash's own line, called off",
     "bash",
     "true",
     "PS1='berth: ' bash --norc --noprofile -i",
     {{"berth:", NULL, "touch log\n"},
      {"berth: touch log", NULL, "fc -1\n"},
      {"bash-fc", "<Home>rm -f log #<Ctrl+S>", NULL},
      {"Saved bash-fc", NULL, ABORT},
      {"!Saved", NULL, "exit 0\n"}},
     "[ -e log ]"},
    {"zsh's own line",
     "zsh",
     "printf '%s\\n' 'autoload -Uz edit-command-line' 'zle -N edit-command-line'"
     " \"bindkey '^Xe' edit-command-line\" >.zshrc",
     "PS1='berth: ' ZDOTDIR=$PWD zsh -i",
     {{"berth:", NULL, "echo tide\030e"},
      {"Line 1 of 1", "<End> >log<Ctrl+S>", NULL},
      {"Saved ", NULL, BYE},
      {"!Saved", NULL, "\n"},
      {"berth:", NULL, "exit 0\n"}},
     "[ \"$(cat log)\" = tide ]"},
    {"less",
     "less",
     "seq 1 100 >tide.log",
     "less tide.log",
     {{"tide.log", NULL, "50gv"},
      {"of 100 · Column 1", "x<Ctrl+S>", NULL},
      {"Saved tide.log", NULL, BYE},
      {"!Saved", NULL, "q"}},
     "grep -q '^x[0-9]*$' tide.log"},
};

TEST(each_once)
{
    char have[100];
    pty_env("SQUILL", SQUILL);
    pty_env("EDITOR", SQUILL);
    pty_env("VISUAL", SQUILL);
    pty_env("SUDO_EDITOR", SQUILL);
    pty_env("GIT_CONFIG_NOSYSTEM", "1");
    for (size_t i = 0; i < sizeof callers / sizeof *callers; i++) {
        const Caller *c = &callers[i];
        snprintf(have, sizeof have, "PATH=$PATH:/usr/sbin command -v %s >/dev/null", c->program);
        bool roots = strstr("crontab visudo sudoedit vipw", c->program) != NULL;
        if (!check_shell(have) || (roots && geteuid() != 0)) {
            check_skip("%s is missing, or only root can try it", c->program);
            continue;
        }
        check_case(c->name);
        CHECK(check_shell("rm -rf r s log tide.log kiosk.ini before") && check_shell(c->prepare));
        char line[1200];
        snprintf(line, sizeof line, "export PATH=$PATH:/usr/sbin; %s", c->command);
        const char *args[] = {"-c", line, NULL};
        Pty *p = pty_start("/bin/sh", 24, 100, args);
        for (const Step *s = c->steps; s->shows; s++) {
            if (*s->shows == '!')
                check_result(pty_hides(p, s->shows + 1), __FILE__, __LINE__, "the screen still shows: %s",
                             s->shows + 1);
            else
                SHOWS(p, s->shows);
            if (s->others)
                pty_others(p, s->others);
            else
                pty_do(p, s->keys);
        }
        CHECK_INT(pty_end(p), 0);
        check_result(check_shell(c->check), __FILE__, __LINE__, "not so: %s", c->check);
    }
}

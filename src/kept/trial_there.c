#include "kept/trial_there.h"

#include "base/arguments.h"
#include "base/bytes.h"

#include <stdint.h>
#include <stdio.h>

/* ---- sums, by the algorithm that POSIX gives for cksum ---- */

static void make_table(uint32_t table[256])
{
    for (uint32_t byte = 0; byte < 256; byte++) {
        uint32_t sum = byte << 24;
        for (int i = 0; i < 8; i++)
            sum = sum & 0x80000000U ? sum << 1 ^ 0x04c11db7U : sum << 1;
        table[byte] = sum;
    }
}

void trial_there_sum(const Text *t, char out[TRIAL_SUM_MAX])
{
    uint32_t table[256], sum = 0;
    size_t n = t ? text_len(*t) : 0;
    make_table(table);
    for (size_t at = 0; at < n;) {
        TextRun run = text_run(*t, at);
        for (size_t i = 0; i < run.len; i++)
            sum = sum << 8 ^ table[sum >> 24 ^ (unsigned char)run.at[i]];
        at += run.len;
    }
    for (size_t left = n; left; left >>= 8)
        sum = sum << 8 ^ table[sum >> 24 ^ (left & 0xff)];
    if (t)
        snprintf(out, TRIAL_SUM_MAX, "%u %zu", ~sum, n);
    else
        snprintf(out, TRIAL_SUM_MAX, "none");
}

/* ---- the guard ---- */

/* $f: the path, $c: the command, $s: the seconds. It works in a private folder $d, where a file stands for
 * each thing that was heard or has happened. One reads what the editor says; the other looks once a second.
 * Both are deaf to hang-ups, so that a cut line does not end them. */
static const char script[] =
    "umask 077; PATH=$PATH:/usr/local/sbin:/usr/sbin:/sbin; export PATH\n"
    "trap '' HUP INT QUIT PIPE; exec 3<&0\n"
    "d=$(mktemp -d) && cd \"$d\" || exit 1\n"
    "say() { { printf 'steady-quill %s' \"$1\"; tr '\\n\\000' '\\001 ' <say; echo; } 2>/dev/null; }\n"
    "sum() { if [ -e \"$r\" ]; then cksum <\"$r\"; else echo none; fi; }\n"
    "r=$(readlink -f \"$f\" 2>/dev/null) || r=$f\n"
    "if [ -e \"$r\" ]; then [ -w \"$r\" ] && cp -p \"$r\" old || { cd /; rm -rf \"$d\"; exit 1; }; fi\n"
    "was=$(sum); : >say\n"
    /* What goes beside the file is put in its place only if it has the same owner and mode. */
    "like() { ls -lnd \"$1\" | { read -r m l o g x; echo \"$m $o $g\"; }; }\n"
    "put() {\n"
    "  [ -e old ] || { rm -f \"$r\"; return; }\n"
    "  t=$r.$$.bak\n"
    "  if cp -p old \"$t\" 2>/dev/null && [ \"$(like \"$t\")\" = \"$(like \"$r\")\" ] && mv -f \"$t\" "
    "\"$r\"; then return "
    "0; fi\n"
    "  rm -f \"$t\"; cat old >\"$r\" 2>why\n"
    "}\n"
    "run() { sh -c \"$c\" </dev/null >out 2>&1 3<&- & echo $! >pid; wait $!; echo $? >ended; mv ended $1; }\n"
    "stop() { [ -e pid ] && kill $(cat pid) 2>/dev/null; }\n"
    "back() {\n"
    "  now=$(sum); k=0\n"
    "  if [ \"$now\" = \"$was\" ]; then fate=N; return; fi\n"
    "  if [ ! -e sum ] || [ \"$now\" != \"$(cat sum)\" ]; then fate=C; return; fi\n"
    "  until put && [ \"$(sum)\" = \"$was\" ]; do\n"
    "    k=$((k+1)); if [ $k -gt 300 ]; then fate=F; return; fi; sleep 2\n"
    "  done\n"
    "  fate=T; [ -n \"$c\" ] || return\n"
    "  stop; rm -f pid second; run second & k=0\n"
    "  while [ ! -e second ] && [ $k -lt 60 ]; do k=$((k+1)); sleep 1; done\n"
    "  if [ ! -e second ]; then stop; echo 'the command did not end' >why\n"
    "  elif [ \"$(cat second)\" != 0 ]; then echo \"the command ended with status $(cat second)\" >why; fi\n"
    "}\n"
    "hear() {\n"
    "  while read -r w x; do case $w in\n"
    "    a) echo \"$x\" >heard; mv heard sum;; s) : >saved;; k) : >keep;; t) : >take;; x) stop;;\n"
    "  esac; done <&3\n"
    "  : >gone\n"
    "}\n"
    "watch() {\n"
    "  i=0; j=0; told=; fate=K\n"
    "  while [ ! -e keep ]; do\n"
    "    if [ -e take ] || [ $i -ge $s ]; then back; break; fi\n"
    "    if [ -e saved ] && [ $j = 0 ]; then\n"
    "      i=0; if [ -n \"$c\" ]; then run first & else echo 0 >first; : >out; fi; fi\n"
    "    if [ -e saved ]; then j=$((j+1)); fi\n"
    "    if [ $j -gt 60 ] && [ ! -e first ]; then stop; echo - >first; fi\n"
    "    if [ -e first ] && [ -z \"$told\" ]; then\n"
    "      told=1; dd if=out of=say bs=3000 count=1 2>/dev/null; say \"R$(cat first) \"; fi\n"
    "    if [ -e saved ] || [ -e gone ]; then i=$((i+1)); fi\n"
    "    sleep 1\n"
    "  done\n"
    "  : >say; if [ -s why ]; then dd if=why of=say bs=300 count=1 2>/dev/null; fi; say \"$fate \"\n"
    "  cd /; rm -rf \"$d\"\n"
    "}\n"
    "hear & watch </dev/null 3<&- & exec 3<&-\n"
    "say \"r$was\"; wait";

static void add_word(const char *name, const char *value, Bytes *out)
{
    bytes_printf(out, "%s=", name);
    arguments_for_shell(value, out);
    bytes_add_str(out, "; ");
}

void trial_there_line(const char *path, const char *command, unsigned seconds, Bytes *out)
{
    Bytes all = {0};
    add_word("f", path, &all);
    add_word("c", command, &all);
    bytes_printf(&all, "s=%u\n%s", seconds, script);
    bytes_add_str(out, "exec /bin/sh -c ");
    arguments_for_shell(all.at, out);
    bytes_free(&all);
}

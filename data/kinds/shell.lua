name = "shell"
about = "scripts of the shell"
looks_like = {
  { like = [[^\s*(?:if|elif|while|until)\b[^\n]*;\s*(?:then|do)\s*$]], weight = 4 },
  { like = [[^\s*(?:fi|done|esac)\s*$]], weight = 3 },
}
endings = { "sh", "bash", "zsh", "ksh", "dash", "ash", "bats", "ebuild" }
names = { "PKGBUILD", "APKBUILD", ".profile", ".bash*", ".zsh*", ".zprofile", ".zlogin", ".kshrc", ".xsession", ".xinitrc", ".xprofile", ".envrc", "profile",
  "bash.bashrc", "bashrc", "zshrc", "zshenv", "zprofile", "bash_completion", "APKBUILD", "PKGBUILD", ".mkshrc" }
paths = { "/etc/zsh/*", "/etc/sv/*/run", "/etc/profile.d/*", "/etc/init.d/*", "/etc/bash_completion.d/*", "*/bash-completion/completions/*", "/etc/cron.hourly/*",
  "/etc/cron.daily/*", "/etc/cron.weekly/*", "/etc/cron.monthly/*", "/etc/network/if-*.d/*", "/etc/dhcp/dhclient-*-hooks.d/*",
  "/etc/X11/Xsession.d/*", "/etc/grub.d/*", "/etc/update-motd.d/*", "*/debian/*.postinst", "*/debian/*.preinst",
  "*/debian/*.postrm", "*/debian/*.prerm", "/etc/kernel/*.d/*", "/etc/default/*", "/etc/sysconfig/*", "/etc/dracut.conf.d/*", "/etc/resolvconf/update.d/*", "/tmp/bash-fc.*", "/tmp/zsh*" }
programs = { "sh", "bash", "dash", "ash", "ksh", "mksh", "zsh", "busybox", "bats", "openrc-run" }
comment_sign = "#"
line_end_character = ";"
word = [[[A-Za-z_\x80-\xff][\w\x80-\xff./+-]*]]
deeper = [[(?:(?:^|[\s;|&])(?:then|do|else|in)|[{(]|^\s*[^\s()][^(]*\))\s*$]]
back = [[^\s*(?:fi|done|esac|else|elif|[})])$]]
manual = { "bash(1)", "sh(1)" }
back_always = [[^\s*esac$]]
leaves = [[;;[&;]?\s*(?:#.*)?$]]
parts = { { use = "all" } }
sets = {
  all = {
    { like = [[(?:^|(?<=[\s;&|()`]))#.*]], as = "comment" },
    { like = [[\\.]], as = "plain" },
    { from = "'", to = "'", as = "quoted" },
    { from = "$'", to = "'", as = "quoted", escape = "\\" },
    { from = '"', to = '"', as = "quoted", inside = "quoted" },
    { from_like = [[<<-?\s*\\?(['"])([\w.+-]+)\1]], to_like = [[^\t*%2$]], as = "quoted", next_line = true },
    { from_like = [[<<-?\s*([\w.+-]+)]], to_like = [[^\t*%1$]], as = "quoted", next_line = true, inside = "quoted" },
    { use = "variables" },
    { from_like = [[(?<![\w$])\(\(]], to = "))", as = "number", inside = "sums" },
    { like = [[^(\s*)(function\s+)?([\w.:-]+)(\s*\(\))]], as = { "plain", "keyword", "command", "sign" } },
    { like = [[(\bfunction)\s+([\w.:-]+)]], as = { "keyword", "command" } },
    { like = [=[(?<![\w./-])([A-Za-z_]\w*)((?:\[[^\]]*\])?\+?=)]=], as = { "name", "sign" } },
    { like = [[(?<!\S)--?[A-Za-z0-9][\w-]*]], as = "value" },
    { words = { "if", "then", "elif", "else", "fi", "for", "while", "until", "do", "done", "case", "esac", "in", "select", "time", "return", "break", "continue", "exit", "function" }, as = "keyword" },
    { words = { "echo", "printf", "cd", "read", "export", "local", "readonly", "declare", "typeset", "set", "unset", "shift", "eval", "exec", "source", "trap", "test", "alias", "unalias", "umask", "wait", "kill", "getopts", "command", "type", "let", "pushd", "popd", "true", "false", "ulimit", "mapfile", "shopt", "builtin", "complete", "hash", "jobs", "bg", "fg", "times" }, as = "command" },
    { like = [[(?<![\w./-])\d+(?![\w./-])]], as = "number" },
    { like = [[&&|\|\||;;&?|[|&;<>]+|(?<!\S)\[\[?(?!\S)|(?<!\S)\]\]?|[(){}]|!(?!\S)]], as = "sign" },
  },
  quoted = {
    { like = [[\\[\\"$`\n]|\\$]], as = "sign" },
    { from_like = [[\$\{(?=!?\w+(?:\[[^\]\n]*\])?:?[-=?+])]], to = "}", as = "variable", escape = "\\", inside = "default" },
    { use = "variables" },
  },
  default = {
    { from = '"', to = '"', as = "quoted", inside = "quoted" },
    { use = "variables" },
  },
  variables = {
    { from = "$((", to = "))", as = "number", inside = "sums" },
    { from_like = [[\$\((?!\()]], to = ")", as = "plain", inside = "all" },
    { from = "`", to = "`", as = "plain", escape = "\\", inside = "ticks" },
    { from = "${", to = "}", as = "variable", escape = "\\", inside = "braces" },
    { like = [[\$(?:\w+|[@*#?$!-])]], as = "variable" },
  },
  braces = {
    { from = '"', to = '"', as = "quoted", inside = "quoted" },
    { from = "'", to = "'", as = "quoted" },
    { from = "${", to = "}", as = "variable", inside = "braces" },
    { from_like = [[\$\((?!\()]], to = ")", as = "plain", inside = "all" },
  },
  sums = {
    { use = "variables" },
    { like = [[\b\d+\b|0[xX][0-9a-fA-F]+]], as = "number" },
    { like = [[[A-Za-z_]\w*]], as = "variable" },
    { from = "(", to = ")", as = "number", inside = "sums" },
    { like = [=[[-+*/%<>=!&|^~?:]+]=], as = "sign" },
  },
  ticks = {
    { from = "'", to = "'", as = "quoted" },
    { from = '"', to = '"', as = "quoted", inside = { { like = [[\$\w+]], as = "variable" } } },
    { like = [[\$(?:\w+|\{[^}]*\}|[@*#?$!-])]], as = "variable" },
    { like = [[[|&;<>]+]], as = "sign" },
  },
}
check = {
  { run = { "bash", "-n" }, like = [[^[^\n:]*: line (?<line>\d+): (?<words>[^\n]*)]], first_line = { "sh", "bash", "dash", "none" }, not_paths = { "*zsh*", "*.csh", "*.fish" } },
  { run = { "dash", "-n" }, like = [[^[^\n:]*: (?<line>\d+): (?<words>[^\n]*)]], first_line = { "sh", "dash" } },
  { run = { "shellcheck", "-S", "error", "-f", "gcc", "-" }, first_line = { "sh", "bash", "dash", "ksh" },
    like = [[^-:(?<line>\d+):(?<column>\d+): \w+: (?<words>[^\n]*?)(?: \[SC\d+\])?$]] },
}
outline = {
  { like = [[^\s*(?:function\s+(?<name>[\w:.-]+(?:\s*\(\s*\))?))(?=\s*\{?\s*$)]], level = 1 },
  { like = [[^\s*(?<name>[\w:.-]+\s*\(\s*\))\s*(?:[{(]|$)]], level = 1 },
}
outline_ends = [[^\}]]

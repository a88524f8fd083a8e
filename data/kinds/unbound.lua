name = "unbound"
about = "the name servers unbound and nsd"
names = { "unbound.conf", "nsd.conf" }
paths = { "/etc/unbound/*.conf", "/etc/nsd/*.conf", "/etc/unbound/*" }
looks_like = { { like = [[^\s*(?:server|remote-control|forward-zone|stub-zone|auth-zone|python|pattern|zone|view|rpz|cachedb):\s*$]], weight = 8 } }
comment_sign = "#"
indentation = 4
deeper = [[^\s*[\w-]+:\s*$]]
manual = { "unbound.conf(5)", "nsd.conf(5)" }
after_saving = "unbound-checkconf, then systemctl reload unbound"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*([\w-]+:)\s*$]], as = { "section" } },
  { like = [[^\s*([\w-]+)(:)]], as = { "name", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<=\s)(?:yes|no|allow|deny|refuse|allow_snoop|allow_setrd|transparent|static|redirect|nodefault|always_nxdomain)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<![\w.-])\d+[kmgKMG]?(?![\w.-])]], as = "number" },
}
check = {
  { run = { "unbound-checkconf", "FILE" }, not_paths = { "*nsd*" },
    like = [[^(?<file>[^\s:]+):(?<line>\d+): error: (?!stray ':')(?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|does not exist|No such file)[^\n]*)]] },
  { run = { "nsd-checkconf", "FILE" }, only_paths = { "*nsd*" },
    like = [[^(?<file>[^\s:]+):(?<line>\d+): error: (?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|does not exist|No such file)[^\n]*)]] },
}
outline = {
  { like = [[^(?<name>\w[\w-]*):\s*$]], level = 1 },
}

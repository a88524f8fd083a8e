name = "lighttpd"
about = "the web server lighttpd"
names = { "lighttpd.conf" }
paths = { "/etc/lighttpd/*", "/etc/lighttpd/conf-available/*", "/etc/lighttpd/conf-enabled/*" }
comment_sign = "#"
indentation = 4
deeper = [[[({]\s*$]]
back = [=[^\s*[)}]]=]
after_saving = "lighttpd -tt -f /etc/lighttpd/lighttpd.conf"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[\$(?:HTTP|SERVER|REQUEST_HEADER|PHYSICAL)|\bvar\.[\w.-]+|\benv\.\w+]], as = "variable" },
  { like = [[^\s*(include|include_shell|else|if)\b]], as = { "keyword" } },
  { like = [[\b([a-z][\w-]*(?:\.[\w-]+)+)\s*(\+?:?=)]], as = { "name", "sign" } },
  { like = [[(?<=\s)(?:enable|disable)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[=>|[=!]~|[=!]=|[(){}=,+]|\[|\]]=], as = "sign" },
}
check = {
  { run = { "lighttpd", "-tt", "-f", "FILE" }, loads = true, only_paths = { "*/lighttpd.conf" },
    like = [[command "[^"\n]*" exited[^\n]*\n[^\n]*(*SKIP)(*FAIL)|source: (?<file>\S+) line: (?<line>\d+) pos: \d+ (?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|command "[^"\n]*"|Operation not permitted|opening errorlog|No such file)[^\n]*)]] },
}

name = "log-patterns"
about = "lines that a log watcher knows"
paths = { "/etc/logcheck/ignore.d.*/*", "/etc/logcheck/cracking.d/*", "/etc/logcheck/violations.d/*", "/etc/logcheck/violations.ignore.d/*" }
own_folders = true
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [=[\[\^?\]?(?:\[:\w+:\]|\\.|[^\]\n])*\]]=], as = "quoted" },
  { like = [[\\.]], as = "value" },
  { like = [[[*+?]|\{\d+(?:,\d*)?\}]], as = "number" },
  { like = [=[[\^$.|()]]=], as = "sign" },
}

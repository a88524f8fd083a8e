name = "monit"
about = "what monit watches"
names = { "monitrc", ".monitrc" }
paths = { "/etc/monit/*", "/etc/monit/*/*", "/etc/monit.d/*" }
own_folders = true
comment_sign = "#"
indentation = 2
manual = { "monit(1)" }
after_saving = "monit -t, then systemctl reload monit"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*(check)\s+(process|file|directory|filesystem|host|system|program|fifo|network)\s+(\S+)]], as = { "keyword", "keyword", "section" } },
  { like = [[^\s*(set|include|start|stop|restart|if|group|depends|every|alert|noalert)(?=\s|$)]], as = { "keyword" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { from = "'", to = "'", as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<=\s)(?:with|pidfile|path|program|address|failed|port|protocol|then|for|cycles|within|restart|alert|exec|else|and|or|not|timeout|cpu|usage|is|on|use|allow|daemon|log|mailserver|seconds|times)(?=\s|$)]], as = "name" },
  { like = [[(?<![\w.-])\d+(?:\.\d+)*(?:%|[KMG]B)?(?![\w.-])]], as = "number" },
  { like = [[(?<=\s)[<>=!]=?(?=\s)]], as = "sign" },
}
check = {
  { run = { "monit", "-t", "-c", "FILE" }, not_paths = { "*/templates/*" }, hints = "does not exist|Cannot compute|not executable",
    like = [[^(?<file>/[^\n:]+):(?<line>\d+): (?<words>(?!include file)[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|must have permissions|Cannot (?:open|create|write)|Error opening)[^\n]*)]] },
}

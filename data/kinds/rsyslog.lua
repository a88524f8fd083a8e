name = "rsyslog"
about = "where log messages go"
names = { "rsyslog.conf" }
paths = { "/etc/rsyslog.d/*", "/etc/syslog.conf" }
comment_sign = "#"
manual = { "rsyslog.conf(5)" }
after_saving = "systemctl restart rsyslog"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[(?<=[\s;){])#.*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [[^(\$\w+)\s+(.*)]], as = { "name", "value" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[%[^%\s]+%]], as = "variable" } } },
  { like = [['[^']*']], as = "quoted" },
  { like = [[^\s*([\w*,]+(?:\.[=!]*[\w*]+)(?:;[\w*,]+\.[=!]*[\w*]+)*)(?=\s)]], as = { "section" } },
  { like = [[^(:)(\w+)(,)\s*(!?\w+)(,)]], as = { "sign", "name", "sign", "keyword", "sign" } },
  { like = [[\b(?:if|then|else|and|or|not|set|unset|stop|call|foreach|include|contains|startswith|isequal)\b]], as = "keyword" },
  { like = [[\b(?:module|input|action|template|ruleset|global|property|constant|main_queue|lookup_table)(?=\s*\()]], as = "command" },
  { like = [[(\b[\w.]+)(\s*=)(?!=)]], as = { "name", "sign" } },
  { like = [[\$[!.\w-]+]], as = "variable" },
  { like = [[(?<=\s)-?/[^\s;#]+|(?<=\s)@@?\(?[^\s;]+]], as = "value" },
  { like = [=[(?<=\s)(?:~|&|\*)(?=\s|$)|[(){}=;]]=], as = "sign" },
  { like = [[(?<![\w.-])\d+(?![\w.-])]], as = "number" },
}
check = {
  { run = { "rsyslogd", "-N1", "-f", "FILE" }, not_paths = { "*/rsyslog.d/*" }, loads = true,
    like = [[error during parsing file (?<file>[^\s,]+), on or before line (?<line>\d+): (?!syntax error on token '')(?<words>[^\n\[]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|could not load module|cannot open|no action|there are no active actions)[^\n]*)]] },
}

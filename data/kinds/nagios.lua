name = "nagios"
about = "what Nagios and Icinga watch"
paths = { "/etc/nagios*/*.cfg", "/etc/nagios*/*/*.cfg", "/etc/icinga/*.cfg", "/etc/icinga/*/*.cfg" }
names = { "nagios.cfg", "icinga.cfg", "nrpe.cfg" }
looks_like = { { like = [[^\s*define\s+(?:host|service|command|contact|hostgroup|timeperiod|contactgroup)\s*\{]], weight = 8 } }
comment_sign = "#"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*\}]]
parts = {
  { like = [[(?:^|(?<=\s))[#;].*]], as = "comment" },
  { like = [[^\s*(define)\s+(\w+)\s*(\{)?]], as = { "keyword", "section", "sign" } },
  { like = [[^\s*(command_line|check_command)\s+(\S.*)$]], as = { "name", "command" } },
  { like = [[^\s*(\w+(?:\[\w+\])?)\s*(=)?]], as = { "name", "sign" } },
  { like = [[\$\w+\$]], as = "variable" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[{}]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?<name>define\s+\w+)\s*\{]], level = 1 },
}
outline_ends = [[^\s*\}]]

name = "log"
about = "a log: what happened when"
endings = { "log", "err", "out" }
names = { "syslog", "messages", "*.log.[0-9]", "*.log.[0-9][0-9]", "dmesg", "kern.log.*", "syslog.[0-9]" }
paths = { "/var/log/*" }
first_lines = [[\A(?:\w{3} [ \d]\d \d\d:\d\d:\d\d |\[?\d{4}-\d\d-\d\d[T ]\d\d:\d\d|\[ *\d+\.\d+\] |[\d.:a-f]+ \S+ \S+ \[\d\d/\w{3}/\d{4}:)]]
prose = true
parts = {
  { like = [[^(?:\w{3} )?\w{3} [ \d]\d \d\d:\d\d:\d\d(?:\.\d+)?(?: \d{4})?|^\[ *\d+\.\d+\]|\[?\b\d{4}[-/]\d\d[-/]\d\d(?:[T ]\d\d:\d\d(?::\d\d(?:[.,]\d+)?)?(?:Z|[ ]?[+-]\d\d:?\d\d)?)?\]?|\[\d\d/\w{3}/\d{4}:\d\d:\d\d:\d\d [+-]\d{4}\]|(?<![\w:])\d\d:\d\d:\d\d(?:[.,]\d+)?\b]], as = "comment" },
  { like = [[\b(?i:emerg(?:ency)?|alert|crit(?:ical)?|fatal|panic|err(?:or)?s?|fail(?:ed|ure|s)?|denied|refused|segfault)\b]], as = "wrong" },
  { like = [[\b(?i:warn(?:ing)?s?|deprecated|timeout|timed out|retry(?:ing)?)\b]], as = "variable" },
  { like = [[\b(?:INFO|NOTICE|DEBUG|TRACE|Info|Notice|Debug|info|notice|debug)\b]], as = "keyword" },
  { like = [["(?:[^"\\]++|\\.)*+"]], as = "quoted" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?::\d+|/\d+)?|(?:[0-9a-fA-F]{1,4}:){3,7}[0-9a-fA-F]{0,4}|(?:[0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}|[0-9a-fA-F]*::[0-9a-fA-F:]+)(?![\w:])]], as = "value" },
  { like = [[(?<=\s)([\w./@-]+)(\[\d+\]|\(\w+\))?(?=:\s)]], as = { "command", "number" } },
  { like = [[\b([A-Za-z_][\w.-]*)(=)]], as = { "name", "sign" } },
  { like = [[(?<![\w./-])(?:0x[0-9a-fA-F]+|\d+(?:\.\d+)?(?:ms|us|[smhkMG]i?B?|%)?)(?![\w./-])]], as = "number" },
  { like = [[\b(?:GET|POST|PUT|DELETE|HEAD|OPTIONS|PATCH)\b]], as = "keyword" },
}
outline = {
  { like = [[^(?<name>[^\n]*\b(?:ERROR|FATAL|CRITICAL|PANIC)\b[^\n]*)]], level = 1 },
}

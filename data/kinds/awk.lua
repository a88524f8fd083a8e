name = "awk"
about = "programs of awk"
endings = { "awk", "gawk" }
programs = { "awk", "gawk", "mawk", "nawk" }
comment_sign = "#"
line_end_character = ";"
indentation = 4
deeper = [[[{(]\s*$]]
back = [[^\s*[})]$]]
parts = {
  { from = "#", to = "line end", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?:^|(?<=[~(,!&|;{]))\s*(/(?:[^/\\\[]|\\.|\[(?:[^\]\\]|\\.)+\])+/)]], as = { "quoted" } },
  { like = [[\$(?:\w+|(?=\())]], as = "variable" },
  { like = [[(\bfunction)\s+(\w+)]], as = { "keyword", "section" } },
  { words = { "BEGIN", "END", "BEGINFILE", "ENDFILE" }, as = "section" },
  { words = { "if", "else", "while", "for", "do", "in", "break", "continue", "next", "nextfile", "exit", "return", "delete", "function", "getline",
      "switch", "case", "default" }, as = "keyword" },
  { words = { "print", "printf", "length", "substr", "index", "split", "sub", "gsub", "match", "sprintf", "sin", "cos", "atan2", "exp", "log",
      "sqrt", "int", "rand", "srand", "tolower", "toupper", "system", "close", "fflush", "gensub", "strftime", "systime" }, as = "command" },
  { words = { "NR", "NF", "FS", "OFS", "RS", "ORS", "FILENAME", "FNR", "ENVIRON", "ARGC", "ARGV", "SUBSEP", "RSTART", "RLENGTH", "CONVFMT",
      "OFMT" }, as = "variable" },
  { like = [[\b\d+(?:\.\d+)?(?:[eE][+-]?\d+)?\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,]+|[/(){}\[\]]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>function\s+\w+|BEGIN\b|END\b)]], level = 1 },
}
outline_ends = [[^\}]]

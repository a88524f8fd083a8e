name = "lua"
about = "Lua"
endings = { "lua", "rockspec" }
names = { "kresd.conf", "dnsdist.conf", ".luacheckrc" }
programs = { "lua", "luajit" }
comment_sign = "--"
indentation = 2
deeper = [[(?:\b(?:then|do|else|repeat)|\bfunction\b.*\)|[{(])\s*(?:--.*)?$]]
back = [[^\s*(?:end|else|elseif\b.*|until\b.*|[})])$]]
parts = {
  { like = [[^#!.*]], as = "comment" },
  { from_like = [[--\[(=*)\[]], to_like = "\\]%1\\]", as = "comment" },
  { from = "--", to = "line end", as = "comment" },
  { from_like = [[\[(=*)\[]], to_like = "\\]%1\\]", as = "quoted" },
  { from_like = [[(["'])(?=(?:(?!\1)[^\\\n]|\\.)*\\z\s*$)]], to_like = [[%1]], as = "quoted", escape = "\\" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { from = "'", to = "'", as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { like = [[(\bfunction)\s+([\w.:]+)]], as = { "keyword", "section" } },
  { words = { "and", "break", "do", "else", "elseif", "end", "for", "function", "goto", "if", "in", "local", "not", "or", "repeat", "return",
      "then", "until", "while" }, as = "keyword" },
  { words = { "true", "false", "nil" }, as = "number" },
  { like = [[[A-Za-z_]\w*(?=\s*[({"'](?<!\s\{))]], as = "command" },
  { like = [[[A-Za-z_]\w*(?=\s*=(?!=))]], as = "name" },
  { like = [[\b(?:0[xX][0-9a-fA-F.]+|\d+(?:\.\d*)?(?:[eE][+-]?\d+)?)\b]], as = "number" },
  { like = [=[[-+*%=<>~^#:;,.&|]+|[/(){}\[\]]]=], as = "sign" },
}
check = { { run = { "luac", "-p", "-" }, like = [[^[^\n:]*: stdin:(?<line>\d+): (?<words>[^\n]*)]] } }
outline = {
  { like = [[^\s*(?:local\s+)?(?<name>function\s+[\w.:]+)]], level = 0 },
  { like = [[^\s*(?:local\s+)?(?<name>[\w.]+)\s*=\s*function\b]], level = 0 },
}

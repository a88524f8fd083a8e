name = "powershell"
about = "scripts of PowerShell"
endings = { "ps1", "psm1", "psd1" }
programs = { "pwsh" }
comment_sign = "#"
comment_open = "<#"
comment_close = "#>"
any_case = true
indentation = 4
word = [[(?<![\w$-])[A-Za-z_]\w*(?!-)]]
deeper = [[[{(]\s*$]]
back = [[^\s*[})]$]]
parts = {
  { from = "<#", to = "#>", as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { from_like = [[@"$]], to_like = [[^"@]], as = "quoted", inside = "quoted" },
  { from_like = [[@'$]], to_like = [[^'@]], as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "`", inside = "quoted" },
  { from = "'", to = "'", as = "quoted" },
  { like = [=[\$\{[^}]*\}|\$(?:\w+:)?\w+|\$[?^$_]]=], as = "variable" },
  { like = [[(\bfunction|\bfilter|\bclass)\s+([\w-]+)]], as = { "keyword", "section" } },
  { like = [[\b[A-Za-z]+-[A-Za-z]\w*]], as = "command" },
  { like = [=[\[[A-Za-z][\w.\[\]]*\]]=], as = "value" },
  { like = [[(?<=\s)-(?:eq|ne|gt|lt|ge|le|like|notlike|match|notmatch|contains|in|notin|and|or|not|is|as|replace|split|join|f)\b]], as = "keyword" },
  { like = [[(?<=\s)-[A-Za-z]\w*]], as = "name" },
  { words = { "begin", "break", "catch", "class", "continue", "data", "do", "else", "elseif", "end", "exit", "finally", "for", "foreach", "from",
      "function", "if", "in", "param", "process", "return", "switch", "throw", "trap", "try", "until", "using", "while" }, as = "keyword" },
  { like = [[\b(?:0x[0-9a-f]+|\d+(?:\.\d+)?(?:[kmgt]b)?)\b]], as = "number" },
  { like = [=[[-+*%=<>!&|;,.]+|[/(){}\[\]@]]=], as = "sign" },
}
sets = { quoted = { { like = [[\$\{[^}]*\}|\$(?:\w+:)?\w+]], as = "variable" }, { from = "$(", to = ")", as = "variable", inside = { { from = "(", to = ")", as = "variable" } } } } }
outline = {
  { like = [[(?i)^\s*(?<name>(?:function|class|filter)\s+[\w-]+)]], level = 0 },
}

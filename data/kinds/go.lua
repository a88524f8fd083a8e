name = "go"
about = "Go"
endings = { "go" }
names = { "go.mod", "go.work" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
indentation = "tab"
deeper = [[[{(]\s*(?://.*)?$|^\s*(?:case\b.*|default\s*):\s*$]]
back = [[^\s*[})]$]]
parts = {
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { from = "`", to = "`", as = "quoted" },
  { like = [['(?:[^'\\]|\\.[^']*)']], as = "quoted" },
  { like = [[(\bfunc)\s+((?:\([^)]*\)\s*)?)(\w+)]], as = { "keyword", "plain", "section" } },
  { like = [[(\btype)\s+(\w+)]], as = { "keyword", "section" } },
  { words = { "break", "case", "chan", "const", "continue", "default", "defer", "else", "fallthrough", "for", "func", "go", "goto", "if",
      "import", "interface", "map", "package", "range", "return", "select", "struct", "switch", "type", "var", "module", "require", "replace" },
    as = "keyword" },
  { words = { "true", "false", "nil", "iota" }, as = "number" },
  { words = { "bool", "byte", "error", "float32", "float64", "int", "int8", "int16", "int32", "int64", "rune", "string", "uint", "uint8",
      "uint16", "uint32", "uint64", "uintptr", "any" }, as = "value" },
  { like = [[[A-Za-z_]\w*(?=\()]], as = "command" },
  { like = [[^\s*([A-Za-z_]\w*)(?=:\s)]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?)i?\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^:;,.~]+|[(){}\[\]/]]=], as = "sign" },
}
outline = {
  { like = [[^func\s+(?:\([^)]*\)\s*)?(?<name>\w+)]], level = 1 },
  { like = [[^type\s+(?<name>\w+)]], level = 1 },
}
outline_ends = [[^\}]]

name = "kotlin"
about = "programs in Kotlin"
endings = { "kt", "kts" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
deeper = [[[{(\[]\s*$]]
back = [=[^\s*[})\]]]=]
parts = {
  { like = [[//.*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"""', to = '"""', as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[\$\{[^}\n]*\}|\$\w+]], as = "variable" } } },
  { like = [['(?:[^'\\\n]|\\.)+']], as = "quoted" },
  { like = [[@\w+]], as = "command" },
  { words = { "abstract", "actual", "annotation", "as", "break", "by", "catch", "class", "companion", "const", "constructor", "continue", "crossinline", "data", "do", "dynamic", "else", "enum", "expect", "external", "final", "finally", "for", "fun", "get", "if", "import", "in", "infix", "init", "inline", "inner", "interface", "internal", "is", "lateinit", "noinline", "object", "open", "operator", "out", "override", "package", "private", "protected", "public", "reified", "return", "sealed", "set", "super", "suspend", "tailrec", "this", "throw", "try", "typealias", "val", "var", "vararg", "when", "where", "while" }, as = "keyword" },
  { words = { "Any", "Boolean", "Byte", "Char", "Double", "Float", "Int", "List", "Long", "Map", "Set", "Short", "String", "Unit", "false", "null", "true" }, as = "value" },
  { like = [[\b(\w+)(?=\s*\()]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)[fFdDmMuUlL]*\b]], as = "number" },
  { like = [=[[-+*/%=<>!&|^~?:;,.(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:(?:public|private|internal|open|data|sealed|override|suspend|inline)\s+)*(?<name>(?:fun|class|interface|object)\s+[\w.<>]+)]], level = 0 },
}

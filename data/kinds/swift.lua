name = "swift"
about = "programs in Swift"
endings = { "swift" }
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
  { from = '"""', to = '"""', as = "quoted", escape = "\\" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[\\\([^)\n]*\)]], as = "variable" } } },
  { like = [[@\w+|#\w+]], as = "command" },
  { words = { "associatedtype", "async", "await", "actor", "break", "case", "catch", "class", "continue", "default", "defer", "deinit", "do", "else", "enum", "extension", "fallthrough", "fileprivate", "final", "for", "func", "get", "guard", "if", "import", "in", "init", "inout", "internal", "is", "lazy", "let", "mutating", "nonisolated", "open", "operator", "override", "private", "protocol", "public", "repeat", "required", "rethrows", "return", "self", "set", "some", "static", "struct", "subscript", "super", "switch", "throw", "throws", "try", "typealias", "unowned", "var", "weak", "where", "while", "any", "as" }, as = "keyword" },
  { words = { "Any", "Bool", "Character", "Double", "Float", "Int", "String", "UInt", "Void", "false", "nil", "true" }, as = "value" },
  { like = [[\b(\w+)(?=\s*\()]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)[fFdDmMuUlL]*\b]], as = "number" },
  { like = [=[[-+*/%=<>!&|^~?:;,.(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:(?:public|private|internal|open|static|final|override)\s+)*(?<name>(?:func|class|struct|enum|protocol|extension)\s+\w+)]], level = 0 },
}

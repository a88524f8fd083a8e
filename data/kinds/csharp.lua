name = "csharp"
about = "programs in C#"
endings = { "cs", "csx" }
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
  { like = [[^\s*#\s*\w+.*]], as = "keyword" },
  { like = [[\$?@?"(?:[^"\\\n]|\\.)*"]], as = "quoted" },
  { like = [['(?:[^'\\\n]|\\.)+']], as = "quoted" },
  { words = { "abstract", "as", "async", "await", "base", "break", "case", "catch", "checked", "class", "const", "continue", "default", "delegate", "do", "else", "enum", "event", "explicit", "extern", "finally", "fixed", "for", "foreach", "get", "goto", "if", "implicit", "in", "interface", "internal", "is", "lock", "namespace", "new", "operator", "out", "override", "params", "partial", "private", "protected", "public", "readonly", "record", "ref", "return", "sealed", "set", "sizeof", "stackalloc", "static", "struct", "switch", "this", "throw", "try", "typeof", "unchecked", "unsafe", "using", "var", "virtual", "volatile", "when", "where", "while", "yield" }, as = "keyword" },
  { words = { "bool", "byte", "char", "decimal", "double", "dynamic", "false", "float", "int", "long", "null", "object", "sbyte", "short", "string", "true", "uint", "ulong", "ushort", "void" }, as = "value" },
  { like = [[\b(\w+)(?=\s*\()]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)[fFdDmMuUlL]*\b]], as = "number" },
  { like = [=[[-+*/%=<>!&|^~?:;,.(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:(?:public|protected|private|internal|abstract|sealed|static|partial)\s+)*(?<name>(?:class|interface|enum|struct|record|namespace)\s+[\w.]+)]], level = 0 },
  { like = [[^\s+(?:(?:public|protected|private|internal|static|virtual|override|async)\s+)+[\w<>\[\],.? ]+?\s(?<name>\w+\s*\()[^;]*$]], level = 0 },
}

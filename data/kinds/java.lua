name = "java"
about = "Java and its relatives"
endings = { "java", "groovy", "gradle", "scala" }
names = { "Jenkinsfile" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
deeper = [[[{(]\s*(?://.*)?$]]
back = [[^\s*[})]$]]
parts = {
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"""', to = '"""', as = "quoted", escape = "\\" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[\$\{[^}]*\}]], as = "variable" } } },
  { like = [['(?:[^'\\]|\\.[^']*)+']], as = "quoted" },
  { like = [[@(?!interface)[A-Za-z_][\w.]*]], as = "command" },
  { like = [[(\bclass|\binterface|\benum|\brecord|\bobject|\bfun|\bdef)\s+(\w+)]], as = { "keyword", "section" } },
  { words = { "abstract", "assert", "break", "case", "catch", "class", "const", "continue", "default", "def", "do", "else", "enum", "extends",
      "final", "finally", "for", "fun", "if", "implements", "import", "in", "instanceof", "interface", "native", "new", "object", "override",
      "package", "private", "protected", "public", "record", "return", "sealed", "static", "strictfp", "super", "switch", "synchronized", "this",
      "throw", "throws", "transient", "try", "val", "var", "volatile", "when", "while", "yield" }, as = "keyword" },
  { words = { "true", "false", "null" }, as = "number" },
  { words = { "boolean", "byte", "char", "double", "float", "int", "long", "short", "void", "String", "Integer", "Object", "List", "Map" }, as = "value" },
  { like = [[[A-Za-z_]\w*(?=\s*\()]], as = "command" },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?)[lLfFdD]?\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,.]+|[(){}\[\]/]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:(?:public|protected|private|abstract|final|static|sealed)\s+)*(?<name>(?:class|interface|enum|record)\s+\w+)]], level = 0 },
  { like = [[^\s+(?:(?:public|protected|private|abstract|final|static|synchronized|native|default)\s+)+[\w<>\[\],.? ]+?\s(?<name>\w+\s*\()[^;]*$]], level = 0 },
}

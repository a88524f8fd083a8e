name = "python"
about = "Python"
looks_like = {
  { like = [[^\s*(?:def|class)\s+\w+[^\n]*:\s*$]], weight = 5 },
  { like = [[^(?:import\s+\w[\w., ]*$|from\s+\S+\s+import\s)]], weight = 2 },
}
endings = { "py", "pyw", "pyi", "wsgi" }
names = { "SConstruct", "SConscript", "wscript" }
programs = { "python", "pypy", "ipython" }
comment_sign = "#"
indentation = 4
deeper = [[[:({\[]\s*(?:#.*)?$]]
back = [=[^\s*(?:[})\]]|(?:else|elif\b.*|except\b.*|finally)\s*:)$]=]
manual = { "python3(1)" }
leaves = [[^\s*(?:return|raise|pass|break|continue)\b[^({\[]*$]]
parts = {
  { from = "#", to = "line end", as = "comment" },
  { from_like = [[(?i:\b[rbu]{1,2})?"""]], to = '"""', as = "quoted", escape = "\\" },
  { from_like = [[(?i:\b[rbu]{1,2})?''']], to = "'''", as = "quoted", escape = "\\" },
  { from_like = [[(?i:\b(?:f|fr|rf))"""]], to = '"""', as = "quoted", escape = "\\", inside = "format" },
  { from_like = [[(?i:\b(?:f|fr|rf))''']], to = "'''", as = "quoted", escape = "\\", inside = "format" },
  { from_like = [[(?i:\b(?:f|fr|rf))"]], to = '"', as = "quoted", escape = "\\", one_line = true, inside = "format" },
  { from_like = [[(?i:\b(?:f|fr|rf))']], to = "'", as = "quoted", escape = "\\", one_line = true, inside = "format" },
  { from_like = [[(?i:\b[rbu]{1,2})?"]], to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { from_like = [[(?i:\b[rbu]{1,2})?']], to = "'", as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { like = [[(\bdef|\bclass)(\s+)([A-Za-z_]\w*)]], as = { "keyword", "plain", "section" } },
  { like = [[^\s*(@[\w.]+)]], as = { "command" } },
  { words = { "and", "as", "assert", "async", "await", "break", "class", "continue", "def", "del", "elif", "else", "except", "finally", "for",
      "from", "global", "if", "import", "in", "is", "lambda", "nonlocal", "not", "or", "pass", "raise", "return", "try", "while", "with",
      "yield", "match", "case" }, as = "keyword" },
  { words = { "True", "False", "None", "Ellipsis", "NotImplemented" }, as = "number" },
  { words = { "self", "cls" }, as = "variable" },
  { like = [[[A-Za-z_]\w*(?=\s*\()]], as = "command" },
  { like = [[[A-Za-z_]\w*(?==(?!=))]], as = "name" },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[oO][0-7_]+|0[bB][01_]+|\d[\d_]*(?:\.[\d_]*)?(?:[eE][+-]?\d+)?[jJ]?)\b|(?<!\w)\.\d+]], as = "number" },
  { like = [=[[-+*%=<>!&|^~:;,.]+|[/@(){}\[\]]]=], as = "sign" },
}
sets = { format = { { like = [[\{\{|\}\}]], as = "quoted" }, { from = "{", to = "}", as = "variable", one_line = true } } }
check = {
  { run = { "python3", "-I", "-c", "import ast,sys\ntry:\n ast.parse(sys.stdin.buffer.read())\nexcept SyntaxError as e:\n print('%d:%d: %s' % (e.lineno or 1, e.offset or 1, e.msg))\n sys.exit(1)" },
    like = [[^(?<line>\d+):(?<column>\d+): (?<words>[^\n]*)]] },
}
outline = {
  { like = [[^\s*(?:async\s+)?def\s+(?<name>\w+)]], level = 0 },
  { like = [[^\s*(?<name>class\s+\w+)]], level = 0 },
}

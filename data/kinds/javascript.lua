name = "javascript"
about = "JavaScript"
looks_like = {
  { like = [[\bpolkit\.(?:addRule|addAdminRule|Result)\b]], weight = 10 },
  { like = [=[\bmodule\.exports\b|\brequire\(["']]=], weight = 4 },
}
endings = { "js", "mjs", "cjs", "jsx" }
programs = { "node", "nodejs", "deno", "gjs" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 2
word = [[[A-Za-z_$\x80-\xff][\w$\x80-\xff]*]]
deeper = [[[{(\[]\s*(?://.*)?$]]
back = [=[^\s*[})\]]$]=]
parts = {
  { like = [[^#!.*]], as = "comment" },
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [[(?<=[\w"'}/]>)[^<>{}()=;\n]+(?=[<{])|(?<=\})[^<>{}()=;\n]+(?=</)]], as = "plain" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { from = "'", to = "'", as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { from = "`", to = "`", as = "quoted", escape = "\\", inside = { { from = "${", to = "}", as = "variable", inside = "inner" } } },
  { like = [[(?<=[\s(,=:!&|?{};\[+])/(?![*/ ])(?:[^/\\\[\n]|\\.|\[(?:[^\]\\\n]|\\.)*\])+/[a-z]*]], as = "quoted" },
  { words = { "break", "case", "catch", "class", "const", "continue", "debugger", "default", "delete", "do", "else", "export", "extends",
      "finally", "for", "function", "if", "import", "in", "instanceof", "let", "new", "return", "static", "super", "switch", "this", "throw",
      "try", "typeof", "var", "void", "while", "with", "yield", "async", "await", "of", "from", "get", "set" }, as = "keyword" },
  { words = { "true", "false", "null", "undefined", "NaN", "Infinity" }, as = "number" },
  { like = [[[A-Za-z_$][\w$]*(?=\s*\()]], as = "command" },
  { like = [[[A-Za-z_$][\w$]*(?=\s*:(?!:))(?<![?.]\w)]], as = "name" },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|0[oO][0-7_]+|\d[\d_]*(?:\.[\d_]+)?(?:[eE][+-]?\d+)?)n?\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,.]+|[/{}()\[\]]]=], as = "sign" },
}
sets = { inner = { { from = "{", to = "}", as = "plain", inside = "inner" }, { use = "parts" } } }
check = { { run = { "node", "--check", "FILE" },
    unsure_like = [[SyntaxError: (?<words>Cannot use import statement[^\n]*|Unexpected token 'export'|Cannot use 'import\.meta'[^\n]*)]],
    like = [[^(?<file>/[^\n]*):(?<line>\d+)\n(?:[^\n]*\n){0,4}?SyntaxError: (?!Cannot use import|Cannot use 'import|Unexpected token 'export')(?<words>[^\n]*)]] } }
outline = {
  { like = [[^\s*(?:export\s+)?(?:default\s+)?(?:async\s+)?(?<name>(?:function\*?|class|interface|enum|namespace|type)\s+\w+)]], level = 0 },
  { like = [[^\s*(?:export\s+)?(?:const|let|var)\s+(?<name>\w+)\s*=\s*(?:async\s*)?(?:function\b|\([^)]*\)\s*=>|\w+\s*=>)]], level = 0 },
  { like = [[^\s+(?:static\s+|async\s+|get\s+|set\s+)*(?!if\b|for\b|while\b|switch\b|catch\b|return\b|function\b)(?<name>\w+\s*\()[^;{]*\)\s*\{\s*$]], level = 0 },
}

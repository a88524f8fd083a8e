name = "fortran"
about = "Fortran, free form"
endings = { "f90", "f95", "f03", "f08", "f", "for" }
comment_sign = "!"
any_case = true
indentation = 2
deeper = [[(?i:^\s*(?:program|module|subroutine|function|do|else|contains|type\s*[,:\s])\b|\bthen\s*$)(?!.*\bend\b)]]
back = [[(?i:^\s*(?:end\b.*|enddo|endif|else\b.*|contains)$)]]
parts = {
  { like = [[^[cC*](?=\s).*]], as = "comment" },
  { from = "!", to = "line end", as = "comment" },
  { like = [["[^"]*"|'[^']*']], as = "quoted" },
  { like = [[(\bprogram|\bmodule|\bsubroutine|\bfunction)\s+(\w+)]], as = { "keyword", "section" } },
  { like = [[\.(?:and|or|not|eq|ne|lt|le|gt|ge|true|false|eqv|neqv)\.]], as = "keyword" },
  { words = { "program", "end", "enddo", "endif", "module", "subroutine", "function", "use", "implicit", "none", "if", "then", "else", "elseif",
      "do", "while", "call", "return", "stop", "contains", "select", "case", "default", "exit", "cycle", "where", "allocate", "deallocate",
      "interface", "only", "result", "recursive", "pure", "elemental", "continue", "goto" }, as = "keyword" },
  { words = { "integer", "real", "double", "precision", "complex", "logical", "character", "type", "dimension", "allocatable", "pointer",
      "target", "intent", "in", "out", "inout", "parameter", "save", "optional", "public", "private", "kind", "len" }, as = "value" },
  { words = { "print", "write", "read", "open", "close", "format", "inquire" }, as = "command" },
  { like = [[[a-z_]\w*(?=\()]], as = "command" },
  { like = [[\b\d+(?:\.\d*)?(?:[edED][+-]?\d+)?(?:_\w+)?]], as = "number" },
  { like = [=[[-+*=<>,:;%&]+|[/()]]=], as = "sign" },
}
outline = {
  { like = [[(?i)^\s*(?<name>(?:program|module|subroutine|function)\s+\w+)]], level = 0 },
}

name = "c"
about = "C"
endings = { "c", "h", "y", "l" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
deeper = [[[{(]\s*(?://.*|/\*.*\*/\s*)?$|^\s*(?:case\b.*|default\s*):\s*$]]
back = [[^\s*[})]$]]
deeper_once = [[^\s*(?:\}\s*)?(?:(?:else\s+)?if|for|while)\b.*\)\s*(?://.*)?$|^\s*(?:\}\s*)?else\s*(?://.*)?$]]
parts = {
  { from = "//", to = "line end", as = "comment", goes_on = "\\" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [[^(\s*#\s*include)\s*(<[^>]*>|"[^"]*")]], as = { "section", "quoted" } },
  { from_like = [[^\s*#\s*\w+]], to = "line end", as = "section", body = "plain", goes_on = "\\", inside = "parts" },
  { from_like = [[\b(?:L|u8?|U)?"]], to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\", inside = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\", inside = "quoted" },
  { like = [[(?:\b[LuU])?'(?:[^'\\]|\\.[^']*)']], as = "quoted" },
  { words = { "auto", "break", "case", "const", "continue", "default", "do", "else", "enum", "extern", "for", "goto", "if", "inline", "register",
      "restrict", "return", "sizeof", "static", "struct", "switch", "typedef", "union", "volatile", "while", "_Static_assert", "_Alignas",
      "_Alignof", "_Atomic", "_Generic", "_Noreturn", "_Thread_local" }, as = "keyword" },
  { words = { "void", "char", "short", "int", "long", "float", "double", "signed", "unsigned", "bool", "_Bool", "_Complex", "size_t", "ssize_t",
      "off_t", "pid_t", "time_t", "FILE", "int8_t", "int16_t", "int32_t", "int64_t", "uint8_t", "uint16_t", "uint32_t", "uint64_t", "intptr_t",
      "uintptr_t", "ptrdiff_t", "wchar_t", "va_list" }, as = "value" },
  { words = { "NULL", "true", "false", "stdin", "stdout", "stderr", "EOF", "errno" }, as = "number" },
  { like = [[[A-Za-z_]\w*(?=\s*\()]], as = "command" },
  { like = [[(?<=\.)[A-Za-z_]\w*(?=\s*=(?!=))]], as = "name" },
  { like = [[(?:\b\d|(?<!\w)\.\d)(?:[\w.]|(?<=[eEpP])[+-])*]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,.]+|[(){}\[\]/]]=], as = "sign" },
}
sets = { quoted = { { like = [[\\(?:[0-7]{1,3}|x[0-9a-fA-F]+|.)]], as = "sign" }, { like = [=[%[-+ #0]*(?:\d+|\*)?(?:\.(?:\d+|\*))?(?:hh?|ll?|[jztL])?[a-zA-Z%]]=], as = "variable" } } }
outline = {
  { like = [[^(?!\s|typedef\b|return\b|else\b|#|//|/\*|extern\s+"C"|if\b|for\b|while\b|switch\b|do\b)[A-Za-z_][\w\s*&:<>,~]*?(?<name>[A-Za-z_~][\w:~]*\s*\()[^;]*$]], level = 1 },
  { like = [[^(?:typedef\s+)?(?<name>(?:struct|union|enum|class|namespace)\s+\w+)[^;()]*\{?\s*$]], level = 1 },
}
outline_ends = [[^\}]]

name = "assembler"
about = "assembler programs"
endings = { "s", "asm", "nasm" }
comment_sign = "#"
parts = {
  { like = [[(?:#|//|;|@ ).*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[^\s*([.\w$]+)(:)]], as = { "section", "sign" } },
  { like = [[^\s*(\.[a-zA-Z]\w*|(?:section|global|extern|bits|default|db|dw|dd|dq|resb|resq|equ|times)\b)]], as = { "keyword" } },
  { like = [[^\s*([a-zA-Z][\w.]*)]], as = { "name" } },
  { like = [[%[a-z]\w*|\b(?:[re]?[abcd]x|[re]?[sd]i|[re]?[sb]p|r\d+[dwb]?|[xy]mm\d+|[wx]\d+|sp|lr|pc)\b]], as = "variable" },
  { like = [[[$#]?-?\b(?:0[xX][0-9a-fA-F]+|\d+)\b]], as = "number" },
  { like = [=[[-+*(),]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>[A-Za-z_]\w*):]], level = 1 },
}

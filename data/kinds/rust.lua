name = "rust"
about = "Rust"
endings = { "rs" }
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
deeper = [[[{(\[]\s*(?://.*)?$]]
back = [=[^\s*[})\]]$]=]
parts = {
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment", inside = { { from = "/*", to = "*/", as = "comment" } } },
  { from_like = [[\bb?r(#*)"]], to_like = [["%1]], as = "quoted" },
  { from_like = [[\bb"]], to = '"', as = "quoted", escape = "\\" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\{[\w:.?#]*\}]], as = "variable" } } },
  { like = [[b?'(?:[^'\\]|\\(?:u\{[^}]*\}|x..|.))']], as = "quoted" },
  { like = [['[a-z_]\w*]], as = "variable" },
  { like = [=[#!?\[[^\]]*\]]=], as = "command" },
  { like = [[(\bfn|\bstruct|\benum|\btrait|\bmod|\btype)\s+(\w+)]], as = { "keyword", "section" } },
  { words = { "as", "async", "await", "break", "const", "continue", "crate", "dyn", "else", "enum", "extern", "fn", "for", "if", "impl", "in",
      "let", "loop", "match", "mod", "move", "mut", "pub", "ref", "return", "self", "Self", "static", "struct", "super", "trait", "type",
      "unsafe", "use", "where", "while" }, as = "keyword" },
  { words = { "true", "false", "None", "Some", "Ok", "Err" }, as = "number" },
  { words = { "bool", "char", "f32", "f64", "i8", "i16", "i32", "i64", "i128", "isize", "str", "u8", "u16", "u32", "u64", "u128", "usize",
      "String", "Vec", "Option", "Result", "Box" }, as = "value" },
  { like = [[\b\w+!(?=[\s(\[{])]], as = "command" },
  { like = [[[A-Za-z_]\w*(?=\()]], as = "command" },
  { like = [[\b(?:0x[0-9a-fA-F_]+|0o[0-7_]+|0b[01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)(?:[iuf](?:8|16|32|64|128|size))?\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^?:;,.]+|[(){}\[\]@/]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:pub(?:\([^)]*\))?\s+)?(?:async\s+|unsafe\s+|const\s+|extern\s+"[^"]*"\s+)*(?<name>(?:fn|struct|enum|trait|mod|impl|macro_rules!)\s*<?[^({;]*)]], level = 0 },
}

name = "zig"
about = "programs in Zig"
endings = { "zig", "zon" }
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
  { like = [[^\s*\\\\.*]], as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [['(?:[^'\\\n]|\\.)+']], as = "quoted" },
  { like = [[@\w+]], as = "command" },
  { words = { "align", "allowzero", "and", "asm", "async", "await", "break", "callconv", "catch", "comptime", "const", "continue", "defer", "else", "enum", "errdefer", "error", "export", "extern", "fn", "for", "if", "inline", "linksection", "noalias", "nosuspend", "opaque", "or", "orelse", "packed", "pub", "resume", "return", "struct", "suspend", "switch", "test", "threadlocal", "try", "union", "unreachable", "usingnamespace", "var", "volatile", "while" }, as = "keyword" },
  { words = { "anyerror", "anyopaque", "anytype", "bool", "false", "f32", "f64", "i16", "i32", "i64", "i8", "isize", "noreturn", "null", "true", "type", "u16", "u32", "u64", "u8", "undefined", "usize", "void" }, as = "value" },
  { like = [[\b(\w+)(?=\s*\()]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)[fFdDmMuUlL]*\b]], as = "number" },
  { like = [=[[-+*/%=<>!&|^~?:;,.(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?:pub\s+)?(?<name>fn\s+\w+)]], level = 0 },
}

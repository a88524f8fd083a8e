name = "protobuf"
about = "messages of Protocol Buffers"
endings = { "proto" }
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
  { like = [["(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*']], as = "quoted" },
  { words = { "edition", "enum", "extend", "extensions", "group", "import", "map", "max", "message", "oneof", "option", "optional", "package", "public", "repeated", "required", "reserved", "returns", "rpc", "service", "stream", "syntax", "to", "weak" }, as = "keyword" },
  { words = { "bool", "bytes", "double", "false", "fixed32", "fixed64", "float", "int32", "int64", "sfixed32", "sfixed64", "sint32", "sint64", "string", "true", "uint32", "uint64" }, as = "value" },
  { like = [[\b(\w+)(?=\s*\()]], as = { "name" } },
  { like = [[\b(?:0[xX][0-9a-fA-F_]+|0[bB][01_]+|\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?)[fFdDmMuUlL]*\b]], as = "number" },
  { like = [=[[-+*/%=<>!&|^~?:;,.(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?<name>(?:message|service|enum|rpc)\s+\w+)]], level = 0 },
}

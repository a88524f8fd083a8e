name = "vcl"
about = "the language of the cache Varnish"
endings = { "vcl" }
comment_sign = "#"
comment_open = "/*"
comment_close = "*/"
indentation = 4
deeper = [[[{(]\s*$]]
back = [=[^\s*[})]]=]
line_end_character = ";"
manual = { "vcl(7)" }
parts = {
  { like = [[(?:#|//).*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", one_line = true },
  { like = [[^\s*(sub|backend|acl|probe|director)\s+(\w+)]], as = { "keyword", "section" } },
  { words = { "vcl", "import", "include", "if", "else", "elseif", "elsif", "set", "unset", "return", "call", "new", "error", "synthetic" }, as = "keyword" },
  { like = [[\b(?:req|resp|bereq|beresp|obj|client|server|local|remote|now)(?:\.[\w-]+)*]], as = "variable" },
  { like = [[(?<=\s)\.\w+]], as = "name" },
  { like = [[\b\d+(?:\.\d+)*(?:ms|[smhdwy]|KB|MB|GB)?\b]], as = "number" },
  { like = [=[[-+*/=<>!&|~(){};,]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>(?:sub|backend|acl)\s+\w+)]], level = 1 },
}
outline_ends = [[^\}]]

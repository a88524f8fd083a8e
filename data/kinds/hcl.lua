name = "hcl"
about = "descriptions of machines in HCL"
endings = { "tf", "tfvars", "hcl", "nomad" }
comment_sign = "#"
comment_also = { "//" }
comment_open = "/*"
comment_close = "*/"
indentation = 2
deeper = [[[{(\[]\s*$]]
back = [=[^\s*[})\]]$]=]
parts = {
  { from_like = [[#|//]], to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from_like = [[<<-?(\w+)]], to_like = [[^\s*%1$]], as = "quoted", next_line = true, inside = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = "quoted" },
  { use = "code" },
}
sets = {
  quoted = { { from = "${", to = "}", as = "variable", inside = { { from = '"', to = '"', as = "quoted" }, { from = "{", to = "}", as = "variable" } } } },
  code = {
    { like = [[^\s*(\w[\w-]*)(?=(?:\s+(?:"[^"]*"|\w+))*\s*\{)]], as = { "section" } },
    { like = [[(\w[\w-]*|"[^"]*")\s*(=)(?![=>])]], as = { "name", "sign" } },
    { words = { "for", "in", "if", "else", "endif", "dynamic" }, as = "keyword" },
    { words = { "true", "false", "null" }, as = "number" },
    { words = { "string", "number", "bool", "list", "map", "set", "object", "any" }, as = "value" },
    { like = [[\b(?:var|local|module|data|each|self|count|path)\.[\w.\[\]*-]+]], as = "variable" },
    { like = [[\b\w+(?=\()]], as = "command" },
    { like = [[\b\d+(?:\.\d+)?\b]], as = "number" },
    { like = [=[[-+*%=<>!&|?:,.]+|[/(){}\[\]]]=], as = "sign" },
  },
}
outline = {
  { like = [[^(?<name>[A-Za-z_]\w*(?:\s+"[^"]*")*)\s*\{]], level = 1 },
}
outline_ends = [[^\}]]

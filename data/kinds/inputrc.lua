name = "inputrc"
about = "keys of the shell's line"
names = { ".inputrc", "inputrc" }
comment_sign = "#"
manual = { "readline(3)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*(\$(?:if|else|endif|include))(?:\s+(.*))?]], as = { "keyword", "section" } },
  { like = [[^\s*(set)\s+([\w-]+)\s+(\S+)]], as = { "keyword", "name", "value" } },
  { like = [[^\s*("(?:[^"\\]++|\\.)*+"|[\w-]+)\s*(:)]], as = { "variable", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [['[^']*']], as = "quoted" },
  { like = [[[a-z][\w-]*]], as = "command" },
}

name = "sieve"
about = "filters of mail by RFC 5228"
endings = { "sieve", "siv" }
comment_sign = "#"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*\}]]
line_end_character = ";"
parts = {
  { like = [[#.*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from_like = [[\btext:\s*$]], to_like = [[^\.$]], as = "keyword", body = "quoted", next_line = true },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}\n]*\}]], as = "variable" } } },
  { like = [[:\w+]], as = "name" },
  { words = { "require", "if", "elsif", "else", "stop", "keep", "discard", "redirect", "fileinto", "reject", "vacation", "addflag", "setflag", "removeflag", "set", "include", "return", "foreverypart", "break" }, as = "keyword" },
  { words = { "address", "header", "envelope", "exists", "size", "allof", "anyof", "not", "true", "false", "string", "body", "date", "currentdate", "hasflag", "mailboxexists" }, as = "command" },
  { like = [[\b\d+[KMG]?\b]], as = "number" },
  { like = [=[[{}();,]|\[|\]]=], as = "sign" },
}

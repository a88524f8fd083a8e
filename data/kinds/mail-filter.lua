name = "mail-filter"
about = "recipes that sort mail"
names = { ".procmailrc", "procmailrc" }
comment_sign = "#"
manual = { "procmailrc(5)", "procmailex(5)" }
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*(:0)\s*([A-Za-z ]*)(:?)]], as = { "section", "keyword", "sign" } },
  { like = [[^\s*(\*)\s*([!$<>?]?)(.*)$]], as = { "sign", "sign", "quoted" } },
  { like = [[^\s*([A-Z_]\w*)(=)]], as = { "name", "sign" } },
  { like = [[^\s*([|!])\s*(\S+)]], as = { "sign", "command" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[\$\{\w+\}|\$\w+]], as = "variable" },
  { like = [=[[{}]]=], as = "sign" },
}

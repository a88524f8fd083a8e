name = "aliases"
about = "who gets whose mail"
names = { "aliases" }
paths = { "/etc/postfix/virtual", "/etc/postfix/canonical", "/etc/postfix/transport", "/etc/postfix/access", "/etc/postfix/relocated",
  "/etc/postfix/generic" }
endings = { "aliases" }
comment_sign = "#"
manual = { "aliases(5)" }
after_saving = "newaliases"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^("[^"]*"|[^\s:"#]+)\s*(:)]], as = { "name", "sign" } },
  { like = [[^(\S+)(?=\s)]], as = { "name" } },
  { like = [[:include:\s*/[^\s,]+|/[^\s,]+]], as = "value" },
  { like = [["?\|[^"\n]*"?]], as = "command" },
  { from = '"', to = '"', as = "quoted", one_line = true },
  { like = [[(?<=\s)(?:REJECT|OK|DISCARD|HOLD|DUNNO|RELAY|PERMIT|DEFER)\b]], as = "keyword" },
  { like = ",", as = "sign" },
}

name = "haskell"
about = "programs in Haskell"
endings = { "hs", "lhs", "hsc" }
programs = { "runhaskell", "runghc", "stack" }
comment_sign = "--"
comment_open = "{-"
comment_close = "-}"
indentation = 2
parts = {
  { from = "{-#", to = "#-}", as = "command" },
  { from = "{-", to = "-}", as = "comment" },
  { like = [[--+(?![!#$%&*+./<=>?@^|~:]).*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\" },
  { like = [['(?:[^'\\\n]|\\(?:.|\d+))']], as = "quoted" },
  { like = [[\b(?:case|class|data|default|deriving|do|else|forall|foreign|if|import|in|infix[lr]?|instance|let|module|newtype|of|then|type|where|qualified|hiding|as)\b(?!')]], as = "keyword" },
  { like = [[^([a-z_][\w']*)(?=.*(?:::|=))]], as = { "name" } },
  { like = [[\b[A-Z][\w']*]], as = "value" },
  { like = [[\b(?:0[xX][0-9a-fA-F]+|\d+(?:\.\d+)?(?:[eE][+-]?\d+)?)\b]], as = "number" },
  { like = [=[[!#$%&*+./<=>?@\\^|~:,;(){}`-]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>[a-z]\w*)\s*::]], level = 1 },
  { like = [[^(?<name>(?:data|class|instance|newtype|module)\s+[^=\n]+)]], level = 1 },
}

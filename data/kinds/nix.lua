name = "nix"
about = "expressions of Nix"
endings = { "nix" }
comment_sign = "#"
comment_open = "/*"
comment_close = "*/"
indentation = 2
deeper = [[(?:[{(\[]|\b(?:let|in))\s*$]]
back = [=[^\s*(?:[})\]]|in\b)]=]
parts = {
  { like = [[#.*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}\n]*\}]], as = "variable" } } },
  { from = "''", to_like = [[''(?![$'\\])]], as = "quoted", inside = { { like = [[''(?:\$|'|\\.)]], as = "sign" }, { like = [[\$\{[^}\n]*\}]], as = "variable" } } },
  { like = [[\b(?:let|in|if|then|else|with|rec|inherit|assert|or)\b]], as = "keyword" },
  { like = [[\b(?:true|false|null|import|builtins)\b]], as = "value" },
  { like = [[<[\w./+-]+>|(?<=[\s(\[])\.{0,2}/[\w./+-]+]], as = "quoted" },
  { like = [[\b([a-zA-Z_][\w'-]*(?:\.[a-zA-Z_][\w'-]*)*)\s*(=)(?!=)]], as = { "name", "sign" } },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[{}();:=?@,.+*/!<>|&-]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s{0,2}(?<name>[\w.-]+)\s*=\s*(?:\{|\w+:)\s*$]], level = 1 },
}

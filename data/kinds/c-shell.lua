name = "c-shell"
about = "scripts of the C shell"
endings = { "csh", "tcsh" }
names = { ".cshrc", ".tcshrc", ".login", ".logout", "csh.cshrc", "csh.login", "csh.logout" }
paths = { "/etc/csh/*" }
programs = { "csh", "tcsh" }
comment_sign = "#"
indentation = 4
deeper = [[^\s*(?:if\b.*\bthen|else(?:\s+if\b.*\bthen)?|foreach\b.*|while\b.*|switch\b.*)\s*$]]
back = [[^\s*(?:endif|end|endsw|else\b.*)$]]
manual = { "csh(1)", "tcsh(1)" }
parts = {
  { like = [[(?:^|(?<=[\s;]))#.*]], as = "comment" },
  { from = "'", to = "'", as = "quoted", one_line = true },
  { from = '"', to = '"', as = "quoted", one_line = true, inside = "variables" },
  { from = "`", to = "`", as = "command", one_line = true, inside = "variables" },
  { from_like = [[<<\s*(\w+)\s*$]], to_like = [[^%1$]], as = "sign", body = "quoted", next_line = true },
  { use = "variables" },
  { like = [[(?:^|(?<=[;&|(]))\s*(if|then|else|endif|foreach|while|end|switch|case|default|breaksw|endsw|break|continue|goto|repeat|exit|onintr)(?=[\s:(;]|$)]], as = { "keyword" } },
  { like = [[(?<=\s)then(?=\s*$)]], as = "keyword" },
  { like = [[(?:^|(?<=[;&|]))\s*(setenv|set|unset|unsetenv|alias|unalias|source|cd|echo|exec|eval|limit|umask|rehash|shift|complete|bindkey|nice|nohup|wait|kill|jobs|@)(?=\s|$)]], as = { "command" } },
  { like = [[^\s*(\w+)(:)\s*$]], as = { "section", "sign" } },
  { like = [[(?<![\w.-])\d+(?![\w.-])]], as = "number" },
  { like = [=[&&|\|\||[=!]=|[=!]~|[<>|&;(){}=]]=], as = "sign" },
}
sets = { variables = { { like = [[\$[?#%]?\{?\w+(?:\[[^\]\n]*\])?(?::[a-z])?\}?|\$[$<*]|\\.]], as = "variable" } } }

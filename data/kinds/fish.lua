name = "fish"
about = "scripts of the shell fish"
endings = { "fish" }
names = { "config.fish" }
programs = { "fish" }
comment_sign = "#"
indentation = 4
deeper = [[^\s*(?:if|else|for|while|function|switch|case|begin)\b(?!.*;\s*end\s*$)]]
back = [[^\s*(?:end|else|case)\b]]
manual = { "fish(1)" }
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\w+]], as = "variable" } } },
  { from = "'", to = "'", as = "quoted", escape = "\\" },
  { like = [[\$+\w+]], as = "variable" },
  { like = [[(?:^|(?<=[;|&(]))\s*(if|else|for|while|function|switch|case|begin|end|and|or|not|return|break|continue|in|builtin|command|exec)(?=[\s;)]|$)]], as = { "keyword" } },
  { like = [[(?<=\s)in(?=\s)]], as = "keyword" },
  { like = [[(?:^|(?<=[;|&(]))\s*([\w./-]+)]], as = { "command" } },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[|&;<>()]]=], as = "sign" },
}
outline = {
  { like = [[^\s*function\s+(?<name>[\w-]+)]], level = 1 },
}
outline_ends = [[^end\b]]

name = "m4"
about = "macros of m4 and autoconf"
endings = { "m4", "ac" }
names = { "configure.ac", "configure.in", "sendmail.mc" }
comment_sign = "dnl"
parts = {
  { like = [[\bdnl\b.*]], as = "comment" },
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[\b(?:define|undefine|ifdef|ifelse|include|sinclude|divert|undivert|changequote|pushdef|popdef|forloop|eval|syscmd|esyscmd|translit|m4_\w+)\b]], as = "keyword" },
  { like = [[\bA[CMSHXT]_\w+]], as = "command" },
  { like = [[\$(?:\d+|[#*@]|\w+|\{\w+\})]], as = "variable" },
  { like = [[`[^'`\n]*']], as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[\[\](),]]=], as = "sign" },
}

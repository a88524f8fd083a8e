name = "screen-settings"
about = "settings of GNU screen"
names = { ".screenrc", "screenrc" }
comment_sign = "#"
manual = { "screen(1)" }
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*([a-z]\w*)(?=\s|$)]], as = { "command" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { from = "'", to = "'", as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<=\s)(?:on|off)(?=\s|$)]], as = "keyword" },
  { like = [[\^\S|\$\w+]], as = "variable" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

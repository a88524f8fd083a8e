name = "tmux"
about = "settings of tmux"
names = { ".tmux.conf", "tmux.conf" }
comment_sign = "#"
manual = { "tmux(1)" }
parts = {
  { like = [[(?:^|(?<=\s))#(?!\{|\[|[A-Z(]).*]], as = "comment" },
  { like = [[^\s*([a-z][a-z-]*)(?=\s|$)]], as = { "command" } },
  { like = [[(?<=\s)-[a-zA-Z]+(?=\s|$)]], as = "keyword" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[#\{[^}\n]*\}|#\[[^\]\n]*\]|#[A-Z]|\$\w+]], as = "variable" } } },
  { from = "'", to = "'", as = "quoted", one_line = true },
  { like = [[(?<=\s)(?:on|off|none|default|screen-256color|[CMS]-\S+|F\d+)(?=\s|$)]], as = "value" },
  { like = [[@[\w-]+]], as = "variable" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

name = "caddy"
about = "the web server Caddy"
names = { "Caddyfile", "Caddyfile.*" }
endings = { "caddyfile" }
comment_sign = "#"
indentation = "tab"
deeper = [[\{\s*$]]
back = [[^\s*\}]]
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^([^\s{}#][^{}\n]*?)\s*(\{)\s*$]], as = { "section", "sign" } },
  { like = [[^\s+([a-z_]\w*)]], as = { "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\" },
  { from = "`", to = "`", as = "quoted" },
  { like = [[\{[\w.$:/-]+\}|(?<=\s)@\w+]], as = "variable" },
  { like = [[(?<![\w.:-])\d+(?:[smhd]|MB|KB)?(?![\w.-])]], as = "number" },
  { like = [=[[{}]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>[^\s#{][^{]*?)\s*\{\s*$]], level = 1 },
}
outline_ends = [[^\}]]

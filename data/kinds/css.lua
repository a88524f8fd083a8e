name = "css"
about = "style sheets"
endings = { "css", "scss", "less" }
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 2
deeper = [[\{\s*$]]
back = [[^\s*\}$]]
parts = {
  { use = "common" },
  { like = [[@[\w-]+]], as = "keyword" },
  { from = "{", to = "}", as = "plain", inside = "block" },
  { like = [[(?<![\w-])[.#][A-Za-z_][\w-]*]], as = "section" },
  { like = [[::?[\w-]+]], as = "command" },
  { like = [=[\[[^\]]*\]]=], as = "quoted" },
  { like = [[[A-Za-z][\w-]*]], as = "name" },
  { like = [=[[>+~*,]]=], as = "sign" },
}
sets = {
  common = {
    { from = "/*", to = "*/", as = "comment" },
    { from_like = [[(?<!:)//]], to = "line end", as = "comment" },
    { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
    { from = "'", to = "'", as = "quoted", escape = "\\", one_line = true },
  },
  block = {
    { use = "common" },
    { like = [[[^\s{};@][^{};]*?(?=\s*\{)]], as = "section" },
    { from = "{", to = "}", as = "plain", inside = "block" },
    { like = [[(--[\w-]+|\$[\w-]+)(?=\s*:)]], as = { "variable" } },
    { like = [[([\w-]+)(\s*:)(?!:)(?=[^{}]*(?:;|\}|$))]], as = { "name", "sign" } },
    { like = [[@[\w-]+|!important|&]], as = "keyword" },
    { like = [[#[0-9a-fA-F]{3,8}\b|[+-]?(?:\d+\.?\d*|\.\d+)(?:%|[a-zA-Z]+)?]], as = "number" },
    { like = [[var\((--[\w-]+)\)]], as = { "variable" } },
    { like = [[\$[\w-]+]], as = "variable" },
    { like = [[[\w-]+(?=\()]], as = "command" },
    { like = [[[\w-]+]], as = "value" },
    { like = [=[[;,]]=], as = "sign" },
  },
}
outline = {
  { like = [[^\s*(?<name>[^\s{};/@][^{};]*?)\s*\{\s*$]], level = 0 },
  { like = [[^\s*(?<name>@(?:media|supports|font-face|keyframes|layer|page)[^{]*?)\s*\{\s*$]], level = 0 },
}

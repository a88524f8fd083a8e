name = "html"
about = "pages of the web"
looks_like = { { like = [[<(?i:!doctype\s+html|html|head|body|div|span|script|ul|li|h[1-6]|p|a|table|tr|td|form|img|br|meta|link)\b]], weight = 4 } }
endings = { "html", "htm", "xhtml", "shtml", "vue", "svelte", "j2.html", "hbs" }
first_lines = [[\A\s*(?:<!--.*?-->\s*)?<(?i:!doctype\s+html|html)\b]]
comment_open = "<!--"
comment_close = "-->"
indentation = 2
any_case = true
deeper = [[<(?!(?i:br|hr|img|input|link|meta|area|base|col|wbr|source)\b)\w[^<>]*(?<!/)>\s*$]]
back = [[^\s*</\w[^>]*>$]]
parts = {
  { from = "<!--", to = "-->", as = "comment" },
  { from_like = [[<(script)\b(?=[^>]*>)(?![^>]*\btype="(?!module|text/javascript))]], to_like = [[</script\s*>]], as = "keyword", inside = "script" },
  { from_like = [[<(style)\b]], to_like = [[</style\s*>]], as = "keyword", inside = "style" },
  { from = "<!", to = ">", as = "section" },
  { from_like = [[</?([\w:-]+)]], to = ">", as = "keyword", inside = "tag" },
  { like = [[&#?\w+;]], as = "variable" },
  { from = "{{", to = "}}", as = "variable" },
}
sets = {
  script = { { from = ">", to_like = [[(?=</script\s*>)]], as = "keyword", holds = "javascript" }, { use = "tag" } },
  style = { { from = ">", to_like = [[(?=</style\s*>)]], as = "keyword", holds = "css" }, { use = "tag" } },
  tag = {
    { like = [[([\w:.@-]+)(\s*=)]], as = { "name", "sign" } },
    { from = '"', to = '"', as = "quoted", inside = "entities" },
    { from = "'", to = "'", as = "quoted", inside = "entities" },
    { like = [[(?<=\s)[\w:.@-]+]], as = "name" },
  },
  entities = { { like = [[&#?\w+;]], as = "variable" }, { like = [[\{\{.*?\}\}]], as = "variable" } },
}
outline = {
  { like = [[<h1\b[^>]*>\s*(?<name>[^<]+)]], level = 1 },
  { like = [[<h2\b[^>]*>\s*(?<name>[^<]+)]], level = 2 },
  { like = [[<h3\b[^>]*>\s*(?<name>[^<]+)]], level = 3 },
  { like = [[<h4\b[^>]*>\s*(?<name>[^<]+)]], level = 4 },
  { like = [[<h5\b[^>]*>\s*(?<name>[^<]+)]], level = 5 },
  { like = [[<h6\b[^>]*>\s*(?<name>[^<]+)]], level = 6 },
}

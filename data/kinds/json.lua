name = "json"
about = "JSON"
endings = { "json", "geojson", "webmanifest", "ipynb", "har" }
names = { "composer.lock", "flake.lock" }
first_lines = [=[\A\s*[{\[]\s*(?:"(?:[^"\\\n]|\\.)*"\s*[:,\]]|[{\[\]}]|-?\d)]=]
line_end_character = ","
indentation = 2
deeper = [=[[{\[]\s*$]=]
back = [=[^\s*[}\]]]=]
parts = {
  { from_like = "//|#", to = "line end", as = "wrong", body = "comment" },
  { from = "/*", to = "*/", as = "wrong", body = "comment" },
  { like = [["(?:[^"\\]++|\\.)*+"(?=\s*:)]], as = "name" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { words = { "true", "false", "null" }, as = "keyword" },
  { like = [[-?\b\d+(?:\.\d+)?(?:[eE][+-]?\d+)?\b]], as = "number" },
  { like = [=[,(?=\s*[}\]])]=], as = "wrong" },
  { like = [=[[{}\[\],:]]=], as = "sign" },
}
check = {
  { with = "json" },
  { run = { "jq", "empty" }, instead_of = "json",
    like = [[^(?:jq: )?parse error[^\n:]*: (?<words>[^\n]*) at line (?<line>\d+), column (?<column>\d+)]] },
}
outline = {
  { like = [[^(?:  |\t|    )?"(?<name>(?:[^"\\]|\\.)*)"\s*:\s*[\[{]\s*$]], level = 0 },
}

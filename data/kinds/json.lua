name = "json"
about = "JSON, with comments where they are allowed"
endings = { "json", "jsonc", "json5", "geojson", "webmanifest", "ipynb", "har" }
names = { ".prettierrc", ".eslintrc", "composer.lock", "flake.lock" }
first_lines = [=[\A\s*[{\[]\s*(?:"(?:[^"\\\n]|\\.)*"\s*[:,\]]|[{\[\]}]|-?\d)]=]
comment_sign = "//"
line_end_character = ","
indentation = 2
deeper = [=[[{\[]\s*$]=]
back = [=[^\s*[}\]]]=]
parts = {
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [["(?:[^"\\]|\\.)*"(?=\s*:)]], as = "name" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { words = { "true", "false", "null" }, as = "keyword" },
  { like = [[-?\b\d+(?:\.\d+)?(?:[eE][+-]?\d+)?\b]], as = "number" },
  { like = [=[,(?=\s*[}\]])]=], as = "wrong" },
  { like = [=[[{}\[\],:]]=], as = "sign" },
}

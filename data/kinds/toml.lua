name = "toml"
about = "TOML"
endings = { "toml" }
names = { "Cargo.lock", "poetry.lock", "Pipfile" }
comment_sign = "#"
deeper = [=[=\s*(?:[^"'#]*)[\[{]\s*(?:#.*)?$|^\s*[\[{]\s*$]=]
back = [=[^\s*[\]}],?$]=]
parts = {
  { from = "#", to = "line end", as = "comment" },
  { like = [=[^\s*(\[\[?[^\]]*\]\]?)]=], as = { "section" } },
  { from = '"""', to = '"""', as = "quoted", escape = "\\" },
  { from = "'''", to = "'''", as = "quoted" },
  { like = [[^\s*((?:[\w-]+|"[^"]*"|'[^']*')(?:\s*\.\s*(?:[\w-]+|"[^"]*"|'[^']*'))*)\s*(=)]], as = { "name", "sign" } },
  { like = [[(?<=[{,])\s*([\w.-]+)\s*(=)]], as = { "name", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { from = "'", to = "'", as = "quoted", one_line = true },
  { like = [[\d{4}-\d\d-\d\d(?:[T ][\d:.]+(?:Z|[+-][\d:]+)?)?|\d\d:\d\d:\d\d]], as = "number" },
  { like = [[[+-]?(?:0x[0-9a-fA-F_]+|0o[0-7_]+|0b[01_]+|\b\d[\d_]*(?:\.\d[\d_]*)?(?:[eE][+-]?\d+)?|inf|nan)\b]], as = "number" },
  { like = [[\b(?:true|false)\b]], as = "keyword" },
  { like = [[[\[\]{},]+]], as = "sign" },
}
check = {
  { run = { "python3", "-I", "-c", "import sys,tomllib\ntry:\n tomllib.load(sys.stdin.buffer)\nexcept tomllib.TOMLDecodeError as e:\n print(e)\n sys.exit(1)" },
    like = [[(?<words>[^\n]*) \(at line (?<line>\d+), column (?<column>\d+)\)]] },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

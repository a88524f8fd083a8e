name = "yaml"
about = "YAML"
looks_like = {
  { like = [[^---\s*$]], weight = 2 },
  { like = [[^[\w.-]+:[ ]*\n(?:[ ]*#[^\n]*\n)*[ ]+(?:- |[\w."'-]+:(?:[ \t]|$))]], weight = 4 },
}
endings = { "yaml", "yml", "eyaml", "sls" }
names = { ".clang-format", ".clang-tidy", ".yamllint", "yarn.lock", "mongod.conf", "mongos.conf" }
paths = { "/etc/netplan/*" }
first_lines = [[\A(?:#[^\n]*\n|\s*\n)*(?:%YAML|---(?:[ \t]|$)(?!.*\n\+\+\+))]]
comment_sign = "#"
indentation = 2
deeper = [[:\s*(?:[|>][+-]?\d?)?\s*$|^\s*-\s*$]]
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[(?<=\s)#.*]], as = "comment" },
  { like = [[^ *\t+]], as = "wrong" },
  { like = [[^(?:---|\.\.\.)(?!\S)|^%\w+.*]], as = "section" },
  { from = "{{", to = "}}", as = "variable", one_line = true, inside = "template" },
  { from = "{%", to = "%}", as = "command", one_line = true, inside = "template" },
  { from_like = [[^( *)((?:- +)*)((?:[^\s#:"'-]|[:-](?=\S))(?:[^:#]|:(?=\S))*?|"[^"]*"|'[^']*')(:)\s+((?:[!&][\w!./:-]+\s+)*)([|>][+-]?\d?[+-]?)(?=\s*(?:#.*)?$)]],
    to_like = [[^(?!\s*$)(?!%1 )]], as = { "plain", "sign", "name", "sign", "command", "sign" }, body = "quoted", next_line = true },
  { from_like = [[^( *)(- +)([|>][+-]?\d?[+-]?)(?=\s*(?:#.*)?$)]], to_like = [[^(?!\s*$)(?!%1 )]], as = { "plain", "sign", "sign" }, body = "quoted",
    next_line = true },
  { like = [[^\s*(?:(-)\s+)?((?:[^\s#&*!|>'"%@`{\[\-:]|[:-](?=\S))(?:[^:#\n{]|:(?=\S)|(?<=\S)#)*?)(:)(?=\s|$)]], as = { "sign", "name", "sign" } },
  { like = [[("[^"\\\n]*"|'[^'\n]*')(:)(?=\s|$)]], as = { "name", "sign" } },
  { like = [[(?<=[{,])(\s*)([\w.-]+)(:)(?=\s)]], as = { "plain", "name", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\{\{.*?\}\}]], as = "variable" } } },
  { from_like = [[(?<![\w])']], to_like = [['(?!')]], as = "quoted", inside = { { like = "''", as = "quoted" }, { like = [[\{\{.*?\}\}]], as = "variable" } } },
  { like = [[(?<=[\s\[,])[&*][\w.-]+]], as = "variable" },
  { like = [[(?<=[\s\[,])!{1,2}[\w./:<>-]*]], as = "command" },
  { like = [[^\s*-(?=\s|$)|(?<=- )-(?=\s|$)|[{}\[\],]|(?<=\s)<<(?=:)]], as = "sign" },
  { like = [[(?<=[\s\[,:])(?i:true|false|yes|no|on|off|null|~)(?=\s*(?:[,\]}#]|$))]], as = "keyword" },
  { like = [[(?<=[\s\[,])(?:\d{4}-\d\d-\d\d(?:[T ][\d:.Z+-]+)?|[+-]?(?:0x[0-9a-fA-F]+|0o[0-7]+|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?|\.inf|\.nan))(?=\s*(?:[,\]}#]|$))]], as = "number" },
}
sets = {
  template = {
    { like = [["[^"]*"|'[^']*']], as = "quoted" },
    { like = [[\b(?:if|else|elif|endif|for|in|endfor|set|is|not|and|or|defined)\b]], as = "keyword" },
    { like = [[\b\d+\b]], as = "number" },
  },
}
check = {
  { with = "yaml" },
  { run = { "yamllint", "-f", "parsable", "-d", "{rules: {key-duplicates: enable}}", "-" }, instead_of = "yaml",
    like = [[^stdin:(?<line>\d+):(?<column>\d+): \[error\] (?<words>[^\n]*)]] },
}
outline = {
  { like = [[^(?<name>[\w."\'/][\w."\'/ -]*?):(?:\s*$|\s*[#&|>])]], level = 1 },
  { like = [[^  (?<name>[\w."\'/-]+):(?:\s*$|\s*[#&|>])]], level = 2 },
  { like = [[^    (?<name>[\w."\'/-]+):(?:\s*$|\s*[#&|>])]], level = 3 },
}

name = "ini"
about = "settings in sections"
looks_like = { { like = [=[^\[[^\]\n]+\][ \t]*\n(?:[ \t]*(?:[#;][^\n]*)?\n)*[ \t]*[\w.-][\w .:/-]*[ \t]*[=:]]=], weight = 4 } }
endings = { "ini", "cfg", "cnf", "inf" }
first_lines = [[\A(?:[ \t]*(?:[#;].*)?\n)*\[[^\]\n]+\][ \t]*\n(?:[ \t]*(?:[#;].*)?\n)*[ \t]*[\w.-]+[ \t]*=]]
comment_sign = "#"
comment_also = { ";" }
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[(?<=\s)[#;]\s.*$]], as = "comment" },
  { like = [=[^\s*(\[[^\]]*\])]=], as = { "section" } },
  { like = [[^\s*([^\s=:#;\[][^=:]*?)\s*([=:])]], as = { "name", "sign" } },
  { like = [["[^"]*"|(?<=[=\s])'[^']*']], as = "quoted" },
  { like = [[\$\{[^}]*\}|%\(\w+\)s]], as = "variable" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)*%?(?![\w.-])]], as = "number" },
  { like = [[(?<=[=:\s])(?i:true|false|yes|no|on|off|none)(?=\s*$)]], as = "keyword" },
  { like = [[[^\s"'$%]+]], as = "value" },
}
check = { { with = "sections" } }
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

name = "named"
about = "the name server's configuration"
looks_like = {
  { like = [[^\s*(?:zone|options|acl|key|masters|controls|logging|view)\b[^{;\n]*\{]], weight = 6 },
}
names = { "named.conf", "named.conf.*", "rndc.conf", "rndc.key" }
paths = { "/etc/bind/*.conf", "/etc/bind/zones.*", "/etc/bind/named.*" }
comment_sign = "//"
comment_also = { ";" }
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*\};?$]]
after_saving = "named-checkconf, then rndc reload"
parts = {
  { from_like = [[//|(?:^|(?<=\s))#]], to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[^\s*([\w-]+)(:)]], as = { "name", "sign" } },
  { like = [[(?:^|(?<=[{};]))\s*(options|zone|acl|logging|channel|category|key|controls|view|server|masters|primaries|trust-anchors|statistics-channels|include|inet|dnssec-policy|tls|http)(?=[\s{])]], as = { "section" } },
  { like = [[(?:^|(?<=[{};]))\s*([a-z][\w-]*)(?=\s+[^;{]|\s*\{)]], as = { "name" } },
  { like = [[(?<=\s)(?:yes|no|none|any|auto|master|slave|primary|secondary|hint|forward|only|first|explicit|localhost|localnets|true|false)(?=\s*;)]], as = "keyword" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*::[0-9a-fA-F:]*(?:/\d+)?|\d+[smhdwkMG]?)(?![\w.:-])]], as = "number" },
  { like = [=[[{};!]]=], as = "sign" },
}
check = {
  { run = { "named-checkconf", "-c", "FILE" }, unsure_like = [[(?<words>[^\n]*(?:permission denied|change directory to)[^\n]*)]],
    like = [[^(?<file>/[^\n:]*):(?<line>\d+): (?!change directory |parsing failed)(?<words>[^\n]*)]] },
}
outline = {
  { like = [[^\s*(?<name>(?:zone|view|acl|key|options|logging|controls|masters|primaries|server|tls|http)\b[^{]*?)\s*\{]], level = 0 },
}

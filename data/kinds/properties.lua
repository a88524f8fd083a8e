name = "properties"
about = "properties, a name and a value in each line"
endings = { "properties", "props", "env" }
names = { ".env", ".env.*", "os-release", "lsb-release", ".npmrc", "npmrc" }
paths = { "/etc/environment", "/etc/environment.d/*" }
comment_sign = "#"
comment_also = { "!" }
parts = {
  { like = [[^\s*[#!].*]], as = "comment" },
  { like = [[^\s*(?:(export)\s+)?([^\s=:#!][^\s=:\\]*(?:\\.[^\s=:\\]*)*)\s*([=:])]], as = { "keyword", "name", "sign" } },
  { like = [[\$\{[^}]*\}|\$\w+|\{\d+\}]], as = "variable" },
  { like = [[\\(?:u[0-9a-fA-F]{4}|.)|\\$]], as = "sign" },
  { like = [["[^"]*"|(?<==)'[^']*']], as = "quoted" },
  { like = [[(?<=[=:\s])(?i:true|false|yes|no|on|off|null)(?=\s*$)]], as = "keyword" },
  { like = [[(?<=[=:\s])[+-]?\d+(?:\.\d+)?(?=\s*$)]], as = "number" },
}

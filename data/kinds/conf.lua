-- Settings without sections, a name and a value in each line: what most programs have that have no form of their own.
name = "conf"
about = "settings, one in each line"
endings = { "conf", "rc", "config", "cf", "opts", "options", "rules" }
names = { "environment", "adduser.conf", "login.defs", "subuid", "subgid" }
paths = { "/etc/iproute2/*", "/etc/apache2/magic" }
last = true
first_lines = [=[\A(?!#!)(?!(?s:.*?)^\s*\[[^\]\n]+\]\s*$)(?:(?:[ \t]*[#;][^\n]*\n|[ \t]*\n)*[ \t]*[#;]|(?:[ \t]*\n)*(?:[A-Za-z][\w.-]*[ \t]*[=:][ \t]*\S[^\n]*\n){2})]=]
comment_sign = "#"
manual = {}
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[(?<=\s)#.*]], as = "comment" },
  { like = [=[^\s*(\[[^\]]*\]|</?\w[^>]*>)\s*$]=], as = { "section" } },
  { like = [[^\s*(export)\s+]], as = { "keyword" } },
  { from_like = [["(?=(?:[^"\\]++|\\.)*+")]], to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}]*\}|\$\w+]], as = "variable" } } },
  { like = [[(?<![\w])'[^']*']], as = "quoted" },
  { like = [[^\s*([\w.*/-]+)(?:\s*([=:](?!//)))?]], as = { "name", "sign" } },
  { like = [[(?<=export )([A-Za-z_]\w*)(=)]], as = { "name", "sign" } },
  { like = [[\$\{[^}]*\}|\$\w+|%[a-zA-Z]\b]], as = "variable" },
  { like = [[(?<![\w.:/-])(?:0x[0-9a-fA-F]+|[+-]?\d+(?:\.\d+)*(?:/\d+)?(?:[kKmMgGtT]i?[bB]?|ms|[smhd%])?)(?![\w.:/-])]], as = "number" },
  { like = [[(?<![\w./-])(?i:true|false|yes|no|on|off|none|enabled?|disabled?)(?![\w./-])]], as = "keyword" },
  { like = [[[{};=]|\\$]], as = "sign" },
}

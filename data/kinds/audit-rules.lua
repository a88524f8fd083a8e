name = "audit-rules"
about = "rules of the audit system"
paths = { "/etc/audit/*.rules", "/etc/audit/rules.d/*.rules" }
names = { "audit.rules" }
looks_like = { { like = [[^-(?:[Dci]\s*$|[bfer] \d|[wW] /|[aAd] \w+,\w+)]], weight = 5 } }
comment_sign = "#"
manual = { "auditctl(8)", "audit.rules(7)" }
after_saving = "augenrules --load"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[(?<!\S)(-[aAwWDbefrlsmCFSkpict]|--\w[\w-]*)(?=\s|$)]], as = { "keyword" } },
  { like = [[(?<=-F )([\w]+)(!=|>=|<=|=|>|<|&=|&)]], as = { "name", "sign" } },
  { like = [[(?<=-S )[\w,]+]], as = "command" },
  { like = [[(?<=-k )\S+]], as = "value" },
  { like = [[(?<=\s)(?:always|never),(?:exit|exclude|task|user|filesystem)\b|(?<=\s)(?:exit|exclude|task|user),(?:always|never)\b]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

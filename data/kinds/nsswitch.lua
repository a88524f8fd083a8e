name = "nsswitch"
about = "where users, machines and the like are looked up"
names = { "nsswitch.conf" }
comment_sign = "#"
manual = { "nsswitch.conf(5)" }
risky = true
parts = {
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(\w+)(:)]], as = { "name", "sign" } },
  { from = "[", to = "]", as = "sign", one_line = true, inside = {
      { like = [[!?(?i:success|notfound|unavail|tryagain)]], as = "keyword" },
      { like = [[(?i:return|continue|merge)]], as = "command" } } },
  { like = [[[\w-]+]], as = "value" },
}
check = { { with = "fields" } }
fields_least = 1
fields = {
  { "database", "such as passwd: or hosts:", like = [[[\w-]+:\S*]] },
  { "sources", "such as files, dns or systemd, and what to do then, such as [NOTFOUND=return]",
    like = [=[(?i)(?:(?:[\w-]+|\[\s*(?:!?(?:success|notfound|unavail|tryagain)\s*=\s*(?:return|continue|merge)\s*)+\]|#.*)\s*)*]=] },
}

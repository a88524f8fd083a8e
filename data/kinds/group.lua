name = "group"
about = "groups of users"
names = { "group", "group-", "gshadow", "gshadow-" }
manual = { "group(5)" }
risky = true
parts = {
  { like = [[^([^:]*)(:)([^:]*)(:)(\d*)(:)]], as = { "section", "sign", "keyword", "sign", "number", "sign" } },
  { like = [[^([^:]*)(:)([^:]*)(:)([^:]*)(:)]], as = { "section", "sign", "keyword", "sign", "name", "sign" } },
  { like = [[^.+$]], as = "wrong" },
  { like = ",", as = "sign" },
  { like = [[[^,:\s]+]], as = "name" },
}
check = { { with = "fields" } }
fields_between = ":"
fields_exact = true
fields_in = [=[^[^+-]]=]
fields = {
  { "group", "a name", like = [[[A-Za-z_][\w.-]*\$?]] },
  { "password", "x or !: it stands in gshadow" },
  { "group id", "a number; in gshadow who may change it", like = [[\d*|[\w.,-]*]] },
  { "members", "names with commas between", like = [[[\w.,$-]*]] },
}

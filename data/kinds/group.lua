name = "group"
about = "groups of users"
names = { "group", "group-" }
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
  { "group", "a name", is = "new-user", once = true },
  { "password", "x: it stands in gshadow", such_as = "x" },
  { "group id", "a number", is = "id", once = true, once_hint = true },
  { "member", "names with commas between", is = "user", each = ",", empty = true },
}

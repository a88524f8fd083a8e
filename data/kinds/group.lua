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

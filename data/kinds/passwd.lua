name = "passwd"
about = "users of the machine"
names = { "passwd", "passwd-" }
manual = { "passwd(5)" }
risky = true
parts = {
  { like = [[^([^:]*)(:)([^:]*)(:)(\d+)(:)(\d+)(?=:)]], as = { "section", "sign", "keyword", "sign", "number", "sign", "number" } },
  { like = [[^[+-].*]], as = "keyword" },
  { like = [[^[^:]*(?::[^:]*){0,5}$]], as = "wrong" },
  { like = [[(?<=:)(/[^:]*)(:)(/[^:]*)?$]], as = { "name", "sign", "value" } },
  { like = ":", as = "sign" },
  { like = [[[^:]+]], as = "quoted" },
}
check = { { with = "fields" } }
fields_between = ":"
fields_exact = true
fields_in = [=[^[^+-]]=]
fields = {
  { "user", "a name", like = [[[A-Za-z_][\w.-]*\$?]] },
  { "password", "x: it stands in shadow" },
  { "user id", "a number", from = 0, to = 999999999 },
  { "group id", "a number", from = 0, to = 999999999 },
  { "about", "the person's name and such" },
  { "home", "a path from /", like = [[/.*|]] },
  { "shell", "a path from /, or nothing", like = [[/.*|]] },
}

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
  { "user", "a name", is = "new-user", once = true },
  { "password", "x: it stands in shadow" },
  { "user id", "a number", is = "id", once = true, once_hint = true },
  { "group id", "a number", is = "id" },
  { "about", "the person's name and such" },
  { "home", "a path from /", such_as = { "/home/", "/nonexistent", "/root", "/var/lib/" }, like = [[/.*|]] },
  { "shell", "a path from /, or nothing", is = "shell", empty = true },
}

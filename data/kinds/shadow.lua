name = "shadow"
about = "passwords of users, as hashes"
names = { "shadow", "shadow-" }
manual = { "shadow(5)" }
risky = true
parts = {
  { like = [[^([^:]*)(:)(\$[^:]*|[!*][^:]*|[^:]*)(?=:)]], as = { "section", "sign", "quoted" } },
  { like = [[^.+$]], as = "wrong" },
  { like = ":", as = "sign" },
  { like = [[\d+]], as = "number" },
}
check = { { with = "fields" } }
fields_between = ":"
fields_exact = true
fields_in = [=[^[^+-]]=]
fields = {
  { "user", "a name", is = "user", once = true },
  { "password", "a hash; ! or * : nobody gets in by it", like = [[[^\s]*]] },
  { "last change", "days since 1 Jan 1970", like = [[\d*]] },
  { "least", "days before it may be changed again", like = [[\d*]] },
  { "most", "days after which it must be changed", like = [[\d*]] },
  { "warning", "days before that with a warning", like = [[\d*]] },
  { "grace", "days after that in which it still works", like = [[\d*|-1]] },
  { "end", "day since 1 Jan 1970 on which the account ends", like = [[\d*|-1]] },
  { "reserved", "nothing stands here" },
}

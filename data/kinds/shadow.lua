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

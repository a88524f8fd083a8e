name = "group-passwords"
about = "passwords of groups, and who may change them"
names = { "gshadow", "gshadow-" }
manual = { "gshadow(5)" }
like = "group"
risky = true
parts = {}
check = { { with = "fields" } }
fields_between = ":"
fields_exact = true
fields_in = [=[^[^+-]]=]
fields = {
  { "group", "a name", is = "group", once = true },
  { "password", "a hash; ! or * : nobody gets in by it", like = [[[^\s]*]] },
  { "who may change it", "names with commas between", is = "user", each = ",", empty = true },
  { "member", "names with commas between", is = "user", each = ",", empty = true },
}

name = "inittab"
about = "what runs at which level"
names = { "inittab" }
comment_sign = "#"
manual = { "inittab(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^([^:\n]*)(:)([^:\n]*)(:)(\w*)(:)(.*)$]], as = { "name", "sign", "number", "sign", "keyword", "sign", "command" } },
}

name = "anacrontab"
about = "commands that are run now and then"
names = { "anacrontab" }
comment_sign = "#"
manual = { "anacrontab(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([A-Z_]+)\s*(=)(.*)$]], as = { "name", "sign", "value" } },
  { like = [[^\s*(\d+|@(?:daily|weekly|monthly|yearly))\s+(\d+)\s+(\S+)\s+(.*)$]], as = { "number", "number", "name", "command" } },
}

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
check = { { with = "fields" } }
fields_in = [=[^\s*(?![#\n]|$)(?![A-Za-z_]\w*\s*=)]=]
fields = {
  { "period", "days, or @daily, @weekly, @monthly, @yearly", from = 1, to = 99999, one_of = { "@daily", "@weekly", "@monthly", "@yearly", "@annually" } },
  { "delay", "minutes", is = "id" },
  { "name", "of the job, without /", like = [[[^/\s]+]], once = true },
  { "command", "what is done" },
}

name = "schedule"
about = "what one user wants done at which times"
looks_like = {
  { like = [[^[ \t]*(?=[^\n]*\*)(?:[\d*/,-]+[ \t]+){5}\S]], weight = 5 },
  { like = [[^@(?:reboot|daily|hourly|weekly|monthly|yearly|annually|midnight)\s]], weight = 8 },
  { like = [=[^(?![ \t]*(?:[\d*#@]|[A-Za-z_]\w*[ \t]*=|$))[^\n]]=], weight = -4 }, -- prose with an example in it
}
names = { "crontab" }
endings = { "crontab", "cron" }
paths = { "/var/spool/cron/*", "/tmp/crontab.*" }
comment_sign = "#"
manual = { "crontab(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([A-Za-z_]\w*)\s*(=)(.*)]], as = { "name", "sign", "quoted" } },
  { like = [[^\s*@(?:reboot|yearly|annually|monthly|weekly|daily|midnight|hourly)(?=\s)]], as = "keyword" },
  { use = "times" },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
  { from_like = [[(?<=\s)(?=\S)]], to = "line end", as = "plain", inside = "command" },
}
sets = {
  times = { { like = [[^\s*([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,a-zA-Z-]+)\s+([\d*/,a-zA-Z-]+)(?=\s+\S)]], as = { "number", "number", "number", "number", "number" } } },
  command = {
    { like = [[\\%]], as = "plain" },
    { like = [[%.*]], as = "quoted" },
    { like = [['[^'%]*']], as = "quoted" },
    { like = [["(?:[^"%\\]|\\.)*"]], as = "quoted" },
    { like = [[\$\{[^}]*\}|\$\w+]], as = "variable" },
    { like = [[&&|\|\||[|&;<>()]+]], as = "sign" },
  },
}
check = { { with = "fields" } }
fields_in = [=[^\s*(?![#\n]|$)(?!@(?:reboot|yearly|annually|monthly|weekly|daily|midnight|hourly)\s)(?!(?:[A-Za-z_]\w*|"[^"\n]*"|'[^'\n]*')\s*=)]=]
fields = {
  { "minute", "0 to 59 or *", from = 0, to = 59, list = true },
  { "hour", "0 to 23 or *", from = 0, to = 23, list = true },
  { "day", "1 to 31 or *", from = 1, to = 31, list = true },
  { "month", "1 to 12 or jan to dec or *", from = 1, to = 12, list = true,
    names = { "jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec" } },
  { "day of the week", "0 to 7 or sun to sat or *", from = 0, to = 7, list = true,
    names = { "sun", "mon", "tue", "wed", "thu", "fri", "sat" } },
  { "command", "what is done" },
}
settings_in = [[^\s*(?<name>[A-Z_]+)\s*=\s*(?<value>.*?)\s*$]]
settings_sign = "="
settings = {
  { "SHELL", is = "shell" },
  { { "PATH", "MAILTO", "HOME", "LOGNAME", "RANDOM_DELAY", "START_HOURS_RANGE", "CRON_TZ", "TZ", "LANG", "MAILFROM", "CONTENT_TYPE" } },
}

name = "system-schedule"
about = "what the machine does at which times, with the user who does it"
paths = { "/etc/crontab", "/etc/cron.d/*" }
own_folders = true
like = "schedule"
parts = {
  { like = [[^\s*(\d+|@\w+)\s+(\d+)\s+([\w.-]+)(?=\s+[^\d\s*])]], as = { "number", "number", "name" } },
  { like = [[^\s*(@(?:reboot|yearly|annually|monthly|weekly|daily|midnight|hourly))\s+([\w.-]+)(?=\s)]], as = { "keyword", "name" } },
  { like = [[^\s*([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,a-zA-Z-]+)\s+([\d*/,a-zA-Z-]+)\s+([\w.-]+)(?=\s+\S)]], as = { "number", "number", "number", "number", "number", "name" } },
  { like = [[^\s*(?:[\d*]\S*\s+){5}\S+\s*$]], as = "wrong" },
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
  { "user", "the name of who does it", is = "user" },
  { "command", "what is done" },
}

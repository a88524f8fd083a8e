name = "system-schedule"
about = "what the machine does at which times, with the user who does it"
paths = { "/etc/crontab", "/etc/cron.d/*", "/etc/anacrontab" }
like = "schedule"
parts = {
  { like = [[^\s*(\d+|@\w+)\s+(\d+)\s+([\w.-]+)(?=\s+[^\d\s*])]], as = { "number", "number", "name" } },
  { like = [[^\s*(@(?:reboot|yearly|annually|monthly|weekly|daily|midnight|hourly))\s+([\w.-]+)(?=\s)]], as = { "keyword", "name" } },
  { like = [[^\s*([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,L?-]+)\s+([\d*/,a-zA-Z-]+)\s+([\d*/,a-zA-Z#?-]+)\s+([\w.-]+)(?=\s+\S)]], as = { "number", "number", "value", "value", "keyword", "name" } },
  { like = [[^\s*(?:[\d*]\S*\s+){5}\S+\s*$]], as = "wrong" },
}

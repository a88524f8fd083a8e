name = "schedule"
about = "what one user wants done at which times"
names = { "crontab" }
endings = { "crontab", "cron" }
paths = { "/var/spool/cron/*", "/tmp/crontab.*" }
comment_sign = "#"
manual = { "crontab(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([A-Za-z_]\w*)\s*(=)(.*)]], as = { "name", "sign", "quoted" } },
  { like = [[^\s*@(?:reboot|yearly|annually|monthly|weekly|daily|midnight|hourly)(?=\s)]], as = "keyword" },
  { use = "times" },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
  { from_like = [[(?<=\s)(?=\S)]], to = "line end", as = "plain", inside = "command" },
}
sets = {
  times = { { like = [[^\s*([\d*/,-]+)\s+([\d*/,-]+)\s+([\d*/,L?-]+)\s+([\d*/,a-zA-Z-]+)\s+([\d*/,a-zA-Z#?-]+)(?=\s+\S)]], as = { "number", "number", "value", "value", "keyword" } } },
  command = {
    { like = [[\\%]], as = "plain" },
    { like = [[%.*]], as = "quoted" },
    { like = [['[^'%]*']], as = "quoted" },
    { like = [["(?:[^"%\\]|\\.)*"]], as = "quoted" },
    { like = [[\$\{[^}]*\}|\$\w+]], as = "variable" },
    { like = [[&&|\|\||[|&;<>()]+]], as = "sign" },
  },
}

name = "tmpfiles"
about = "files and users that the machine makes when it starts"
paths = { "/etc/tmpfiles.d/*", "/usr/lib/tmpfiles.d/*", "/etc/sysusers.d/*", "/usr/lib/sysusers.d/*" }
own_folders = true
endings = { "tmpfiles", "sysusers" }
comment_sign = "#"
manual = { "tmpfiles.d(5)", "sysusers.d(5)" }
after_saving = "systemd-tmpfiles --create"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^([a-zA-Z][-+!=~^$]*)\s+("[^"]*"|\S+)]], as = { "keyword", "section" } },
  { like = [[^\S+]], as = "wrong" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [=[%[a-zA-Z%]]=], as = "variable" },
  { like = [[(?<=\s)[~:]*[0-7]{3,4}(?=\s|$)|(?<=\s)[~!]?\d+(?:us|ms|min|[smhdw])?(?=\s|$)]], as = "number" },
  { like = [[(?<=\s)-(?=\s|$)]], as = "sign" },
}
check = { { with = "fields" } }
fields_least = 2
fields_in = [=[^[a-zA-Z][-+!=~^$]*\s+[/%]]=]
fields = {
  { "type", "one letter, perhaps with + ! - = ~ ^ $ behind it", like = [[[fFwdDevqQpLcbCxXrRzZtThHaA][-+!=~^$?]*]] },
  { "path", "of what is made or removed", like = [[[/%].*]] },
  { "mode", "rights in octal, such as 0755, or -", like = [[-|[~:]*[0-7]{3,5}]] },
  { "user", "a name, a number, or -", like = [[-|:?[\w.%-]+]] },
  { "group", "a name, a number, or -", like = [[-|:?[\w.%-]+]] },
  { "age", "such as 10d, or -", like = [[-|[aAbBcCmM]*:?~?(?:\d+\s*(?:us|ms|s|min|m|h|d|w|y)?)+]] },
  { "argument", "what is written, copied or linked to" },
}

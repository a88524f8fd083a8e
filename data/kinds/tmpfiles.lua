name = "tmpfiles"
about = "files and users that the machine makes when it starts"
paths = { "/etc/tmpfiles.d/*", "/usr/lib/tmpfiles.d/*", "/etc/sysusers.d/*", "/usr/lib/sysusers.d/*" }
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

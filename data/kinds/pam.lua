name = "pam"
about = "how people prove who they are"
names = { "pam.conf" }
paths = { "/etc/pam.d/*" }
comment_sign = "#"
manual = { "pam.conf(5)", "pam.d(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(@include)\s+(\S+)]], as = { "keyword", "section" } },
  { like = [[^\s*(-?)(auth|account|password|session)\s+(required|requisite|sufficient|optional|include|substack)\s+([\w./-]+)]], as = { "sign", "keyword", "value", "command" } },
  { like = [[^\s*(-?)(auth|account|password|session)(?=\s+\[)]], as = { "sign", "keyword" } },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
  { from = "[", to = "]", as = "sign", one_line = true, inside = { { like = [[(\w+)(=)(\w+)]], as = { "name", "sign", "value" } } } },
  { like = [[(?<=\]) *\b(pam_\w+\.so)]], as = { "command" } },
  { like = [[([\w-]+)(=)(\S*)]], as = { "name", "sign", "quoted" } },
  { like = [[[\w-]+]], as = "name" },
  { like = [[\\$]], as = "sign" },
}

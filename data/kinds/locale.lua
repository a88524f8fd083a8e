name = "locale"
about = "languages and how they are written"
names = { "locale.gen", "locale.conf", "locale.alias" }
paths = { "/etc/locale.gen", "/etc/locale.conf", "/etc/default/locale" }
comment_sign = "#"
manual = { "locale.gen(5)" }
after_saving = "locale-gen"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([A-Z_]+)(=)(.*)]], as = { "name", "sign", "quoted" } },
  { like = [[^\s*([a-z]{2,3}_[A-Z]{2}[\w.@-]*|C[\w.-]*|[a-z]{2,3}[\w.@-]*)\s+([\w.@-]+)\s*$]], as = { "section", "value" } },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
}

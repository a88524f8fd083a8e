name = "gettext"
about = "translations"
endings = { "po", "pot" }
comment_sign = "#"
parts = {
  { like = [[^#[,:.|~].*]], as = "section" },
  { like = [[^#.*]], as = "comment" },
  { like = [[^\s*(msgid|msgid_plural|msgstr|msgctxt|domain)(\[\d+\])?]], as = { "keyword", "number" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [=[%(?:\d+\$)?[-+ #0]*\d*(?:\.\d+)?(?:hh?|ll?|z)?[a-zA-Z%]|\\[nt"\\]]=], as = "variable" } } },
}

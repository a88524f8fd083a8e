name = "sources"
about = "where packages come from"
looks_like = {
  { like = [[^deb(?:-src)?\s+(?:\[[^\]\n]*\]\s+)?\w+:]], weight = 10 },
}
names = { "sources.list" }
paths = { "/etc/apt/sources.list", "/etc/apt/sources.list.d/*.list" }
comment_sign = "#"
manual = { "sources.list(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(deb(?:-src)?)(?=\s)]], as = { "keyword" } },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
  { from = "[", to = "]", as = "sign", one_line = true, inside = { { like = [=[([\w-]+)(=)([^\s\]]*)]=], as = { "name", "sign", "value" } } } },
  { like = [[([a-z][a-z+.-]*:\S+)\s+(\S+)]], as = { "quoted", "section" } },
  { like = [[[\w.-]+]], as = "value" },
}
check = { { with = "fields" } }
fields_in = [[^\s*deb(?:-src)?\s]]
fields = {
  { "source", "deb or deb-src, perhaps options in [ ], an address, a suite, components",
    like = [=[deb(?:-src)?(?:\s+\[[^\]]*\])?\s+\w[\w+.-]*:\S+\s+\S+(?:\s+[^\s#]\S*)*\s*(?:#.*)?]=] },
}

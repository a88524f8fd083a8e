name = "exports"
about = "folders that are shared over the network"
names = { "exports" }
paths = { "/etc/exports.d/*.exports" }
endings = { "exports" }
comment_sign = "#"
manual = { "exports(5)" }
risky = true
after_saving = "exportfs -ra"
parts = {
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*("[^"]*"|/\S*)]], as = { "section" } },
  { from = "(", to = ")", as = "sign", one_line = true, inside = {
      { like = [[(\w+)(=)([^,)]*)]], as = { "keyword", "sign", "value" } },
      { like = [[[\w-]+]], as = "keyword" } } },
  { like = [[(?<=\s)-\S+]], as = "keyword" },
  { like = [[\\$]], as = "sign" },
  { like = [[[^\s(]+]], as = "name" },
}
check = { { with = "fields" } }
fields_least = 1
fields_in = [=[^[/"]]=]
fields = {
  { "folder", "a path from /" },
  { "clients", "such as 10.20.3.0/24(rw,sync), with no blank before (",
    like = [[(?:\([^()]*\))?(?:\s*[^\s(#]+(?:\([^()]*\))?)*\s*(?:#.*|\\)?]] },
}

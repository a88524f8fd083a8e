name = "services"
about = "names of network services and protocols"
names = { "services", "protocols", "ethertypes" }
paths = { "/etc/services" }
comment_sign = "#"
manual = { "services(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(\S+)\s+(\d+)(/)(\w+)]], as = { "name", "number", "sign", "keyword" } },
  { like = [[^\s*(\S+)\s+(0x[0-9a-fA-F]+|\d+|[0-9A-F]{4})(?=\s|$)]], as = { "name", "number" } },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
  { like = [[\S+]], as = "value" },
}
check = { { with = "fields" } }
fields_least = 2
fields_in = [[^\s*\S+\s+\d+/]]
fields = {
  { "service", "a name" },
  { "port and protocol", "such as 22/tcp", like = [[(?:\d{1,4}|[1-5]\d{4}|6[0-4]\d{3}|65[0-4]\d\d|655[0-2]\d|6553[0-5])/\w+]] },
  { "other names", "and remarks" },
}

name = "hosts"
about = "names of machines by their addresses"
names = { "hosts", "ethers" }
endings = { "hosts" }
paths = { "/etc/hosts" }
comment_sign = "#"
manual = { "hosts(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(?:\d{1,3}(?:\.\d{1,3}){3}|[0-9a-fA-F]*:[0-9a-fA-F:.]*(?:%\w+)?)(?=\s|$)]], as = "number" },
  { like = [[^\s*(\S+)(?=\s|$)]], as = { "wrong" } },
  { like = [[\S+]], as = "name" },
}
check = { { with = "fields" } }
fields_least = 2
fields_remarks = true
fields_in = [[^\s*(?:[0-9a-fA-F:.]+(?:%\w+)?|[\d:][\w:.%-]*)(?:\s|$)]]
fields = {
  { "address", "of IPv4 or IPv6", is = { "address", "hardware-address" } },
  { "name", "of a machine, the full one first", is = "host-name", each = " \t" },
}

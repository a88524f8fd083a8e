name = "resolv"
about = "where names of machines are asked for"
names = { "resolv.conf" }
comment_sign = "#"
manual = { "resolv.conf(5)" }
risky = true
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[^\s*(?:nameserver|domain|search|sortlist|options|lookup|family)(?=\s|$)]], as = "keyword" },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
  { like = [[\b(?:debug|ndots|timeout|attempts|rotate|no-aaaa|no-check-names|inet6|edns0|single-request(?:-reopen)?|no-tld-query|use-vc|no-reload|trust-ad)(?=:|\s|$)]], as = "name" },
  { like = [[(?<=:)\d+|(?<=\s)(?:\d{1,3}(?:\.\d{1,3}){3}(?:/[\d.]+)?|[0-9a-fA-F]*:[0-9a-fA-F:.]*(?:%\w+)?)(?=\s|$)]], as = "number" },
  { like = ":", as = "sign" },
  { like = [[[\w.-]+]], as = "value" },
}
check = { { with = "fields" } }
fields_least = 2
fields_in = [=[^\s*[^\s;#]]=]
fields = {
  { "setting", "nameserver, domain, search, options, sortlist, lookup or family",
    like = [[nameserver|domain|search|options|sortlist|lookup|family]] },
  { "value", "an address, names, or options" },
}

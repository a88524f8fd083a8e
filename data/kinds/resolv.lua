name = "resolv"
about = "where names of machines are asked for"
names = { "resolv.conf" }
comment_sign = "#"
comment_also = { ";" }
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
check = { { with = "fields" }, { with = "settings" } }
fields_least = 2
fields_in = [=[^\s*[^\s;#]]=]
fields = {
  { "setting", "nameserver, domain, search, options, sortlist, lookup or family",
    like = [[nameserver|domain|search|options|sortlist|lookup|family]] },
  { "value", "an address, names, or options" },
}
settings_in = [[^\s*(?<name>[a-z]+)\s+(?<value>[^#;]*?)\s*(?:[#;].*)?$]]
settings = {
  { "nameserver", is = "address" },
  { "domain", is = "host-name" },
  { "search", is = "host-name", one_of = ".", each = " \t" },
  { "options", each = " \t", one_of = { "debug", "rotate", "no-aaaa", "no-check-names", "inet6", "edns0", "single-request",
    "single-request-reopen", "no-tld-query", "use-vc", "no-reload", "trust-ad", "ndots:1", "timeout:2", "attempts:2" },
    may_like = [=[ndots:(?:\d|1[0-5])|timeout:(?:\d|[12]\d|30)|attempts:[0-5]]=] },
  { { "lookup" }, one_of = { "file", "bind", "yp" }, each = " \t" },
  { { "family" }, one_of = { "inet4", "inet6" }, each = " \t" },
}

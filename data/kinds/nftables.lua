name = "nftables"
about = "rules of the packet filter"
names = { "nftables.conf" }
paths = { "/etc/nftables.d/*" }
endings = { "nft" }
programs = { "nft" }
comment_sign = "#"
indentation = "tab"
deeper = [[\{\s*$]]
back = [[^\s*\}$]]
manual = { "nft(8)" }
risky = true
after_saving = "systemctl reload nftables"
parts = {
  { from = "#", to = "line end", as = "comment" },
  { from = '"', to = '"', as = "quoted", one_line = true },
  { like = [[^\s*(define|redefine|undefine)\s+(\w+)\s*(=)]], as = { "keyword", "name", "sign" } },
  { like = [[\b(table)(?:\s+(inet|ip6?|arp|bridge|netdev))?\s+(\w+)]], as = { "keyword", "value", "section" } },
  { like = [[^\s*(chain|set|map|flowtable|counter|quota|limit)\s+([\w-]+)(?=\s*\{)]], as = { "keyword", "section" } },
  { like = [[\b(jump|goto)\s+([\w-]+)]], as = { "keyword", "section" } },
  { like = [[\b(?:accept|drop|reject|queue|continue|return|masquerade|redirect|snat|dnat)\b]], as = "command" },
  { words = { "flush", "ruleset", "include", "add", "delete", "insert", "create", "list", "type", "hook", "priority", "policy", "elements", "flags", "device",
      "filter", "nat", "route", "input", "output", "forward", "prerouting", "postrouting", "ingress", "counter", "log", "prefix", "level", "limit",
      "rate", "over", "burst", "comment", "meta", "ct", "state", "to", "with" }, as = "keyword" },
  { words = { "ip", "ip6", "inet", "tcp", "udp", "icmp", "icmpv6", "sctp", "arp", "ether", "iif", "oif", "iifname", "oifname", "saddr", "daddr", "sport",
      "dport", "dport", "established", "related", "invalid", "new", "l4proto", "nexthdr", "protocol", "mark", "skuid", "fib", "th" }, as = "value" },
  { like = [[[$@][\w-]+]], as = "variable" },
  { like = [[(?<![\w.:])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*::[0-9a-fA-F:]*(?:/\d+)?|0x[0-9a-fA-F]+|\d+)(?![\w.])]], as = "number" },
  { like = [[[{};,=]|!=|-(?=\d)]], as = "sign" },
}
check = {
  { run = { "nft", "-c", "-f", "FILE" }, as_root = true, unsure_like = [[(?<words>[^\n]*(?:File not found: \.|Operation not permitted|Protocol not supported|cache initialization failed|Interface does not exist|Could not process rule: No such file or directory)[^\n]*)]],
    like = [[^(?<file>/[^\n:]*):(?<line>\d+):(?<column>\d+)-\d+: (?:Error: )?+(?!Interface does not exist|File not found: \.|Could not process rule: No such)(?<words>[^\n]*)]] },
}
outline = {
  { like = [[^\s*(?<name>(?:table|chain|set|map)\s[^{]*?)\s*\{]], level = 0 },
}

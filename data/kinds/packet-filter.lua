name = "packet-filter"
about = "saved rules of the packet filter, the former form"
names = { "rules.v4", "rules.v6", "iptables", "ip6tables", "iptables.rules", "ip6tables.rules", "*.rules.v4" }
paths = { "/etc/iptables/*", "/etc/sysconfig/ip*tables", "/etc/ufw/*.rules" }
endings = { "iptables" }
first_lines = [[\A(?:#[^\n]*\n)*\*(?:filter|nat|mangle|raw)\s*$]]
comment_sign = "#"
manual = { "iptables-save(8)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\*\w+|^COMMIT\s*$]], as = "section" },
  { like = [[^(:)([\w-]+)\s+(\w+|-)\s*(\[\d+:\d+\])?]], as = { "sign", "name", "keyword", "number" } },
  { like = [[^(\[\d+:\d+\]\s+)?(-[AIDNPRFX])\s+([\w-]+)]], as = { "number", "command", "name" } },
  { like = [[(?<=\s)(-j|-g|--jump|--goto)\s+([\w-]+)]], as = { "keyword", "section" } },
  { like = [[(?<=\s)--?[a-z][\w-]*]], as = "keyword" },
  { like = [["(?:[^"\\]++|\\.)*+"]], as = "quoted" },
  { like = [[(?<![\w.:])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/[\d.]+)?|[0-9a-fA-F]*::[0-9a-fA-F:]*(?:/\d+)?|\d+(?::\d+)?(?:/\w+)?)(?![\w.])]], as = "number" },
  { like = [[!|,]], as = "sign" },
  { like = [[[\w.+:-]+]], as = "value" },
}
check = {
  { run = { "iptables-restore", "--test" }, as_root = true, unsure_like = [[(?<words>[^\n]*(?:Permission denied|do you need to insmod|Could not fetch rule set|Operation not permitted)[^\n]*)]], not_paths = { "*6*" },
    like = [[^\S*iptables-restore[^\n]*?: (?|line (?<line>\d+) (?<words>failed[^\n]*)|(?=[^\n]*\nError occurred at line: (?<line>\d+))(?<words>[^\n]*))]] },
  { run = { "ip6tables-restore", "--test" }, as_root = true, unsure_like = [[(?<words>[^\n]*(?:Permission denied|do you need to insmod|Could not fetch rule set|Operation not permitted)[^\n]*)]], only_paths = { "*6*" },
    like = [[^\S*ip6tables-restore[^\n]*?: (?|line (?<line>\d+) (?<words>failed[^\n]*)|(?=[^\n]*\nError occurred at line: (?<line>\d+))(?<words>[^\n]*))]] },
}

name = "network"
about = "the machine's network interfaces"
names = { "interfaces" }
paths = { "/etc/network/interfaces", "/etc/network/interfaces.d/*" }
comment_sign = "#"
indentation = 4
deeper = [[^\s*(?:iface|mapping)\b]]
manual = { "interfaces(5)" }
risky = true
back = [[^\s+(?:auto|iface|mapping|allow-\S+|source|source-directory|no-auto-down)\b.*$]]
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*(auto|allow-\w+|no-auto-down|no-scripts)\s+(.*)]], as = { "keyword", "section" } },
  { like = [[^\s*(iface)\s+(\S+)(?:\s+(inet6?|ipx|can)\s+(\w+))?]], as = { "keyword", "section", "value", "value" } },
  { like = [[^\s*(source(?:-directory)?|mapping|rename|template)\s+(.*)]], as = { "keyword", "quoted" } },
  { like = [[^\s*(?:pre-up|up|post-up|pre-down|down|post-down)(?=\s)]], as = "command" },
  { like = [[^\s*[a-z][\w-]*(?=\s)]], as = "name" },
  { like = [[\$\w+]], as = "variable" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}|[0-9a-fA-F]*:[0-9a-fA-F:]+|\d+)(?:/\d+)?(?![\w.:-])]], as = "number" },
  { like = [[\\$]], as = "sign" },
}
check = {
  { with = "settings" },
  { with = "fields" },
  { run = { "ifquery", "--list", "-a", "-i", "FILE" }, unsure_like = [[(?<words>[^\n]*(?:Permission denied|failed to open)[^\n]*)]], like = [[^\S+: (?<file>/[^\n:]*):(?<line>\d+): (?<words>[^\n]*)]] },
}
fields_in = [[^\s*iface\s]]
fields_least = 2
fields_go_on = true
fields = {
  { "iface", "an interface is described here" },
  { "interface", "its name, such as eth0" },
  { "family", "inet, inet6, ipx or can", like = [[inet6?|ipx|can|inherits]] },
  { "method", "such as static, dhcp, manual, loopback or auto", like = [[[\w-]+(?:\s+inherits\s+\S+)?\s*]] },
}
settings_in = [[^\s*(?<name>[a-z][\w-]*)\s+(?<value>[^#]*?)\s*$]]
settings = {
  { "address", is = { "prefix", "address" } },
  { "netmask", is = { "ip4" }, from = 0, to = 128 },
  { "gateway", is = "address" },
  { "broadcast", is = "ip4", may_like = "[+-]" },
  { "network", is = "ip4" },
  { "pointopoint", is = "address" },
  { "dns-nameservers", is = "address", each = " \t" },
  { { "dns-search", "dns-domain" }, is = "host-name", each = " \t" },
  { { "metric", "vlan-id" }, is = "id" },
  { "mtu", from = 68, to = 65536 },
  { "hwaddress", like = [[(?:ether )?(?:[0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}|random]] },
  { "bridge_stp", is = "yes-no" },
  { { "bridge_fd", "bridge_maxwait", "bridge_hello", "bridge_maxage", "bond-miimon", "bond-updelay", "bond-downdelay" }, is = "duration" },
  { { "auto", "iface", "allow-hotplug", "source", "source-directory", "up", "down", "pre-up", "post-up", "pre-down", "post-down", "bridge_ports", "bond-slaves", "bond-mode",
      "vlan-raw-device", "wpa-ssid", "wpa-psk", "wpa-conf", "accept_ra", "autoconf", "privext", "scope" } },
}
outline = {
  { like = [[^\s*(?<name>iface\s+\S+[^\n#]*)]], level = 1 },
}

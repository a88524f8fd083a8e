name = "netplan"
about = "what the machine's network is to be like"
paths = { "/etc/netplan/*.yaml" }
like = "yaml"
risky = true
manual = { "netplan(5)" }
after_saving = "netplan try"
parts = {}
check = {
  { with = "yaml" }, { with = "settings" },
  { run = { "/usr/libexec/netplan/generate", "--root-dir", "FOLDER" }, in_folder = "/etc/netplan", as_in_place = true, name = "netplan",
    like = [[^(?<file>/[^\n:]+):(?<line>\d+):(?<column>\d+): (?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|cannot create|failed to)[^\n]*)]] },
}
settings_sign = ": "
settings_in = [=[^\s*(?:- )?(?<name>[\w-]+):\s*\[?\s*(?<value>[^#\[\]]*?)\s*\]?\s*(?:#.*)?$]=]
settings_more = [=[^\s*- +(?<value>[^\s:#{\["'&*](?:[^#:]|:(?!\s|$))*?|"[^"]*"|'[^']*')\s*(?:#.*)?$]=]
settings = {
  { "renderer", one_of = { "networkd", "NetworkManager", "sriov" } },
  { "version", one_of = "2" },
  { { "dhcp4", "dhcp6", "accept-ra", "optional", "critical", "wakeonlan", "set-name-off", "stp", "hidden", "on-link", "use-dns", "use-ntp", "send-hostname",
      "use-hostname", "use-mtu", "use-routes", "all-slaves-active", "gratuitous-arp-off", "ignore-carrier", "emit-lldp", "link-local-off", "ipv6-privacy",
      "receive-checksum-offload", "transmit-checksum-offload", "tcp-segmentation-offload", "generic-segmentation-offload", "generic-receive-offload",
      "large-receive-offload", "neigh-suppress", "mark-off" }, one_of = { "true", "false", "yes", "no", "on", "off" } },
  { "addresses", is = { "prefix", "address" }, each = "," },
  { { "gateway4" }, is = "ip4" },
  { { "gateway6" }, is = "ip6" },
  { "via", is = "address" },
  { "to", is = { "prefix", "address" }, one_of = "default" },
  { "from", is = { "prefix", "address" } },
  { "search", is = "host-name", each = "," },
  { { "mtu", "ipv6-mtu" }, from = 68, to = 65536 },
  { "id", from = 0, to = 16777215 },
  { { "metric", "table", "priority", "route-metric", "fwmark", "mark" }, is = "id", may_like = [[-?\d+|0x[0-9a-fA-F]+]] },
  { "macaddress", is = "hardware-address", one_of = { "permanent", "random", "stable", "preserve" } },
  { "link-local", one_of = { "ipv4", "ipv6" }, each = "," },
  { "scope", one_of = { "global", "link", "host" } },
  { "key-management", one_of = { "none", "psk", "psk-sha256", "eap", "eap-sha256", "eap-suite-b-192", "sae", "802.1x" } },
  { { "ethernets", "wifis", "bonds", "bridges", "vlans", "tunnels", "vrfs", "modems", "dummy-devices", "network", "match", "nameservers", "routes", "routing-policy",
      "interfaces", "link", "name", "driver", "set-name", "parameters", "dhcp4-overrides", "dhcp6-overrides", "dhcp-identifier", "access-points", "password",
      "auth", "mode", "local", "remote", "key", "keys", "primary", "mii-monitor-interval", "forward-delay", "peers", "allowed-ips", "endpoint", "type", "networkmanager", "openvswitch" } },
}

name = "network-unit"
about = "networks, as the service manager sets them up"
looks_like = {
  { like = [=[^\[(?:Match|Network|NetDev|Link|Address|Route|WireGuard|VLAN|Bridge)\]\s*$]=], weight = 10 },
}
endings = { "network", "netdev", "link" }
comment_sign = "#"
like = "unit"
risky = true
manual = { "systemd.network(5)", "systemd.netdev(5)", "systemd.link(5)" }
after_saving = "networkctl reload"
parts = {}
check = {
  { name = "systemd.directives(7)", run = { "man", "-P", "cat", "7", "systemd.directives" },
    knows = [[^\s+(?<word>[A-Z]\w*)=]], uses = [[(?<!\\\n)^[ \t]*(?!X-)(?<word>[A-Za-z][\w-]*)[ \t]*=]] },
}

name = "netplan"
about = "what the machine's network is to be like"
paths = { "/etc/netplan/*.yaml" }
like = "yaml"
risky = true
manual = { "netplan(5)" }
after_saving = "netplan try"
parts = {}

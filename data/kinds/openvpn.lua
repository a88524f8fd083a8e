name = "openvpn"
about = "tunnels of OpenVPN"
endings = { "ovpn" }
paths = { "/etc/openvpn/*.conf", "/etc/openvpn/*/*.conf" }
comment_sign = "#"
manual = { "openvpn(8)" }
parts = {
  { like = [[(?:^|(?<=\s))[#;].*]], as = "comment" },
  { like = [[^</?[\w-]+>\s*$]], as = "section" },
  { like = [[^-----(?:BEGIN|END)[^\n]*]], as = "section" },
  { like = [[^\s*([a-z][\w-]*)(?=\s|$)]], as = { "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=\s)(?:udp|tcp|tcp-client|tcp-server|tun|tap|server|client|none|infinite|subnet|p2p|net30)[46]?(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

name = "wireguard"
about = "interfaces of WireGuard"
paths = { "/etc/wireguard/*.conf" }
looks_like = { { like = [=[^\[Peer\]\s*$]=], weight = 12 }, { like = [[^\s*(?:PrivateKey|PublicKey|AllowedIPs|Endpoint)\s*=]], weight = 6 } }
like = "ini"
manual = { "wg(8)", "wg-quick(8)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [=[^\s*(\[(?:Interface|Peer)\])\s*$]=], as = { "section" } },
  { like = [=[^\s*\[.*]=], as = "wrong" },
  { like = [[^\s*(PrivateKey|PublicKey|PresharedKey|Address|ListenPort|DNS|MTU|Table|PreUp|PostUp|PreDown|PostDown|SaveConfig|AllowedIPs|Endpoint|PersistentKeepalive|FwMark)\s*(=)]], as = { "name", "sign" } },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

name = "ipsec"
about = "connections of IPsec"
names = { "ipsec.conf" }
paths = { "/etc/ipsec.d/*.conf" }
comment_sign = "#"
indentation = 4
deeper = [[^(?:conn|config|ca)\s]]
manual = { "ipsec.conf(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(conn|config|ca|include)\s+(\S+)]], as = { "section", "section" } },
  { like = [[^\s+([a-z]\w*)\s*(=)]], as = { "name", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=[=\s,])%\w+|(?<==)(?:yes|no|auto|add|route|start|ignore|tunnel|transport|psk|pubkey|never|clear|hold|restart|ikev[12])(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

name = "tor"
about = "the network service Tor"
names = { "torrc", "torrc.*", "*.torrc" }
paths = { "/etc/tor/*", "/etc/torrc.d/*" }
comment_sign = "#"
any_case = true
manual = { "tor(1)" }
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*([+/]?\w+)]], as = { "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=\s)(?:accept|reject|accept6|reject6|auto|notice|info|warn|err|debug)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])\d+(?:\s+(?:KBytes|MBytes|GBytes|seconds|minutes|hours|days|weeks))?(?![\w.-])]], as = "number" },
}

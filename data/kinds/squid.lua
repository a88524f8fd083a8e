name = "squid"
about = "the proxy squid"
names = { "squid.conf" }
paths = { "/etc/squid/*.conf", "/etc/squid/conf.d/*" }
looks_like = { { like = [[^\s*(?:http_access\s+(?:allow|deny)|http_port\s+\d|cache_dir\s+\w|refresh_pattern\s)]], weight = 6 } }
comment_sign = "#"
after_saving = "squid -k parse, then systemctl reload squid"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*(acl)\s+(\S+)\s+(\S+)]], as = { "keyword", "name", "value" } },
  { like = [[^\s*(http_access|icp_access|cache|miss_access|always_direct|never_direct|http_reply_access|snmp_access|ssl_bump)\s+(allow|deny|peek|splice|bump|terminate)?]], as = { "name", "keyword" } },
  { like = [[^\s*([a-z]\w*)(?=\s|$)]], as = { "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=\s)!?(?:all|on|off|none|manager|localhost)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}
check = {
  { run = { "squid", "-k", "parse", "-f", "FILE" }, not_paths = { "*/conf.d/*" }, loads = true,
    like = [[\| (?:FATAL: Bungled |aclParseAccessLine: )?(?<file>/[^\s(]+)(?:\(| line )(?<line>\d+)\)?: (?:[^\n]*\n[^\n]*aclParseAccessLine: )?(?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|No such file|cannot)[^\n]*)]] },
}

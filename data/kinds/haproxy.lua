name = "haproxy"
about = "the load balancer HAProxy"
names = { "haproxy.cfg" }
paths = { "/etc/haproxy/*.cfg", "/etc/haproxy/*.conf" }
endings = { "haproxy" }
comment_sign = "#"
indentation = 4
deeper = [[^(?:global|defaults|frontend|backend|listen|peers|resolvers|userlist|mailers|cache|program|ring)\b]]
after_saving = "systemctl reload haproxy"
back = [[^\s+(?:global|defaults|frontend|backend|listen|peers|resolvers|userlist|mailers|cache|program|ring)\b.*$]]
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*(global|defaults|frontend|backend|listen|peers|resolvers|userlist|mailers|cache|program|ring)(?=\s|$)(?:\s+(\S+))?]], as = { "section", "name" } },
  { like = [[^\s*(acl|use_backend|default_backend|server|bind)\s+(\S+)]], as = { "keyword", "name" } },
  { like = [[^\s*(?:no\s+)?([a-z][\w.-]*)]], as = { "keyword" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [['[^']*']], as = "quoted" },
  { like = [=[%\[[^\]]*\]|%\w+|\$\{\w+\}]=], as = "variable" },
  { like = [[(?<=\s)(?:if|unless|or|and)(?=\s)]], as = "keyword" },
  { like = [[(?<=[\s{])-[a-z]\b]], as = "sign" },
  { like = [[(?<![\w.-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+|:\d+)?|\*:\d+|:\d+|\d+(?:us|ms|[smhdk])?)(?![\w.-])]], as = "number" },
  { like = [[(?<=\s)(?:check|backup|ssl|crt|verify|none|roundrobin|leastconn|source|http|tcp|inter|rise|fall|weight|maxconn|cookie)(?=\s|$)]], as = "value" },
  { like = [=[[{}!]]=], as = "sign" },
}
check = {
  { run = { "haproxy", "-c", "-f", "FILE" }, loads = true, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]],
    like = [=[^\[ALERT\][^\n]*\[(?<file>/[^\n\]]*):(?<line>\d+)\] ?:? ?(?<words>[^\n]*)]=] },
}

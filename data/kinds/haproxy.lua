name = "haproxy"
about = "the load balancer HAProxy"
looks_like = { { like = [[^(?:frontend|backend|listen)[ \t]+[\w.-]+[^{};=\n]*$]], weight = 3 }, { like = [[^(?:defaults|global)[ \t]*$]], weight = 2 } }
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
  { with = "settings" },
  { run = { "haproxy", "-c", "-f", "FILE" }, loads = true, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]],
    like = [=[^\[ALERT\][^\n]*\[(?<file>/[^\n\]]*):(?<line>\d+)\] ?:? ?(?<words>[^\n]*)]=] },
}
settings_in = [[^\s+(?<name>[a-z][\w.-]*)\s+(?<value>[^#]*?)\s*$]]
settings = {
  { "mode", one_of = { "http", "tcp", "log", "health", "spop", "haterm" } },
  { "balance", such_as = { "roundrobin", "static-rr", "leastconn", "first", "source", "uri", "url_param ", "hdr(host)", "random", "rdp-cookie", "hash " } },
  { "option", such_as = { "httplog", "tcplog", "dontlognull", "forwardfor", "http-server-close", "httpclose", "http-keep-alive", "httpchk", "redispatch", "log-health-checks", "abortonclose", "tcpka", "clitcpka", "srvtcpka", "persist", "ssl-hello-chk", "mysql-check", "pgsql-check", "redis-check", "smtpchk", "ldap-check", "tcp-check", "log-separate-errors", "logasap", "prefer-last-server", "splice-auto", "splice-request", "splice-response", "contstats", "allbackups", "checkcache", "transparent", "originalto", "nolinger", "http-buffer-request", "http-ignore-probes", "http-no-delay", "http-pretend-keepalive", "http-use-htx", "independent-streams", "socket-stats", "spop-check", "tcp-smart-accept", "tcp-smart-connect", "external-check", "accept-invalid-http-request" } },
  { "timeout", such_as = { "connect ", "client ", "server ", "http-request ", "http-keep-alive ", "queue ", "check ", "tunnel ", "client-fin ", "server-fin ", "tarpit ", "hold " } },
  { "log", such_as = { "global", "/dev/log local0", "/dev/log local1 notice", "stdout format raw local0", "127.0.0.1 local0" } },
  { "stats", such_as = { "enable", "uri ", "refresh ", "auth ", "admin ", "hide-version", "realm ", "socket ", "timeout ", "show-legends", "show-node", "scope ", "http-request " } },
  { "user", is = "user" },
  { "group", is = "group" },
  { "maxconn", from = 0, to = 999999999 },
  { "nbthread", from = 1, to = 1024 },
  { {
      "global", "defaults", "frontend", "backend", "listen", "peers", "resolvers", "userlist", "mailers", "cache", "bind", "server",
      "default_backend", "use_backend", "acl", "http-request", "http-response", "http-after-response", "http-check", "http-error", "http-reuse",
      "tcp-request", "tcp-response", "tcp-check", "daemon", "chroot", "pidfile", "log-format", "log-format-sd", "log-tag", "log-send-hostname",
      "default-server", "server-template", "server-state-file", "errorfile", "errorfiles", "errorloc", "redirect", "retries", "retry-on", "cookie",
      "stick", "stick-table", "compression", "description", "disabled", "enabled", "filter", "fullconn", "hash-type", "id",
      "load-server-state-from-file", "option", "monitor-uri", "monitor", "rate-limit", "source", "unique-id-format", "unique-id-header",
      "use-server", "ssl-default-bind-ciphers", "ssl-default-bind-ciphersuites", "ssl-default-bind-options", "ssl-default-server-ciphers",
      "ssl-default-server-options", "ca-base", "crt-base", "lua-load", "lua-prepend-path", "master-worker", "nbproc", "cpu-map", "node", "presetenv",
      "setenv", "resetenv", "unsetenv", "spread-checks", "tune.ssl.default-dh-param", "tune.bufsize", "tune.maxrewrite", "tune.http.maxhdr",
      "nameserver", "resolve_retries", "hold", "accepted_payload_size", "parse-resolv-conf", "peer", "table", "insecure-fork-wanted",
      "external-check", "capture", "dispatch", "email-alert", "force-persist", "ignore-persist", "persist", "maxsslconn", "hard-stop-after" } },
}
outline = {
  { like = [[^(?<name>(?:global|defaults|frontend|backend|listen|peers|resolvers|userlist|mailers|cache|program|ring)\b[^#\n]*)]], level = 1 },
}

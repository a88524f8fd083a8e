name = "postgres-access"
about = "who may reach which database"
names = { "pg_hba.conf" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(local)\s+(\S+)\s+(\S+)\s+([\w-]+)]], as = { "keyword", "section", "name", "value" } },
  { like = [[^\s*(host(?:no)?(?:ssl|gssenc)?)\s+(\S+)\s+(\S+)\s+(\S+)(?:\s+(\d{1,3}(?:\.\d{1,3}){3}))?\s+([\w-]+)]], as = { "keyword", "section", "name", "number", "number", "value" } },
  { like = [[^\s*(include\w*)\s+(\S+)]], as = { "keyword", "quoted" } },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
  { like = [[(\w+)(=)(\S+)]], as = { "name", "sign", "quoted" } },
}
check = { { with = "fields" } }
fields_least = 4
fields_remarks = true
fields_in = [[^\s*(?:local|host)]]
fields = {
  { "type", "local, host, hostssl, hostnossl, hostgssenc or hostnogssenc", one_of = { "local", "host", "hostssl", "hostnossl", "hostgssenc", "hostnogssenc" } },
  { "database", "names with commas between, or all", such_as = { "all", "sameuser", "samerole", "replication" }, like = [[\S+]] },
  { "user", "names with commas between, or all", such_as = { "all" }, like = [[\S+]] },
  { "address or method", "such as 10.20.0.0/16 or peer", such_as = { "samehost", "samenet", "127.0.0.1/32", "::1/128", "peer", "scram-sha-256", "md5", "trust", "reject" }, like = [[[\w.:/%*-]+]] },
  { "method", "such as scram-sha-256", such_as = { "scram-sha-256", "md5", "trust", "reject", "peer", "cert", "gss", "ldap", "pam", "radius", "password", "ident" } },
}

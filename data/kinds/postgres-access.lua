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

name = "ldif"
about = "entries of a directory"
endings = { "ldif", "schema" }
looks_like = { { like = [[^dn::? ]], weight = 4 } }
comment_sign = "#"
manual = { "ldif(5)" }
parts = {
  { like = [[^#.*]], as = "comment" },
  { like = [[^(dn)(::?|:<)(.*)$]], as = { "section", "sign", "section" } },
  { like = [[^(changetype|add|delete|replace|increment|newrdn|deleteoldrdn|newsuperior|objectClass)(::?)(.*)$]], as = { "keyword", "sign", "value" } },
  { like = [[^(objectclass|attributetype|objectidentifier)\b]], as = { "keyword" } },
  { like = [[^([A-Za-z][\w;.-]*)(::?<?)]], as = { "name", "sign" } },
  { like = [[^-$]], as = "sign" },
  { like = [[\b(?:NAME|DESC|SUP|EQUALITY|SYNTAX|MUST|MAY|STRUCTURAL|AUXILIARY|SINGLE-VALUE|SUBSTR|ORDERING)\b]], as = "keyword" },
  { like = [['[^'\n]*']], as = "quoted" },
}
outline = {
  { like = [[^(?<name>dn: [^\n]+)]], level = 1 },
}

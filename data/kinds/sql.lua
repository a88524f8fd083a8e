name = "sql"
about = "SQL"
endings = { "sql", "ddl", "dml", "pgsql", "mysql", "psql" }
names = { "psql.edit.*", "sql??????" }
comment_sign = "--"
comment_also = { "#" }
line_end_character = ";"
any_case = true
indentation = 2
deeper = [[(?:\(|\b(?:begin|then|as|loop|select|from|where|set|values))\s*$]]
back = [[^\s*\)$]]
parts = {
  { from_like = [[--|^#]], to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [[\b[eE]?'(?:[^'\\\n]|''|\\'(?=\w)|\\(?!'))*\\'(?=\w)(?:[^'\\\n]|''|\\'(?=\w)|\\(?!'))*']], as = "quoted" },
  { like = [[(?<!\w)'(?:[^'\\\n]|''|\\(?!'))*\\'(?=\w)(?:[^'\\\n]|''|\\'(?=\w)|\\(?!'))*']], as = "quoted" },
  { from_like = [[\b[enb]?']], to_like = [['(?!')]], as = "quoted", inside = { { like = "''", as = "quoted" } } },
  { from = "'", to_like = [['(?!')]], as = "quoted", inside = { { like = "''", as = "quoted" } } },
  { from_like = [[\$(\w*)\$]], to_like = [[\$%1\$]], as = "quoted" },
  { from = '"', to = '"', as = "name" },
  { from = "`", to = "`", as = "name" },
  { like = [[^\\\S+.*]], as = "command" },
  { like = [[[@:$][A-Za-z_]\w*|\$\d+|(?<!\w)\?(?!\w)]], as = "variable" },
  { words = { "add", "all", "alter", "analyze", "and", "any", "as", "asc", "begin", "between", "by", "cascade", "case", "cast", "check",
      "column", "commit", "conflict", "constraint", "copy", "create", "cross", "current", "cursor", "database", "declare", "default", "delete",
      "desc", "distinct", "do", "drop", "each", "else", "end", "except", "execute", "exists", "explain", "extension", "fetch", "for",
      "foreign", "from", "full", "function", "grant", "group", "having", "if", "in", "index", "inner", "insert", "intersect", "into", "is",
      "join", "key", "language", "left", "like", "ilike", "limit", "lock", "natural", "not", "nothing", "offset", "on", "or", "order",
      "outer", "over", "partition", "primary", "procedure", "references", "replace", "restrict", "return", "returning", "returns", "revoke",
      "right", "rollback", "row", "rows", "schema", "select", "sequence", "set", "show", "table", "temporary", "then", "to", "transaction",
      "trigger", "truncate", "union", "unique", "update", "use", "user", "using", "vacuum", "values", "view", "when", "where", "while",
      "window", "with" }, as = "keyword" },
  { words = { "true", "false", "null", "unknown" }, as = "number" },
  { words = { "bigint", "bigserial", "blob", "boolean", "bool", "bytea", "char", "character", "date", "datetime", "decimal", "double",
      "enum", "float", "int", "integer", "interval", "json", "jsonb", "numeric", "precision", "real", "serial", "smallint", "text", "time",
      "timestamp", "timestamptz", "tinyint", "uuid", "varchar", "varying", "zone" }, as = "value" },
  { like = [[\b[A-Za-z_]\w*(?=\()]], as = "command" },
  { like = [[\b\d+(?:\.\d+)?(?:e[+-]?\d+)?\b]], as = "number" },
  { like = [=[[-+*%=<>!|~,;.:]+|[/()\[\]]]=], as = "sign" },
}
outline = {
  { like = [=[(?i)^\s*create\s+(?:or\s+replace\s+)?(?:temp(?:orary)?\s+|unique\s+|materialized\s+)*(?<name>(?:table|view|function|procedure|trigger|index|type|schema|sequence)\s+(?:if\s+not\s+exists\s+)?[\w."`\[\]]+)]=], level = 1 },
  { like = [[(?i)^\s*alter\s+(?<name>table\s+(?:only\s+)?[\w."`]+)]], level = 1 },
  { like = [[(?i)^\s*(?<name>insert\s+into\s+[\w."`]+)]], level = 2 },
  { like = [[(?i)^COPY\s+(?<name>[\w."]+)]], level = 2 },
}

name = "graphql"
about = "queries and schemas of GraphQL"
endings = { "graphql", "gql", "graphqls" }
comment_sign = "#"
indentation = 2
deeper = [[[{(\[]\s*$]]
back = [=[^\s*[})\]]]=]
parts = {
  { like = [[#.*]], as = "comment" },
  { from = '"""', to = '"""', as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[\$\w+]], as = "variable" },
  { like = [[@\w+]], as = "command" },
  { words = { "query", "mutation", "subscription", "fragment", "on", "type", "input", "enum", "interface", "union", "scalar", "schema", "directive", "extend", "implements", "repeatable" }, as = "keyword" },
  { words = { "Int", "Float", "String", "Boolean", "ID", "true", "false", "null" }, as = "value" },
  { like = [[\b(\w+)\s*(:)]], as = { "name", "sign" } },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[{}()=!|&:]|\.\.\.|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>(?:type|input|enum|interface|union|query|mutation)\s+\w+)]], level = 1 },
}
outline_ends = [[^\}]]

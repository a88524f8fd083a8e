name = "puppet"
about = "manifests of puppet"
endings = { "pp" }
comment_sign = "#"
indentation = 2
deeper = [[[{\[(:]\s*$]]
back = [=[^\s*[}\])]]=]
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}\n]*\}|\$[\w:]+]], as = "variable" } } },
  { from = "'", to = "'", as = "quoted", escape = "\\" },
  { like = [[\$[a-z_:][\w:]*]], as = "variable" },
  { like = [[^\s*(class|define|node|inherits|plan|function|type)\s+([\w:]+)?]], as = { "keyword", "section" } },
  { like = [[\b(?:if|elsif|else|unless|case|default|and|or|in|undef|true|false|include|require|contain|realize|notify|import|return)\b(?!\s*=>)]], as = "keyword" },
  { like = [[\b([a-z_][\w:]*)(?=\s*\{)]], as = { "command" } },
  { like = [[\b(\w+)\s*(=>|\+>)]], as = { "name", "sign" } },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[->|~>|<\||\|>|[{}()=!<>|,:]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?<name>(?:class|define|node|function)\s+\S+)]], level = 0 },
}

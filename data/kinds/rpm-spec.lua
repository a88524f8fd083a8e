name = "rpm-spec"
about = "how an RPM package is built"
endings = { "spec" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(%(?:package|description|prep|build|install|check|clean|files|changelog|pre|post|preun|postun|pretrans|posttrans|generate_buildrequires|conf))\b(.*)$]], as = { "section", "value" } },
  { like = [[^\s*(%(?:if|ifarch|ifnarch|ifos|else|elif|endif|global|define|undefine|include))\b]], as = { "keyword" } },
  { like = [[^(\w[\w()]*)(:)(?=\s)]], as = { "name", "sign" } },
  { like = [[^(\* \w{3} \w{3} \d+ \d{4})(.*)$]], as = { "number", "value" } },
  { like = [[%\{[^}\n]*\}|%\w+]], as = "variable" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}
outline = {
  { like = [[^(?<name>%(?:package|description|prep|build|install|check|clean|files|post|postun|pre|preun|changelog)\b[^\n]*)]], level = 1 },
}

name = "json-with-comments"
about = "JSON that may have comments"
endings = { "jsonc", "json5", "code-workspace" }
names = { "tsconfig.json", "tsconfig.*.json", "jsconfig.json", ".eslintrc", ".eslintrc.json", ".prettierrc", "devcontainer.json" }
like = "json"
comment_sign = "//"
parts = {
  { from = "//", to = "line end", as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { like = [=[,(?=\s*[}\]])]=], as = "sign" },
  { like = [[(?:^|(?<=[{,]))\s*([A-Za-z_$][\w$]*)(?=\s*:)]], as = { "name" } },
}
check = { { with = "json-with-comments" } }

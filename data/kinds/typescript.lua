name = "typescript"
about = "TypeScript"
endings = { "ts", "tsx", "mts", "cts" }
like = "javascript"
check = {} -- node reads no types
parts = {
  { words = { "interface", "type", "enum", "namespace", "declare", "implements", "public", "private", "protected", "readonly", "abstract",
      "as", "keyof", "is", "satisfies", "override" }, as = "keyword" },
  { words = { "string", "number", "boolean", "any", "unknown", "never", "object", "void", "symbol", "bigint" }, as = "value" },
  { like = [[(?<!\w)@[A-Za-z_]\w*]], as = "command" },
}

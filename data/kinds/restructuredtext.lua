name = "restructuredtext"
about = "texts with the signs of reStructuredText"
endings = { "rst", "rest" }
prose = true
comment_sign = ".."
parts = {
  { like = [[^\s*(\.\.)\s+([\w-]+::)(.*)$]], as = { "sign", "keyword", "value" } },
  { like = [[^\s*(\.\.)\s+(_[^:\n]+:)(.*)$]], as = { "sign", "name", "variable" } },
  { like = [[^\s*\.\.(?:\s.*)?$]], as = "comment" },
  { like = [[^([=~`#*+^"'.:_-])\1{2,}\s*$]], as = "section" },
  { like = [[^\s*(:[\w -]+:)(?=\s|$)]], as = { "name" } },
  { like = [[^\s*([-*+]|\d+\.|#\.)(?=\s)]], as = { "sign" } },
  { like = [[``[^`\n]+``]], as = "quoted" },
  { like = [[:[\w:-]+:`[^`\n]+`|`[^`\n]+`__?|\b\w+_(?=\s|$)]], as = "variable" },
  { like = [[\*\*[^*\n]+\*\*|(?<!\*)\*[^*\s][^*\n]*\*]], as = "value" },
  { like = [[https?://\S+]], as = "variable" },
}
outline = {
  { like = [[^(?<name>\.\. (?:_[^:]+:|[\w-]+::[^\n]*))]], level = 2 },
}

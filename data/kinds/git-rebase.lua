name = "git-rebase"
about = "what becomes of commits"
names = { "git-rebase-todo" }
comment_sign = "#"
manual = { "git-rebase(1)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(exec|x)\s+(.*)]], as = { "keyword", "command" } },
  { like = [[^(label|l|reset|t|update-ref|u)\s+(\S+)]], as = { "keyword", "section" } },
  { like = [[^(merge|m)(?:\s+(-[cC])\s+([0-9a-f]+))?\s+(\S+)]], as = { "keyword", "sign", "number", "section" } },
  { like = [[^(drop|d)\s+([0-9a-f]+)\s+(.*)]], as = { "removed", "number", "removed" } },
  { like = [[^(pick|p|reword|r|edit|e|squash|s|fixup|f)(?:\s+(-[cC]))?\s+([0-9a-f]+)]], as = { "keyword", "sign", "number" } },
  { like = [[^(?:break|b|noop)\s*$]], as = "keyword" },
  { like = [[^\S+]], as = "wrong" },
  { like = [[#\s.*]], as = "comment" },
}

name = "git-ignore"
about = "files that tools leave alone"
names = { ".gitignore", ".dockerignore", ".npmignore", ".ignore", ".hgignore", ".prettierignore", ".eslintignore", ".helmignore" }
paths = { "*/.git/info/exclude", "*/git/ignore" }
comment_sign = "#"
manual = { "gitignore(5)" }
parts = {
  { like = [[^#.*]], as = "comment" },
  { like = "^!", as = "keyword" },
  { like = [[\\.]], as = "plain" },
  { like = [[\[[^\]/]*\]|\*\*?|\?]], as = "variable" },
  { like = [[[ \t]+$]], as = "wrong" },
  { like = "/", as = "sign" },
}

name = "git-attributes"
about = "how git treats files"
names = { ".gitattributes", "CODEOWNERS" }
paths = { "*/.git/info/attributes", "*/git/attributes" }
comment_sign = "#"
manual = { "gitattributes(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(\[attr\])(\S+)]], as = { "keyword", "section" } },
  { like = [[^\s*("(?:[^"\\]++|\\.)*+"|\S+)]], as = { "section" } },
  { like = [[(?<=\s)([-!]?)([\w.-]+)(=)(\S+)]], as = { "sign", "name", "sign", "value" } },
  { like = [[(?<=\s)([-!]?)([\w.-]+)(?=\s|$)]], as = { "sign", "name" } },
  { like = [[@[\w/.-]+]], as = "value" },
}

name = "markdown"
about = "Markdown"
endings = { "md", "markdown", "mkd", "mdown", "rmd", "qmd" }
names = { "README", "CHANGELOG", "CONTRIBUTING" }
comment_open = "<!--"
comment_close = "-->"
prose = true
indentation = 2
first = { { from_like = [[^---\s*$]], to_like = [[^(?:---|\.\.\.)\s*$]], as = "section", holds = "yaml" }, { use = "all" } }
parts = { { use = "all" } }
sets = {
  all = {
    { from_like = [[^\s*(?:[-*+]\s+)?(`{3,}|~{3,})\s*(\w[\w+-]*)[^`]*$]], to_like = [[^\s*%1\s*$]], as = "sign", holds = 2 },
    { from_like = [[^\s*(?:[-*+]\s+)?(`{3,}|~{3,})[^`]*$]], to_like = [[^\s*%1\s*$]], as = "sign", body = "quoted" },
    { from = "<!--", to = "-->", as = "comment" },
    { like = [[^ {0,3}#{1,6}(?:\s.*|$)]], as = "section" },
    { like = [[^ {0,3}(?:=+|-{2,})\s*$]], as = "section" },
    { like = [[^\s*(?:[-*+]|\d+[.)])(?=\s)(?:\s+\[[ xX]\](?=\s))?]], as = "sign" },
    { like = [[^ {0,3}>(?:\s*>)*]], as = "sign" },
    { like = [=[^ {0,3}(\[[^\]]+\]):\s+(\S+)]=], as = { "name", "quoted" } },
    { like = [=[\\[\\`*_{}\[\]()#+.!|<>~-]]=], as = "plain" },
    { like = [[(`+)(?!`).*?(?<!`)\1(?!`)]], as = "quoted" },
    { like = [[(!?\[(?:[^\]\\]|\\.)*\])(\([^()\s]*(?:\s+"[^"]*")?\))]], as = { "name", "value" } },
    { like = [=[!?\[[^\]]+\]\[[^\]]*\]]=], as = "name" },
    { like = [[<(?:https?|mailto|ftp):[^>\s]*>|\bhttps?://[^\s<>()]+]], as = "quoted" },
    { like = [[(\*\*|__)(?=\S)(?:(?!\1).)+?(?<=\S)\1]], as = "keyword" },
    { like = [[(?<![\w*])\*(?=[^\s*])[^*]+(?<=\S)\*(?![\w*])|(?<![\w_])_(?=[^\s_])[^_]+(?<=\S)_(?![\w_])]], as = "command" },
    { like = [[~~(?=\S).+?~~]], as = "removed" },
    { like = [[</?[A-Za-z][^>]*>|&#?\w+;]], as = "variable" },
    { like = [[(?<=\s)\|(?=\s)|^\||\|$]], as = "sign" },
  },
}
outline = {
  { like = [[^#\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 1 },
  { like = [[^##\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 2 },
  { like = [[^###\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 3 },
  { like = [[^####\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 4 },
  { like = [[^#####\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 5 },
  { like = [[^######\s+(?<name>[^\n]*?)\s*#*\s*$]], level = 6 },
}

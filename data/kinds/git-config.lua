name = "git-config"
about = "settings of git"
names = { ".gitconfig", ".gitmodules", "gitconfig", ".gitconfig.*" }
paths = { "*/.git/config", "*/git/config", "*/.git/config.worktree" }
comment_sign = "#"
indentation = "tab"
deeper = [[^\[.*\]\s*$]]
any_case = true
manual = { "git-config(1)" }
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[^\s*(\[[\w.-]+)(?:\s+("(?:[^"\\]++|\\.)*+"))?(\])]], as = { "section", "quoted", "section" } },
  { like = [[^\s*([A-Za-z][\w-]*)(?:\s*(=))?]], as = { "name", "sign" } },
  { like = [=[\\[\\"nt]]=], as = "sign" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, goes_on = "\\" },
  { like = [[(?<=\s)[#;].*]], as = "comment" },
  { like = [[(?<=[=\s])(?:true|false|yes|no|on|off|auto|always|never|input|simple|current|upstream)(?=\s*$)]], as = "keyword" },
  { like = [[(?<=[=\s])[+-]?\d+[kmg]?(?=\s*$)]], as = "number" },
  { like = [[\\$]], as = "sign" },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

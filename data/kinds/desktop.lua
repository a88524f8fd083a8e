name = "desktop"
about = "entries of a desktop's menus"
endings = { "desktop", "directory", "theme" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [=[^(\[[^\]]*\])\s*$]=], as = { "section" } },
  { like = [[^(Exec|TryExec)\s*(=)\s*(\S+)]], as = { "name", "sign", "command" } },
  { like = [[^([A-Za-z0-9-]+)(\[[\w@.]+\])?\s*(=)]], as = { "name", "value", "sign" } },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
  { like = [[(?<==)(?:true|false|Application|Link|Directory)(?=\s*$)]], as = "keyword" },
  { like = [=[%[a-zA-Z%]]=], as = "variable" },
  { like = ";", as = "sign" },
  { like = [[\b\d+(?:\.\d+)?\b]], as = "number" },
}
check = {
  { with = "sections" },
  { run = { "desktop-file-validate", "FILE" }, like = [[: error: (?<words>[^\n]*?\bkey "(?<about>[^"\n]*)"[^\n]*|[^\n]*)]] },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

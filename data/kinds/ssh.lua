name = "ssh"
about = "how to reach other machines by SSH"
names = { "ssh_config" }
paths = { "*/.ssh/config", "/etc/ssh/ssh_config.d/*", "*/.ssh/config.d/*" }
comment_sign = "#"
any_case = true
manual = { "ssh_config(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*(host|match)(?:\s+|\s*=\s*)(.*)]], as = { "keyword", "section" } },
  { like = [[^\s*(include)(?:\s+|\s*=\s*)(.*)]], as = { "keyword", "quoted" } },
  { like = [[^\s*(\w+)(\s*=)?]], as = { "name", "sign" } },
  { like = [["[^"]*"]], as = "quoted" },
  { like = [[%[%A-Za-z]|\$\{\w+\}]], as = "variable" },
  { like = [[(?<=[\s=,])(?:yes|no|ask|auto|none|any|confirm|always|force)(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w./-])(?:\d+[smhdwkg]?|\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?)(?![\w./-])]], as = "number" },
  { like = [[[^\s"%$,=:]+]], as = "value" },
}
check = {
  { run = { "ssh", "-G", "-F", "FILE", "harrow" },
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|match exec |percent_expand|no such identity)[^\n]*)]],
    like = [[^(?<file>/[^\n]*?):? line (?<line>\d+): (?!match exec )(?<words>[^\n\r]*)]] },
}

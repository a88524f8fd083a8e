name = "mail-services"
about = "the processes of the mail server Postfix"
names = { "master.cf" }
paths = { "/etc/postfix/master.cf" }
comment_sign = "#"
manual = { "master(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(\S+)\s+(inet|unix|fifo|pass|unix-dgram)\s+([yn-])\s+([yn-])\s+([yn-])\s+([\d?-]+)\s+([\d-]+)\s+(\S+)]], as = { "section", "keyword", "value", "value", "value", "number", "number", "command" } },
  { like = [[^\S.*]], as = "wrong" },
  { like = [[(?<=\s)(-o)\s+([\w.-]+)(=)]], as = { "keyword", "name", "sign" } },
  { like = [[(?<=[\s{,])([a-z]\w*)(=)]], as = { "name", "sign" } },
  { like = [[\$\{\w+\}|\$\(\w+\)|\$\w+]], as = "variable" },
  { like = [[(?<=\s)-\w+]], as = "keyword" },
  { like = "[{},]", as = "sign" },
}
check = {
  { run = { "postconf", "-c", "FOLDER", "-M" }, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]], in_folder = "/etc/postfix",
    like = [[^\S*postconf: \w+: (?:file )?(?<file>/[^,:\n]+)(?:(?:, |: )line (?<line>\d+))?: (?<words>[^\n]*)]] },
}

name = "dnsmasq"
about = "the name and address server dnsmasq"
names = { "dnsmasq.conf" }
paths = { "/etc/dnsmasq.d-available/*", "/etc/dnsmasq.d/*", "/etc/dnsmasq.conf" }
comment_sign = "#"
manual = { "dnsmasq(8)" }
after_saving = "dnsmasq --test, then systemctl restart dnsmasq"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[(?<=\s)#.*]], as = "comment" },
  { like = [[^\s*([a-z][a-z0-9-]*)(=)?]], as = { "name", "sign" } },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=[=,])(?:[0-9a-fA-F*]{2}:){5}[0-9a-fA-F*]{2}]], as = "number" },
  { like = [[(?<=[=,])(?:set|tag|option|option6|vendor|id):]], as = "keyword" },
  { like = [[(?<=[=,])(?:infinite|ignore|static|ra-only|slaac)(?=,|$)]], as = "keyword" },
  { like = [[(?<=[=,])\d+[smhdw]?(?=,|\s|$)]], as = "number" },
  { like = [=[[,/]]=], as = "sign" },
}
check = {
  { run = { "dnsmasq", "--test", "-C", "FILE" }, loads = true,
    like = [[^dnsmasq: (?<words>[^\n]*?) at line (?<line>\d+) of (?<file>[^\s\n]+)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|cannot read|cannot execute|cannot access|unknown user)[^\n]*)]] },
}

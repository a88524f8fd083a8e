name = "blocks"
about = "settings in braces"
looks_like = {
  { like = [[^[^#;\n]*\{\s*$]], weight = 1 },
  { like = [[^\s*\};?\s*$]], weight = 1 },
  { like = [[^\s*"[^"\n]*"\s*:]], weight = -2 }, -- JSON
}
names = { "dhcpd.conf", "dhcpd6.conf", "dhclient.conf", "keepalived.conf", "lvm.conf", "dovecot.conf", "radiusd.conf", "multipath.conf", "syslog-ng.conf", "ulogd.conf",
  "libvirtd.conf", "krb5.conf", "gdm.conf" }
paths = { "/etc/apt/apt.conf.d/*", "/etc/apt/apt.conf", "/etc/dovecot/*.conf", "/etc/dovecot/*.ext", "/etc/keepalived/*", "/etc/freeradius/*", "/etc/lvm/*", "/etc/dhcp/*.conf", "/etc/bird/*.conf", "/etc/xinetd.d/*", "/etc/xinetd.conf" }
comment_sign = "#"
comment_also = { "//" }
indentation = 2
deeper = [[\{\s*$]]
back = [[^\s*\}$]]
parts = {
  { like = [[(?:^|(?<=[\s;{}]))(?:#|//|!(?=\s)).*]], as = "comment" },
  { from = "/*", to = "*/", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}]*\}|%\{[^}]*\}]], as = "variable" } } },
  { like = [[^\s*(\[[\w. -]+\])]], as = { "section" } },
  { like = [[([\w.!-]+)((?:\s+[^\s{};"=]+|\s+"[^"]*")*)(?=\s*\{)]], as = { "section", "value" } },
  { like = [[(?:^|(?<=[{;]))\s*([\w./-]+)(\s*=)?]], as = { "name", "sign" } },
  { like = [[(?<![\w.:/-])(?:(?:[0-9a-fA-F]{2}:){5}[0-9a-fA-F]{2}|\d[\d.]*(?:/\d+)?[smhdkMG]?)(?![\w.:/-])]], as = "number" },
  { like = [[(?<![\w./-])(?i:yes|no|on|off|true|false)(?![\w./-])]], as = "keyword" },
  { like = [[%\{[^}]*\}|\$\w+]], as = "variable" },
  { like = [=[[{};,=]]=], as = "sign" },
}
check = {
  { run = { "doveconf", "-c", "FOLDER/dovecot.conf", "-n" }, in_folder = "/etc/dovecot",
    like = [[^doveconf: (?:Fatal|Error): (?:Error in configuration file (?<file>/[^\s:]+)(?:,)? line (?<line>\d+): )?(?<words>(?!.*Permission denied)[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]] },
  { run = { "keepalived", "-t", "-f", "FILE" }, loads = true, only_paths = { "*/keepalived/*", "*/keepalived.conf" },
    like = [[^\((?<file>/[^\n:]+): Line (?<line>\d+)\) (?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|SECURITY VIOLATION|Operation not permitted)[^\n]*)]] },
}
outline = {
  { like = [[^(?<name>[\w.-]+(?:\s+[^\s{};]+)*)\s*\{\s*$]], level = 1 },
  { like = [[^(?:  ?|\t|    )(?<name>[\w.-]+(?:\s+[^\s{};]+)*)\s*\{\s*$]], level = 2 },
}

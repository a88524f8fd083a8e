name = "sshd"
about = "who may come in by SSH, and how"
names = { "sshd_config" }
paths = { "/etc/ssh/sshd_config.d/*" }
manual = { "sshd_config(5)" }
like = "ssh"
risky = true
after_saving = "systemctl reload ssh"
parts = {
  { like = [[^\s*(subsystem)\s+(\S+)\s+(.*)]], as = { "name", "value", "command" } },
  { like = [[(?<=\s)(?:prohibit-password|without-password|forced-commands-only|keyboard-interactive|publickey|password|sandbox|delayed|local|remote)(?=[\s,]|$)]], as = "keyword" },
}
check = { { run = { "sshd", "-t", "-f", "FILE" }, unsure_like = [[(?<words>[^\n]*(?:no hostkeys available|Missing privilege separation directory|Permission denied)[^\n]*)]], like = [[(?:(?:^(?<file>/[^\n]*?):? )?\bline (?<line>\d+): |^(?=Unable to load host key: "?(?<about>/(?!etc/ssh/ssh_host_)[^\s"]*)))(?<words>[^\n\r]*)]] } }

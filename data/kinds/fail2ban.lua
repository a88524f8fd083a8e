name = "fail2ban"
about = "who is locked out after failures"
paths = { "/etc/fail2ban/*", "/etc/fail2ban/*.d/*" }
own_folders = true
like = "ini"
manual = { "jail.conf(5)" }
after_saving = "fail2ban-client -t, then systemctl reload fail2ban"
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[<[A-Z][\w-]*>|%\([^)\n]*\)s|<[\w/]+>]], as = "variable" },
}
check = {
  { run = { "fail2ban-client", "-c", "FOLDER", "-t" }, in_folder = "/etc/fail2ban",
    like = [[Source contains parsing errors: '(?<file>[^'\n]+)'\s+\[line +(?<line>\d+)\]: (?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|Have not found any log file)[^\n]*)]] },
}

name = "sudoers"
about = "who may do what as root"
names = { "sudoers", "sudoers.tmp", "sudoers.*" }
paths = { "/etc/sudoers.d/*", "/var/tmp/sudoers*" }
own_folders = true
comment_sign = "#"
manual = { "sudoers(5)" }
risky = true
parts = {
  { like = [[^\s*([#@]include(?:dir)?)\s+(.*)]], as = { "keyword", "quoted" } },
  { like = [[(?<![\w%])#(?!\d).*]], as = "comment" },
  { like = [[^\s*((?:User|Runas|Host|Cmnd|Cmd)_Alias)\s+([A-Z]\w*)\s*(=)]], as = { "keyword", "section", "sign" } },
  { like = [[^\s*(Defaults)([@:>!]\S+)?]], as = { "keyword", "name" } },
  { like = [["(?:[^"\\]++|\\.)*+"]], as = "quoted" },
  { like = [[\b(?:NOPASSWD|PASSWD|NOEXEC|EXEC|SETENV|NOSETENV|LOG_INPUT|NOLOG_INPUT|LOG_OUTPUT|NOLOG_OUTPUT|MAIL|NOMAIL|FOLLOW|NOFOLLOW)(?=:)]], as = "keyword" },
  { like = [[\bALL\b]], as = "keyword" },
  { like = [[^\s*((?:%:?|\+)?#?[\w.@-]+|"[^"]+")(?=[\s,])]], as = { "name" } },
  { like = [[\b(?:env_reset|env_keep|secure_path|mail_badpass|use_pty|requiretty|timestamp_timeout|passwd_tries|insults|logfile|lecture|editor|env_check|env_delete|env_file|umask|rootpw|targetpw|visiblepw|always_set_home|match_group_by_gid|badpass_message|iolog_dir|log_output|log_input)\b]], as = "value" },
  { like = [[!?(?:sudoedit|/[^\s,\\:=]*(?:\\.[^\s,\\:=]*)*)]], as = "command" },
  { like = [[\b\d+(?:\.\d+)?\b]], as = "number" },
  { like = [[[=,:!()+-]+|\\$]], as = "sign" },
}
check = { { run = { "visudo", "-c", "-f", "-" }, hints = "^unused ", like = [[^(?:stdin|.*?):(?<line>\d+)(?::(?<column>\d+))?: (?<words>[^\n]*)]] } }
settings_in = [[^\s*(?<name>Defaults)(?:[@:>!]\S+)?\s+(?:[^#]*,\s*)?(?<value>!?\w*)$]]
settings = {
  { "Defaults", such_as = {
      "env_reset", "env_keep", "env_check", "env_delete", "env_file", "secure_path", "use_pty", "requiretty", "timestamp_timeout", "timestamp_type",
      "passwd_tries", "passwd_timeout", "insults", "logfile", "lecture", "lecture_file", "editor", "umask", "rootpw", "targetpw", "runaspw",
      "visiblepw", "always_set_home", "set_home", "match_group_by_gid", "badpass_message", "iolog_dir", "iolog_file", "log_output", "log_input",
      "log_year", "log_host", "log_allowed", "log_denied", "mail_badpass", "mail_no_user", "mail_no_host", "mail_no_perms", "mail_always", "mailto",
      "mailsub", "mailerpath", "authenticate", "closefrom", "closefrom_override", "env_editor", "fast_glob", "fqdn", "group_plugin", "ignore_dot",
      "ignore_local_sudoers", "intercept", "ioplugin", "long_otp_prompt", "noexec", "passprompt", "passprompt_override", "path_info",
      "preserve_groups", "pwfeedback", "restricted_env_file", "role", "root_sudo", "runas_default", "setenv", "shell_noargs", "stay_setuid",
      "sudoers_locale", "syslog", "syslog_goodpri", "syslog_badpri", "syslog_maxlen", "tty_tickets", "type", "umask_override", "use_netgroups",
      "verifypw", "listpw", "user_command_timeouts", "command_timeout", "compress_io" } },
  { { "Defaults", "User_Alias", "Runas_Alias", "Host_Alias", "Cmnd_Alias", "@include", "@includedir", "root", "%sudo", "%admin", "%wheel" } },
}

name = "sudoers"
about = "who may do what as root"
names = { "sudoers", "sudoers.tmp", "sudoers.*" }
paths = { "/etc/sudoers.d/*", "/var/tmp/sudoers*" }
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
check = { { run = { "visudo", "-c", "-f", "-" }, like = [[^(?:stdin|.*?):(?<line>\d+)(?::(?<column>\d+))?: (?<words>[^\n]*)]] } }

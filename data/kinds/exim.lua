name = "exim"
about = "the mail server Exim"
names = { "exim.conf", "exim4.conf", "exim4.conf.template", "update-exim4.conf.conf" }
paths = { "/etc/exim4/*", "/etc/exim4/conf.d/*/*", "/etc/exim/*.conf" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^(begin)\s+(acl|routers|transports|retry|rewrite|authenticators)\s*$]], as = { "keyword", "section" } },
  { like = [[^\s*(\.(?:ifdef|ifndef|else|elifdef|endif|include|include_if_exists))\b]], as = { "keyword" } },
  { like = [[^([a-z]\w*)(:)\s*$]], as = { "section", "sign" } },
  { like = [[^\s*(accept|deny|require|warn|defer|drop|discard)(?=\s|$)]], as = { "keyword" } },
  { like = [[^\s*(!?[\w]+)\s*(=)]], as = { "name", "sign" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[\$\{[^}\n]*\}|\$\w+]], as = "variable" },
  { like = [[(?<=[=\s:])(?:true|false|yes|no)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [[[:{}*]|\\$]], as = "sign" },
}
check = {
  { run = { "exim4", "-bV", "-C", "FILE" }, only_paths = { "*/exim4.conf", "*/exim.conf", "*/configure" }, loads = true,
    like = [[configuration error in line (?<line>\d+) of (?<file>[^\s:]+):\s+(?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|permission denied|wrong owner|not owned|setuid|setgid|setgroups)[^\n]*)]] },
}

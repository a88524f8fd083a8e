name = "pam"
about = "how people prove who they are"
looks_like = {
  { like = [[^\s*-?(?:auth|account|password|session)\s+(?:required|requisite|sufficient|optional|include|substack)\s+\S]], weight = 4 },
}
paths = { "/etc/pam.d/*" }
own_folders = true
comment_sign = "#"
manual = { "pam.conf(5)", "pam.d(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*(@include)\s+(\S+)]], as = { "keyword", "section" } },
  { like = [[^\s*(-?)(auth|account|password|session)\s+(required|requisite|sufficient|optional|include|substack)\s+([\w./-]+)]], as = { "sign", "keyword", "value", "command" } },
  { like = [[^\s*(-?)(auth|account|password|session)(?=\s+\[)]], as = { "sign", "keyword" } },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
  { from = "[", to = "]", as = "sign", one_line = true, inside = { { like = [[(\w+)(=)(\w+)]], as = { "name", "sign", "value" } } } },
  { like = [[(?<=\]) *\b(pam_\w+\.so)]], as = { "command" } },
  { like = [[([\w-]+)(=)(\S*)]], as = { "name", "sign", "quoted" } },
  { like = [[[\w-]+]], as = "name" },
  { like = [[\\$]], as = "sign" },
}
check = { { with = "fields" } }
fields_in = [=[^\s*[^\s#@]]=]
fields_least = 3
fields_go_on = true
fields_brackets = true
fields = {
  { "type", "auth, account, password or session, perhaps with - before it", like = [[(?i)-?(?:auth|account|password|session)]], such_as = { "auth", "account", "password", "session", "@include " } },
  { "control", "required, requisite, sufficient, optional, include, substack, or [value=action …]",
    such_as = { "required", "requisite", "sufficient", "optional", "include", "substack", "[success=1 default=ignore]", "[default=die]" },
    like = [=[(?i)required|requisite|sufficient|optional|include|substack|\[[^\]]*\]]=] },
  { "module", "such as pam_unix.so, or a file to be included", is = "pam-module" },
  { "arguments", "words for the module", each = " \t", such_as = { "use_first_pass", "try_first_pass", "use_authtok", "nullok", "nullok_secure", "shadow", "sha512", "yescrypt", "rounds=", "obscure",
    "minlen=", "remember=", "debug", "audit", "silent", "deny=", "unlock_time=", "fail_interval=", "even_deny_root", "root_unlock_time=", "preauth", "authfail", "authsucc", "retry=", "difok=", "ucredit=", "lcredit=",
    "dcredit=", "ocredit=", "minclass=", "enforce_for_root", "enforcing=", "skel=", "umask=", "readenv=1", "envfile=", "user_readenv=", "conffile=", "noupdate", "showfailed", "motd=", "dir=standard", "nopen", "close", "open",
    "trust", "use_uid", "group=", "user", "item=", "sense=", "file=", "onerr=", "uid", "quiet", "broken_shadow", "likeauth", "gecoscheck" } },
}

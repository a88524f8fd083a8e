name = "pam-services"
about = "how people prove who they are, for all services in one file"
names = { "pam.conf" }
comment_sign = "#"
like = "pam"
risky = true
manual = { "pam.conf(5)" }
parts = {
  { like = [[^\s*([\w-]+)\s+(-?)(auth|account|password|session)\s+(required|requisite|sufficient|optional|include|substack)\s+([\w./-]+)]],
    as = { "section", "sign", "keyword", "value", "command" } },
  { like = [[^\s*([\w-]+)\s+(-?)(auth|account|password|session)(?=\s+\[)]], as = { "section", "sign", "keyword" } },
}
check = { { with = "fields" } }
fields_in = [=[^\s*[^\s#@]]=]
fields_least = 4
fields_go_on = true
fields_brackets = true
fields = {
  { "service", "whose rule it is, or other" },
  { "type", "auth, account, password or session", like = [[(?i)-?(?:auth|account|password|session)]] },
  { "control", "required, requisite, sufficient, optional, include, substack, or [value=action …]",
    like = [=[(?i)required|requisite|sufficient|optional|include|substack|\[[^\]]*\]]=] },
  { "module", "such as pam_unix.so", is = "pam-module" },
  { "arguments", "words for the module" },
}

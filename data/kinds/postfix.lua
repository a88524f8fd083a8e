name = "postfix"
about = "settings of the mail server Postfix"
names = { "main.cf" }
paths = { "/etc/postfix/*.cf" }
comment_sign = "#"
manual = { "postconf(5)" }
after_saving = "postfix reload"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^([A-Za-z0-9_.-]+)\s*(=)]], as = { "name", "sign" } },
  { like = [[\$\{[^}]*\}|\$\(\w+\)|\$\w+]], as = "variable" },
  { like = [[(?<![\w.-])(?:hash|btree|lmdb|cdb|dbm|texthash|regexp|pcre|cidr|proxy|unix|inet|ldap|mysql|pgsql|sqlite|static)(?=:)]], as = "value" },
  { like = [[(?<![\w.-])(?:permit|reject|defer|warn|check)_\w+|(?<![\w.-])(?:yes|no|all|none|may|encrypt|permit|reject)(?![\w.-])]], as = "keyword" },
  { like = [[\[[^\]\s]{0,80}\](?::\d+)?(?:/\d+)?|(?<![\w.-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|\d+[smhdw]?)(?![\w.-])]], as = "number" },
  { like = "[,=!]", as = "sign" },
}
check = {
  { run = { "postconf", "-c", "FOLDER", "-n" }, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]], in_folder = "/etc/postfix",
    like = [[^\S*postconf: \w+: (?:file )?(?<file>/[^,:\n]+)(?:, line (?<line>\d+))?: (?<words>unused parameter: (?<about>\w+)[^\n]*|[^\n]*)]] },
}

name = "mysql"
about = "the database servers MySQL and MariaDB"
names = { "my.cnf", ".my.cnf", "mysqld.cnf" }
paths = { "/etc/mysql/*.cnf", "/etc/my.cnf.d/*.cnf" }
like = "ini"
manual = {}
after_saving = "systemctl restart mariadb"
parts = {
  { like = [[^\s*!(?:includedir|include)\b]], as = "keyword" },
  { like = [[(?<=[=\s])\d+[KMGkmg]?(?=\s*$)]], as = "number" },
}
check = {
  { run = { "mariadbd", "--defaults-file=FILE", "--help", "--verbose" }, loads = true,
    like = [[\[ERROR\] \S*: (?<words>unknown (?:variable|option) '(?<about>[^='\n]*)[^\n]*|[^\n]*ambiguous option[^\n]*|[^\n]*requires an argument[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|Can't (?:create|open|change)|read the manual|plugin)[^\n]*)]] },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

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

name = "proftpd"
about = "the file server ProFTPD"
names = { "proftpd.conf" }
paths = { "/etc/proftpd/*.conf", "/etc/proftpd/conf.d/*" }
like = "apache"
manual = {}
after_saving = "proftpd -t"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*</?(?:Anonymous|Limit|Directory|Global|VirtualHost|IfModule|Class)\b[^>\n]*>]], as = "section" },
}

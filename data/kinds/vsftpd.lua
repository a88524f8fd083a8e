name = "vsftpd"
about = "the file server vsftpd"
names = { "vsftpd.conf" }
paths = { "/etc/vsftpd/*.conf" }
comment_sign = "#"
manual = { "vsftpd.conf(5)" }
parts = {
  { like = [[^#.*]], as = "comment" },
  { like = [[^([a-z]\w*)(=)(?=\S)]], as = { "name", "sign" } },
  { like = [[^\s*\w+(?:\s+=.*|=\s+.*)$]], as = "wrong" },
  { like = [[(?<==)(?:YES|NO)(?=\s*$)]], as = "keyword" },
  { like = [[(?<==)\d+(?=\s*$)]], as = "number" },
}

name = "kea"
about = "the address server Kea"
names = { "kea-*.conf", "keactrl.conf" }
paths = { "/etc/kea/*.conf" }
like = "json-with-comments"
after_saving = "kea-dhcp4 -t /etc/kea/kea-dhcp4.conf"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
}

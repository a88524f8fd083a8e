name = "kea"
about = "the address server Kea"
names = { "kea-*.conf", "keactrl.conf" }
paths = { "/etc/kea/*.conf" }
like = "json-with-comments"
after_saving = "kea-dhcp4 -t /etc/kea/kea-dhcp4.conf"
parts = {
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
}
check = {
  { with = "json-with-comments" },
  { run = { "kea-dhcp4", "-t", "FILE" }, hints = "^Extraneous comma", loads = true, only_paths = { "*dhcp4*" },
    like = [[(?<file>/[^\s:]+):(?<line>\d+)(?:[.:](?<column>\d+))?(?:-\d+)?: (?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:Permission denied|PERMISSION)[^\n]*)]] },
}

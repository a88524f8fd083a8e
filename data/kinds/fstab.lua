name = "fstab"
about = "file systems and where they are mounted"
names = { "fstab", "mtab" }
paths = { "/etc/fstab", "/proc/mounts" }
comment_sign = "#"
manual = { "fstab(5)", "mount(8)" }
risky = true
after_saving = "systemctl daemon-reload, then mount -a"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*((?:UUID|LABEL|PARTUUID|PARTLABEL|ID)=)(\S+)\s+(\S+)\s+([\w,.-]+)]], as = { "keyword", "name", "section", "value" } },
  { like = [[^\s*(\S+)\s+(\S+)\s+([\w,.-]+)(?=\s+\S)]], as = { "name", "section", "value" } },
  { like = [[^\s*(\S+)\s+(\S+)\s*$]], as = { "name", "wrong" } },
  { like = [[(?<=[\s,])([\w.-]+)(=)([^\s,]*)]], as = { "keyword", "sign", "quoted" } },
  { like = [[(?<=\s)\d+(?=\s|$)]], as = "number" },
  { like = [[(?<=[\s,])[\w.-]+]], as = "keyword" },
  { like = ",", as = "sign" },
}
check = {
  { with = "fields" },
  { run = { "findmnt", "--verify", "--tab-file", "FILE" }, only_paths = { "/etc/fstab" },
    hints = "^unreachable on boot required target",
    like = [[^(?<about>\S+)\n(?:[ ]+\[W\][^\n]*\n)*[ ]+\[E\] (?<words>[^\n]*)]] },
}
fields_least = 3
fields = {
  { "device", "what is mounted: a device, UUID=…, LABEL=…, host:path" },
  { "mount point", "a path from /, or none", like = [[/.*|none|swap]] },
  { "type", "the file system, such as ext4", like = [[[A-Za-z][\w.,-]*]] },
  { "options", "words with commas between, such as defaults" },
  { "dump", "0 or 1: is it backed up by dump", from = 0, to = 9 },
  { "pass", "0 to 2: when it is checked at the start", from = 0, to = 9 },
}

name = "fstab"
about = "file systems and where they are mounted"
names = { "fstab", "mtab", "crypttab" }
paths = { "/etc/fstab", "/proc/mounts" }
comment_sign = "#"
manual = { "fstab(5)", "mount(8)" }
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

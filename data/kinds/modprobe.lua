name = "modprobe"
about = "modules of the kernel"
names = { "modprobe.conf" }
paths = { "/etc/modules", "/etc/modprobe.d/*", "/etc/modules-load.d/*", "/lib/modprobe.d/*" }
own_folders = true
comment_sign = "#"
comment_also = { ";" }
manual = { "modprobe.d(5)" }
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[^\s*(alias)\s+(\S+)\s+(\S+)]], as = { "keyword", "quoted", "section" } },
  { like = [[^\s*(install|remove)\s+(\S+)\s+(.*)]], as = { "keyword", "section", "command" } },
  { like = [[^\s*(blacklist|options|softdep|weakdep)\s+(\S+)]], as = { "keyword", "section" } },
  { like = [[([\w.-]+)(=)([^\s=]*)]], as = { "name", "sign", "value" } },
  { like = [[(?:pre|post)(?=:)]], as = "name" },
  { like = [[^\s*([\w-]+)(?=\s*$)]], as = { "section" } },
  { like = [[\\$|:]], as = "sign" },
}

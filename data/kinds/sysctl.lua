name = "sysctl"
about = "settings of the kernel"
looks_like = {
  { like = [[^\s*-?(?:net|kernel|vm|fs|dev|user)[./][\w./*-]+\s*=]], weight = 5 },
  { like = [=[^\s*\[]=], weight = -20 },
}
names = { "sysctl.conf" }
paths = { "/etc/sysctl.d/*.conf", "/usr/lib/sysctl.d/*.conf", "/lib/sysctl.d/*.conf" }
own_folders = true
comment_sign = "#"
comment_also = { ";" }
manual = { "sysctl.d(5)" }
after_saving = "sysctl --system"
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[^\s*(-?)([\w.*/:-]+)\s*(=)]], as = { "sign", "name", "sign" } },
  { like = [[^\s*(-)([\w.*/:-]+)\s*$]], as = { "sign", "name" } },
  { like = [[^\s*(\S.*)]], as = { "wrong" } },
  { like = [[(?<![\w.-])-?(?:0x[0-9a-fA-F]+|\d+)(?![\w.-])]], as = "number" },
  { like = [[\|]], as = "sign" },
  { like = [[[^\s=]+]], as = "value" },
}
check = { { with = "fields" } }
fields_between = "="
fields_in = [=[^\s*[^\s#;]]=]
fields = {
  { "setting", "a name with dots, such as net.ipv4.ip_forward", is = "kernel-setting", like = [[-?[\w./*:@-]+]] },
  { "value", "what it is set to" },
}

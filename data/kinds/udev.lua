name = "udev"
about = "rules for devices"
looks_like = {
  { like = [[\b(?:ACTION|SUBSYSTEMS?|KERNELS?|ATTRS?\{[^}\n]*\}|ENV\{[^}\n]*\}|DRIVERS?|RUN|GOTO|LABEL)(?:==|!=|\+=|=)"]], weight = 6 },
}
paths = { "/etc/udev/rules.d/*.rules", "/lib/udev/rules.d/*.rules", "/usr/lib/udev/rules.d/*.rules" }
own_folders = true
comment_sign = "#"
manual = { "udev(7)" }
after_saving = "udevadm control --reload"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[%[a-zA-Z%](?:\{[^}]*\})?|\$(?:\w+(?:\{[^}]*\})?|\$)]], as = "variable" } } },
  { like = [[\b(ACTION|DEVPATH|KERNELS?|NAME|SYMLINK|SUBSYSTEMS?|DRIVERS?|ATTRS?|SYSCTL|ENV|CONST|TAGS?|TEST|PROGRAM|RESULT)((?:\{[^}]*\})?)\s*(==|!=)]], as = { "keyword", "value", "sign" } },
  { like = [[\b([A-Z_]+)((?:\{[^}]*\})?)\s*([-+:]?=)]], as = { "name", "value", "sign" } },
  { like = [[,|\\$]], as = "sign" },
  { like = [[[^\s,"\\]+]], as = "wrong" },
}

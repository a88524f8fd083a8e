name = "unit"
about = "units of the service manager"
looks_like = {
  { like = [=[^\[(?:Unit|Service|Install|Socket|Timer|Path|Mount|Automount|Swap|Slice|Container)\]\s*$]=], weight = 10 },
}
endings = { "service", "socket", "timer", "mount", "automount", "target", "path", "slice", "scope", "swap", "device", "nspawn",
  "container", "volume", "pod", "kube" }
paths = { "/etc/systemd/*.conf", "/etc/systemd/*.conf.d/*.conf", "*.service.d/*.conf", "*.socket.d/*.conf", "*.timer.d/*.conf", "/lib/systemd/*.conf",
  "/etc/systemd/system/*/*.conf" }
comment_sign = "#"
manual = { "systemd.unit(5)", "systemd.service(5)", "systemd.exec(5)", "systemd.directives(7)" }
after_saving = "systemctl daemon-reload"
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [[^(\[[\w-]+\])\s*$]], as = { "section" } },
  { like = [[^\s*\[.*]], as = "wrong" },
  { like = [[^(Exec\w+|OnFailure)\s*(=)([-@:+!|]*)(\S*)]], as = { "name", "sign", "sign", "command" } },
  { like = [[^([\w-]+)\s*(=)]], as = { "name", "sign" } },
  { like = [[%[%a-zA-Z]|\$\{\w+\}|\$\w+]], as = "variable" },
  { from_like = [[(?<=[\s=])"(?=(?:[^"\\\n]|\\.)*")]], to = '"', as = "quoted", escape = "\\" },
  { from_like = [[(?<=[\s=])"(?=[^"\n]*\\$)]], to = '"', as = "quoted", one_line = true, goes_on = "\\" },
  { like = [[(?<=[\s=])'[^'\n]*']], as = "quoted" },
  { like = [[(?<==)(?i:true|false|yes|no|on|off|always|on-failure|never|simple|forking|oneshot|notify|dbus|idle|exec|infinity)(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w./-])\d+(?:ms|us|min|sec|[smhdwKMGT%])?(?![\w./-])]], as = "number" },
  { like = [[\\$]], as = "sign" },
  { like = [[[\w@-]+\.(?:service|socket|timer|mount|target|path|slice)\b]], as = "value" },
}
check = {
  { run = { "systemd-analyze", "--man=no", "verify", "FILE" }, free = true, like = [[^(?:(?<file>/[^\n]*?):(?<line>\d+): |[^\s:]+: (?=Command (?<about>/\S+) is not executable))(?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:\S+ not loaded|Unit \S+ not found|Permission denied)[^\n]*)]],
    only_paths = { "*.service", "*.socket", "*.timer", "*.mount", "*.automount", "*.target", "*.path", "*.slice", "*.swap", "*.scope" } },
  { name = "systemd.directives(7)", run = { "man", "-P", "cat", "7", "systemd.directives" },
    only_paths = { "*.nspawn", "*.conf" },
    knows = [[^\s+(?<word>[A-Z]\w*)=]], uses = [[(?<!\\\n)^[ \t]*(?!X-)(?<word>[A-Za-z][\w-]*)[ \t]*=]] },
}

name = "limits"
about = "how much each user may use"
names = { "limits.conf" }
paths = { "/etc/security/limits.conf", "/etc/security/limits.d/*" }
comment_sign = "#"
manual = { "limits.conf(5)" }
parts = {
  { from = "#", to = "line end", as = "comment" },
  { like = [[^\s*([@%]?[\w.*:%@-]+)\s+(soft|hard|-)\s+(core|data|fsize|memlock|nofile|rss|stack|cpu|nproc|as|maxlogins|maxsyslogins|nonewprivs|priority|locks|sigpending|msgqueue|nice|rtprio|chroot)\s+(-?\d+|unlimited|infinity)]],
    as = { "section", "keyword", "name", "number" } },
  { like = [[\S.*]], as = "wrong" },
}

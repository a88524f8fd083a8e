name = "limits"
about = "how much each user may use"
looks_like = {
  { like = [[^[ \t]*[\w@*%.:-]+[ \t]+(?:soft|hard|-)[ \t]+(?:nofile|nproc|core|memlock|as|cpu|data|fsize|maxlogins|priority|nice|rtprio|stack|rss)\s]], weight = 6 },
}
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
check = { { with = "fields" } }
fields_exact = true
fields = {
  { "who", "a user, @group, %group, * or a range of ids", such_as = { "*", "root", "@" }, like = [[-|\*|%|[@%]?[A-Za-z_][\w.@-]*\$?(?::\d*)?|[@%]?(?:\d*:\d+|\d+:\d*|\d+)]] },
  { "kind", "soft, hard or -", one_of = { "soft", "hard", "-" } },
  { "item", "such as nofile, nproc, core or maxlogins",
    one_of = { "core", "data", "fsize", "memlock", "nofile", "rss", "stack", "cpu", "nproc", "as", "maxlogins", "maxsyslogins", "nonewprivs", "priority", "locks", "sigpending", "msgqueue", "nice", "rtprio", "chroot" } },
  { "value", "a number, unlimited or -1", such_as = { "unlimited" }, like = [[[+-]?\d+|unlimited|infinity|/\S*]] },
}

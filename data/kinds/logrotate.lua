name = "logrotate"
about = "when logs are put aside"
looks_like = {
  { like = [[^\s*(?:rotate \d+|daily|weekly|monthly|missingok|notifempty|delaycompress|postrotate|endscript|copytruncate)\s*$]], weight = 4 },
}
names = { "logrotate.conf" }
paths = { "/etc/logrotate.d/*" }
own_folders = true
endings = { "logrotate" }
comment_sign = "#"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*(?:\}|endscript)$]]
manual = { "logrotate(8)" }
parts = {
  { like = [[^\s*#.*|(?<=\s)#.*]], as = "comment" },
  { from_like = [[^\s*(?:postrotate|prerotate|firstaction|lastaction|preremove)\s*$]], to_like = [[^\s*endscript\s*$]], as = "section", holds = "shell" },
  { like = [[^\s*(?:create(?=\s*$)|daily|hourly|weekly|monthly|yearly|compress|nocompress|delaycompress|nodelaycompress|copy|nocopy|copytruncate|nocopytruncate|dateext|nodateext|dateyesterday|ifempty|notifempty|missingok|nomissingok|mail(?:first|last)|nomail|nocreate|noolddir|sharedscripts|nosharedscripts|shred|noshred|createolddir|datehourago|renamecopy|norenamecopy|ignoreduplicates)(?=\s|$)]], as = "keyword" },
  { like = [[^\s*(rotate|size|minsize|maxsize|maxage|minage|start|create|su|olddir|include|tabooext|taboopat|mail|compresscmd|uncompresscmd|compressext|compressoptions|dateformat|extension|addextension|shredcycles|createolddir|weekly|monthly)\s+(.*)]], as = { "name", "value" } },
  { from = '"', to = '"', as = "quoted", one_line = true },
  { like = [[/[^\s{}"]*]], as = "section" },
  { like = "[{}]", as = "sign" },
  { like = [[^\s*(\S+)]], as = { "wrong" } },
}
check = {
  { with = "settings" },
  { run = { "logrotate", "-d", "-s", "/dev/null", "FILE" },
    like = [[^error: (?<file>/[^\n:]+):(?:(?<line>\d+) )?(?<words>[^\n]*)]],
    unsure_like = [[(?<words>error: stat of [^\n]*|[^\n]*(?:Permission denied|insecure permissions|bad file mode)[^\n]*)]] },
}
settings_in = [[^\s*(?<name>[a-z]+)\s+(?<value>.*?)\s*$]]
settings = {
  { "rotate", from = -1, to = 999999 },
  { {
      "size", "minsize", "maxsize" }, is = "size", may_like = "=.*" },
  { {
      "maxage", "minage", "start", "shredcycles" }, from = 0, to = 999999 },
  { "su", is = "user", may_like = ".*" },
  { "create", such_as = { "0640 root adm", "0644 root root", "0600 root root" }, may_like = ".*" },
  { {
      "hourly", "daily", "weekly", "monthly", "yearly", "compress", "nocompress", "delaycompress", "nodelaycompress", "copy", "nocopy",
      "copytruncate", "nocopytruncate", "dateext", "nodateext", "dateformat", "dateyesterday", "datehourago", "ifempty", "notifempty", "missingok",
      "nomissingok", "mail", "mailfirst", "maillast", "nomail", "nocreate", "olddir", "noolddir", "createolddir", "nocreateolddir", "sharedscripts",
      "nosharedscripts", "shred", "noshred", "renamecopy", "norenamecopy", "ignoreduplicates", "include", "tabooext", "taboopat", "compresscmd",
      "uncompresscmd", "compressext", "compressoptions", "extension", "addextension", "prerotate", "postrotate", "firstaction", "lastaction",
      "preremove", "endscript" } },
}
outline = {
  { like = [[^(?<name>[/"\'][^{\n]*?)\s*\{?\s*$]], level = 1 },
}
outline_ends = [[^\}]]

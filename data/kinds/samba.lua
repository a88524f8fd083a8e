name = "samba"
about = "folders shared by Samba"
names = { "smb.conf" }
paths = { "/etc/samba/*.conf" }
comment_sign = "#"
comment_also = { ";" }
any_case = true
indentation = 3
manual = { "smb.conf(5)" }
after_saving = "testparm -s, then smbcontrol all reload-config"
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [=[^\s*(\[[^\]]*\])]=], as = { "section" } },
  { like = [[^\s*([^=\[\s][^=]*?)\s*(=)]], as = { "name", "sign" } },
  { like = [[%[a-zA-Z$]|%\$\(\w+\)]], as = "variable" },
  { like = [[(?<![\w./-])(?:yes|no|true|false|auto|required|mandatory|disabled|user)(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w./-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/[\d.]+)?|\d+)(?![\w./-])]], as = "number" },
  { like = [[@[\w.-]+]], as = "value" },
  { like = [["[^"]*"]], as = "quoted" },
  { like = [[\\$]], as = "sign" },
}
check = { { with = "settings" }, { run = { "testparm", "-s", "FILE" }, like = [[(?<words>Unknown parameter encountered: "(?<about>[^"\n]*)"|Badly formed line[^\n]*)]] } }
settings_sign = " = "
settings_section = [=[^\s*\[(?<section>[^\]]+)\]\s*$]=]
settings_in = [[^\s*(?<name>[A-Za-z][\w :]*?)\s*=\s*(?<value>[^#;]*?)\s*$]]
settings = {
  { {
      "browseable", "browsable", "read only", "writeable", "writable", "guest ok", "public", "guest only", "printable", "available",
      "create krb5 conf", "domain master", "local master", "preferred master", "domain logons", "encrypt passwords", "hide dot files",
      "hide unreadable", "hide special files", "inherit acls", "inherit permissions", "inherit owner", "follow symlinks", "wide links",
      "unix extensions", "store dos attributes", "map archive", "map hidden", "map system", "ea support", "acl allow execute always", "strict sync",
      "sync always", "posix locking", "oplocks", "level2 oplocks", "locking", "case sensitive", "preserve case", "short preserve case",
      "delete veto files", "load printers", "disable spoolss", "unix password sync", "pam password change",
      "passdb expand explicit", "obey pam restrictions", "bind interfaces only", "disable netbios", "dns proxy", "wins support", "wins proxy",
      "time server", "usershare allow guests", "winbind use default domain", "winbind enum users", "winbind enum groups", "winbind offline logon",
      "winbind refresh tickets", "null passwords", "lanman auth", "client use spnego", "access based share enum", "vfs fruit",
      "use sendfile", "allow insecure wide links", "kernel oplocks", "kernel share modes", "durable handles", "nt acl support", "dos filemode",
      "dos filetimes" }, such_as = { "yes", "no" } },
  { "security", one_of = { "user", "ads", "domain", "auto", "share", "server" } },
  { "server role", one_of = { "auto", "standalone server", "standalone", "member server", "classic primary domain controller", "classic backup domain controller", "netbios backup domain controller", "active directory domain controller" } },
  { "map to guest", one_of = { "never", "bad user", "bad password", "bad uid" } },
  { {
      "server min protocol", "server max protocol", "client min protocol", "client max protocol", "min protocol", "max protocol" }, such_as = { "SMB3", "SMB3_11", "SMB3_02", "SMB3_00", "SMB2", "SMB2_10", "SMB2_02", "NT1", "LANMAN1" } },
  { {
      "server signing", "client signing" }, such_as = { "mandatory", "auto", "disabled", "default", "required" } },
  { {
      "server smb encrypt", "smb encrypt" }, such_as = { "required", "desired", "off", "auto", "mandatory", "disabled" } },
  { "printing", such_as = { "bsd", "cups", "sysv", "lprng", "iprint" } },
  { {
      "create mask", "directory mask", "force create mode", "force directory mode", "create mode", "directory mode", "security mask",
      "directory security mask" }, is = "mode", may_like = "0x.*|[0-7]+" },
  { "force user", is = "user", may_like = ".*" },
  { "force group", is = "group", may_like = ".*" },
  { "guest account", is = "user", may_like = ".*" },
  { {
      "valid users", "invalid users", "write list", "read list", "admin users", "hosts allow", "hosts deny", "path", "comment", "workgroup",
      "server string", "netbios name", "netbios aliases", "realm", "interfaces", "log file", "log level", "max log size", "logging", "syslog",
      "panic action", "passdb backend", "passwd program", "passwd chat", "vfs objects", "veto files", "hide files", "idmap config * : backend",
      "idmap config * : range", "template shell", "template homedir", "kerberos method", "dedicated keytab file", "smb ports", "socket options",
      "deadtime", "max connections", "name resolve order", "wins server", "password server", "printer name", "print command", "printcap name",
      "cups options", "root preexec", "preexec", "postexec", "root postexec", "include", "copy", "add user script", "add machine script",
      "logon path", "logon script", "logon drive", "logon home", "username map", "usershare max shares", "usershare path", "os level",
      "fruit:metadata", "fruit:model", "fruit:time machine", "recycle:repository", "shadow:snapdir", "full_audit:prefix", "dfs root", "msdfs root",
      "host msdfs", "max open files", "min receivefile size", "aio read size", "aio write size", "unix charset", "dos charset", "volume",
      "dont descend", "magic script", "fstype", "state directory", "cache directory", "private dir", "lock directory", "pid directory", "ntlm auth",
      "tls enabled", "tls keyfile", "tls certfile", "tls cafile", "allow dns updates", "dns forwarder", "restrict anonymous", "veto oplock files",
      "server services", "rpc_server:spoolss", "spotlight", "getwd cache", "change notify", "keepalive" } },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

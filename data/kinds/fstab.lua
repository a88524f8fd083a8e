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
  { "device", "what is mounted: a device, UUID=…, LABEL=…, host:path", such_as = { "UUID=", "LABEL=", "PARTUUID=", "PARTLABEL=", "/dev/", "tmpfs", "proc" } },
  { "mount point", "a path from /, or none", such_as = { "none", "swap", "/", "/boot", "/boot/efi", "/home", "/srv", "/tmp", "/var", "/mnt", "/media" }, like = [[/.*|none|swap]] },
  { "type", "the file system, such as ext4", such_as = { "ext4", "xfs", "btrfs", "vfat", "swap", "tmpfs", "nfs", "nfs4", "cifs", "none", "auto", "ntfs3", "exfat", "iso9660", "overlay", "f2fs", "udf", "squashfs", "proc", "sysfs", "devpts", "zfs", "fuse.sshfs" }, like = [[[A-Za-z][\w.,-]*]] },
  { "options", "words with commas between, such as defaults", each = ",", like = [[\S+]], such_as = { "defaults", "noatime", "relatime", "nodiratime", "strictatime", "lazytime",
    "ro", "rw", "nodev", "dev", "nosuid", "suid", "noexec", "exec", "auto", "noauto", "nofail", "user", "users", "nouser", "owner", "group", "sync", "async", "dirsync", "_netdev",
    "discard", "errors=remount-ro", "errors=continue", "errors=panic", "data=ordered", "data=journal", "commit=", "barrier=", "acl", "noacl", "user_xattr", "quota", "usrquota", "grpquota",
    "usrjquota=", "grpjquota=", "jqfmt=vfsv1", "bind", "rbind", "remount", "size=", "mode=", "uid=", "gid=", "umask=", "dmask=", "fmask=", "utf8", "iocharset=utf8", "subvol=", "subvolid=",
    "compress=zstd", "autodefrag", "ssd", "space_cache=v2", "sw", "pri=", "credentials=", "username=", "domain=", "vers=", "sec=", "soft", "hard", "timeo=", "retrans=", "rsize=", "wsize=", "nfsvers=", "tcp", "intr",
    "x-systemd.automount", "x-systemd.device-timeout=", "x-systemd.idle-timeout=", "x-systemd.requires=", "x-systemd.after=", "x-systemd.before=", "x-systemd.mount-timeout=", "x-systemd.growfs", "x-systemd.makefs", "x-gvfs-show", "comment=" } },
  { "dump", "0 or 1: is it backed up by dump", from = 0, to = 9 },
  { "pass", "0 to 2: when it is checked at the start", from = 0, to = 9 },
}

name = "sshd"
about = "who may come in by SSH, and how"
names = { "sshd_config" }
paths = { "/etc/ssh/sshd_config.d/*" }
manual = { "sshd_config(5)" }
like = "ssh"
risky = true
after_saving = "systemctl reload ssh"
parts = {
  { like = [[^\s*(subsystem)\s+(\S+)\s+(.*)]], as = { "name", "value", "command" } },
  { like = [[(?<=\s)(?:prohibit-password|without-password|forced-commands-only|keyboard-interactive|publickey|password|sandbox|delayed|local|remote)(?=[\s,]|$)]], as = "keyword" },
}
check = { { with = "settings" }, { run = { "sshd", "-t", "-f", "FILE" }, unsure_like = [[(?<words>[^\n]*(?:no hostkeys available|Missing privilege separation directory|Permission denied)[^\n]*)]], like = [[(?:(?:^(?<file>/[^\n]*?):? )?\bline (?<line>\d+): |^(?=Unable to load host key: "?(?<about>/(?!etc/ssh/ssh_host_)[^\s"]*)))(?<words>[^\n\r]*)]] } }
settings_in = [[^\s*(?<name>\w+)(?:\s+|\s*=\s*)"?(?<value>[^"#]*?)"?\s*(?:#.*)?$]]
settings = {
  { "Port", is = "port" },
  { "AddressFamily", one_of = { "any", "inet", "inet6" } },
  { "ListenAddress", like = [=[[\w.:%*-]+|\[[0-9a-fA-F:.%\w]+\](?::\d+)?(?: rdomain \S+)?]=] },
  { "PermitRootLogin", one_of = { "yes", "no", "prohibit-password", "without-password", "forced-commands-only" } },
  { { "PasswordAuthentication", "KbdInteractiveAuthentication", "ChallengeResponseAuthentication", "PubkeyAuthentication", "HostbasedAuthentication",
      "GSSAPIAuthentication", "GSSAPICleanupCredentials", "GSSAPIStrictAcceptorCheck", "GSSAPIKeyExchange", "KerberosAuthentication", "KerberosOrLocalPasswd",
      "KerberosTicketCleanup", "KerberosGetAFSToken", "PermitEmptyPasswords", "UsePAM", "UseDNS", "X11Forwarding", "X11UseLocalhost", "PermitTTY", "PermitUserRC",
      "PrintMotd", "PrintLastLog", "TCPKeepAlive", "StrictModes", "IgnoreUserKnownHosts", "AllowAgentForwarding", "DisableForwarding",
      "ExposeAuthInfo", "HostbasedUsesNameFromPacketOnly", "StreamLocalBindUnlink" }, one_of = { "yes", "no" } },
  { "IgnoreRhosts", one_of = { "yes", "no", "shosts-only" } },
  { { "AllowTcpForwarding", "AllowStreamLocalForwarding" }, one_of = { "yes", "no", "all", "local", "remote" } },
  { "GatewayPorts", one_of = { "yes", "no", "clientspecified" } },
  { "PermitTunnel", one_of = { "yes", "no", "point-to-point", "ethernet" } },
  { "PermitUserEnvironment", may_like = ".+", one_of = { "yes", "no" } },
  { "Compression", one_of = { "yes", "no", "delayed" } },
  { "FingerprintHash", one_of = { "md5", "sha256" } },
  { "LogLevel", one_of = { "QUIET", "FATAL", "ERROR", "INFO", "VERBOSE", "DEBUG", "DEBUG1", "DEBUG2", "DEBUG3" } },
  { "SyslogFacility", one_of = { "DAEMON", "USER", "AUTH", "AUTHPRIV", "LOCAL0", "LOCAL1", "LOCAL2", "LOCAL3", "LOCAL4", "LOCAL5", "LOCAL6", "LOCAL7" } },
  { { "AllowUsers", "DenyUsers" }, like = [[\S+]], may_like = ".+", is = "user", each = " \t" },
  { { "AllowGroups", "DenyGroups" }, like = [[\S+]], may_like = ".+", is = "group", each = " \t" },
  { "AuthorizedKeysCommandUser", is = "user", one_of = "none" },
  { "AuthorizedPrincipalsCommandUser", is = "user", one_of = "none" },
  { { "ClientAliveCountMax", "MaxAuthTries", "MaxSessions" }, from = 0, to = 999999 },
  { "X11DisplayOffset", from = 0, to = 59999 },
  { { "ClientAliveInterval", "LoginGraceTime" }, like = [[(?:\d+[smhdwSMHDW]?)+]] },
  { "MaxStartups", like = [[\d+(?::\d{1,3}:\d+)?]] },
  { { "HostKey", "HostCertificate", "TrustedUserCAKeys", "RevokedKeys", "Banner", "PidFile", "ChrootDirectory", "XAuthLocation", "ModuliFile" }, is = "path", may_like = "none|[^/].*" },
  { "Subsystem", one_of = { "sftp internal-sftp" }, may_like = ".+" },
  { "AuthenticationMethods", one_of = { "any", "publickey", "password", "keyboard-interactive", "publickey,password", "publickey,keyboard-interactive" }, may_like = ".+" },
  { { "AcceptEnv", "AuthorizedKeysFile", "AuthorizedKeysCommand", "AuthorizedPrincipalsFile", "AuthorizedPrincipalsCommand", "CASignatureAlgorithms",
      "Ciphers", "ForceCommand", "HostKeyAlgorithms", "HostKeyAgent", "HostbasedAcceptedAlgorithms", "Include", "IPQoS", "KexAlgorithms", "MACs", "Match",
      "PermitListen", "PermitOpen", "PubkeyAcceptedAlgorithms", "PubkeyAuthOptions", "RDomain", "RekeyLimit", "RequiredRSASize", "SecurityKeyProvider",
      "SetEnv", "StreamLocalBindMask", "VersionAddendum", "ChannelTimeout", "UnusedConnectionTimeout", "PerSourceMaxStartups", "PerSourceNetBlockSize", "LogVerbose" } },
}

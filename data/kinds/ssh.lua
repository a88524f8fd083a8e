name = "ssh"
about = "how to reach other machines by SSH"
names = { "ssh_config" }
paths = { "*/.ssh/config", "/etc/ssh/ssh_config.d/*", "*/.ssh/config.d/*" }
comment_sign = "#"
any_case = true
manual = { "ssh_config(5)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*(host|match)(?:\s+|\s*=\s*)(.*)]], as = { "keyword", "section" } },
  { like = [[^\s*(include)(?:\s+|\s*=\s*)(.*)]], as = { "keyword", "quoted" } },
  { like = [[^\s*(\w+)(\s*=)?]], as = { "name", "sign" } },
  { like = [["[^"]*"]], as = "quoted" },
  { like = [[%[%A-Za-z]|\$\{\w+\}]], as = "variable" },
  { like = [[(?<=[\s=,])(?:yes|no|ask|auto|none|any|confirm|always|force)(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w./-])(?:\d+[smhdwkg]?|\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?)(?![\w./-])]], as = "number" },
  { like = [[[^\s"%$,=:]+]], as = "value" },
}
check = {
  { with = "settings" },
  { run = { "ssh", "-G", "-F", "FILE", "harrow" },
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|match exec |percent_expand|no such identity)[^\n]*)]],
    like = [[^(?<file>/[^\n]*?):? line (?<line>\d+): (?!match exec )(?<words>[^\n\r]*)]] },
}
settings_in = [[^\s*(?<name>\w+)(?:\s+|\s*=\s*)"?(?<value>[^"#]*?)"?\s*(?:#.*)?$]]
settings = {
  { "Port", is = "port" },
  { "AddressFamily", one_of = { "any", "inet", "inet6" } },
  { { "BatchMode", "CheckHostIP", "ClearAllForwardings", "Compression", "EnableSSHKeysign", "ExitOnForwardFailure", "ForkAfterAuthentication", "ForwardX11",
      "ForwardX11Trusted", "GatewayPorts", "GSSAPIAuthentication", "GSSAPIDelegateCredentials", "HashKnownHosts", "HostbasedAuthentication", "IdentitiesOnly",
      "KbdInteractiveAuthentication", "NoHostAuthenticationForLocalhost", "PasswordAuthentication", "PermitLocalCommand", "ProxyUseFdpass", "StdinNull",
      "StreamLocalBindUnlink", "TCPKeepAlive", "VisualHostKey" }, one_of = { "yes", "no" } },
  { "PubkeyAuthentication", one_of = { "yes", "no", "unbound", "host-bound" } },
  { "CanonicalizeHostname", one_of = { "yes", "no", "always", "none" } },
  { "ControlMaster", one_of = { "yes", "no", "ask", "auto", "autoask" } },
  { "StrictHostKeyChecking", one_of = { "yes", "no", "ask", "accept-new", "off" } },
  { { "UpdateHostKeys", "VerifyHostKeyDNS" }, one_of = { "yes", "no", "ask" } },
  { "AddKeysToAgent", one_of = { "yes", "no", "ask", "confirm" }, may_like = [[(?:confirm )?(?:\d+[smhdw]?)+]] },
  { "RequestTTY", one_of = { "yes", "no", "force", "auto" } },
  { "SessionType", one_of = { "none", "subsystem", "default" } },
  { "Tunnel", one_of = { "yes", "no", "point-to-point", "ethernet" } },
  { "FingerprintHash", one_of = { "md5", "sha256" } },
  { "LogLevel", one_of = { "QUIET", "FATAL", "ERROR", "INFO", "VERBOSE", "DEBUG", "DEBUG1", "DEBUG2", "DEBUG3" } },
  { { "ConnectionAttempts", "NumberOfPasswordPrompts", "ServerAliveCountMax", "CanonicalizeMaxDots" }, from = 0, to = 999999 },
  { { "ConnectTimeout", "ServerAliveInterval" }, like = [[none|(?:\d+[smhdwSMHDW]?)+]] },
  { "ForwardAgent", one_of = { "yes", "no" }, may_like = ".+" },
  { { "IdentityFile", "CertificateFile", "UserKnownHostsFile", "GlobalKnownHostsFile", "Host", "Match", "HostName", "User", "ProxyJump", "ProxyCommand", "Include",
      "LocalForward", "RemoteForward", "DynamicForward", "SendEnv", "SetEnv", "ControlPath", "ControlPersist", "Ciphers", "MACs", "KexAlgorithms",
      "HostKeyAlgorithms", "HostKeyAlias", "PubkeyAcceptedAlgorithms", "CASignatureAlgorithms", "BindAddress", "BindInterface", "EscapeChar", "IPQoS",
      "IdentityAgent", "IgnoreUnknown", "LocalCommand", "RemoteCommand", "PreferredAuthentications", "RekeyLimit", "PKCS11Provider", "KnownHostsCommand",
      "CanonicalDomains", "CanonicalizePermittedCNAMEs", "PermitRemoteOpen", "RevokedHostKeys", "SyslogFacility", "XAuthLocation", "LogVerbose" } },
}
outline = {
  { like = [[(?i)^\s*(?<name>(?:host|match)\s+[^\n#]+)]], level = 1 },
}

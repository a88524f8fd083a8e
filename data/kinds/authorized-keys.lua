name = "authorized-keys"
about = "keys that let somebody in, or tell a machine"
names = { "authorized_keys", "authorized_keys2", "known_hosts", "known_hosts2", "ssh_known_hosts", "allowed_signers" }
paths = { "*/.ssh/*.pub" }
comment_sign = "#"
manual = { "sshd(8)" }
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^@(?:cert-authority|revoked)(?=\s)]], as = "keyword" },
  { like = [[((?:sk-)?(?:ssh-(?:rsa|dss|ed25519)|ecdsa-sha2-nistp\d+)(?:-cert-v01)?(?:@openssh\.com)?)\s+([A-Za-z0-9+/]+={0,2})(?:\s+(.*))?]], as = { "keyword", "value", "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?:^|(?<=,))([A-Za-z][\w-]*)(=)]], as = { "name", "sign" } },
  { like = [[(?:^|(?<=,))(?:no-|)(?:restrict|pty|agent-forwarding|port-forwarding|X11-forwarding|user-rc|cert-authority)(?=[\s,])]], as = "name" },
  { like = ",", as = "sign" },
  { like = [[^\S+]], as = "section" },
}
check = { { with = "fields" } }
fields = {
  { "key", "perhaps options, then its kind, the key, and a remark",
    like = [[(?:@[\w-]+[ \t]+)?(?:(?:[^\s"]|"(?:[^"\\]++|\\.)*+")+[ \t]+)?(?:ssh-(?:rsa|dss|ed25519)|ecdsa-sha2-nistp\d+|sk-(?:ssh-ed25519|ecdsa-sha2-nistp256)@openssh\.com)(?:-cert-v01@openssh\.com)?[ \t]+[A-Za-z0-9+/]+={0,3}(?:[ \t].*)?]] },
}

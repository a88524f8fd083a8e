name = "key"
about = "keys and certificates, written as letters"
endings = { "pem", "crt", "cer", "csr", "key", "asc", "gpg", "p8" }
names = { "id_rsa", "id_ed25519", "id_ecdsa", "ssh_host_*_key" }
first_line = [[^-----BEGIN [A-Z0-9 ]+-----]]
parts = {
  { from_like = [[^-----BEGIN [A-Z0-9 ]+-----]], to_like = [[^-----END [A-Z0-9 ]+-----]], as = "section", body = "value", inside = {
      { like = [[^([A-Za-z-]+)(:)\s+(.*)]], as = { "name", "sign", "quoted" } },
      { like = [[[^A-Za-z0-9+/=\s]+]], as = "wrong" } } },
  { like = [[^.*$]], as = "comment" },
}

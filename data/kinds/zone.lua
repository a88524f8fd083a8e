name = "zone"
about = "a zone of a name server"
endings = { "zone" }
names = { "db.*", "named.ca", "named.local", "root.hints" }
paths = { "/var/lib/bind/*", "/var/named/*", "/etc/nsd/*.zone" }
comment_sign = ";"
manual = {}
parts = {
  { from = ";", to = "line end", as = "comment" },
  { like = [[^(\$(?:ORIGIN|TTL|INCLUDE|GENERATE))\s+(\S+)]], as = { "command", "value" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[^[^\s;$("]+]], as = "section" },
  { like = [[(?<=\s)(?:IN|CH|HS|CS)(?=\s)]], as = "value" },
  { like = [[(?<=\s)(?:A|AAAA|CAA|CDNSKEY|CDS|CNAME|DNAME|DNSKEY|DS|HINFO|HTTPS|KEY|LOC|MX|NAPTR|NS|NSEC3?|NSEC3PARAM|OPENPGPKEY|PTR|RP|RRSIG|SMIMEA|SOA|SPF|SRV|SSHFP|SVCB|TLSA|TXT|URI)(?=\s)]], as = "keyword" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}|[0-9a-fA-F]*:[0-9a-fA-F:.]+|\d+(?:[smhdwSMHDW]\d*)*)(?![\w.:-])]], as = "number" },
  { like = [=[[()]]=], as = "sign" },
  { like = [[@|[\w*.-]+]], as = "name" },
}
check = {
  { run = { "named-checkzone", "-i", "local", "VALUE", "FILE" },
    given = [[(?|^\$ORIGIN[ \t]+(?<value>[\w.-]+\.)|^(?<value>[\w.-]+\.)[ \t][^\n;]*\bSOA\b)]],
    like = [[^(?:\w+: )?(?<file>/[^\n:]+):(?<line>\d+): (?!ignoring |using |no TTL )(?<words>[^\n]*)]] },
}
outline = {
  { like = [[^(?<name>\$(?:ORIGIN|INCLUDE)\s+\S+)]], level = 1 },
}

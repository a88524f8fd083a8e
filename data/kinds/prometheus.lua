name = "prometheus"
about = "settings and rules of Prometheus"
names = { "prometheus.yml", "alertmanager.yml" }
paths = { "/etc/prometheus/*.yml", "/etc/prometheus/*.rules", "/etc/prometheus/rules/*" }
looks_like = { { like = [[^groups:\s*$]], weight = 12 } }
like = "yaml"
parts = {
  { like = [[^(global|groups|scrape_configs|rule_files|alerting|remote_write|remote_read|route|receivers|inhibit_rules|templates)(:)(?=\s|$)]], as = { "section", "sign" } },
  { like = [[^\s*(-\s+)?(alert|record|expr|for|labels|annotations|job_name|static_configs|targets|scrape_interval|rules)(:)(?=\s|$)]], as = { "sign", "keyword", "sign" } },
}
check = {
  { with = "yaml" },
  { run = { "promtool", "check", "rules", "FILE" }, not_paths = { "*prometheus.y*ml*", "*alertmanager*" },
    like = [[^(?<file>/[^\n:]+):(?: (?<line>\d+):(?<column>\d+):)? (?<words>(?!yaml: unmarshal)[^\n]*)]] },
  { run = { "promtool", "check", "config", "FILE" }, only_paths = { "*prometheus.y*ml*" },
    like = [[^ +line (?<line>\d+): (?<words>[^\n]*)]], unsure_like = [[(?<words>[^\n]*(?:no such file|does not exist|permission denied)[^\n]*)]] },
}
outline = {
  { like = [[^(?<name>\w+):]], level = 1 },
  { like = [[^\s*- (?<name>(?:name|job_name|alert|record): [^\n#]+)]], level = 2 },
}

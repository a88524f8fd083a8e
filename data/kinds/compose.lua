name = "compose"
about = "containers that run together"
names = { "compose.yaml", "compose.yml", "docker-compose.yaml", "docker-compose.yml", "compose.*.yaml", "docker-compose.*.yml" }
like = "yaml"
parts = {
  { like = [[^(services|networks|volumes|configs|secrets|name|version|include)(:)(?=\s|$)]], as = { "section", "sign" } },
  { like = [[^\s+(image|build|ports|environment|depends_on|restart|command|entrypoint|healthcheck|expose|env_file|labels|deploy|profiles|user|working_dir|logging|networks|volumes|secrets|configs)(:)(?=\s|$)]], as = { "keyword", "sign" } },
  { like = [[\$\{[^}\n]*\}]], as = "variable" },
}

name = "docker"
about = "build files of container images"
endings = { "dockerfile", "containerfile" }
names = { "Dockerfile", "Dockerfile.*", "Containerfile", "Containerfile.*" }
comment_sign = "#"
any_case = true
parts = {
  { from_like = [[<<-?\s*(["']?)(\w+)\1\s*$]], to_like = [[^\s*%2$]], as = "sign", holds = "shell", next_line = true },
  { like = [[^#\s*(?:syntax|escape)\s*=.*]], as = "section" },
  { from_like = [[^\s*#]], to = "line end", as = "comment" },
  { from_like = [[^\s*(?:RUN|CMD|ENTRYPOINT)(?=\s*\[)]], to = "line end", as = "keyword", body = "plain", inside = { { use = "words" }, { like = [=[[\[\],]]=], as = "sign" } } },
  { from_like = [[^\s*RUN\b[^\n"'#]*<<-?\s*(["']?)(\w+)\1[^\n"']*$]], to_like = [[^\s*%2$]], as = "keyword", holds = "shell", next_line = true },
  { from_like = [[^\s*(?:RUN|CMD|ENTRYPOINT|HEALTHCHECK)\b]], to = "line end", goes_on = "\\", as = "keyword", body = "plain", inside = "shell" },
  { like = [[^\s*(FROM)\s+((?:--\S+\s+)*)(\S+)(?:\s+(AS)\s+(\S+))?]], as = { "keyword", "value", "section", "keyword", "name" } },
  { like = [[^\s*(ENV|ARG|LABEL)\s+([\w.-]+)(=?)]], as = { "keyword", "name", "sign" } },
  { like = [[^\s*(ADD|ARG|COPY|ENV|EXPOSE|FROM|LABEL|MAINTAINER|ONBUILD|SHELL|STOPSIGNAL|USER|VOLUME|WORKDIR)(?=\s)]], as = { "keyword" } },
  { use = "words" },
  { like = [[(?<=\s)([\w.-]+)(=)]], as = { "name", "sign" } },
  { like = [[\b\d+(?:/(?:tcp|udp))?(?!\S)]], as = "number" },
  { like = [[\\$]], as = "sign" },
}
sets = {
  words = {
    { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}]*\}|\$\w+]], as = "variable" } } },
    { like = [['[^']*']], as = "quoted" },
    { like = [[\$\{[^}]*\}|\$\w+]], as = "variable" },
    { like = [[(?<=\s)--[a-z][\w-]*(?:=\S+)?]], as = "value" },
  },
  shell = {
    { like = [[^\s*#.*]], as = "comment" },
    { use = "words" },
    { like = [[(?<![\w./-])(?:if|then|else|elif|fi|for|in|do|done|while|case|esac|exit|set)(?![\w./=-])]], as = "keyword" },
    { like = [[&&|\|\||[;|<>&]+|\\$]], as = "sign" },
  },
}
check = {
  { run = { "hadolint", "--no-color", "-" }, like = [[^-:(?<line>\d+)(?::(?<column>\d+))? (?:\S+ error: |(?=unexpected))(?<words>[^\n]*)]] },
}
outline = {
  { like = [[(?i)^from\s+(?<name>[^\n#]+)]], level = 1 },
}

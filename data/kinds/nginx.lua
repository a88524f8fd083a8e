name = "nginx"
about = "the web server nginx"
looks_like = {
  { like = [[^\s*(?:server|location|upstream|http|events)\b[^;{\n]*\{\s*$]], weight = 6 },
  { like = [[^\s*(?:listen|server_name|proxy_pass|root|fastcgi_pass|add_header|ssl_certificate)\s[^;\n]*;]], weight = 4 },
}
names = { "nginx.conf" }
paths = { "/etc/nginx/*" }
endings = { "nginx" }
comment_sign = "#"
line_end_character = ";"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*\}$]]
after_saving = "nginx -t, then systemctl reload nginx"
parts = {
  { from_like = [[\b\w+_by_lua_block\s*\{]], to_like = [[^\s*\}]], as = "sign", holds = "lua" },
  { like = [[(?:^|(?<=[\s;{}]))#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = "variables" },
  { from = "'", to = "'", as = "quoted", escape = "\\", inside = "variables" },
  { use = "variables" },
  { like = [[(?:^|(?<=[{};]))\s*(location)(\s+(?:=|~\*?|\^~))?\s+([^{]*?)(?=\s*\{)]], as = { "section", "sign", "quoted" } },
  { like = [[(?:^|(?<=[{};]))\s*(if)(?=\s*\()]], as = { "keyword" } },
  { like = [[(?:^|(?<=[{};]))\s*(http|server|events|upstream|stream|mail|types|map|geo|split_clients|limit_except)(?=[^;]*\{)]], as = { "section" } },
  { like = [[(?:^|(?<=[{};]))\s*([a-z_]+)(?=[\s;])]], as = { "name" } },
  { like = [[(?<=\s)(?:on|off|always|default_server|ssl|http2|permanent|redirect|last|break|backup|down|all|any|deny)(?=[\s;])]], as = "keyword" },
  { like = [[(?<![\w.:/-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+|:\d+)?|\d+(?:ms|[smhdwMykKmgG])?)(?![\w.:/-])]], as = "number" },
  { like = [[[{};]|(?<=\s)(?:!?~\*?|!?=)(?=\s)]], as = "sign" },
  { like = [[\}\s*[^\s}#;].*$]], as = "plain" },
}
sets = { variables = { { like = [[\$\{\w+\}|\$\w+]], as = "variable" } } }
check = {
  { run = { "nginx", "-T", "-q", "-c", "FOLDER/nginx.conf" }, in_folder = "/etc/nginx", loads = true, binds = true,
    unsure_like = [[(?<words>[^\n]*(?:Permission denied|Operation not permitted|Read-only file system)[^\n]*)]],
    writes = [[^[ \t]*(?:access_log|error_log|pid|lock_file)[ \t]+"?(?<path>/[^\s;"$]*)(?=[\s;"])]],
    like = [[\[(?:emerg|alert|crit)\] (?:\d+#\d+: )?(?<words>[^\n]*) in (?<file>/[^\n:]+):(?<line>\d+)$]],
    reads = [[^# configuration file (?<file>[^\n]*):$]] },
}

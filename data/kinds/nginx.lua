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
settings_in = [[^\s*(?<name>[a-z_]\w*)\s+(?<value>[^;{}#]*?)\s*(?:[;{].*)?$]]
settings = {
  { {
      "sendfile", "tcp_nopush", "tcp_nodelay", "gzip", "gzip_vary", "server_name_in_redirect", "port_in_redirect",
      "absolute_redirect", "merge_slashes", "ignore_invalid_headers", "underscores_in_headers", "log_not_found", "log_subrequest",
      "recursive_error_pages", "chunked_transfer_encoding", "etag", "ssl_session_tickets", "ssl_stapling", "ssl_stapling_verify", "ssl_early_data",
      "proxy_buffering", "proxy_pass_request_body", "proxy_pass_request_headers", "proxy_intercept_errors", "proxy_ignore_client_abort",
      "proxy_ssl_server_name", "proxy_ssl_session_reuse", "proxy_cache_revalidate", "proxy_cache_lock", "fastcgi_buffering",
      "fastcgi_intercept_errors", "fastcgi_ignore_client_abort", "fastcgi_keep_conn", "fastcgi_pass_request_headers", "autoindex",
      "autoindex_exact_size", "autoindex_localtime", "daemon", "master_process", "multi_accept", "reset_timedout_connection",
      "proxy_request_buffering", "fastcgi_request_buffering", "http2", "real_ip_recursive", "ssi" }, such_as = { "on", "off" } },
  { "server_tokens", such_as = { "on", "off", "build" } },
  { "gzip_static", such_as = { "on", "off", "always" } },
  { "ssl_verify_client", such_as = { "on", "off", "optional", "optional_no_ca" } },
  { "ssl_protocols", such_as = { "TLSv1.2", "TLSv1.3" }, each = " \t" },
  { "ssl_prefer_server_ciphers", such_as = { "on", "off" } },
  { "listen", such_as = { "80", "443 ssl", "[::]:80", "[::]:443 ssl", "default_server" } },
  { "error_log", such_as = { "/var/log/nginx/error.log", "stderr", "syslog:" } },
  { "access_log", such_as = { "off", "/var/log/nginx/access.log" } },
  { "user", is = "user" },
  { "worker_processes", such_as = { "auto" } },
  { "satisfy", such_as = { "all", "any" } },
  { "proxy_http_version", such_as = { "1.0", "1.1" } },
  { {
      "proxy_next_upstream", "fastcgi_next_upstream", "uwsgi_next_upstream" }, such_as = { "error", "timeout", "invalid_header", "http_500", "http_502", "http_503", "http_504", "http_403", "http_404", "http_429", "non_idempotent", "off" }, each = " " },
  { "use", such_as = { "epoll", "kqueue", "poll", "select" } },
  { {
      "server", "location", "upstream", "http", "events", "stream", "map", "geo", "if", "limit_except", "types", "split_clients", "mail",
      "server_name", "root", "alias", "index", "try_files", "return", "rewrite", "break", "set", "include", "error_page", "proxy_pass",
      "proxy_set_header", "proxy_redirect", "proxy_hide_header", "proxy_pass_header", "proxy_read_timeout", "proxy_connect_timeout",
      "proxy_send_timeout", "proxy_buffers", "proxy_buffer_size", "proxy_busy_buffers_size", "proxy_cache", "proxy_cache_path", "proxy_cache_key",
      "proxy_cache_valid", "proxy_cache_use_stale", "proxy_cache_bypass", "proxy_no_cache", "proxy_temp_path", "proxy_bind", "proxy_cookie_domain",
      "proxy_cookie_path", "proxy_ssl_certificate", "proxy_ssl_certificate_key", "proxy_ssl_verify", "proxy_ssl_name", "fastcgi_pass",
      "fastcgi_param", "fastcgi_index", "fastcgi_split_path_info", "fastcgi_read_timeout", "fastcgi_buffers", "fastcgi_buffer_size", "fastcgi_cache",
      "fastcgi_cache_path", "fastcgi_cache_key", "fastcgi_cache_valid", "fastcgi_hide_header", "uwsgi_pass", "uwsgi_param", "scgi_pass", "grpc_pass",
      "ssl_certificate", "ssl_certificate_key", "ssl_ciphers", "ssl_session_cache", "ssl_session_timeout", "ssl_dhparam", "ssl_ecdh_curve",
      "ssl_trusted_certificate", "ssl_client_certificate", "ssl_verify_depth", "ssl_conf_command", "ssl_reject_handshake", "add_header", "expires",
      "add_trailer", "allow", "deny", "auth_basic", "auth_basic_user_file", "auth_request", "auth_request_set", "client_max_body_size",
      "client_body_buffer_size", "client_body_timeout", "client_header_timeout", "client_header_buffer_size", "client_body_temp_path",
      "large_client_header_buffers", "keepalive_timeout", "keepalive_requests", "keepalive", "send_timeout", "send_lowat", "resolver",
      "resolver_timeout", "types_hash_max_size", "server_names_hash_bucket_size", "server_names_hash_max_size", "variables_hash_max_size",
      "default_type", "charset", "gzip_types", "gzip_proxied", "gzip_comp_level", "gzip_min_length", "gzip_buffers", "gzip_disable",
      "gzip_http_version", "limit_req", "limit_req_zone", "limit_req_status", "limit_conn", "limit_conn_zone", "limit_rate", "limit_rate_after",
      "log_format", "worker_connections", "worker_rlimit_nofile", "worker_priority", "worker_shutdown_timeout", "pid", "load_module", "env",
      "pcre_jit", "ssl_engine", "internal", "open_file_cache", "open_file_cache_valid", "open_file_cache_errors", "open_file_cache_min_uses",
      "set_real_ip_from", "real_ip_header", "sub_filter", "sub_filter_once", "sub_filter_types", "mirror", "stub_status", "random_index",
      "dav_methods", "ip_hash", "least_conn", "hash", "zone", "valid_referers", "image_filter", "secure_link", "secure_link_md5",
      "if_modified_since", "disable_symlinks", "lingering_close", "lingering_timeout", "output_buffers", "postpone_output", "directio", "max_ranges" } },
}
outline = {
  { like = [[^(?:\s{0,4}|\t?)(?<name>(?:http|events|stream|mail|server|upstream|map|geo|types)\b[^{;]*)\{]], level = 0 },
  { like = [[^\s*(?<name>location\s[^{]*)\{]], level = 0 },
  { like = [[^\s*(?<name>server)\s*\{]], level = 0 },
}

name = "postfix"
about = "settings of the mail server Postfix"
names = { "main.cf" }
paths = { "/etc/postfix/*.cf" }
comment_sign = "#"
manual = { "postconf(5)" }
after_saving = "postfix reload"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^([A-Za-z0-9_.-]+)\s*(=)]], as = { "name", "sign" } },
  { like = [[\$\{[^}]*\}|\$\(\w+\)|\$\w+]], as = "variable" },
  { like = [[(?<![\w.-])(?:hash|btree|lmdb|cdb|dbm|texthash|regexp|pcre|cidr|proxy|unix|inet|ldap|mysql|pgsql|sqlite|static)(?=:)]], as = "value" },
  { like = [[(?<![\w.-])(?:permit|reject|defer|warn|check)_\w+|(?<![\w.-])(?:yes|no|all|none|may|encrypt|permit|reject)(?![\w.-])]], as = "keyword" },
  { like = [[\[[^\]\s]{0,80}\](?::\d+)?(?:/\d+)?|(?<![\w.-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|\d+[smhdw]?)(?![\w.-])]], as = "number" },
  { like = "[,=!]", as = "sign" },
}
check = {
  { run = { "postconf", "-c", "FOLDER", "-n" }, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]], in_folder = "/etc/postfix",
    like = [[^\S*postconf: \w+: (?:file )?(?<file>/[^,:\n]+)(?:, line (?<line>\d+))?: (?<words>unused parameter: (?<about>\w+)[^\n]*|[^\n]*)]] },
}
settings_sign = " = "
settings_in = [[^(?<name>[a-z0-9_]\w*)\s*=\s*(?<value>.*?)\s*$]]
settings = {
  { {
      "smtpd_tls_security_level", "lmtp_tls_security_level" }, such_as = { "none", "may", "encrypt" } },
  { "smtp_tls_security_level", such_as = { "none", "may", "encrypt", "dane", "dane-only", "fingerprint", "verify", "secure" } },
  { {
      "smtpd_sasl_auth_enable", "smtp_sasl_auth_enable", "smtpd_tls_auth_only", "smtpd_helo_required", "disable_vrfy_command", "append_dot_mydomain",
      "biff", "append_at_myorigin", "smtpd_delay_reject", "smtpd_reject_unlisted_recipient", "smtpd_reject_unlisted_sender",
      "strict_rfc821_envelopes", "smtpd_tls_received_header", "smtp_tls_note_starttls_offer", "broken_sasl_auth_clients", "smtputf8_enable",
      "swap_bangpath", "allow_percent_hack", "soft_bounce", "smtpd_tls_ask_ccert", "tls_preempt_cipherlist",
      "smtp_use_tls", "smtpd_use_tls", "smtpd_tls_wrappermode", "smtp_tls_wrappermode", "always_add_missing_headers" }, such_as = { "yes", "no" } },
  { "inet_protocols", such_as = { "all", "ipv4", "ipv6" } },
  { "inet_interfaces", such_as = { "all", "loopback-only", "localhost" } },
  { "smtpd_sasl_type", such_as = { "cyrus", "dovecot" } },
  { "compatibility_level", such_as = { "3.6", "3.7", "3.8", "3.9", "2", "0" } },
  { {
      "smtpd_recipient_restrictions", "smtpd_relay_restrictions", "smtpd_client_restrictions", "smtpd_helo_restrictions",
      "smtpd_sender_restrictions", "smtpd_data_restrictions", "smtpd_end_of_data_restrictions", "smtpd_etrn_restrictions" }, each = " ,", such_as = {
      "permit_mynetworks", "permit_sasl_authenticated", "reject_unauth_destination", "reject_unknown_recipient_domain",
      "reject_unknown_sender_domain", "reject_non_fqdn_recipient", "reject_non_fqdn_sender", "reject_invalid_helo_hostname",
      "reject_non_fqdn_helo_hostname", "reject_unknown_helo_hostname", "reject_unknown_client_hostname", "reject_unknown_reverse_client_hostname",
      "reject_unauth_pipelining", "reject_unlisted_recipient", "reject_unlisted_sender", "reject_rbl_client", "reject_rhsbl_client",
      "reject_rhsbl_sender", "check_client_access", "check_helo_access", "check_sender_access", "check_recipient_access", "check_policy_service",
      "permit_auth_destination", "permit_tls_clientcerts", "defer_unauth_destination", "permit", "reject", "defer", "warn_if_reject",
      "reject_sender_login_mismatch", "reject_authenticated_sender_login_mismatch" } },
  { {
      "smtpd_tls_protocols", "smtp_tls_protocols", "smtpd_tls_mandatory_protocols", "smtp_tls_mandatory_protocols" }, such_as = { ">=TLSv1.2", "!SSLv2, !SSLv3, !TLSv1, !TLSv1.1" } },
  { {
      "alias_maps", "alias_database", "virtual_alias_maps", "virtual_mailbox_maps", "transport_maps", "relay_recipient_maps",
      "sender_canonical_maps", "recipient_canonical_maps", "canonical_maps", "smtp_generic_maps", "local_recipient_maps", "smtp_sasl_password_maps",
      "smtp_tls_policy_maps", "sender_dependent_relayhost_maps", "header_checks", "body_checks", "mime_header_checks", "nested_header_checks",
      "smtpd_sender_login_maps", "relocated_maps" }, such_as = { "hash:/etc/", "lmdb:/etc/", "regexp:/etc/postfix/", "pcre:/etc/postfix/", "texthash:/etc/postfix/", "mysql:/etc/postfix/", "pgsql:/etc/postfix/", "ldap:/etc/postfix/", "static:" } },
  { {
      "myhostname", "mydomain", "myorigin", "mydestination", "mynetworks", "mynetworks_style", "relayhost", "relay_domains", "virtual_alias_domains",
      "virtual_mailbox_domains", "virtual_mailbox_base", "virtual_uid_maps", "virtual_gid_maps", "virtual_transport", "virtual_minimum_uid",
      "mailbox_size_limit", "message_size_limit", "virtual_mailbox_limit", "mailbox_command", "mailbox_transport", "mailbox_transport_maps",
      "home_mailbox", "mail_spool_directory", "local_transport", "fallback_transport", "default_transport", "relay_transport", "luser_relay",
      "recipient_delimiter", "smtpd_banner", "smtpd_tls_cert_file", "smtpd_tls_key_file", "smtpd_tls_CAfile", "smtpd_tls_CApath",
      "smtpd_tls_chain_files", "smtpd_tls_loglevel", "smtpd_tls_session_cache_database", "smtpd_tls_dh1024_param_file", "smtpd_tls_ciphers",
      "smtpd_tls_mandatory_ciphers", "smtpd_tls_exclude_ciphers", "smtp_tls_cert_file", "smtp_tls_key_file", "smtp_tls_CAfile", "smtp_tls_CApath",
      "smtp_tls_loglevel", "smtp_tls_session_cache_database", "smtp_tls_ciphers", "smtp_tls_mandatory_ciphers", "tls_random_source",
      "smtpd_sasl_path", "smtpd_sasl_security_options", "smtpd_sasl_tls_security_options", "smtpd_sasl_local_domain",
      "smtpd_sasl_authenticated_header", "smtp_sasl_security_options", "smtp_sasl_tls_security_options", "smtp_sasl_mechanism_filter",
      "smtpd_milters", "non_smtpd_milters", "milter_default_action", "milter_protocol", "milter_mail_macros", "content_filter",
      "receive_override_options", "smtpd_client_connection_count_limit", "smtpd_client_connection_rate_limit", "smtpd_client_message_rate_limit",
      "smtpd_error_sleep_time", "smtpd_soft_error_limit", "smtpd_hard_error_limit", "smtpd_timeout", "smtp_connect_timeout", "smtp_helo_timeout",
      "smtp_bind_address", "smtp_bind_address6", "smtp_helo_name", "smtp_host_lookup", "smtp_dns_support_level", "smtp_address_preference",
      "default_process_limit", "default_destination_concurrency_limit", "default_destination_recipient_limit", "maximal_queue_lifetime",
      "bounce_queue_lifetime", "minimal_backoff_time", "maximal_backoff_time", "queue_run_delay", "delay_warning_time", "notify_classes",
      "double_bounce_sender", "bounce_size_limit", "queue_directory", "command_directory", "daemon_directory", "data_directory", "mail_owner",
      "setgid_group", "sendmail_path", "newaliases_path", "mailq_path", "readme_directory", "html_directory", "manpage_directory",
      "sample_directory", "unknown_local_recipient_reject_code", "unknown_address_reject_code", "masquerade_domains", "masquerade_exceptions",
      "parent_domain_matches_subdomains", "proxy_interfaces", "import_environment", "export_environment", "debug_peer_list", "debug_peer_level",
      "line_length_limit", "header_size_limit", "postscreen_greet_action", "postscreen_dnsbl_sites", "postscreen_dnsbl_threshold",
      "postscreen_dnsbl_action", "postscreen_access_list", "authorized_submit_users", "empty_address_recipient", "address_verify_map",
      "lmtp_host_lookup", "disable_dns_lookups", "maillog_file", "smtpd_forbid_bare_newline", "smtpd_reject_footer", "enable_original_recipient",
      "propagate_unmatched_extensions" } },
}

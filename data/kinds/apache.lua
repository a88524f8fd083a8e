name = "apache"
about = "the web server Apache"
looks_like = {
  { like = [[^\s*</?(?:VirtualHost|Directory|DirectoryMatch|IfModule|IfDefine|Location|LocationMatch|Files|FilesMatch|Proxy|Limit|RequireAll|RequireAny)\b[^>\n]*>]], weight = 6 },
  { like = [[^\s*(?:(?:Script)?Alias\s+"?/\S*\s+"?/|LoadModule\s+\w+_module\s|Require\s+(?:all|ip|host|user|group|local|valid-user)\b|AllowOverride\s|DocumentRoot\s|RewriteRule\s)]], weight = 3 },
}
names = { "apache2.conf", "httpd.conf", ".htaccess", "htaccess" }
paths = { "/etc/apache2/*", "/etc/httpd/*", "/etc/modsecurity/*.conf*" }
comment_sign = "#"
any_case = true
indentation = 4
deeper = [[^\s*<(?!/)\w.*>\s*$]]
back = [[^\s*</\w+>$]]
after_saving = "apachectl configtest, then apachectl graceful"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { from_like = [[^\s*</?\w+]], to = ">", as = "section", one_line = true, inside = "values" },
  { like = [[^\s*(Include|IncludeOptional|LoadModule|Use|Define|UnDefine)(?=\s)]], as = { "keyword" } },
  { like = [[^\s*([A-Za-z]\w*)(?=\s|$)]], as = { "name" } },
  { use = "values" },
}
sets = {
  values = {
    { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true, inside = { { like = [[%\{[^}]*\}|\$\{[^}]*\}|\$\d]], as = "variable" } } },
    { like = [[%\{[^}]*\}\w*|\$\{[^}]*\}|\$\d]], as = "variable" },
    { like = [[(?<![\w./-])(?:on|off|all|none|granted|denied|from|require|allow|deny|env|double|extended|inherit|email)(?![\w./-])]], as = "keyword" },
    { like = [[(?<![\w.:/-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|\d+)(?![\w.:/-])]], as = "number" },
    { like = [=[\[[A-Z0-9,=_:]+\]]=], as = "keyword" },
    { like = [[\\$]], as = "sign" },
  },
}
check = {
  { run = { "apache2", "-t", "-d", "FOLDER", "-f", "FOLDER/apache2.conf", "-D", "DUMP_INCLUDES", "-C", "Define APACHE_RUN_DIR FOLDER",
      "-C", "Define APACHE_LOG_DIR FOLDER", "-C", "Define APACHE_LOCK_DIR FOLDER", "-C", "Define APACHE_PID_FILE FOLDER/pid",
      "-C", "Define APACHE_RUN_USER www-data", "-C", "Define APACHE_RUN_GROUP www-data" },
    in_folder = "/etc/apache2", loads = true, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]],
    like = [[Syntax error on line (?<line>\d+) of (?<file>[^\n:]+):\s*+(?!Syntax error)(?<words>[^\n]*)]],
    reads = [[^\s*\((?:\d+|\*)\) (?<file>/[^\n]*)$]] },
  { run = { "httpd", "-t", "-d", "FOLDER", "-f", "FOLDER/conf/httpd.conf" }, in_folder = "/etc/httpd", loads = true, unsure_like = [[(?<words>[^\n]*Permission denied[^\n]*)]],
    like = [[Syntax error on line (?<line>\d+) of (?<file>[^\n:]+):\s*+(?!Syntax error)(?<words>[^\n]*)]] },
}
settings_in = [[^\s*(?<name>[A-Za-z]\w*)\s+(?<value>[^#]*?)\s*$]]
settings = {
  { {
      "SSLEngine", "RewriteEngine", "KeepAlive", "ExtendedStatus", "ProxyPreserveHost", "SSLProxyEngine", "SSLHonorCipherOrder", "SSLCompression",
      "SSLSessionTickets", "SSLUseStapling", "SSLStaplingReturnResponderErrors", "UseCanonicalPhysicalPort", "HostnameLookups", "EnableMMAP",
      "EnableSendfile", "AllowEncodedSlashes", "ExpiresActive", "DirectorySlash", "CheckSpelling", "ProxyVia", "UseCanonicalName", "ContentDigest",
      "TraceEnable", "AcceptPathInfo", "BufferedLogs", "CacheQuickHandler", "SSLStrictSNIVHostCheck" }, such_as = { "On", "Off" } },
  { "ServerTokens", such_as = { "Major", "Minor", "Minimal", "Prod", "OS", "Full" } },
  { "ServerSignature", such_as = { "On", "Off", "EMail" } },
  { "LogLevel", such_as = { "emerg", "alert", "crit", "error", "warn", "notice", "info", "debug", "trace1" } },
  { "AllowOverride", such_as = { "None", "All", "AuthConfig", "FileInfo", "Indexes", "Limit", "Options" }, each = " " },
  { "Options", such_as = { "Indexes", "FollowSymLinks", "SymLinksIfOwnerMatch", "ExecCGI", "Includes", "IncludesNOEXEC", "MultiViews", "None", "All", "-Indexes", "+FollowSymLinks", "-MultiViews" }, each = " " },
  { "Require", such_as = { "all granted", "all denied", "valid-user", "user ", "group ", "ip ", "host ", "local", "not ip ", "method ", "env ", "expr " } },
  { "AuthType", such_as = { "Basic", "Digest", "Form", "None" } },
  { "Order", such_as = { "allow,deny", "deny,allow" } },
  { "SSLProtocol", such_as = { "all -SSLv3 -TLSv1 -TLSv1.1", "TLSv1.2", "TLSv1.3", "+TLSv1.2", "+TLSv1.3" }, each = " " },
  { "SSLVerifyClient", such_as = { "none", "optional", "require", "optional_no_ca" } },
  { "Satisfy", such_as = { "All", "Any" } },
  { "Listen", such_as = { "80", "443", "[::]:80" } },
  { "User", is = "user", may_like = ".*" },
  { "Group", is = "group", may_like = ".*" },
  { {
      "ServerName", "ServerAlias", "ServerAdmin", "ServerRoot", "ServerPath", "DocumentRoot", "DirectoryIndex", "ErrorDocument", "ErrorLog",
      "CustomLog", "LogFormat", "TransferLog", "Alias", "AliasMatch", "ScriptAlias", "ScriptAliasMatch", "Redirect", "RedirectMatch",
      "RedirectPermanent", "RewriteRule", "RewriteCond", "RewriteBase", "RewriteMap", "RewriteOptions", "ProxyPass", "ProxyPassReverse",
      "ProxyPassMatch", "ProxyTimeout", "ProxyRequests", "ProxySet", "ProxyErrorOverride", "ProxyAddHeaders", "BalancerMember", "Header",
      "RequestHeader", "SetEnv", "SetEnvIf", "SetEnvIfNoCase", "BrowserMatch", "PassEnv", "UnsetEnv", "SSLCertificateFile", "SSLCertificateKeyFile",
      "SSLCertificateChainFile", "SSLCACertificateFile", "SSLCACertificatePath", "SSLCipherSuite", "SSLOpenSSLConfCmd", "SSLOptions",
      "SSLSessionCache", "SSLSessionCacheTimeout", "SSLVerifyDepth", "SSLRequireSSL", "SSLStaplingCache", "AuthName", "AuthUserFile",
      "AuthGroupFile", "AuthBasicProvider", "AuthLDAPURL", "Allow", "Deny", "Include", "IncludeOptional", "LoadModule", "LoadFile", "Timeout",
      "KeepAliveTimeout", "MaxKeepAliveRequests", "MaxRequestWorkers", "MaxConnectionsPerChild", "StartServers", "MinSpareServers",
      "MaxSpareServers", "MinSpareThreads", "MaxSpareThreads", "ThreadsPerChild", "ThreadLimit", "ServerLimit", "AsyncRequestWorkerFactor",
      "LimitRequestBody", "LimitRequestFields", "LimitRequestFieldSize", "LimitRequestLine", "AddType", "AddHandler", "AddOutputFilter",
      "AddOutputFilterByType", "AddEncoding", "AddLanguage", "AddCharset", "AddDefaultCharset", "AddIcon", "AddIconByType", "DefaultIcon",
      "DefaultType", "ForceType", "SetHandler", "SetOutputFilter", "RemoveHandler", "ExpiresByType", "ExpiresDefault", "FileETag", "IndexOptions",
      "IndexIgnore", "HeaderName", "ReadmeName", "IndexOrderDefault", "PidFile", "Mutex", "DefaultRuntimeDir", "AccessFileName", "TypesConfig",
      "MIMEMagicFile", "LanguagePriority", "ForceLanguagePriority", "UserDir", "Define", "UnDefine", "Use", "SecRuleEngine", "NameVirtualHost",
      "DeflateCompressionLevel", "CacheRoot", "CacheEnable", "CacheDefaultExpire", "WSGIScriptAlias", "WSGIDaemonProcess", "WSGIProcessGroup",
      "FallbackResource", "LimitInternalRecursion", "Protocols", "ProtocolsHonorOrder", "H2Push", "RemoteIPHeader", "RemoteIPInternalProxy",
      "RemoteIPTrustedProxy", "ErrorLogFormat", "GlobalLog", "SubstituteMaxLineLength", "Substitute" } },
}
outline = {
  { like = [[(?i)^\s*<(?<name>(?:VirtualHost|Directory|DirectoryMatch|Location|LocationMatch|Files|FilesMatch|IfModule|IfDefine|Proxy|Macro)\b[^>]*)>]], level = 0 },
}

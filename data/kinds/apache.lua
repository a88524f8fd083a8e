name = "apache"
about = "the web server Apache"
looks_like = {
  { like = [[^\s*</?(?:VirtualHost|Directory|DirectoryMatch|IfModule|IfDefine|Location|LocationMatch|Files|FilesMatch|Proxy|Limit|RequireAll|RequireAny)\b[^>\n]*>]], weight = 6 },
  { like = [[^\s*(?:Alias|ScriptAlias|LoadModule|Require|Options|AllowOverride|DocumentRoot|RewriteRule)\s]], weight = 3 },
}
names = { "apache2.conf", "httpd.conf", ".htaccess", "htaccess" }
paths = { "/etc/apache2/*", "/etc/httpd/*" }
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

name = "apache"
about = "the web server Apache"
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

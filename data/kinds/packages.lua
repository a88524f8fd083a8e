name = "packages"
about = "paragraphs of fields, as package tools write them"
names = { "control", "copyright", "*.dsc" }
paths = { "/var/lib/dpkg/status*", "/var/lib/dpkg/available*", "/var/lib/apt/lists/*", "/etc/apt/sources.list.d/*.sources", "*/debian/control", "*/debian/tests/control", "/etc/apt/preferences", "/etc/apt/preferences.d/*",
  "*/debian/copyright" }
endings = { "sources", "dsc", "changes", "buildinfo" }
comment_sign = "#"
manual = { "deb822(5)", "sources.list(5)" }
parts = {
  { like = [[^#.*]], as = "comment" },
  { like = [[^(Package|Source|Types|Format)(:)\s*(.*)]], as = { "name", "sign", "section" } },
  { like = [[^([A-Za-z][\w-]*)(:)]], as = { "name", "sign" } },
  { like = [[^\S.*]], as = "wrong" },
  { like = [[^\s\.$]], as = "sign" },
  { like = [[\$\{[^}]*\}]], as = "variable" },
  { like = [[\((<<|<=|=|>=|>>)\s*([^)]*)\)]], as = { "sign", "number" } },
  { like = [[\b[a-z][a-z+.-]*://\S+]], as = "quoted" },
  { like = [[(?<=\s)[\w.+-]+@[\w.-]+|<[^>\s]+@[^>\s]+>]], as = "quoted" },
  { like = [[(?<=: )(?:yes|no|foreign|same|allowed|required|optional|important|standard|any|all)(?=\s*$)]], as = "keyword" },
  { like = [=[[|,]]=], as = "sign" },
}

name = "xml"
about = "XML"
looks_like = {
  { like = [[^\s*<(\w[\w:-]*)(?:\s[^<>\n]*)?>[^<\n]*</\1>\s*$]], weight = 2 },
  { like = [[^\s*<!(?:DOCTYPE|ELEMENT|ENTITY)\b]], weight = 4 },
}
first_line = [[^(?:\xef\xbb\xbf)?\s*<\?xml]]
endings = { "xml", "xsd", "xsl", "xslt", "svg", "rss", "atom", "wsdl", "kml", "gpx", "docbook", "ui", "glade", "conf.xml" }
paths = { "/etc/dbus-1/*.conf", "/etc/fonts/*.conf", "/etc/fonts/conf.d/*.conf", "/etc/polkit-1/*.conf", "*/polkit-1/*.policy" }
first_lines = [[\A(?:\xef\xbb\xbf)?\s*<\?xml]]
comment_open = "<!--"
comment_close = "-->"
indentation = 2
deeper = [[<\w[^<>]*(?<!/)>\s*$]]
back = [[^\s*</\w[^>]*>$]]
parts = {
  { from = "<!--", to = "-->", as = "comment" },
  { from = "<![CDATA[", to = "]]>", as = "quoted" },
  { from = "<?", to = "?>", as = "section" },
  { from = "<!", to = ">", as = "section", inside = { { like = [["[^"]*"|'[^']*']], as = "quoted" } } },
  { from_like = [[</?([\w:.-]+)]], to = ">", as = "keyword", inside = "tag" },
  { like = [[&(?:#?\w+);]], as = "variable" },
  { like = [[&(?!\w+;)|<(?![\w/!?])]], as = "wrong" },
}
sets = {
  tag = {
    { like = [[([\w:.-]+)(\s*=)]], as = { "name", "sign" } },
    { from = '"', to = '"', as = "quoted", inside = "entities" },
    { from = "'", to = "'", as = "quoted", inside = "entities" },
    { like = "<", as = "wrong" },
  },
  entities = { { like = [[&#?\w+;]], as = "variable" } },
}
check = {
  { with = "xml" },
  { run = { "xmllint", "--noout", "--nonet", "-" }, instead_of = "xml", like = [[^-:(?<line>\d+): (?<words>[^\n]*)]] },
}

name = "latex"
about = "texts for TeX and LaTeX"
endings = { "tex", "sty", "cls", "ltx", "dtx" }
comment_sign = "%"
prose = true
parts = {
  { like = [[(?<!\\)%.*]], as = "comment" },
  { like = [[(\\(?:begin|end))(\{)([^}\n]*)(\})]], as = { "keyword", "sign", "section", "sign" } },
  { like = [[(\\(?:part|chapter|section|subsection|subsubsection|paragraph)\*?)(\{)([^}\n]*)(\})]], as = { "keyword", "sign", "section", "sign" } },
  { like = [[\\(?:[a-zA-Z@]+\*?|.)]], as = "command" },
  { like = [[\$\$?[^$\n]*\$\$?]], as = "quoted" },
  { like = [=[[{}&~^_]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*\\(?:part|chapter)\*?\{(?<name>[^}]*)]], level = 1 },
  { like = [[^\s*\\section\*?\{(?<name>[^}]*)]], level = 2 },
  { like = [[^\s*\\subsection\*?\{(?<name>[^}]*)]], level = 3 },
  { like = [[^\s*\\subsubsection\*?\{(?<name>[^}]*)]], level = 4 },
}

name = "make"
about = "rules of make"
endings = { "mk", "mak", "make" }
names = { "Makefile", "makefile", "GNUmakefile", "Makefile.*" }
paths = { "*/debian/rules" }
programs = { "make" }
comment_sign = "#"
indentation = "tab"
deeper = [[^[^\t#=][^#=]*:(?![=:])]]
parts = {
  { from = "#", to = "line end", as = "comment", goes_on = "\\" },
  { from_like = [[^\t[-@+]*]], to = "line end", as = "sign", body = "plain", goes_on = "\\", inside = "recipe" },
  { like = [[^ +(?=\S.*[^=\s]\s*$)(?! *(?:ifn?eq|ifn?def|else|endif|include|-include|export|define|endef|#|[\w.-]+\s*[:?+!]*=))]], as = "plain" },
  { like = [[(?<![=\s])[ \t]+$]], as = "wrong" },
  { like = [[^\s*(ifn?eq|ifn?def|else|endif|-?include|sinclude|define|endef|export|unexport|override|vpath|undefine)\b]], as = { "keyword" } },
  { like = [[^\s*(?:export\s+|override\s+)?([\w.%/-]+)\s*((?:::?|[?+!])?=)]], as = { "name", "sign" } },
  { like = [[^(\.[A-Z_]+)\s*(:)]], as = { "keyword", "sign" } },
  { like = [[^([^\s:=#$][^:=#$]*?)\s*(::?)(?!=)]], as = { "section", "sign" } },
  { use = "variables" },
  { like = [[\\$|\|]], as = "sign" },
}
sets = {
  variables = {
    { like = [[\$\$]], as = "sign" },
    { from_like = [[\$\((?=(?:abspath|addprefix|addsuffix|basename|call|dir|error|eval|file|filter|filter-out|findstring|firstword|foreach|if|info|join|lastword|notdir|or|and|patsubst|realpath|shell|sort|strip|subst|suffix|value|warning|wildcard|word|words)\b)]], to = ")", as = "variable", inside = {
        { like = [[(?<=\$\()[\w-]+]], as = "command" }, { use = "variables" }, { from = "(", to = ")", as = "variable" } } },
    { from = "$(", to = ")", as = "variable", inside = "variables" },
    { from = "${", to = "}", as = "variable", inside = "variables" },
    { like = [=[\$[@<^+?*%|\w]]=], as = "variable" },
  },
  recipe = {
    { like = [[(?<=\s)#.*]], as = "comment" },
    { use = "variables" },
    { like = [[[ \t]+$]], as = "wrong" },
    { like = [['[^']*']], as = "quoted" },
    { from = '"', to = '"', as = "quoted", escape = "\\", inside = "variables" },
    { like = [[(?<![\w./-])(?:if|then|else|elif|fi|for|in|do|done|while|case|esac|exit)(?![\w./=-])]], as = "keyword" },
    { like = [[&&|\|\||[;|<>&]+|\\$]], as = "sign" },
  },
}
outline = {
  { like = [[^(?<name>[A-Za-z0-9_./%$(){}-][^:=#\n]*?)\s*::?(?!=)]], level = 1 },
}

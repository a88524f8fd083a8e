name = "cmake"
about = "build files of CMake"
endings = { "cmake" }
names = { "CMakeLists.txt", "CMakeCache.txt" }
comment_sign = "#"
indentation = 2
deeper = [[^\s*(?i:if|else|elseif|foreach|while|function|macro)\s*\(.*\)\s*$|\(\s*$]]
back = [[^\s*(?:\)|(?i:end\w+|else|elseif)\s*\(.*\))$]]
parts = {
  { from_like = [[#\[(=*)\[]], to_like = "\\]%1\\]", as = "comment" },
  { from = "#", to = "line end", as = "comment" },
  { from_like = [[\[(=*)\[]], to_like = "\\]%1\\]", as = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = "variables" },
  { use = "variables" },
  { like = [[^\s*((?i:if|else|elseif|endif|foreach|endforeach|while|endwhile|function|endfunction|macro|endmacro|return|break|continue))(?=\s*\()]], as = { "keyword" } },
  { like = [[^\s*(\w+)(?=\s*\()]], as = { "command" } },
  { like = [[^(\w[\w.-]*)(:\w+)(=)]], as = { "name", "value", "sign" } },
  { like = [[\b(?:ON|OFF|TRUE|FALSE|YES|NO|NOT|AND|OR|STREQUAL|MATCHES|EQUAL|LESS|GREATER|DEFINED|EXISTS|VERSION_LESS|VERSION_GREATER|IN_LIST)\b]], as = "keyword" },
  { like = [[\b[A-Z][A-Z_]{2,}\b(?![\w.])]], as = "value" },
  { like = [[(?<![\w./-])\d+(?:\.\d+)*(?![\w./-])]], as = "number" },
  { like = [=[[()]]=], as = "sign" },
}
sets = { variables = { { from_like = [[\$(?:ENV|CACHE)?\{]], to = "}", as = "variable", inside = "variables" }, { like = [[\$<[^>]*>]], as = "variable" }, { like = [[@\w+@]], as = "variable" } } }

name = "r"
about = "programs in R"
endings = { "r", "rprofile" }
names = { ".Rprofile" }
programs = { "Rscript" }
comment_sign = "#"
indentation = 2
deeper = [[[{(\[]\s*$]]
back = [=[^\s*[})\]]]=]
parts = {
  { like = [[#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\" },
  { from = "'", to = "'", as = "quoted", escape = "\\" },
  { like = [[`[^`\n]*`]], as = "name" },
  { like = [[\b(?:if|else|repeat|while|function|for|next|break|in|return|library|require)\b]], as = "keyword" },
  { like = [[\b(?:TRUE|FALSE|NULL|NA|NaN|Inf|NA_integer_|NA_character_|NA_real_)\b]], as = "value" },
  { like = [[\b([\w.]+)(?=\s*\()]], as = { "command" } },
  { like = [[\b([a-zA-Z.][\w.]*)\s*(<<?-|=(?!=))]], as = { "name", "sign" } },
  { like = [[\b(?:0[xX][0-9a-fA-F]+|\d+(?:\.\d+)?(?:[eE][+-]?\d+)?)L?\b]], as = "number" },
  { like = [=[<-|->|%\S*%|[-+*/^=<>!&|~?:$@,;(){}]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^(?<name>[\w.]+)\s*(?:<-|=)\s*function\b]], level = 1 },
}

name = "tcl"
about = "programs in Tcl"
endings = { "tcl", "tk", "exp", "itcl" }
programs = { "tclsh", "wish", "expect" }
comment_sign = "#"
indentation = 4
deeper = [[\{\s*$]]
back = [[^\s*\}]]
parts = {
  { like = [[(?:^|(?<=;))\s*#.*]], as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[\$\{[^}\n]*\}|\$[\w:]+]], as = "variable" } } },
  { like = [[\$\{[^}\n]*\}|\$[\w:]+]], as = "variable" },
  { like = [[(?:^|(?<=[;{\[]))\s*(proc|if|elseif|else|while|for|foreach|switch|return|break|continue|catch|try|namespace|package|global|variable|upvar|uplevel|source|set|expr|puts)(?=\s)]], as = { "keyword" } },
  { like = [[(?<=\})\s*(else|elseif)(?=\s)]], as = { "keyword" } },
  { like = [[(?<=proc )\S+]], as = "section" },
  { like = [[(?<=\s)-[a-zA-Z]\w*]], as = "name" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[{};()<>=!&|+*/]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?<name>(?:proc|namespace eval|oo::class create)\s+\S+)]], level = 0 },
}

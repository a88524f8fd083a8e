name = "ruby"
about = "Ruby"
endings = { "rb", "rake", "gemspec", "ru", "podspec" }
names = { "Rakefile", "Gemfile", "Vagrantfile", "Berksfile", "Podfile", "Puppetfile" }
programs = { "ruby", "jruby" }
comment_sign = "#"
indentation = 2
deeper = [[^\s*(?:def|class|module|if|unless|while|until|for|case|begin|else|elsif|when|rescue|ensure)\b(?!.*\bend\b)|\bdo\b(?:\s*\|[^|]*\|)?\s*$|[{(\[]\s*$]]
back = [=[^\s*(?:end|else|elsif\b.*|when\b.*|rescue\b.*|ensure|[})\]])$]=]
word = [[(?<![\w@$:.])[A-Za-z_]\w*[?!]?(?!:(?!:))]]
parts = {
  { from_like = [[^=begin\b]], to_like = [[^=end\b.*]], as = "comment" },
  { like = [[^__END__$]], as = "section" },
  { like = [[(?<![\w{"'])#(?!\{).*]], as = "comment" },
  { from_like = [[<<[~-]?(['"]?)([A-Z_]\w*)\1]], to_like = [[^\s*%2$]], as = "quoted", next_line = true, inside = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = "quoted" },
  { from_like = [[(?<!\w)']], to = "'", as = "quoted", escape = "\\" },
  { from = "`", to = "`", as = "quoted", escape = "\\", inside = "quoted" },
  { like = [=[%[qQwWiIr]?(?:\{[^{}]*\}|\([^()]*\)|\[[^\[\]]*\]|<[^<>]*>|([|!/])(?:(?!\1).)*\1)]=], as = "quoted" },
  { like = [[(?<=\w )/(?![ =\n])(?:\\.|[^/\\\n])+/[a-z]*(?!\s*[\w(])]], as = "quoted" },
  { like = [[(?:(?<=[=~(,|&{!])|\b(?<=if|when))\s*/(?![ =])(?:\\.|[^/\\])+/[a-z]*]], as = "quoted" },
  { like = [[(\bdef)\s+((?:self\.)?[\w?!=]+)]], as = { "keyword", "section" } },
  { like = [[(\bclass|\bmodule)\s+([\w:]+)]], as = { "keyword", "section" } },
  { like = [=[@@?\w+|\$\w+|\$[!@&~_0-9]]=], as = "variable" },
  { like = [[(?<![:\w]):(?:\w+[?!]?|"[^"]*")]], as = "value" },
  { like = [[\b\w+[?!]?:(?!:)]], as = "name" },
  { words = { "alias", "and", "begin", "break", "case", "class", "def", "defined?", "do", "else", "elsif", "end", "ensure", "for", "if", "in",
      "module", "next", "not", "or", "redo", "rescue", "retry", "return", "self", "super", "then", "undef", "unless", "until", "when", "while",
      "yield", "loop", "lambda", "proc" }, as = "keyword" },
  { words = { "true", "false", "nil", "__FILE__", "__LINE__" }, as = "number" },
  { words = { "require", "require_relative", "include", "extend", "attr_reader", "attr_writer", "attr_accessor", "puts", "print", "p", "raise",
      "private", "public", "protected", "gem", "source", "task", "desc", "exit", "system" }, as = "command" },
  { like = [[\b[A-Z]\w*\b]], as = "value" },
  { like = [[\b(?:0x[0-9a-fA-F_]+|0b[01_]+|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?)\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,.]+|[/(){}\[\]]]=], as = "sign" },
}
sets = { quoted = { { like = [[\\.]], as = "sign" }, { from = "#{", to = "}", as = "variable", inside = { { from = '"', to = '"', as = "quoted" }, { from = "{", to = "}", as = "variable" } } } } }
check = { { run = { "ruby", "-c" }, like = [[^-:(?<line>\d+): (?<words>[^\n]*)]] } }
outline = {
  { like = [[^\s*(?<name>(?:def|class|module)\s+[\w.:?!=]+)]], level = 0 },
}

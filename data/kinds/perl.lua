name = "perl"
about = "Perl"
looks_like = { { like = [[^\s*(?:sub\s+\w+\s*[{(]|my\s+[($@%]|use\s+[\w:]+[^;\n]*;|package\s+[\w:]+;)]], weight = 5 } }
endings = { "pl", "pm", "t", "cgi", "psgi" }
programs = { "perl" }
comment_sign = "#"
line_end_character = ";"
indentation = 4
word = [[(?<![$@%&\w])[A-Za-z_]\w*]]
deeper = [[[{(\[]\s*(?:#.*)?$]]
back = [=[^\s*[})\]]$]=]
parts = {
  { from_like = [[^=(?:pod|head\d|over|item|begin|for|encoding)\b]], to_like = [[^=cut\b.*]], as = "comment" },
  { like = [[^__(?:END|DATA)__$]], as = "section" },
  { like = [[(?<![$\w{])#.*]], as = "comment" },
  { from_like = [[<<~?(["'])(\w+)\1]], to_like = [[^\s*%2$]], as = "quoted", next_line = true },
  { from_like = [[<<~?([A-Z_]\w*)]], to_like = [[^\s*%1$]], as = "quoted", next_line = true, inside = "quoted" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = "quoted" },
  { from_like = [[(?<![\w:])']], to = "'", as = "quoted", escape = "\\" },
  { from = "`", to = "`", as = "quoted", escape = "\\", inside = "quoted" },
  { like = [=[(?<![\w$@%])(?:q|qq|qw|qr|m)\s*(?:(\{(?:[^{}\\]|\\.|(?1))*\})|(\((?:[^()\\]|\\.|(?2))*\))|(\[(?:[^\[\]\\]|\\.|(?3))*\])|<[^<>]*>|([/|!,#])(?:\\.|(?!\4).)*\4)[a-z]*]=], as = "quoted" },
  { like = [[(?<![\w$@%])(?:s|tr|y)\s*(?:\{[^{}]*\}\s*\{[^{}]*\}|([/|!,#])(?:\\.|(?!\1).)*\1(?:\\.|(?!\1).)*\1)[a-z]*]], as = "quoted" },
  { from_like = [[(?<![\w$@%])(?:q|qq|qw|qr)\s*\{]], to = "}", as = "quoted", escape = "\\" },
  { from_like = [[(?<![\w$@%])(?:q|qq|qw|qr)\s*\(]], to = ")", as = "quoted", escape = "\\" },
  { like = [[(?:(?<=[=~(,;{!&|])|(?<=\b(?:if|or)|\band|\bnot|\bunless|split))\s*/(?![/=])(?:\\.|[^/\\])+/[a-z]*]], as = "quoted" },
  { like = [[(\bsub)\s+([\w:]+)]], as = { "keyword", "section" } },
  { like = [[(\bpackage)\s+([\w:]+)]], as = { "keyword", "section" } },
  { like = [=[\$#?\{?\^?\w+(?:::\w+)*\}?|[@%&]\w+(?:::\w+)*|\$[&`'+!@/\\,;.0-9_$<>()\[\]]|@_]=], as = "variable" },
  { like = [[\b\w+(?=\s*=>)|(?<=\{)\w+(?=\})]], as = "name" },
  { words = { "my", "our", "local", "state", "use", "no", "require", "package", "sub", "if", "elsif", "else", "unless", "while", "until", "for",
      "foreach", "do", "last", "next", "redo", "return", "and", "or", "not", "xor", "eq", "ne", "lt", "gt", "le", "ge", "cmp", "die", "eval",
      "BEGIN", "END", "x", "given", "when", "default" }, as = "keyword" },
  { words = { "print", "printf", "say", "open", "close", "chomp", "push", "pop", "shift", "unshift", "splice", "split", "join", "map", "grep",
      "sort", "keys", "values", "each", "delete", "exists", "defined", "undef", "scalar", "ref", "bless", "warn", "sprintf", "substr", "index",
      "length", "lc", "uc", "reverse", "system", "exec", "exit", "unlink", "rename", "mkdir", "opendir", "readdir", "stat", "time", "localtime",
      "binmode", "wantarray", "pack", "unpack", "sleep", "kill", "fork", "wait" }, as = "command" },
  { like = [[\b(?:0x[0-9a-fA-F_]+|0b[01_]+|\d[\d_]*(?:\.\d+)?(?:[eE][+-]?\d+)?)\b]], as = "number" },
  { like = [=[[-+*%=<>!&|^~?:;,.]+|[/(){}\[\]\\]]=], as = "sign" },
}
sets = { quoted = { { like = [[\\.]], as = "sign" }, { like = [=[\$\{\w+\}|[$@]\w+(?:(?:->)?[\[{][^\]}]*[\]}])*|\$[&!@0-9]]=], as = "variable" } } }
outline = {
  { like = [[^\s*(?<name>sub\s+\w+)]], level = 1 },
  { like = [[^(?<name>package\s+[\w:]+)]], level = 1 },
  { like = [[^=head1\s+(?<name>[^\n]+)]], level = 1 },
  { like = [[^=head2\s+(?<name>[^\n]+)]], level = 2 },
}
outline_ends = [[^\}]]

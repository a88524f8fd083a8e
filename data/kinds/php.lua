name = "php"
about = "PHP"
endings = { "php", "phtml", "inc.php", "blade.php" }
programs = { "php" }
first_line = [[^<\?php]]
comment_sign = "//"
comment_open = "/*"
comment_close = "*/"
line_end_character = ";"
indentation = 4
any_case = true
deeper = [[[{(\[:]\s*$]]
back = [=[^\s*[})\]]$]=]
parts = {
  { from_like = [[<\?(?:php\b|=)?]], to = "?>", as = "section", body = "plain", inside = "code" },
  { from = "<!--", to = "-->", as = "comment" },
  { from_like = [[</?([\w:-]+)]], to = ">", as = "keyword", inside = {
      { from_like = [[<\?(?:php\b|=)?]], to = "?>", as = "section", body = "plain", inside = "code" },
      { like = [[([\w:-]+)(=)]], as = { "name", "sign" } },
      { like = [["[^"<]*"|'[^'<]*']], as = "quoted" } } },
  { like = [[&#?\w+;]], as = "variable" },
}
sets = {
  code = {
    { like = [[(?://|#(?!\[))(?:(?!\?>).)*]], as = "comment" },
    { from = "/*", to = "*/", as = "comment" },
    { from_like = [[<<<\s*(["']?)(\w+)\1]], to_like = [[^\s*%2\b]], as = "quoted", next_line = true, inside = "quoted" },
    { from = '"', to = '"', as = "quoted", escape = "\\", inside = "quoted" },
    { from = "'", to = "'", as = "quoted", escape = "\\" },
    { like = [[\$+\w+]], as = "variable" },
    { like = [=[#\[[^\]]*\]]=], as = "command" },
    { like = [[(\bfunction|\bclass|\binterface|\btrait|\bnamespace)\s+([\w\\]+)]], as = { "keyword", "section" } },
    { words = { "abstract", "and", "array", "as", "break", "callable", "case", "catch", "class", "clone", "const", "continue", "declare",
        "default", "do", "echo", "else", "elseif", "empty", "endfor", "endforeach", "endif", "endswitch", "endwhile", "enum", "exit", "extends",
        "final", "finally", "fn", "for", "foreach", "function", "global", "goto", "if", "implements", "include", "include_once", "instanceof",
        "interface", "isset", "list", "match", "namespace", "new", "or", "print", "private", "protected", "public", "readonly", "require",
        "require_once", "return", "static", "switch", "throw", "trait", "try", "unset", "use", "var", "while", "xor", "yield" }, as = "keyword" },
    { words = { "true", "false", "null" }, as = "number" },
    { words = { "int", "string", "bool", "float", "void", "mixed", "self", "parent", "object", "iterable" }, as = "value" },
    { like = [[\b[A-Za-z_]\w*(?=\s*\()]], as = "command" },
    { like = [[\b(?:0x[0-9a-fA-F_]+|0b[01_]+|\d[\d_]*(?:\.\d+)?(?:e[+-]?\d+)?)\b]], as = "number" },
    { like = [=[[-+*%=<!&|^~:;,.]+|[?>/(){}\[\]@]]=], as = "sign" },
  },
  quoted = { { like = [[\\.]], as = "sign" }, { like = [=[\{\$[^}]*\}|\$\w+(?:->\w+|\[[^\]]*\])?]=], as = "variable" } },
}
check = { { run = { "php", "-l" }, like = [[(?<words>[^\n:]*error: [^\n]*?) in [^\n]* on line (?<line>\d+)]] } }
outline = {
  { like = [[^\s*(?:abstract\s+|final\s+|public\s+|protected\s+|private\s+|static\s+)*(?<name>(?:function|class|interface|trait|enum)\s+&?\w+)]], level = 0 },
}

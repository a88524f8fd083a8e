name = "lisp"
about = "programs in Lisp, Scheme and their like"
endings = { "el", "lisp", "lsp", "cl", "scm", "ss", "rkt", "clj", "cljs", "edn", "fnl" }
names = { ".emacs", "dot.emacs" }
programs = { "guile", "sbcl", "clisp", "racket", "emacs" }
looks_like = { { like = [[^\((?:defun|defvar|defcustom|setq|require|define|defmacro|provide|add-hook|let)\b]], weight = 6 } }
comment_sign = ";;"
indentation = 2
parts = {
  { like = [[;.*]], as = "comment" },
  { from = "#|", to = "|#", as = "comment" },
  { from = '"', to = '"', as = "quoted", escape = "\\" },
  { like = [[(?<=\()(?:defun|defvar|defconst|defcustom|defmacro|defgroup|define|define-syntax|defn|def|ns|lambda|fn|let\*?|letrec|setq|set!|if|when|unless|cond|case|and|or|not|progn|begin|while|dolist|loop|require|provide|use-package|quote)(?=[\s)])]], as = "keyword" },
  { like = [[(?<=\()[a-zA-Z_+*/<>=!?-][\w+*/<>=!?.:-]*]], as = "command" },
  { like = [[(?<![\w-])(?::[\w-]+|'[\w+*/<>=!?-]+|#'[\w-]+)|(?<=[\s(])(?:nil|t|#t|#f|true|false)(?=[\s)])]], as = "value" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[()'`,]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\((?<name>def\S*\s+[^\s()]+)]], level = 1 },
}

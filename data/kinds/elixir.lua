name = "elixir"
about = "programs in Elixir"
endings = { "ex", "exs", "heex" }
programs = { "elixir", "iex" }
names = { "mix.lock" }
comment_sign = "#"
indentation = 2
deeper = [[(?:\bdo|->|[{(\[]|\bfn\b.*->)\s*$]]
back = [=[^\s*(?:end|else|rescue|catch|after|[})\]])]=]
parts = {
  { like = [[#(?!\{).*]], as = "comment" },
  { from = '"""', to = '"""', as = "quoted", escape = "\\" },
  { from = '"', to = '"', as = "quoted", escape = "\\", inside = { { like = [[#\{[^}\n]*\}]], as = "variable" } } },
  { like = [['(?:[^'\\\n]|\\.)*']], as = "quoted" },
  { like = [[\b(?:def|defp|defmodule|defmacro|defstruct|defimpl|defprotocol|defdelegate|do|end|if|else|unless|case|cond|fn|for|with|when|and|or|not|in|import|require|alias|use|quote|unquote|receive|after|rescue|try|catch|raise)\b(?!:)]], as = "keyword" },
  { like = [[\b(?:true|false|nil)\b|(?<!:):[a-zA-Z_]\w*[?!]?|\b[a-z_]\w*:(?!:)]], as = "value" },
  { like = [[@\w+]], as = "variable" },
  { like = [[\b[A-Z]\w*]], as = "section" },
  { like = [[\b([a-z_]\w*[?!]?)(?=\()]], as = { "name" } },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[->|<-|\|>|[-+*/=<>!&|^.,;(){}%]|\[|\]]=], as = "sign" },
}
outline = {
  { like = [[^\s*(?<name>(?:defmodule|defp?|defmacro)\s+[\w.!?]+)]], level = 0 },
}

name = "editorconfig"
about = "what a project's texts are like"
names = { ".editorconfig" }
comment_sign = "#"
comment_also = { ";" }
any_case = true
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { from = "[", to_like = [[\]\s*$]], as = "section", one_line = true, inside = { { like = [=[\*\*?|\?|[{},!]]=], as = "variable" } } },
  { like = [[^\s*(root|indent_style|indent_size|tab_width|end_of_line|charset|trim_trailing_whitespace|insert_final_newline|max_line_length|spelling_language)\s*(=)]], as = { "name", "sign" } },
  { like = [[^\s*([\w.-]+)\s*(=)]], as = { "value", "sign" } },
  { like = [[(?<=[=\s])(?:true|false|space|tab|lf|crlf|cr|utf-8|utf-8-bom|latin1|utf-16be|utf-16le|unset|off)(?=\s*$)]], as = "keyword" },
  { like = [[(?<=[=\s])\d+(?=\s*$)]], as = "number" },
}
check = { { with = "sections" }, { with = "fields" } }
fields_in = [=[^\s*[^\s#;\[]]=]
fields = {
  { "property", "such as indent_style = tab",
    like = [[(?i)\s*(?:root\s*=\s*(?:true|false)|indent_style\s*=\s*(?:tab|space|unset)|indent_size\s*=\s*(?:[1-9]\d*|tab|unset)|tab_width\s*=\s*(?:[1-9]\d*|unset)|end_of_line\s*=\s*(?:lf|crlf|cr|unset)|charset\s*=\s*(?:latin1|utf-8|utf-8-bom|utf-16be|utf-16le|unset)|(?:trim_trailing_whitespace|insert_final_newline)\s*=\s*(?:true|false|unset)|max_line_length\s*=\s*(?:[1-9]\d*|off|unset)|(?!(?:root|indent_style|indent_size|tab_width|end_of_line|charset|trim_trailing_whitespace|insert_final_newline|max_line_length)\s*=)[^\s=][^=]*=.*)]] },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

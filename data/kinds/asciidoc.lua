name = "asciidoc"
about = "texts with the signs of AsciiDoc"
endings = { "adoc", "asciidoc", "asc.txt" }
prose = true
comment_sign = "//"
parts = {
  { like = [[^//(?!/).*]], as = "comment" },
  { from_like = [[^(/{4,})\s*$]], to_like = [[^%1\s*$]], as = "comment" },
  { from_like = [[^(-{4,}|\.{4,}|={4,}|\*{4,}|\+{4,})\s*$]], to_like = [[^%1\s*$]], as = "sign", body = "quoted" },
  { like = [[^={1,6}\s.*$]], as = "section" },
  { like = [[^(:[\w-]+!?:)(.*)$]], as = { "name", "value" } },
  { like = [=[^\[[^\]\n]*\]\s*$]=], as = "name" },
  { like = [[^\.\S.*$]], as = "section" },
  { like = [[^\s*(\*+|-|\.+|\d+\.)(?=\s)]], as = { "sign" } },
  { like = [[`[^`\n]+`|\+[^+\s][^+\n]*\+]], as = "quoted" },
  { like = [[(?<![\w*])\*[^*\s][^*\n]*\*(?!\w)|(?<!\w)_[^_\s][^_\n]*_(?!\w)]], as = "value" },
  { like = [=[https?://[^\s\[]+|<<[^>\n]+>>|\b(?:link|image|include|xref|footnote)::?[^\s\[]*]=], as = "variable" },
}
outline = {
  { like = [[^=\s+(?<name>\S[^\n]*?)\s*$]], level = 1 },
  { like = [[^==\s+(?<name>\S[^\n]*?)\s*$]], level = 2 },
  { like = [[^===\s+(?<name>\S[^\n]*?)\s*$]], level = 3 },
  { like = [[^====\s+(?<name>\S[^\n]*?)\s*$]], level = 4 },
  { like = [[^=====\s+(?<name>\S[^\n]*?)\s*$]], level = 5 },
}

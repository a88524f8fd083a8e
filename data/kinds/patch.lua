name = "patch"
about = "differences between files"
endings = { "patch", "diff", "rej", "debdiff" }
first_lines = [[^--- \S.*\n\+\+\+ \S.*\n@@ -\d|^diff (?:--git|-[a-zA-Z]+) |\A\d+(?:,\d+)?[acd]\d+(?:,\d+)?\n[<>] ]]
manual = { "patch(1)", "diff(1)" }
parts = {
  { like = [[^(?:---|\+\+\+|\*\*\*)\s(?=[ab]/|/dev/null|\S+\t|\S*/|\d+(?:,\d+)? (?:----|\*\*\*\*)$|\S*\.\w+(?:\s|$)).*]], as = "section" },
  { like = [[^(?:diff|index|new file mode|deleted file mode|old mode|new mode|similarity index|rename|copy|Binary files|Index:|Only in)(?:\s.*|$)]], as = "name" },
  { like = [[^(@@ .*? @@)(.*)]], as = { "keyword", "command" } },
  { like = [[^\*{5,}.*|^\d+(?:,\d+)?[acd]\d+(?:,\d+)?$]], as = "keyword" },
  { like = [[^(\+.*?)([ \t]*)$]], as = { "added", "wrong" } },
  { like = [[^-.*]], as = "removed" },
  { like = [[^>.*]], as = "added" },
  { like = [[^<.*]], as = "removed" },
  { like = [[^!.*]], as = "value" },
  { like = [[^\\ .*]], as = "comment" },
  { like = [[^(From|Date|Subject|To|Author|commit)(:?)\s+(.*)]], as = { "name", "sign", "quoted" } },
}
outline = {
  { like = [[^\+\+\+ (?<name>[^\t\n]+)]], level = 1 },
  { like = [[^(?<name>@@ [^\n]*)]], level = 2 },
}

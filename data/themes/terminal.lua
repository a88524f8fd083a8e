-- Only the terminal's own sixteen colours.
name = "terminal"
about = "only the terminal's own sixteen colours"
like = "mono"
looks = {
  gutter = { colour = "bright black" },
  gutter_now = { bold = true },
  changed = { colour = "yellow", bold = true },
  escape = { colour = "red", underlined = true },
  cursor = { colour = "black", ground = "cyan" },
  match_now = { colour = "black", ground = "yellow" },
  warning = { colour = "bright white", ground = "red", bold = true },
  hint_key = { colour = "magenta", bold = true },
  box_dim = { reversed = true },
  old = { colour = "red" },
  old_part = { colour = "red", bold = true, underlined = true },
  new = { colour = "green" },
  new_part = { colour = "green", bold = true, underlined = true },
  comment = { colour = "cyan" },
  quoted = { colour = "green" },
  number = { colour = "magenta" },
  name = { bold = true },
  section = { colour = "magenta", bold = true },
  variable = { colour = "magenta" },
  command = { bold = true },
  added = { colour = "green" },
  removed = { colour = "red" },
  wrong = { colour = "red", underlined = true },
}
-- Green, cyan and yellow letters cannot be read on white.
on_white = {
  changed = { colour = "blue", bold = true },
  new = { colour = "blue" },
  new_part = { colour = "blue", bold = true, underlined = true },
  comment = { colour = "blue" },
  quoted = { colour = "magenta" },
  number = { colour = "red" },
  section = { colour = "magenta", bold = true },
  variable = { colour = "red" },
  added = { colour = "blue" },
}

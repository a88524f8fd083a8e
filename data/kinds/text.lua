-- Anything that is nothing else.
name = "text"
about = "plain text"
endings = { "txt", "text", "note", "notes" }
prose = true
line_end_character = ";" -- of whatever it is that is not known
parts = {}
outline = {
  { like = [[^(?<name>(?:\d+\.)+\d*\s+\S[^\n]*)$]], level = 1 },
}

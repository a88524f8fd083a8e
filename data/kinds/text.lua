-- Anything that is nothing else.
name = "text"
about = "plain text"
endings = { "txt", "text", "note", "notes" }
prose = true
parts = {}

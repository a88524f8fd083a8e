-- Keys and routes of one's own: /etc/steady-quill/keys.lua for a machine, ~/.config/steady-quill/keys.lua for a
-- person. Only lines of this form count, and nothing in them is run.

does["F11"] = "trim-blanks"          -- a key, as the key tester (Esc h w) calls it
does["Esc g 1"] = "go-line 1"        -- a route: Esc, a menu, a letter or a digit
does["Ctrl+L"] = false               -- frees a key

-- A script that runs at each start: /etc/steady-quill/start.lua for a machine, ~/.config/steady-quill/start.lua for
-- a person. squill-scripts(5) lists all that can be called.

-- Mark how many passengers there are; the key F12 says what they pay.
command {
  name = "fare", key = "F12", help = "What the marked passengers pay",
  run = function ()
    local n = tonumber(marked() or word())
    if not n then error("mark a number of passengers first", 0) end
    say(string.format("%d passengers pay %.2f", n, n * 4.20))
  end,
}

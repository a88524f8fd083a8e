name = "boot"
about = "what the boot loader does"
names = { "grub.cfg", "menu.lst" }
paths = { "/etc/default/grub", "/etc/default/grub.d/*" }
comment_sign = "#"
like = "shell"
risky = true
after_saving = "update-grub"
parts = {
  { like = [[^(GRUB_\w+)(=)(true|false)\s*$]], as = { "name", "sign", "keyword" } },
  { like = [[^\s*(menuentry|submenu)(?=\s)]], as = { "section" } },
  { like = [[^\s*(insmod|search|linux(?:16|efi)?|initrd(?:16|efi)?|load_env|save_env|loadfont|terminal_(?:in|out)put|chainloader|set|gfxmode|load_video)(?=\s|$)]], as = { "command" } },
}
check = {
  { run = { "bash", "-n" }, only_paths = { "/etc/default/*" }, like = [[^[^\n:]*: line (?<line>\d+): (?<words>[^\n]*)]] },
  { run = { "grub-script-check", "FILE" }, only_paths = { "*.cfg" },
    unsure_like = [[(?<words>contains no commands and will do nothing)]], like = [[(?<words>[Ss]yntax error) at line (?<line>\d+)]] },
}

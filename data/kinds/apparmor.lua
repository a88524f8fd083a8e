name = "apparmor"
about = "what programs may do, by AppArmor"
paths = { "/etc/apparmor.d/*", "/etc/apparmor.d/*/*" }
own_folders = true
looks_like = { { like = [[^\s*(?:(?:audit|deny|owner)\s+)*/\S+\s+[rwaxmlkixpPUcC]+,\s*$]], weight = 5 }, { like = [[^\s*(?:#?include|abi)\s+<[\w/.-]+>]], weight = 5 } }
comment_sign = "#"
indentation = 2
deeper = [[\{\s*$]]
back = [[^\s*\}]]
manual = { "apparmor.d(5)" }
after_saving = "apparmor_parser -r"
parts = {
  { like = [[^\s*(#?include)\s+(?:(if exists)\s+)?(<[^>\n]*>|"[^"\n]*")]], as = { "keyword", "keyword", "quoted" } },
  { like = [[(?:^|(?<=\s))#.*]], as = "comment" },
  { like = [[^\s*(abi)\s+(<[^>\n]*>)]], as = { "keyword", "quoted" } },
  { like = [[^\s*(profile|hat)\s+(\S+)]], as = { "keyword", "section" } },
  { like = [[(?<![\w/])(?:capability|network|signal|ptrace|unix|dbus|mount|umount|pivot_root|change_profile|rlimit|set|file|audit|deny|allow|owner|flags|peer|userns)(?=[\s,=(])]], as = "keyword" },
  { like = [[@\{[^}\n]*\}]], as = "variable" },
  { like = [[(?<=\s)[rwaxmlkipPuUcCxX]+(?=,|\s+->)]], as = "value" },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[[{}(),=]|->]], as = "sign" },
}
check = {
  { run = { "apparmor_parser", "-Q", "-K", "FILE" }, not_paths = { "*/abstractions/*", "*/tunables/*", "*/local/*", "*/abi/*", "*.d/*.d/*" },
    like = [[^AppArmor parser error for (?<file>\S+)(?: in profile \S+)? at line (?<line>\d+): (?<words>[^\n]*)]],
    unsure_like = [[(?<words>[^\n]*(?:Could not open|Permission denied|Unable to open|not found)[^\n]*)]] },
}

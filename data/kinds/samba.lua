name = "samba"
about = "folders shared by Samba"
names = { "smb.conf" }
paths = { "/etc/samba/*.conf" }
comment_sign = "#"
any_case = true
indentation = 3
manual = { "smb.conf(5)" }
after_saving = "testparm -s, then smbcontrol all reload-config"
parts = {
  { like = [[^\s*[#;].*]], as = "comment" },
  { like = [=[^\s*(\[[^\]]*\])]=], as = { "section" } },
  { like = [[^\s*([^=\[\s][^=]*?)\s*(=)]], as = { "name", "sign" } },
  { like = [[%[a-zA-Z$]|%\$\(\w+\)]], as = "variable" },
  { like = [[(?<![\w./-])(?:yes|no|true|false|auto|required|mandatory|disabled|user)(?=\s*$)]], as = "keyword" },
  { like = [[(?<![\w./-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/[\d.]+)?|\d+)(?![\w./-])]], as = "number" },
  { like = [[@[\w.-]+]], as = "value" },
  { like = [["[^"]*"]], as = "quoted" },
  { like = [[\\$]], as = "sign" },
}
check = { { run = { "testparm", "-s", "FILE" }, like = [[(?<words>Unknown parameter encountered: "(?<about>[^"\n]*)"|Badly formed line[^\n]*)]] } }

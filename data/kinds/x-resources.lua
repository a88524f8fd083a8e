name = "x-resources"
about = "resources of X11 programs"
names = { ".Xresources", ".Xdefaults", "*.ad" }
paths = { "/etc/X11/app-defaults/*", "/etc/X11/Xresources/*", "*/app-defaults/*" }
comment_sign = "!"
manual = { "X(7)" }
parts = {
  { like = [[^\s*!.*]], as = "comment" },
  { like = [[^\s*#\s*(include|define|ifdef|ifndef|if|else|endif|undef)\b]], as = { "keyword" } },
  { like = [[^([\w.*?-]+)\s*(:)]], as = { "name", "sign" } },
  { like = [[(?<=\s)#[0-9a-fA-F]{3,12}\b]], as = "number" },
  { like = [[(?<=[:\s])(?i:true|false|on|off|yes|no)(?=\s*$)]], as = "keyword" },
  { like = [[\\(?:n|t|\d{3}|$)]], as = "sign" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

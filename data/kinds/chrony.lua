name = "chrony"
about = "the clock service chrony"
names = { "chrony.conf", "chrony.keys" }
paths = { "/etc/chrony/*", "/etc/chrony/conf.d/*.conf", "/etc/chrony/sources.d/*.sources" }
comment_sign = "#"
manual = { "chrony.conf(5)" }
after_saving = "systemctl restart chrony"
parts = {
  { like = [[^\s*[#%;!].*]], as = "comment" },
  { like = [[^\s*(server|pool|peer)\s+(\S+)]], as = { "keyword", "name" } },
  { like = [[^\s*([a-z]\w*)(?=\s|$)]], as = { "name" } },
  { like = [[(?<=\s)(?:iburst|burst|prefer|noselect|offline|auto_offline|trust|require|xleave|nts)(?=\s|$)]], as = "keyword" },
  { like = [[(?<=\s)(?:minpoll|maxpoll|maxsources|minstratum|polltarget|port|version|key|presend)(?=\s)]], as = "keyword" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}

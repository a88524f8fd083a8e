name = "chrony"
about = "the clock service chrony"
names = { "chrony.conf", "chrony.keys" }
paths = { "/etc/chrony/*", "/etc/chrony/conf.d/*.conf", "/etc/chrony/sources.d/*.sources" }
comment_sign = "#"
comment_also = { ";", "!", "%" }
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
check = { { with = "settings" },
  { run = { "chronyd", "-p", "-f", "FILE" }, not_paths = { "*.keys", "*.sources" },
    like = [[Fatal error : (?<words>[^\n]*?) at line (?<line>\d+) in file (?<file>[^\s\n]+)]], unsure_like = [[(?<words>[^\n]*(?:Not superuser|Permission denied|Could not open)[^\n]*)]] } }
settings_in = [[^\s*(?<name>[a-z]\w*)\s+(?<value>[^#]*?)\s*$]]
settings = {
  { {
      "allow", "deny", "cmdallow", "cmddeny" }, is = { "address", "prefix", "host-name" }, one_of = "all", may_like = [[all .*|\d{1,3}(?:\.\d{1,3}){0,2}]] },
  { {
      "bindaddress", "bindacqaddress" }, is = "address" },
  { "bindcmdaddress", is = { "address", "path" } },
  { {
      "port", "cmdport", "acquisitionport", "ptpport" }, is = "port" },
  { "user", is = "user" },
  { "leapsectz", is = "time-zone" },
  { "leapsecmode", one_of = { "system", "step", "slew", "ignore" } },
  { "log", one_of = { "measurements", "statistics", "tracking", "rtc", "refclocks", "tempcomp", "rawmeasurements", "selection" }, each = " " },
  { {
      "driftfile", "logdir", "keyfile", "rtcfile", "dumpdir", "pidfile", "ntsdumpdir", "ntsservercert", "ntsserverkey", "ntstrustedcerts",
      "hwclockfile", "confdir", "sourcedir", "include", "leapseclist" }, is = "path", may_like = ".*" },
  { {
      "server", "pool", "peer" }, such_as = { "0.pool.example iburst" } },
  { {
      "initstepslew", "makestep", "maxupdateskew", "maxdistance", "maxjitter", "minsources", "maxclockerror", "maxdrift", "maxchange", "maxslewrate",
      "corrtimeratio", "combinelimit", "reselectdist", "stratumweight", "local", "manual", "smoothtime", "refclock", "rtcsync", "rtconutc",
      "rtcdevice", "rtcautotrim", "clientloglimit", "noclientlog", "ratelimit", "cmdratelimit", "logbanner", "logchange", "lock_all",
      "sched_priority", "mailonchange", "dumponexit", "hwtimestamp", "tempcomp", "authselectmode", "ntsratelimit", "ntsrefresh", "ntsrotate",
      "opencommands", "maxntsconnections", "nosystemcert", "fallbackdrift" } },
}

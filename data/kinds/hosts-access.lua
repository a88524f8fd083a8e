name = "hosts-access"
about = "who may reach a service"
names = { "hosts.allow", "hosts.deny" }
comment_sign = "#"
manual = { "hosts_access(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([\w.,@ -]+?)\s*(:)]], as = { "name", "sign" } },
  { like = [[\b(?:ALL|LOCAL|UNKNOWN|KNOWN|PARANOID|EXCEPT)\b]], as = "keyword" },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=:)\s*(allow|deny|spawn|twist)\b]], as = { "keyword" } },
  { like = [=[%[aAcdhHnNpsu%]]=], as = "variable" },
  { like = [[:]], as = "sign" },
}

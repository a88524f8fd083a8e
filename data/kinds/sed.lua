name = "sed"
about = "scripts of sed"
endings = { "sed" }
programs = { "sed" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[(s|y)([^\w\s\\])((?:\\.|(?!\2).)*)(\2)((?:\\.|(?!\2).)*)(\2)([gpwiIeMm0-9]*)]], as = { "command", "sign", "quoted", "sign", "value", "sign", "keyword" } },
  { like = [[/(?:[^/\\\[]|\\.|\[(?:[^\]\\]|\\.)+\])+/]], as = "quoted" },
  { like = [[(?<=[aic]\\).*]], as = "value" },
  { like = [[(?:^|(?<=[;{}/!\d$])|(?<=\s))([btT:])\s*(\w+)]], as = { "command", "name" } },
  { like = [[(?<=^|[\s;{}/!\d$,])[=aAbcdDeFgGhHilnNpPqQrRstTvwWxyz](?=$|[\s;}\\])]], as = "command" },
  { like = [[\d+|\$(?=[\s!,a-z]|$)]], as = "number" },
  { like = [=[[;{}!,~+\\]]=], as = "sign" },
}

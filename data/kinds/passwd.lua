name = "passwd"
about = "users of the machine"
names = { "passwd", "passwd-" }
manual = { "passwd(5)" }
parts = {
  { like = [[^([^:]*)(:)([^:]*)(:)(\d+)(:)(\d+)(?=:)]], as = { "section", "sign", "keyword", "sign", "number", "sign", "number" } },
  { like = [[^[+-].*]], as = "keyword" },
  { like = [[^[^:]*(?::[^:]*){0,5}$]], as = "wrong" },
  { like = [[(?<=:)(/[^:]*)(:)(/[^:]*)?$]], as = { "name", "sign", "value" } },
  { like = ":", as = "sign" },
  { like = [[[^:]+]], as = "quoted" },
}

name = "redis"
about = "the stores Redis and Valkey"
names = { "redis.conf", "valkey.conf", "sentinel.conf" }
paths = { "/etc/redis/*.conf", "/etc/valkey/*.conf" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([a-z][\w-]*)]], as = { "name" } },
  { from = '"', to = '"', as = "quoted", escape = "\\", one_line = true },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<=\s)(?:yes|no|always|everysec|notice|warning|verbose|debug|allkeys-lru|volatile-lru|noeviction)(?=\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])\d+(?:kb|mb|gb|k|m|g)?(?![\w.-])]], as = "number" },
}

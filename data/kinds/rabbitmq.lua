name = "rabbitmq"
about = "the message server RabbitMQ"
names = { "rabbitmq.conf" }
paths = { "/etc/rabbitmq/*.conf" }
comment_sign = "#"
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*([\w.$-]+)\s*(=)]], as = { "name", "sign" } },
  { like = [[(?<==)\s*(true|false|none|info|debug|warning|error)\s*$]], as = { "keyword" } },
  { like = [[(?<![\w.:-])(?:\d{1,3}(?:\.\d{1,3}){3}(?:/\d+)?|[0-9a-fA-F]*:[0-9a-fA-F:]*:[0-9a-fA-F:.]*(?:/\d+)?)(?![\w.:-])]], as = "number" },
  { like = [[(?<![\w.-])\d+(?:\.\d+)?(?:[kKMG]i?B?)?(?![\w.-])]], as = "number" },
}

name = "crypttab"
about = "encrypted devices"
names = { "crypttab" }
comment_sign = "#"
manual = { "crypttab(5)" }
risky = true
parts = {
  { like = [[^\s*#.*]], as = "comment" },
  { like = [[^\s*(\S+)\s+((?:UUID|PARTUUID|LABEL|PARTLABEL)=)?(\S+)(?:\s+(none|-|/\S+))?]], as = { "name", "sign", "value", "keyword" } },
  { like = [[\b([\w-]+)(=)]], as = { "name", "sign" } },
  { like = [[(?<=[\s,])(?:luks|plain|swap|tmp|discard|noauto|nofail|readonly|read-only|initramfs|_netdev|no-read-workqueue|no-write-workqueue|tcrypt|bitlk)(?=,|\s|$)]], as = "keyword" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
}
check = { { with = "fields" } }
fields_least = 2
fields = {
  { "name", "of what is made below /dev/mapper", is = "word", once = true },
  { "device", "a path, or UUID=… and the like", like = [[/\S+|(?:UUID|PARTUUID|LABEL|PARTLABEL|ID)=\S+]] },
  { "key", "the path of its file, - or none", like = [[/\S*|-|none|[\w.-]+]] },
  { "option", "words with commas between, such as luks,discard", like = [[[\w-]+(?:=\S+)?]], each = "," },
}

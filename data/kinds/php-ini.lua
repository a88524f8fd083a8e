name = "php-ini"
about = "settings of PHP"
names = { "php.ini", "php-cli.ini", "php-fpm.conf", ".user.ini" }
paths = { "/etc/php/*.ini", "/etc/php*/*.ini", "/etc/php/*/pool.d/*.conf", "/etc/php-fpm.d/*.conf" }
like = "ini"
comment_sign = ";"
manual = {}
parts = {
  { like = [[^\s*;.*]], as = "comment" },
  { like = [[(?<=\s);.*$]], as = "comment" },
}
outline = {
  { like = [=[^\s*\[+(?<name>[^\]\n]+)\]]=], level = 1 },
}

-- RFC 5322, as mail programs give it to an editor: fields, an empty line, the letter.
name = "mail"
about = "a letter by mail"
endings = { "eml" }
names = { "mutt-*", "neomutt-*", "alot.*", "aerc-compose-*", "PKG-INFO", "METADATA", "WHEEL", "*.egg-info" }
prose = true
first_line = [[^(?:Received|Return-Path|Delivered-To): ]]
parts = {
  { like = [[^(Subject)(:)[ \t]*(.*)$]], as = { "name", "sign", "section" } },
  { like = [[^(From|To|Cc|Bcc|Reply-To|Sender|Date|In-Reply-To|References|Message-ID|Attach|Fcc|MIME-Version|Content-[\w-]+|X-[\w-]+|Return-Path|Received)(:)]], as = { "name", "sign" } },
  { like = [[^-- $]], as = "comment" },
  { like = [[^(?:> ?)+.*$]], as = "comment" },
  { like = [[<[^<>\s@]+@[^<>\s]+>|\b[\w.+-]+@[\w-]+(?:\.[\w-]+)+\b]], as = "value" },
  { like = [[\bhttps?://[^\s<>"]+]], as = "value" },
}

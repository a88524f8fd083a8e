name = "git-message"
about = "the message of a commit"
names = { "COMMIT_EDITMSG", "MERGE_MSG", "TAG_EDITMSG", "SQUASH_MSG", "EDIT_DESCRIPTION", "NOTES_EDITMSG", "BRANCH_DESCRIPTION" }
comment_sign = "#"
prose = true
manual = { "git-commit(1)" }
first = {
  { like = [[^#.*]], as = "comment" },
  { like = [[^((?:[\x00-\x7f\xc0-\xff][\x80-\xbf]*){1,50})((?:[\x00-\x7f\xc0-\xff][\x80-\xbf]*){0,22})(.*)$]], as = { "section", "value", "wrong" } },
}
parts = {
  { from_like = [[^# -+ >8 -+$]], to_like = [[\A(?!)]], as = "comment", holds = "patch" },
  { like = [[^#\s*(?:modified|new file|deleted|renamed|copied|typechange):.*]], as = "name" },
  { like = [[^#\s*(?:On branch|Your branch|Changes|Untracked)\b.*]], as = "section" },
  { like = [[^#.*]], as = "comment" },
  { like = [[^([A-Z][\w-]+-(?:by|to|with))(:)\s+(.*)]], as = { "keyword", "sign", "quoted" } },
  { like = [[^(?:Fixes|Closes|Refs|See)(?=:? )]], as = "keyword" },
  { like = [[^\s*[-*](?=\s)]], as = "sign" },
  { like = [[`[^`]+`]], as = "value" },
  { like = [[\b[0-9a-f]{7,40}\b|#\d+]], as = "number" },
}
check = { { with = "message" } }

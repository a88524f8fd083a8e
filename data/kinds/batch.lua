name = "batch"
about = "command files of Windows"
endings = { "bat", "cmd" }
any_case = true
comment_sign = "rem "
parts = {
  { like = [[^\s*@?(?:rem\b.*|::.*)]], as = "comment" },
  { like = [[^\s*(:\w+)]], as = { "section" } },
  { like = [[%%~?\w+|%~?\d|%[^%\s]+%|![^!\s]+!]], as = "variable" },
  { from = '"', to = '"', as = "quoted", one_line = true, inside = { { like = [[%%~?\w+|%~?\d|%[^%\s]+%]], as = "variable" } } },
  { like = [[(?:^|(?<=[(&|@]))\s*(call|cd|chdir|cls|copy|del|dir|echo|endlocal|exit|for|goto|if|md|mkdir|move|pause|popd|pushd|rd|ren|rmdir|set|setlocal|shift|start|title|type|xcopy)(?=[\s.(]|$)]], as = { "keyword" } },
  { like = [[(?<=\s)(?:not|exist|errorlevel|defined|equ|neq|lss|leq|gtr|geq|in|do|else|nul)(?=[\s(]|$)]], as = "keyword" },
  { like = [[(?<=\s)/[a-z?]+\b]], as = "name" },
  { like = [[(?<![\w.-])[+-]?\d+(?:\.\d+)?(?![\w.-])]], as = "number" },
  { like = [=[[()=<>|&@^]]=], as = "sign" },
}
outline = {
  { like = [[^:(?<name>\w+)]], level = 1 },
}

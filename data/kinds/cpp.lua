name = "cpp"
about = "C++"
endings = { "cpp", "cc", "cxx", "hpp", "hh", "hxx", "ipp", "tcc", "ino" }
like = "c"
parts = {
  { from_like = [[\bR"(\w*)\(]], to_like = [[\)%1"]], as = "quoted" },
  { words = { "alignas", "catch", "class", "concept", "consteval", "constexpr", "constinit", "co_await", "co_return", "co_yield", "delete",
      "dynamic_cast", "explicit", "export", "final", "friend", "import", "module", "mutable", "namespace", "new", "noexcept", "operator",
      "override", "private", "protected", "public", "reinterpret_cast", "requires", "static_assert", "static_cast", "const_cast", "template",
      "this", "throw", "try", "typeid", "typename", "using", "virtual", "decltype" }, as = "keyword" },
  { words = { "nullptr" }, as = "number" },
  { words = { "string", "vector", "map", "set", "unique_ptr", "shared_ptr", "optional", "string_view" }, as = "value" },
  { like = [=[\[\[[^\]]*\]\]]=], as = "command" },
}

name = "csv"
about = "tables, the cells between commas, semicolons or tabs"
endings = { "csv", "tsv", "tab", "psv" }
first = { { like = [=[[,;|\t]]=], as = "sign" }, { like = [["(?:[^"]|"")*"|[^,;|\t"]+]], as = "section" } }
parts = {
  { from = '"', to_like = [["(?!")]], as = "quoted", inside = { { like = '""', as = "quoted" } } },
  { like = [=[[,;|\t]]=], as = "sign" },
  { like = [[(?:^|(?<=[,;|\t]))\s*[+-]?\d+(?:[.,]\d+)?%?\s*(?=[;|\t]|,|$)]], as = "number" },
}
check = { { with = "table" } }

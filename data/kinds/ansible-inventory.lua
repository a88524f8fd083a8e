name = "ansible-inventory"
about = "hosts and groups for ansible"
paths = { "*/ansible/hosts", "*/inventory/hosts", "*/inventories/*/hosts" }
names = { "inventory", "*.inventory" }
like = "ini"
parts = {
  { like = [=[^\s*(\[[\w.-]+(?::(?:children|vars))?\])]=], as = { "section" } },
  { like = [[\b(ansible_\w+)(=)]], as = { "name", "sign" } },
  { like = [[(?<=\s)(\w+)(=)]], as = { "name", "sign" } },
  { like = [[\{\{[^}\n]*\}\}]], as = "variable" },
}

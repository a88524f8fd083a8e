name = "pipeline"
about = "what a forge does after a push"
names = { ".gitlab-ci.yml", "*.gitlab-ci.yml", ".travis.yml", "azure-pipelines.yml", "bitbucket-pipelines.yml" }
paths = { "*/.github/workflows/*.yml", "*/.github/workflows/*.yaml", "*/.forgejo/workflows/*.yml", "*/.gitea/workflows/*.yml" }
like = "yaml"
parts = {
  { like = [[^(stages|variables|default|include|workflow|jobs|on|name|permissions|env|concurrency|image|cache)(:)(?=\s|$)]], as = { "section", "sign" } },
  { like = [[^\s+(-\s+)?(stage|script|before_script|after_script|rules|needs|artifacts|only|except|tags|runs-on|steps|uses|with|run|if|strategy|matrix|services|cache|image|variables|when)(:)(?=\s|$)]], as = { "sign", "keyword", "sign" } },
  { like = [[\$\{\{[^}\n]*\}\}|\$\w+]], as = "variable" },
}

#!/bin/sh
# No finding of clang-tidy and cppcheck. usage: lint.sh SOURCES BUILD-FOLDER (with compile_commands.json)
set -eu
cd "$1"
found=$(mktemp)
trap 'rm -f "$found"' EXIT
# the analyser takes minutes: tools/analyse runs it
find src -name '*.c' -print0 | xargs -0 -P "$(nproc)" -n 6 clang-tidy -p "$2" --quiet --checks='-clang-analyzer-*' 2>/dev/null |
    grep -E 'error:|warning:' >"$found" || true
# internalAstError: cppcheck 2.10 does not know compound literals after ?
cppcheck --std=c11 --language=c --enable=warning,performance,portability --inline-suppr -q -j "$(nproc)" \
    --suppress=missingIncludeSystem --suppress=internalAstError --suppress=knownConditionTrueFalse \
    -Isrc -D_GNU_SOURCE '-DSQUILL_VERSION="1"' '-DSQUILL_DATE="1"' src 2>>"$found"
cat "$found"
test ! -s "$found"

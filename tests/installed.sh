#!/bin/sh
# What is installed holds together: the papers' links, the pages at 80 columns, and that nothing is left of it after
# uninstalling. usage: installed.sh SOURCES BUILD
set -eu
sources=$1 build=$2 failed=0
to=$(mktemp -d)
trap 'rm -rf "$to"' EXIT
rm -f "$build/folders_made"
DESTDIR=$to/root cmake --install "$build" --prefix /opt/harrow >/dev/null
papers=$to/root/opt/harrow/share/doc/steady-quill
for paper in "$papers"/*.md; do
    for link in $(grep -o '](\([^):]*\))' "$paper" | sed 's/](\(.*\))/\1/'); do
        [ -e "$papers/$link" ] || { echo "$(basename "$paper"): no $link"; failed=1; }
    done
done
[ "$(ls "$papers"/*.md | wc -l)" -ge 7 ] || { echo "papers are missing"; failed=1; }
for page in "$to"/root/opt/harrow/share/man/man*/*; do
    wide=$(LC_ALL=C.UTF-8 MANWIDTH=80 MAN_KEEP_FORMATTING= man -E UTF-8 -l "$page" 2>/dev/null | col -b | LC_ALL=C.UTF-8 wc -L)
    [ "$wide" -le 80 ] || { echo "$(basename "$page") is $wide columns wide"; failed=1; }
done
make -s -C "$sources" uninstall DESTDIR="$to/root" INSTALLED="$build" >/dev/null
left=$(find "$to/root" -mindepth 1 | head)
[ -z "$left" ] || { echo "left after uninstalling: $left"; failed=1; }
exit $failed

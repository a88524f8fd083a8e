# A paper as it is installed: without pictures, and with links to those papers only that lie beside it.
#   awk -v papers="a.md b.md" -f paper.awk FILE

# A link to a paper: kept as one to the same folder, or as its words.
function linked(words, to) {
    sub(/^.*\//, "", to)
    return index(" " papers " ", " " to " ") ? "[" words "](" to ")" : words
}

function without_links(line,    out, at) {
    while (match(line, /\[[^]]*\]\([A-Za-z.\/]+\.md\)/)) {
        at = index(substr(line, RSTART), "](")
        out = out substr(line, 1, RSTART - 1) \
            linked(substr(line, RSTART + 1, at - 2), substr(line, RSTART + at + 1, RLENGTH - at - 2))
        line = substr(line, RSTART + RLENGTH)
    }
    return out line
}

/!\[/ { held = ""; pictures = 1; next } # and with it the heading, and the head of its table
/^#/ || /^\|[| ]+\|$/ || (held != "" && (/^\|[-|]+\|$/ || /^$/)) { held = held $0 "\n"; pictures = 0; next }
/^$/ && pictures { next }
{ pictures = 0 }
{ printf "%s%s\n", held, without_links($0); held = "" }

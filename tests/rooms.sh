#!/bin/sh
# The order of the rooms, and that no modules use each other in a circle: rooms.sh SOURCE LIBRARY...
# SOURCE is the folder of the rooms; the libraries are theirs, each named libsq_ROOM.a, in their order: a room may
# use what stands before it, and nothing that stands after it. Fails on an include or a call against the order,
# on a circle of modules, and on a file that is touched by a room that knows no files. A call is what the linker sees, so none can hide.
set -eu
source=$1
shift

order=""
for library in "$@"; do
    room=${library##*/libsq_}
    order="$order ${room%.a}"
done
bad=0

# Every folder is a room of the list.
for folder in "$source"/*/; do
    room=$(basename "$folder")
    case " $order " in
    *" $room "*) ;;
    *) echo "$source/$room is in no list of rooms" && bad=1 ;;
    esac
done

# Includes: "room/module.h" (a command's: "commands/menu/module.h"), of this room or one before it; curses in the room for the screen alone.
grep -rnE '^[[:space:]]*#[[:space:]]*include' "$source" --include='*.[ch]' | awk -v order="$order" -v source="$source/" '
    BEGIN { n = split(order, names, " "); for (i = 1; i <= n; i++) place[names[i]] = i; place["main.c"] = n + 1 }
    {
        file = $0; sub(/:.*/, "", file)
        room = substr(file, length(source) + 1); sub(/\/.*/, "", room)
        if (match($0, /"[^"]*"/)) {
            path = substr($0, RSTART + 1, RLENGTH - 2)
            parts = split(path, part, "/")
            if (parts != (part[1] == "commands" && parts == 3 ? 3 : 2) || !(part[1] in place)) { print file ": \"" path "\" does not name its room"; bad = 1 }
            else if (place[part[1]] > place[room]) { print file ": \"" path "\" is further down the house"; bad = 1 }
        }
        if ($0 ~ /<(n?curses|term)\.h>/ && room != "screen") { print $0; bad = 1 }
    }
    END { exit bad }' || bad=1

# Files of a person are opened, renamed, listed by the rooms up to `kept` alone. Whoever else touches the disk stands here, with the
# reason: a place of this machine that is no file of a person.
allowed="
kinds/checks      a checker's folder on this machine
kinds/judging     where a checker that ran on this machine read and writes
session/check_place the private folder of a checker
commands/practice the practice folder
commands/trial_save the terminal, to ask whoever sits there when there is no screen
screen/clipboard  the ends of the helper's pipes
screen/terminal   the terminal itself"
for library in "$@"; do
    room=${library##*/libsq_}
    case " base text edit files kept " in *" ${room%.a} "*) continue ;; esac
    nm -A "$library" | awk -v room="${room%.a}" -v allowed="$allowed" '
        $(NF - 1) == "U" && $NF ~ /^(__)?(open|openat|fopen|creat|rename|renameat|unlink|unlinkat|remove|rmdir|mkdir|mkdirat|mkdtemp|mkstemp|opendir|fdopendir|readdir|stat|lstat|fstat|fstatat|access|faccessat|realpath|readlink|symlink|link|chmod|fchmod|chown|truncate|ftruncate|glob|nftw|scandir)(64)?(_2|_chk)?$/ {
            object = $1; sub(/^.*\.a:/, "", object); sub(/\.c\.o:.*$/, "", object)
            if (index(allowed, "\n" room "/" object " ") == 0) { print room "/" object " calls " $NF ", which is for the room of files"; bad = 1 }
        }
        END { exit bad }' || bad=1
done

# Calls and tables: who defines a name, and who uses it.
for library in "$@"; do
    room=${library##*/libsq_}
    nm -A "$library" | sed "s|^|${room%.a} |"
done | awk -v order="$order" '
    BEGIN { n = split(order, names, " "); for (i = 1; i <= n; i++) place[names[i]] = i }
    {
        object = $2; sub(/^.*\.a:/, "", object); sub(/\.c\.o:.*$/, "", object)
        module = $1 "/" object
        kind = $(NF - 1); name = $NF
        if (kind == "U") uses[module, ++count[module]] = name
        else if (kind ~ /^[A-TV-Z]$/) { home[name] = module; room[module] = $1 }
        if (!(module in known)) { known[module] = ++modules; module_of[modules] = module; room[module] = $1 }
    }
    END {
        for (i = 1; i <= modules; i++) {
            a = module_of[i]
            for (k = 1; k <= count[a]; k++) {
                name = uses[a, k]
                if (!(name in home) || home[name] == a) continue
                b = home[name]
                reach[i, known[b]] = 1
                if (place[room[b]] > place[room[a]]) { print a " uses " name " of " b ", further down the house"; bad = 1 }
            }
        }
        for (k = 1; k <= modules; k++)
            for (i = 1; i <= modules; i++)
                if ((i, k) in reach)
                    for (j = 1; j <= modules; j++)
                        if ((k, j) in reach) reach[i, j] = 1
        largest = 0
        for (i = 1; i <= modules; i++) {
            size = 0; circle = ""
            for (j = 1; j <= modules; j++)
                if (((i, j) in reach) && ((j, i) in reach)) { size++; circle = circle " " module_of[j] }
            if (size > largest) { largest = size; largest_circle = circle }
        }
        print modules " modules in " n " rooms; the largest circle has " largest ":" largest_circle
        if (modules < 50) { print "that cannot be all of them"; bad = 1 }
        if (largest) { print "a record and what acts on it are two modules"; bad = 1 }
        exit bad
    }' || bad=1
exit $bad

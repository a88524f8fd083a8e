#!/bin/sh
# Speaks the next departure on the quay. Called by the schedule every minute.
set -eu

berth=${1:-3}
board=/srv/harrow/departures.txt
volume=6

if [ ! -r "$board" ]; then
    echo "announce: no departures in $board" >&2
    exit 1
fi

next=$(grep "^berth $berth " "$board" | head -n 1)
case "$next" in
*cancelled*)
    text="The crossing from berth $berth is cancelled."
    ;;
"")
    exit 0
    ;;
*)
    time=$(echo "$next" | cut -d ' ' -f 3)
    text="The next ferry leaves berth $berth at $time."
    ;;
esac

hour=$(date +%H)
if [ "$hour" -ge 22 ] || [ "$hour" -lt 6 ]; then
    volume=2
fi

for speaker in quay hall ramp; do
    echo "$text" | speak --volume "$volume" --to "$speaker"
done

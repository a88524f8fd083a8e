#!/bin/sh
# The program has what Debian asks of its programs. usage: hardened.sh PROGRAM [plain|static]
set -eu
failed=0
wants() {
    if ! readelf "$2" "$program" 2>/dev/null | grep -q "$3"; then
        echo "no $1"
        failed=1
    fi
}
program=$1
wants "position-independent code" -h 'Type:.*DYN'
wants "read-only relocations" -l GNU_RELRO
wants "stack protector" -s __stack_chk_fail
if readelf -l "$program" | grep -q 'GNU_STACK.*E'; then
    echo "the stack can be run"
    failed=1
fi
if [ "${2:-}" != static ]; then
    wants "binding at the start" -d 'BIND_NOW\|FLAGS_1.*NOW'
fi
# only a build for people is fortified, and musl knows nothing of it
if [ -z "${2:-}" ]; then
    wants "fortified functions" -s '_chk@'
fi
exit $failed

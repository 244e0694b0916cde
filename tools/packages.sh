#!/bin/sh
# Installs Debian packages that are missing: packages.sh PROGRAM=PACKAGE ...
# As root or through sudo; otherwise prints the exact command to run.
set -eu
PATH="$PATH:/usr/sbin:/sbin"
missing=""
for pair in "$@"; do
    program="${pair%%=*}"
    case "$program" in
        ensurepip) python3 -c 'import ensurepip' 2>/dev/null || missing="$missing ${pair#*=}" ;;
        *) command -v "$program" >/dev/null 2>&1 || missing="$missing ${pair#*=}" ;;
    esac
done
[ -n "$missing" ] || exit 0
install="apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends$missing"
if [ "$(id -u)" = 0 ]; then
    echo "Installing$missing …"
    sh -c "$install"
elif command -v sudo >/dev/null 2>&1 && sudo -n true 2>/dev/null; then
    echo "Installing$missing …"
    sudo sh -c "$install"
else
    echo "These packages are missing:$missing. Install them with:" >&2
    echo "    sudo sh -c '$install'" >&2
    exit 1
fi

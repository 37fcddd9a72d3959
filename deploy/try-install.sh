#!/usr/bin/env bash
# Tries the installation page in a fresh Debian root: every step, to a signed-in member by https. usage: deploy/try-install.sh [FOLDER]
# Needs root and debootstrap. The root is thrown away afterwards, unless KEEP=1.
set -euo pipefail
cd "$(dirname "$0")/.."
[ "$(id -u)" = 0 ] || { echo "try-install: run it as root" >&2; exit 1; }
command -v debootstrap >/dev/null || { apt-get update -qq; apt-get install -y -qq debootstrap >/dev/null; }
root=${1:-$(mktemp -d /var/tmp/clearjar-root-XXXXXX)}
mirror=$(grep -hE '^(deb|URIs:) ' /etc/apt/sources.list /etc/apt/sources.list.d/*.list /etc/apt/sources.list.d/*.sources 2>/dev/null | grep -oE 'https?://[^ ]+/debian/?( |$)' | head -n 1 | tr -d ' ' || true)
chmod 0755 "$root" # others of the fresh machine enter it too
suite=$(. /etc/os-release && echo "$VERSION_CODENAME")
finish() {
  chroot "$root" sh -c 'pkill -u clearjar; for c in $(pg_lsclusters -h | cut -d" " -f1); do pg_ctlcluster "$c" main stop; done' 2>/dev/null || true
  umount "$root/proc" "$root/dev" 2>/dev/null || true
  [ -n "${KEEP:-}" ] || rm -rf --one-file-system "$root"
}
trap finish EXIT
step() { printf '%4s s  %s\n' "$SECONDS" "$1"; }

step "a fresh Debian $suite"
debootstrap --variant=minbase --include=ca-certificates,curl,procps,openssl "$suite" "$root" "$mirror" >/dev/null
cp /etc/apt/sources.list "$root/etc/apt/" 2>/dev/null || true
cp -r /etc/apt/sources.list.d /etc/apt/apt.conf.d /etc/apt/trusted.gpg.d "$root/etc/apt/" 2>/dev/null || true
cp -r /usr/share/keyrings "$root/usr/share/" 2>/dev/null || true
[ ! -d /usr/local/share/ca-certificates ] || { mkdir -p "$root/usr/local/share/ca-certificates"; cp -r /usr/local/share/ca-certificates/. "$root/usr/local/share/ca-certificates/"; chroot "$root" update-ca-certificates >/dev/null 2>&1 || true; }
cp /etc/resolv.conf /etc/hosts "$root/etc/"
mount -t proc proc "$root/proc"
mount --bind /dev "$root/dev"
began=$SECONDS

step "the program and the folder deploy are copied there"
mkdir -p "$root/opt/clearjar/bin"
cp -r deploy "$root/opt/clearjar/"
cp bin/clearjar "$root/opt/clearjar/bin/"
step "deploy/install.sh"
chroot "$root" /opt/clearjar/deploy/install.sh
step "deploy/install.sh, a second time"
chroot "$root" /opt/clearjar/deploy/install.sh >/dev/null
step "a member"
echo 'lantern gravel otter seventeen' | chroot "$root" runuser -u clearjar -- clearjar household member ada --name Ada
step "serve, as the unit does, on port 18420"
CLEARJAR_LISTEN=0.0.0.0:18420 chroot "$root" runuser -u clearjar -- clearjar serve >"$root/tmp/serve.log" 2>&1 &
for _ in $(seq 100); do grep -q 'is open at' "$root/tmp/serve.log" && break || sleep 0.2; done
cat "$root/tmp/serve.log"
ask() { chroot "$root" curl -sS --fail --max-time 10 --cacert /var/lib/clearjar/authority/authority.crt --resolve clearjar.local:18420:127.0.0.1 "$@"; }
ask https://clearjar.local:18420/readyz
ask https://clearjar.local:18420/ | grep -o '<title>.*</title>'
step "the first page, $((SECONDS - began)) s after the fresh machine"
ask -c /tmp/jar -H 'Content-Type: application/json' -d '{"sign_in_name":"ada","passphrase":"lantern gravel otter seventeen","device":"try"}' https://clearjar.local:18420/api/sign-in
echo
ask -b /tmp/jar https://clearjar.local:18420/api/household
echo
chroot "$root" openssl s_client -connect 127.0.0.1:18420 -servername clearjar.local -CAfile /var/lib/clearjar/authority/authority.crt -verify_hostname clearjar.local </dev/null 2>/dev/null | grep -E 'Protocol|Cipher is|Verif'
step "backup, doctor"
chroot "$root" runuser -u clearjar -- clearjar backup /var/lib/clearjar/by-hand.zip
chroot "$root" runuser -u clearjar -- clearjar doctor || true
step "all of it went"

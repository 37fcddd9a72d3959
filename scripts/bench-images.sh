#!/usr/bin/env bash
# How fast ridge filter and thinning are beside general libraries, on one photo in one run. Needs python3-skimage and
# python3-opencv of Debian; it is no part of the tests. usage: scripts/bench-images.sh
set -euo pipefail
cd "$(dirname "$0")/.."
for p in python3-skimage python3-opencv; do
  dpkg -s "$p" >/dev/null 2>&1 || { echo "bench: install it first: apt-get install --no-install-recommends $p" >&2; exit 1; }
done
picture=demo/photos/demo_orange_day47.jpg
{
  /usr/bin/python3 scripts/bench_images.py "$picture"
  go test ./core/rootphoto/ridge -run xxx -bench 'OnAPhoto' -benchtime 8x -count 3 |
    awk '/^BenchmarkSato/ {if (!s || $3 < s) s = $3} /^BenchmarkThin/ {if (!t || $3 < t) t = $3} END {print "sato/ours", s / 1e9; print "thin/ours", t / 1e9}'
} | awk '{v[$1] = $2; printf "%-14s %8.1f ms\n", $1, 1000 * $2}
  END {split("sato thin", a); for (i = 1; i <= 2; i++) printf "%s: %.2f times as fast as skimage, %.2f times as fast as opencv\n", a[i], v[a[i] "/skimage"] / v[a[i] "/ours"], v[a[i] "/opencv"] / v[a[i] "/ours"]}'

#!/usr/bin/env bash
# Makes the pictures of this folder anew, from the demo's data: docs/screenshots/make.sh
# (workbench.png, garden.png, split.png and whole-game.png are shots of windows and are taken by hand.)
set -euo pipefail
cd "$(dirname "$0")/../.."
cargo build --release --quiet -p velvet-pan-cli
pan="target/release/velvet-pan --quiet"
to=docs/screenshots
small="--window 640x360"

demo="$(mktemp -d)"
trap 'rm -rf "$demo"' EXIT
$pan demo --out "$demo" > "$demo/summary.txt"
cp "$demo"/{film,shake}.png "$to"

ahead='follow.look_ahead.seconds=[0.0, 0.0]'
$pan chart terraces/demo/terraces.toml --out $to/chart.png
$pan compare terraces/demo/terraces.toml --try "$ahead" --try 'follow.smoothing={ half_life = 0.12 }' \
  --chart $to/compare.png > "$demo/compare.txt"
$pan film terraces/demo/terraces.toml --overlay --frames 4 $small --out $to/overlay.png
$pan film terraces/demo/pan.toml --snap off,whole,subpixel --frames 2 --window 480x270 \
  --out $to/snaps.png
$pan film terraces/demo/pan.toml --snap off,whole,subpixel --format apng --small --window 320x180 \
  --seconds 2 --out $to/pan.png
$pan film terraces/demo/house.toml --out $to/house.png --window 640x352
$pan film terraces/demo/kite.toml --overlay $small --out $to/kite.png
$pan film terraces/demo/cable.toml --overlay $small --out $to/cable.png
$pan film terraces/demo/gully.toml --overlay --frames 4 $small --out $to/gully.png
$pan film terraces/demo/shrine.toml --overlay --frames 8 $small --out $to/shrine.png
$pan film terraces/demo/cutscene.toml --at 7.9,9,10,11,11.6,13.6 --columns 3 $small --out $to/cutscene.png
$pan film terraces/demo/changes.toml --overlay --frames 8 --columns 2 $small --out $to/changes.png
$pan tiles terraces/demo/terraces.toml --centre 2300,560 --zoom 0.5 --rotate 0.4 \
  --picture $to/tiles.png > "$demo/tiles.txt"

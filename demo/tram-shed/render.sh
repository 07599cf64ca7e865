#!/usr/bin/env bash
# Renders the reference of "Tram shed, first frost" and finishes it like a photograph: a little halation, lens fall-off,
# film grain. Needs Debian's povray and imagemagick; takes a quarter of an hour. The application never runs this.
set -euo pipefail
cd "$(dirname "$0")"
raw=$(mktemp --suffix=.png)
povray +Iscene.pov +O"$raw" +W1600 +H1200 +A0.2 -D Declare=Blur=1
/usr/bin/convert "$raw" \
  \( +clone -blur 0x12 -evaluate multiply 0.11 \) -compose screen -composite \
  \( -size 1600x1200 radial-gradient:white-gray84 \) -compose multiply -composite \
  \( -size 1600x1200 xc:gray50 -seed 7 -attenuate 0.16 +noise gaussian -colorspace Gray -blur 0x0.7 \) -compose overlay -composite \
  -sigmoidal-contrast 4.2x51% -modulate 101,104 -quality 90 -sampling-factor 4:2:0 -strip reference.jpg
rm -f "$raw"

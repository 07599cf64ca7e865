#!/usr/bin/env bash
# Renders one scene (hen, bench, bell or stair) and finishes it like a photograph: a little halation, lens fall-off, film grain.
# Needs Debian's povray and imagemagick and some minutes. The application never runs this.
set -euo pipefail
cd "$(dirname "$0")/$1"
case "$1" in hen | bell) size=1200x1600 ;; bench) size=1280x1600 ;; *) size=1600x1200 ;; esac
# Near things blur in all scenes but the bell, which is shot from as far as it is deep.
case "$1" in bell) blur= ;; *) blur=Declare=Blur=1 ;; esac
raw=$(mktemp --suffix=.png)
povray +Iscene.pov +O"$raw" +W"${size%x*}" +H"${size#*x}" +A0.25 -D ${THREADS:+"+WT$THREADS"} $blur
/usr/bin/convert "$raw" \
  \( +clone -blur 0x12 -evaluate multiply 0.11 \) -compose screen -composite \
  \( -size "$size" radial-gradient:white-gray84 \) -compose multiply -composite \
  \( -size "$size" xc:gray50 -seed 7 -attenuate 0.16 +noise gaussian -colorspace Gray -blur 0x0.7 \) -compose overlay -composite \
  -sigmoidal-contrast 3.6x46% -quality 88 -sampling-factor 4:2:0 -strip reference.jpg
rm -f "$raw"

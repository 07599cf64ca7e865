#!/usr/bin/env bash
# Renders the small pictures of two years, and finishes them like photographs. Needs Debian's povray and imagemagick and some minutes; the
# application never runs this.
set -euo pipefail
cd "$(dirname "$0")"
finished() {
  /usr/bin/convert "$1" \( +clone -blur 0x4 -evaluate multiply 0.10 \) -compose screen -composite \
    \( -size 560x420 radial-gradient:white-gray86 \) -compose multiply -composite \
    \( -size 560x420 xc:gray50 -seed 7 -attenuate 0.14 +noise gaussian -colorspace Gray -blur 0x0.6 \) -compose overlay -composite \
    -sigmoidal-contrast 3x46% -quality 84 -sampling-factor 4:2:0 -strip "$2"
}
rendered() {
  local name=$1 scene=$2
  shift 2
  local raw
  raw=$(mktemp --suffix=.png)
  povray +I"$scene.pov" +O"$raw" +W560 +H420 +A0.3 -D Library_Path=/usr/share/povray-3.7/include "${@/#/Declare=}" >/dev/null 2>&1
  finished "$raw" "$name.jpg"
  rm -f "$raw"
}
lane() { rendered "$1" lane "Season=$2" "Hour=$3" "Weather=$4" "View=$5"; }
sill() { rendered "$1" sill "Lamp=$2" "Cloth=$3"; }
for each in "${@:-all}"; do
  case "$each" in
    all)
      lane lane-winter-early 3 0 0 0; lane weir-winter-mist 3 1 2 1; lane lane-spring-early 0 0 0 0; lane weir-spring-noon 0 1 0 1
      lane lane-summer-noon 1 1 0 0; lane weir-summer-late 1 2 0 1; lane lane-autumn-late 2 2 0 0; lane weir-autumn-mist 2 0 2 1
      lane lane-winter-dusk 3 3 1 0; lane weir-spring-overcast 0 1 1 1; lane weir-summer-dusk 1 3 0 1; lane lane-autumn-overcast 2 1 1 0
      sill sill-window-white 0 0; sill sill-lamp-red 1 1; sill sill-both-green 2 2; sill sill-lamp-white 1 0
      ;;
    *) echo "no such set: $each" >&2; exit 1 ;;
  esac
done

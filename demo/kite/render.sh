#!/usr/bin/env bash
# Turns the line drawing into the picture a scanner would give. Needs Debian's imagemagick. The application never runs this.
set -euo pipefail
cd "$(dirname "$0")"
/usr/bin/convert -density 96 drawing.svg -quality 88 -strip drawing.jpg

#!/bin/sh
# Copy the shipped styles, scripts and fonts, with their licences, out of npm packages into static/vendor.
set -eu
root=$(cd "$(dirname "$0")/.." && pwd)
vendor="$root/src/mitten/web/static/vendor"
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
cd "$scratch"
npm init -y >/dev/null
npm install --no-audit --no-fund --ignore-scripts \
  htmx.org@2.0.11 bootstrap@5.3.9 uplot@1.6.32 @fontsource-variable/atkinson-hyperlegible-next@5.3 >/dev/null
rm -rf "$vendor"
mkdir -p "$vendor/htmx" "$vendor/bootstrap" "$vendor/atkinson" "$vendor/uplot"
cp node_modules/htmx.org/dist/htmx.min.js node_modules/htmx.org/LICENSE "$vendor/htmx/"
cp node_modules/bootstrap/dist/css/bootstrap.min.css node_modules/bootstrap/LICENSE "$vendor/bootstrap/"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/LICENSE "$vendor/atkinson/"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/*-latin-wght-normal.woff2 "$vendor/atkinson/"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/*-latin-ext-wght-normal.woff2 "$vendor/atkinson/"
cp node_modules/uplot/dist/uPlot.esm.js node_modules/uplot/dist/uPlot.d.ts node_modules/uplot/dist/uPlot.min.css \
  node_modules/uplot/LICENSE "$vendor/uplot/"
# Its types are written for another kind of module.
sed -i 's/^export = uPlot;/export default uPlot;/' "$vendor/uplot/uPlot.d.ts"
# The source maps are not shipped: without their comment no browser looks for them.
sed -i '/sourceMappingURL/d' "$vendor/bootstrap/bootstrap.min.css"

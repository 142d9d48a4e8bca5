#!/bin/sh
# Copies the front-end files that ship with the program from npm into
# web/pages/frame/static/vendor, with their licences.
set -eu
root=$(cd "$(dirname "$0")/.." && pwd)
out=$root/web/pages/frame/static/vendor
tmp=$(mktemp -d)
trap 'rm -rf "$tmp"' EXIT
cd "$tmp"
npm init -y >/dev/null
npm install --no-audit --no-fund sass@1.89.2 bootstrap@5.3.9 @alpinejs/csp@3.17.4 idiomorph@0.8.0 \
	@fontsource-variable/literata@5.3.0 @fontsource-variable/atkinson-hyperlegible-next@5.3.0
rm -rf "$out"
mkdir -p "$out"
# The parts of Bootstrap that pages use: its ground, forms, buttons, hidden text.
cat >parts.scss <<'END'
@import "bootstrap/scss/functions";
@import "bootstrap/scss/variables";
@import "bootstrap/scss/variables-dark";
@import "bootstrap/scss/maps";
@import "bootstrap/scss/mixins";
@import "bootstrap/scss/utilities";
@import "bootstrap/scss/root";
@import "bootstrap/scss/reboot";
@import "bootstrap/scss/type";
@import "bootstrap/scss/forms";
@import "bootstrap/scss/buttons";
@import "bootstrap/scss/helpers/visually-hidden";
END
npx sass --quiet --no-source-map --style=compressed --load-path=node_modules parts.scss "$out/bootstrap.min.css"
cp node_modules/bootstrap/LICENSE "$out/bootstrap.LICENSE"
cp node_modules/@alpinejs/csp/dist/module.esm.min.js "$out/alpine.js"
# Its package says MIT, and brings no file of it.
sed 's/^Copyright .*/Copyright (c) the authors of Alpine and its contributors/' node_modules/bootstrap/LICENSE >"$out/alpine.LICENSE"
{ cat node_modules/idiomorph/dist/idiomorph.min.js; printf '\nexport default Idiomorph;\n'; } >"$out/idiomorph.js"
cp node_modules/idiomorph/LICENSE "$out/idiomorph.LICENSE"
cp node_modules/@fontsource-variable/literata/files/literata-latin-wght-normal.woff2 "$out/literata.woff2"
cp node_modules/@fontsource-variable/literata/files/literata-latin-wght-italic.woff2 "$out/literata-italic.woff2"
cp node_modules/@fontsource-variable/literata/LICENSE "$out/literata.LICENSE"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2 "$out/atkinson.woff2"
cp node_modules/@fontsource-variable/atkinson-hyperlegible-next/LICENSE "$out/atkinson.LICENSE"

#!/usr/bin/env bash
# Refreshes the front-end files that ship with the app from the npm registry, at pinned versions, with their licences.
set -euo pipefail
cd "$(dirname "$0")/.."
target="$PWD/src/fresh_ladle/web/static/vendor"
work=$(mktemp -d); trap 'rm -rf "$work"' EXIT
cd "$work"
npm init -y >/dev/null 2>&1
npm install --silent --no-audit --no-fund --ignore-scripts \
  bootstrap@5.3.9 htmx.org@2.0.8 @alpinejs/csp@3.17.4 sortablejs@1.15.6 idiomorph@0.8.0 \
  @fontsource-variable/bricolage-grotesque@5.3.0 @fontsource-variable/atkinson-hyperlegible-next@5.3.0
mkdir -p "$target"
take() { cp "node_modules/$1" "$target/$2"; }
take bootstrap/dist/css/bootstrap.min.css bootstrap.min.css
take bootstrap/LICENSE bootstrap.LICENSE
take htmx.org/dist/htmx.min.js htmx.min.js
take htmx.org/LICENSE htmx.LICENSE
take @alpinejs/csp/dist/cdn.min.js alpine-csp.min.js
take idiomorph/dist/idiomorph-ext.min.js idiomorph-ext.min.js
take idiomorph/LICENSE idiomorph.LICENSE
take sortablejs/Sortable.min.js sortable.min.js
take sortablejs/LICENSE sortable.LICENSE
take @fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2 bricolage-grotesque.woff2
take @fontsource-variable/bricolage-grotesque/LICENSE bricolage-grotesque.LICENSE
take @fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2 atkinson-hyperlegible-next.woff2
take @fontsource-variable/atkinson-hyperlegible-next/LICENSE atkinson-hyperlegible-next.LICENSE
sed -i '/sourceMappingURL/d' "$target/bootstrap.min.css" "$target/htmx.min.js" "$target/alpine-csp.min.js"
cat > "$target/alpine-csp.LICENSE" <<'TEXT'
MIT License. Copyright © 2019-2025 Caleb Porzio and contributors.
Permission is hereby granted, free of charge, to any person obtaining a copy of this software and associated documentation files, to deal in the software without restriction, subject to this notice being included in all copies. The software is provided "as is", without warranty of any kind.
TEXT
echo "Front-end files are in $target"

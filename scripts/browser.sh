#!/bin/sh
# Installs Debian's Chromium without a window, a C compiler for the race detector, and
# Playwright, each only where it is missing.
set -eu
need=""
command -v chromium-headless-shell >/dev/null 2>&1 || need="$need chromium-headless-shell"
command -v gcc >/dev/null 2>&1 || need="$need gcc libc6-dev"
if [ -n "$need" ]; then
	apt-get update -qq
	# shellcheck disable=SC2086
	DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends $need >/dev/null
fi
cd "$(dirname "$0")/../e2e"
[ -d node_modules/@playwright/test ] || PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm ci --no-audit --no-fund

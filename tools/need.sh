#!/usr/bin/env bash
# Checks that a tool is there and new enough. As root on Debian a missing one is installed; elsewhere it is named,
# with how to get it. Usage: tools/need.sh python|node|chromium
set -euo pipefail

on_debian_as_root() { [ "$(id -u)" = 0 ] && command -v apt-get >/dev/null; }

install() { # install PACKAGE...
  if on_debian_as_root; then
    echo "Installing $* …" >&2
    export DEBIAN_FRONTEND=noninteractive
    apt-get update -qq && apt-get install -y -qq "$@" >/dev/null
  fi
}

missing() { # missing WHAT HOW
  echo "Missing: $1" >&2
  echo "  To install: $2" >&2
  exit 1
}

python_ok() { command -v "${PYTHON:-python3}" >/dev/null && "${PYTHON:-python3}" -c 'import sys; sys.exit(sys.version_info < (3, 11))'; }
venv_ok() { "${PYTHON:-python3}" -c 'import venv, ensurepip' 2>/dev/null; }
node_ok() { command -v node >/dev/null && command -v npm >/dev/null && node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)'; }
chromium_ok() { command -v chromium >/dev/null && command -v chromedriver >/dev/null; }

case "${1:-}" in
  python)
    python_ok || install python3 python3-venv
    python_ok || missing "Python 3.11 or newer (found: $("${PYTHON:-python3}" --version 2>&1 || echo none))" "apt install python3 python3-venv, or point PYTHON=… at a newer one"
    venv_ok || install python3-venv
    venv_ok || missing "Python's venv module" "apt install python3-venv"
    ;;
  node)
    node_ok || install nodejs npm
    node_ok || missing "Node.js 20.19 or newer with npm (found: $(node --version 2>&1 || echo none))" "a current Node.js release from your system's packages"
    ;;
  chromium)
    chromium_ok || install chromium chromium-driver
    chromium_ok || missing "Chromium and ChromeDriver, which the interface tests drive" "apt install chromium chromium-driver"
    ;;
  *) echo "usage: tools/need.sh python|node|chromium" >&2; exit 2 ;;
esac

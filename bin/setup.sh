# Shared by bin/start and bin/test: what the machine must have. Sourced, never run.

say() { printf '%s\n' "$*"; }
stop() { printf '%s\n' "$*" >&2; exit 1; }

need_node() {
  command -v node >/dev/null || stop 'Node.js is missing: install Node.js 20.19 or newer, with npm.'
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' \
    || stop "Node.js $(node -v) is too old: install 20.19 or newer."
}

has_postgresql() { ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1; }
has_poppler-utils() { command -v pdftotext >/dev/null; }
has_admesh() { command -v admesh >/dev/null; }
has_assimp-utils() { command -v assimp >/dev/null; }
has_chromium-headless-shell() { [ -x /usr/bin/chromium-headless-shell ]; }

# need_debian PACKAGE...: installs what is missing, as root or through sudo.
need_debian() {
  local missing=()
  for package in "$@"; do "has_$package" || missing+=("$package"); done
  [ ${#missing[@]} -eq 0 ] && return
  local as=()
  if [ "$(id -u)" -ne 0 ]; then
    command -v sudo >/dev/null && sudo -n true 2>/dev/null \
      || stop "Missing Debian packages: run   apt-get install ${missing[*]}   as root, then start again."
    as=(sudo)
  fi
  command -v apt-get >/dev/null || stop "Missing: ${missing[*]}. Install them with this system's package manager."
  say "Installing from Debian's packages: ${missing[*]} …"
  "${as[@]}" apt-get update -qq
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
  for package in "${missing[@]}"; do "has_$package" || stop "Installing $package did not work."; done
}

# need_packages: npm ci, unless what is installed is already what the lock file says.
need_packages() {
  if ! cmp -s package-lock.json node_modules/.retablo-lock; then
    say 'Installing npm packages …'
    npm ci --no-audit --no-fund --loglevel=error
    cp package-lock.json node_modules/.retablo-lock
  fi
}

build_pages() {
  say 'Building the pages …'
  npm run -s build -- --logLevel warn
}

# What the machine needs: Debian packages, Python packages, the built front end. Sourced by ../pipette.
# Each step runs only when its input has changed, and leaves its mark only when it has ended well.

PATH=$ROOT/.venv/bin:$PATH
# The machine's own certificates count, so that it also works behind a school's filter.
export UV_SYSTEM_CERTS=1 NODE_USE_SYSTEM_CA=1
export UV_LINK_MODE=copy UV_NO_PROGRESS=1 PYTHONDONTWRITEBYTECODE=

set_up() { # set_up run|test: everything; one at a time in this folder
  alone
  set_up_python "$1"
  front_end "$1"
  case ${command:-} in demo | serve) ;; *) not_alone ;; esac # these go on alone until the server is up
}

alone() { # from here on no other ./pipette of this folder sets up or starts; one that ended without a word does not count
  local other=''
  mkdir -p "$RUN"
  until (set -C && echo "$$" >"$RUN/setting-up") 2>/dev/null; do
    other=$(cat "$RUN/setting-up" 2>/dev/null) || other=''
    if [[ $other =~ ^[0-9]+$ && $(readlink "/proc/$other/cwd" 2>/dev/null) = "$ROOT" ]]; then
      fail "Pipette is being set up or started here already (process $other). Wait until it has done so; nothing was changed."
    fi
    rm -f "$RUN/setting-up"
  done
}

not_alone() {
  [[ $(cat "$RUN/setting-up" 2>/dev/null) != "$$" ]] || rm -f "$RUN/setting-up"
}

set_up_python() { # set_up_python run|test: what the command line needs; a running server keeps its built front end
  debian_packages "$1"
  python_packages "$1"
}

debian_packages() {
  local missing=()
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null || missing+=(python3)
  python3 -c 'import venv, ensurepip' 2>/dev/null || missing+=(python3-venv)
  compgen -G '/usr/lib/postgresql/*/bin/initdb' >/dev/null || command -v initdb >/dev/null || missing+=(postgresql)
  if [[ $1 = test ]]; then
    # The shell is the same browser without windows: half the processor time.
    command -v chromium-headless-shell >/dev/null || command -v chromium >/dev/null || missing+=(chromium-headless-shell)
    command -v nginx >/dev/null || [[ -x /usr/sbin/nginx ]] || missing+=(nginx-light) # the proxy of a school's server
    compgen -G '/usr/lib/*/libatomic.so.1' >/dev/null || missing+=(libatomic1) # for Playwright's driver
  fi
  [[ ${#missing[@]} -gt 0 ]] || return 0
  local install=(apt-get install -y --no-install-recommends "${missing[@]}") sudo=()
  command -v apt-get >/dev/null || fail "these are missing: ${missing[*]}. Pipette installs them on Debian only; install them and try again."
  if [[ $(id -u) != 0 ]]; then
    command -v sudo >/dev/null && sudo -v || fail "packages are missing and you may not install them. Ask an administrator to run: ${install[*]}"
    sudo=(sudo)
  fi
  enough_disk
  step "Package lists" "${sudo[@]}" apt-get update
  step "Debian packages (${missing[*]})" "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive "${install[@]}"
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed; this machine has $(python3 -V)."
}

enough_disk() {
  local free_mb
  free_mb=$(($(df -Pk "$ROOT" | awk 'NR==2 {print $4}') / 1024))
  [[ $free_mb -ge 1500 ]] || fail "only $free_mb MB of disk are free here; about 1500 MB are needed. Nothing was changed."
}

python_packages() {
  local lock=requirements.txt want
  [[ $1 = run ]] || lock=requirements-dev.txt
  want="$lock $(digest requirements.txt requirements-dev.txt) $(python3 -V)"
  # What the tests need includes what the server needs.
  if [[ -x .venv/bin/python ]] && { fresh python "$want" || fresh python "${want/requirements.txt/requirements-dev.txt}"; }; then return 0; fi
  enough_disk
  if ! fresh installer "$(digest requirements-tools.txt)" || [[ ! -x $RUN/uv/bin/uv ]]; then
    step "Installer" install_uv
    mark installer "$(digest requirements-tools.txt)"
  fi
  rm -f "$RUN/done-python"
  step "Python packages" sync_python "$lock"
  mark python "$want"
}

install_uv() {
  rm -rf "$RUN/uv"
  /usr/bin/env python3 -m venv "$RUN/uv" &&
    "$RUN/uv/bin/python" -m pip install --quiet --no-deps --require-hashes -r requirements-tools.txt
}

sync_python() { # a server is made ready to start; tests use a part of what there is, and only that is compiled, as it is used
  local compile=()
  [[ $1 = requirements-dev.txt ]] || compile=(--compile-bytecode)
  [[ -x .venv/bin/python ]] || { rm -rf .venv && python3 -m venv --without-pip .venv; }
  VIRTUAL_ENV=$ROOT/.venv "$RUN/uv/bin/uv" pip sync --quiet --require-hashes "${compile[@]}" "$1"
}

web_sources() {
  find web -path web/node_modules -prune -o -path web/dist -prune -o -path web/dist.new -prune -o -type f -print0 | sort -z
}

front_end() { # front_end run|test: what a class is served; for tests the gallery, too
  local lock sources
  lock=$(digest web/package-lock.json web/package.json)
  if ! fresh npm "$lock" || [[ ! -d web/node_modules ]]; then
    rm -f "$RUN/done-npm"
    step "Front-end packages" npm --prefix web ci --ignore-scripts
    mark npm "$lock"
  fi
  if ! fresh types "$lock $(digest web/src/api/openapi.json)" || [[ ! -f web/src/api/generated.d.ts ]]; then
    step "Types of the API" npm --prefix web run types
    mark types "$lock $(digest web/src/api/openapi.json)"
  fi
  sources=$(web_sources | xargs -0 sha256sum | sha256sum)
  if ! fresh web "$sources" || [[ ! -d web/dist ]]; then
    step "Front end" build_web
    mark web "$sources"
  fi
  [[ $1 = test ]] || return 0
  if ! fresh gallery "$sources" || [[ ! -d $RUN/gallery ]]; then
    step "Gallery of all parts" npm --prefix web run gallery:build
    mark gallery "$sources"
  fi
}

build_web() {
  rm -rf web/dist.new # what serves now stays until the new one is whole; a step is asked how it ended, so -e does not count
  npm --prefix web run build -- --outDir ../web/dist.new/app --emptyOutDir &&
    python -m whitenoise.compress --quiet web/dist.new &&
    rm -rf web/dist && mv web/dist.new web/dist
}

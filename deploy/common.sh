# What installing and upgrading have in common. Sourced by install and upgrade.

# Debian's own programs: what root has in a home of its own, the user pipette cannot reach.
export PATH=/usr/sbin:/usr/bin:/sbin:/bin

HOME_DIR=/opt/pipette DATA=/var/lib/pipette CONFIG=/etc/pipette
SOURCE=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd -P)

fail() { printf '\n%s: %s\n' "$(basename "$0")" "$1" >&2; exit 1; }
say() { printf '%s\n' "$*"; }

need_root() { [[ $(id -u) = 0 ]] || fail "run this as root: sudo $0"; }

systemd() { [[ -d /run/systemd/system ]]; }

build_release() { # build_release: a copy of this checkout with its packages and its front end; sets RELEASE
  RELEASE=$HOME_DIR/releases/$(date +%Y%m%d-%H%M%S)
  mkdir -p "$HOME_DIR/releases"
  [[ ! -e $RELEASE ]] || fail "$RELEASE is there already; try again in a second"
  say "Building $RELEASE"
  mkdir "$RELEASE"
  tar -C "$SOURCE" --exclude=./.git --exclude=./.venv --exclude=./.run --exclude=./web/node_modules --exclude=./web/dist -cf - . |
    tar -C "$RELEASE" -xf -
  (
    cd "$RELEASE"
    ROOT=$RELEASE
    . tools/say.sh
    . tools/setup.sh
    set_up run
    rm -rf web/node_modules
  ) || { rm -rf "$RELEASE"; fail "the release could not be built; nothing else was changed"; }
  chown -R root:root "$RELEASE"
  chmod -R go-w "$RELEASE"
}

manage() { # manage COMMAND …: of $RELEASE, as the owner of the tables
  (
    cd "$RELEASE"
    set -a
    . "$CONFIG/env"
    . "$CONFIG/owner-env"
    set +a
    PIPETTE_LOG=plain exec setpriv --reuid=pipette --regid=pipette --init-groups .venv/bin/python manage.py "$@"
  )
}

switch() { # switch: what runs from now on
  ln -sfn "$RELEASE" "$HOME_DIR/current.new"
  mv -T "$HOME_DIR/current.new" "$HOME_DIR/current"
}

owner_sql() { setpriv --reuid=postgres --regid=postgres --init-groups psql -XAtq -v ON_ERROR_STOP=1 "$@"; }

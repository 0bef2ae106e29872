# Data in and out, on the running server's database or your own: backup, restore, tables, rehearsals. Sourced by ../pipette.

backup() { # of your own data; of the demo's only when that is asked for
  local file='' base=pipette
  while [[ $# -gt 0 ]]; do
    case $1 in
      --demo) base=pipette_demo; shift ;;
      --*) fail "unknown option “$1”; see ./pipette help. Nothing was written." ;;
      *) [[ -z $file ]] || fail "name one file: ./pipette backup FILE"; file=$1; shift ;;
    esac
  done
  [[ -n $file ]] || fail "name the file: ./pipette backup FILE"
  [[ $file = /* ]] || file=$CALLED_FROM/$file
  [[ ! -e $file ]] || fail "$file is there already. Name another; nothing was written."
  set_up_python run
  use_database "$base"
  prepare >/dev/null
  manage backup "$file"
  if [[ $base = pipette ]] && server_pid >/dev/null && [[ $(<"$SERVER/database") = pipette_demo ]]; then
    echo "The demo is running; its data is not in this backup. For the demo's data: ./pipette backup FILE --demo"
  fi
}

verify() { # on the running server's database, else your own; reads only
  local base=pipette one args=()
  for one in "$@"; do
    if [[ $one = --* || $one != *.zip || $one = /* ]]; then args+=("$one"); else args+=("$CALLED_FROM/$one"); fi
  done
  set_up_python run
  if server_pid >/dev/null; then base=$(<"$SERVER/database"); fi
  use_database "$base"
  prepare >/dev/null
  manage verify "${args[@]}"
}

restore() { # into your own data; a backup of the demo only when that is asked for
  local file='' demo=()
  while [[ $# -gt 0 ]]; do
    case $1 in
      --demo) demo=(--demo); shift ;;
      --*) fail "unknown option “$1”; see ./pipette help. Nothing was changed." ;;
      *) [[ -z $file ]] || fail "name one file: ./pipette restore FILE"; file=$1; shift ;;
    esac
  done
  [[ -n $file ]] || fail "name the file: ./pipette restore FILE"
  [[ $file = /* ]] || file=$CALLED_FROM/$file
  [[ -f $file ]] || fail "there is no file $file. Nothing was changed."
  if server_pid >/dev/null; then fail "a server is running. Stop it first with ./pipette stop, then restore. Nothing was changed."; fi
  set_up_python run
  use_database pipette
  manage restore "$file" "${demo[@]}"
  prepare >/dev/null
  echo "What was there before is kept as the database pipette_before_restore until the next restore."
}

import_readings() { # into the database of the running server, else into your own
  local file=${1:-} base=pipette said
  [[ -n $file ]] || fail "name the file: ./pipette import-readings FILE.csv"
  [[ $file = /* ]] || file=$CALLED_FROM/$file
  [[ -f $file ]] || fail "there is no file $file. Nothing was imported."
  set_up_python run
  if server_pid >/dev/null; then base=$(<"$SERVER/database"); fi
  if [[ $base = pipette ]]; then echo "Into your own data."; else echo "Into the data of the running demo."; fi
  use_database "$base"
  prepare >/dev/null
  said=$(manage import_readings "$file" "${@:2}") || exit 1
  echo "${said%$'\n'*}"
  if server_pid >/dev/null; then
    echo "See it at $(<"$SERVER/url")${said##*$'\n'}"
  else
    echo "See it with ./pipette serve, at ${said##*$'\n'}"
  fi
}

rehearse() { # through the running server, with its own data
  [[ -n ${1:-} ]] || fail "name the lab: ./pipette rehearse \"TITLE\""
  server_pid >/dev/null || fail "no server of this folder is running. Start one with ./pipette demo or ./pipette serve, then rehearse in a second window."
  set_up_python run
  use_database "$(<"$SERVER/database")"
  manage rehearse "$1" --url "$(<"$SERVER/url")" "${@:2}"
}

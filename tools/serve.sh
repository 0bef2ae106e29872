# Starting and stopping: the project's own PostgreSQL and the server, both on loopback. Sourced by ../pipette.

SERVER=$RUN/server

serve_options() {
  PORT=8321 FRESH=no IN_CLASS=no ADDRESS=127.0.0.1 CERTIFICATE='' KEY='' OWN=no
  local chosen=''
  while [[ $# -gt 0 ]]; do
    case $1 in
      --port) [[ ${2:-} =~ ^[0-9]+$ && $2 -ge 1 && $2 -le 65535 ]] || fail "--port needs a number from 1 to 65535"; PORT=$2; shift 2 ;;
      --port=*) set -- --port "${1#*=}" "${@:2}" ;;
      --fresh) FRESH=yes; shift ;;
      --in-class) IN_CLASS=yes; shift ;;
      --address) [[ ${2:-} =~ ^[0-9]+(\.[0-9]+){3}$ ]] || fail "--address needs this computer's address in numbers, for example 192.168.1.20"; chosen=$2; shift 2 ;;
      --address=*) set -- --address "${1#*=}" "${@:2}" ;;
      --certificate | --key)
        [[ -n ${2:-} ]] || fail "$1 needs a file"
        [[ -r $2 || -r $CALLED_FROM/$2 ]] || fail "the file $2 of $1 cannot be read"
        if [[ $1 = --key ]]; then KEY=$(cd "$CALLED_FROM" && realpath "$2"); else CERTIFICATE=$(cd "$CALLED_FROM" && realpath "$2"); fi
        shift 2 ;;
      --own-certificate) OWN=yes; shift ;;
      *) fail "unknown option “$1”; see ./pipette help" ;;
    esac
  done
  [[ $IN_CLASS = yes || -z $chosen$CERTIFICATE$KEY && $OWN = no ]] || fail "--address, --certificate, --key and --own-certificate go with --in-class"
  [[ $OWN = no || -z $CERTIFICATE$KEY ]] || fail "--own-certificate makes certificate and key itself; leave --certificate and --key out"
  [[ -n $CERTIFICATE && -n $KEY || -z $CERTIFICATE$KEY ]] || fail "--certificate and --key go together"
  if [[ $IN_CLASS = yes ]]; then choose_address "$chosen"; fi
}

own_certificate() { # the school's own, for this address and this computer's name; the authority is made once
  [[ $OWN = yes ]] || return 0
  FINGERPRINT=$(python tools/own_certificate.py "$RUN/certificate" "$ADDRESS" "$(hostname -s)" localhost 127.0.0.1) || fail "the certificate could not be made"
  CERTIFICATE=$RUN/certificate/server.pem KEY=$RUN/certificate/server-key.pem
  export PIPETTE_AUTHORITY=$RUN/certificate/authority.pem
}

refuse_unsafe() { # where others reach the server, what is not safe stops the start and is named
  [[ $IN_CLASS = yes ]] || return 0
  local said
  said=$(manage safe 2>&1) || fail "this is not safe where others reach the server, so nothing was started:
${said#CommandError: }"
}

list_addresses() {
  python3 tools/address.py list
}

choose_address() { # choose_address WISH: the address of this computer on the class's network; asks which, if there are several
  local found=() n answer
  mapfile -t found < <(list_addresses)
  if [[ -n $1 ]]; then
    [[ $1 = 127.* || " ${found[*]} " = *" $1 "* ]] || fail "this computer has no address $1. It has: ${found[*]:-none}."
    ADDRESS=$1
  elif [[ ${#found[@]} = 0 ]]; then
    fail "this computer is on no network that phones could be on. Connect it to the class's Wi-Fi first."
  elif [[ ${#found[@]} = 1 ]]; then
    ADDRESS=${found[0]}
  elif [[ ! -t 0 ]]; then
    fail "this computer is on several networks: ${found[*]}. Say which the phones are on, for example --address ${found[0]}"
  else
    echo "This computer is on several networks. On which are the phones?"
    for n in "${!found[@]}"; do printf '  %s  %s\n' $((n + 1)) "${found[n]}"; done
    read -rp "Number: " answer
    [[ $answer =~ ^[0-9]+$ && $answer -ge 1 && $answer -le ${#found[@]} ]] || fail "“$answer” is none of the numbers. Nothing was started."
    ADDRESS=${found[answer - 1]}
  fi
}

public_url() { # what devices open
  local scheme=http
  [[ -z $CERTIFICATE ]] || scheme=https
  echo "$scheme://$ADDRESS:$PORT"
}

say_how_phones_join() {
  printf '\n'
  python tools/address.py code "$(public_url)/join"
  printf 'Phones on the same network open   %s/join\n' "$(public_url)"
  if [[ -z $CERTIFICATE ]]; then
    cat <<'TEXT'
Over plain http everything works but one thing: a bench that was closed cannot be opened again while the network is away.
And whoever is on the Wi-Fi can read along. https mends both: --own-certificate, or --certificate FILE --key FILE.
TEXT
  fi
  if [[ $OWN = yes ]]; then
    printf 'Each device has to trust the school’s own certificate once: %s/check says how.\nIts fingerprint (SHA-256), to compare there:\n  %s\n' "$(public_url)" "$FINGERPRINT"
  fi
  printf 'Can a phone open it? Try %s/check on one before the lesson: it says what works there and what does not.\n' "$(public_url)"
  echo "If nothing opens, the Wi-Fi may keep its devices apart (a “guest” or “client isolation” setting), or this computer's firewall keeps port $PORT shut."
}

database_folder() { # where the cluster lives: in this folder unless the database's user cannot reach it
  if [[ $(id -u) = 0 ]] && ! setpriv --reuid=postgres --regid=postgres --init-groups test -x "$ROOT"; then
    echo "/var/lib/pipette-$(printf %s "$ROOT" | sha256sum | cut -c1-12)"
  else
    echo "$RUN"
  fi
}

start_database() { # start_database postgres|test-postgres
  PG_RUN_DIR=$(database_folder)/$1
  export PG_RUN_DIR
  local said
  if [[ $1 = test-postgres ]]; then export PG_FAST=1; fi # nothing in it is to be kept: no waiting for the disk
  said=$(tools/local-postgres start 2>&1) || fail "the database did not start: $said
The data is in $PG_RUN_DIR; its log is data/server.log there. Nothing in it was changed."
  set -a
  . "$PG_RUN_DIR/env"
  set +a
}

use_database() { # use_database NAME: start the cluster, make the database if it is not there, point Django to it
  start_database postgres
  make_database "$1"
}

make_database() {
  export DATABASE_URL="postgresql://$PGUSER:$PGPASSWORD@$PGHOST:$PGPORT/$1"
  if [[ $(tools/local-postgres psql -XAtc "SELECT 1 FROM pg_database WHERE datname = '$1'") != 1 ]]; then
    tools/local-postgres psql -Xqc "CREATE DATABASE $1" || fail "the database $1 could not be made"
  fi
}

manage() {
  PIPETTE_LOG=plain python manage.py "$@"
}

secret_key() {
  [[ -s $RUN/secret-key ]] || (umask 077 && python -c 'import secrets; print(secrets.token_urlsafe(48))' >"$RUN/secret-key")
  cat "$RUN/secret-key"
}

port_is_free() {
  python - "$@" <<'P'
import socket, sys
with socket.socket() as s:
    s.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        s.bind((sys.argv[2] if len(sys.argv) > 2 else "127.0.0.1", int(sys.argv[1])))
    except OSError:
        sys.exit(1)
P
}

server_pid() { # the running server's process, if it is still ours
  local pid
  [[ -s $SERVER/pid ]] || return 1
  pid=$(<"$SERVER/pid")
  [[ $(readlink "/proc/$pid/cwd" 2>/dev/null) = "$ROOT" ]] || return 1
  echo "$pid"
}

serve() { # serve DATABASE PORT FRESH
  local pid said
  if pid=$(supervisor_pid || server_pid); then
    fail "a server of this folder is running already at $(<"$SERVER/url")/ . Use it, or run ./pipette stop first."
  fi
  port_is_free "$2" "$ADDRESS" || fail "port $2 is taken by another program. Choose another: ./pipette $command --port $(($2 + 1))"
  start_database postgres
  if [[ $3 = yes ]]; then tools/local-postgres psql -Xqc "DROP DATABASE IF EXISTS $1 WITH (FORCE)"; fi
  make_database "$1"
  PIPETTE_SECRET_KEY=$(secret_key)
  export PIPETTE_SECRET_KEY
  refuse_unsafe
  own_certificate
  if [[ $1 = pipette_demo ]]; then said=$(prepare --demo); else said=$(prepare); fi
  rm -rf "$SERVER"
  mkdir -p "$SERVER"
  # Before the server runs, so that Ctrl-C at any moment leaves nothing behind.
  trap 'stop_server; trap - INT TERM EXIT; exit 0' INT TERM
  trap 'stop_server' EXIT
  echo "$$" >"$SERVER/supervisor"
  echo "$2" >"$SERVER/port"
  public_url >"$SERVER/url"
  echo "$1" >"$SERVER/database"
  start_server "$2"
  wait_until_up "$2" || { tail -n 15 "$RUN/server.log" "$RUN/server.out" >&2; fail "the server did not start; the whole log is .run/server.log"; }
  not_alone
  printf '\nPipette is at %s/\n\n%s\n' "$(public_url)" "$said"
  if [[ $1 = pipette ]]; then say_first_code; fi
  if [[ $IN_CLASS = yes ]]; then say_how_phones_join; else printf '\nGroups join at %s/join, on this computer only; for phones: ./pipette %s --in-class\n' "$(public_url)" "$command"; fi
  printf 'Ctrl-C stops it. The log is .run/server.log\n'
  look_after &
  echo "$!" >"$SERVER/helper"
  keep_running "$2"
}

say_first_code() { # where nobody has an account yet
  local code
  code=$(manage first_code)
  [[ -z $code ]] || printf 'Nobody has an account here yet. Open %s/first in a browser and type this code: %s\nIt makes the first account once, within a day; a new start makes a new code.\n' "$(public_url)" "$code"
}

prepare() { # migrations and rights, as the owner of the tables
  PIPETTE_ROLE_PASSWORD=$ROLE_PASSWORD manage prepare "$@"
}

start_server() { # start_server PORT: as the role that may only do what the server does
  [[ $(stat -c %s "$RUN/server.out" 2>/dev/null || echo 0) -lt 1000000 ]] || mv "$RUN/server.out" "$RUN/server.out.1"
  local tls=()
  if [[ -n $CERTIFICATE ]]; then tls=(--ssl-certfile "$CERTIFICATE" --ssl-keyfile "$KEY"); export PIPETTE_HTTPS=1; fi
  if [[ $IN_CLASS = yes ]]; then
    PIPETTE_ADDRESS=$(public_url)
    PIPETTE_ALLOWED_HOSTS=${PIPETTE_ALLOWED_HOSTS:-127.0.0.1,localhost,[::1]},$ADDRESS
    export PIPETTE_ADDRESS PIPETTE_ALLOWED_HOSTS
  fi
  DATABASE_URL="postgresql://pipette_server:$ROLE_PASSWORD@$PGHOST:$PGPORT/$(<"$SERVER/database")" \
    PIPETTE_LOG_FILE=$RUN/server.log python -m uvicorn server.config.asgi:application --host "$ADDRESS" --port "$1" "${tls[@]}" \
    --no-access-log --no-proxy-headers --timeout-graceful-shutdown 2 --log-level warning --lifespan off \
    </dev/null >>"$RUN/server.out" 2>&1 &
  echo "$!" >"$SERVER/pid"
}

MOST_ENDS=5 ENDS_WITHIN=60 # five ends in a minute: something is wrong that starting again does not mend

keep_running() { # keep_running PORT: start the server again when it ends by itself, and say so
  local code ends=() now kept=() end
  while :; do
    code=0
    { wait "$(<"$SERVER/pid")"; } 2>/dev/null || code=$? # without the shell's own word that it was killed
    [[ ! -e $SERVER/stopping && -d $SERVER ]] || return 0
    now=$(date +%s) kept=()
    for end in "${ends[@]}" "$now"; do [[ $((now - end)) -ge $ENDS_WITHIN ]] || kept+=("$end"); done
    ends=("${kept[@]}")
    [[ ${#ends[@]} -lt $MOST_ENDS ]] ||
      fail "the server ended by itself ${#ends[@]} times in a minute and is not started again; the log is .run/server.log. What was recorded is safe."
    printf '%s  the server ended by itself (code %s) and is started again; the log is .run/server.log\n' "$(date +%T)" "$code"
    start_server "$1"
    wait_until_up "$1" || true
  done
}

look_after() { # the database is started again if it ends; once a day what is over is removed for good
  local next=0
  trap - EXIT INT TERM
  while sleep 3 && [[ -d $SERVER ]]; do
    [[ ! -e $SERVER/stopping ]] || return 0
    tools/local-postgres status >/dev/null 2>&1 ||
      { tools/local-postgres start >/dev/null 2>&1 && printf '%s  the database had ended and was started again\n' "$(date +%T)"; } || true
    if [[ $(date +%s) -ge $next ]]; then
      manage retention >>"$RUN/server.out" 2>&1 || true
      next=$(($(date +%s) + 86400))
    fi
  done
}

supervisor_pid() { # the ./pipette that keeps the server running, if it is still ours
  local pid
  [[ -s $SERVER/supervisor ]] || return 1
  pid=$(<"$SERVER/supervisor")
  [[ $pid != "$$" && $(readlink "/proc/$pid/cwd" 2>/dev/null) = "$ROOT" ]] || return 1
  echo "$pid"
}

wait_until_up() {
  python - "$(<"$SERVER/url")" "$(<"$SERVER/pid")" <<'P'
import os, ssl, sys, time, urllib.request
own = ssl.create_default_context()
own.check_hostname, own.verify_mode = False, ssl.CERT_NONE  # our own server, whatever name its certificate has
for _ in range(300):
    try:
        with urllib.request.urlopen(f"{sys.argv[1]}/api/health", timeout=2, context=own):
            sys.exit(0)
    except OSError:
        if not os.path.exists(f"/proc/{sys.argv[2]}"):
            sys.exit(1)
        time.sleep(0.1)
sys.exit(1)
P
}

stop_server() {
  local pid helper
  if [[ -d $SERVER ]]; then touch "$SERVER/stopping"; fi
  if pid=$(server_pid); then
    kill -TERM "$pid" 2>/dev/null || true
    for _ in $(seq 60); do [[ -e /proc/$pid ]] || break; sleep 0.1; done
  fi
  if helper=$(cat "$SERVER/helper" 2>/dev/null) && [[ $(readlink "/proc/$helper/cwd" 2>/dev/null) = "$ROOT" ]]; then
    kill -TERM "$helper" 2>/dev/null || true
  fi
  rm -rf "$SERVER"
  PG_RUN_DIR=$(database_folder)/postgres tools/local-postgres stop || true
  echo "Stopped."
}

stop_all() {
  local pid
  pid=$(supervisor_pid) || pid=
  stop_server
  for _ in $(seq 50); do [[ -n $pid && -e /proc/$pid ]] || break; sleep 0.1; done
  PG_RUN_DIR=$(database_folder)/test-postgres tools/local-postgres stop
}

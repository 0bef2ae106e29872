# Saying what is done and what went wrong. Sourced by ../pipette.

RUN=$ROOT/.run
mkdir -p "$RUN" 2>/dev/null || { echo "pipette: this folder cannot be written to. Copy it to one that can, and try again." >&2; exit 1; }

fail() { # fail MESSAGE: say what is wrong and how to mend it, and stop
  printf '\npipette: %s\n' "$*" >&2
  exit 1
}

step() { # step TITLE COMMAND...: run it with its output in a log, show the title and the seconds it took
  local title=$1 start=$SECONDS log=$RUN/setup.log
  shift
  printf '  %s … ' "$title"
  trap 'printf "\nStopped. Start the same command again: it goes on where it stopped.\n" >&2; exit 130' INT
  if "$@" >"$log" 2>&1 </dev/null; then
    trap - INT
    printf 'done (%s s)\n' $((SECONDS - start))
  else
    printf 'failed\n\n' && tail -n 15 "$log" >&2
    if [[ $(df -Pk "$ROOT" | awk 'NR==2 {print $4}') -lt 51200 ]]; then
      fail "$title failed: the disk is full. Free about 1.5 GB and run the command again; it goes on where it stopped."
    fi
    fail "$title failed; the whole log is .run/setup.log. Once mended, run the command again; it goes on where it stopped."
  fi
}

digest() { # digest FILE...: one hash over names and contents
  sha256sum "$@" | sha256sum | cut -d' ' -f1
}

fresh() { # fresh NAME HASH: has the step NAME been done for this input?
  [[ -f $RUN/done-$1 && $(<"$RUN/done-$1") = "$2" ]]
}

mark() { # mark NAME HASH: the step NAME is done
  printf '%s\n' "$2" >"$RUN/done-$1.new" && mv "$RUN/done-$1.new" "$RUN/done-$1"
}

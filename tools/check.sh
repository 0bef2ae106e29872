# Checks, tests and pictures, on a database cluster of their own. Sourced by ../pipette.

check() { # check NAME COMMAND...: run it, show its output only if it fails, remember the failure
  local name=$1 start=$SECONDS log=$RUN/check-$1.log
  shift
  if "$@" >"$log" 2>&1 </dev/null; then
    printf '  %-12s ok (%s s)\n' "$name" $((SECONDS - start))
  else
    printf '  %-12s FAILED\n' "$name"
    tail -n 60 "$log"
    echo "$name" >>"$RUN/failed-checks"
  fi
}

schema_drift() { # the committed schema must be that of the API now; TypeScript's types are made from it at set-up
  python manage.py export_openapi_schema --api server.config.api.api --sorted --indent 1 >"$RUN/openapi.json" &&
    diff -u web/src/api/openapi.json "$RUN/openapi.json"
}

no_migration_missing() {
  python manage.py makemigrations --check --dry-run
}

script_size() { # no page over 250 kB of gzipped script at first load
  python tools/script_size.py
}

all_sentences() { # every sentence is in its catalogue and translated; the front end's come from its code once more
  local now=$RUN/sentences
  python tools/sentences.py --check || return
  rm -rf "$now" && mkdir "$now"
  (cd web/src && find . -name '*.po' -exec cp --parents {} "$now" \;) &&
    (cd web && SENTENCES=$now node_modules/.bin/lingui extract --clean --workers 1) &&
    (cd web/src && find . -name '*.po' -exec diff -u {} "$now/{}" \; >"$now/differences"; cat "$now/differences"; [[ ! -s $now/differences ]])
}

database_of_checks() { # checks look at it; tests make databases of their own
  start_database test-postgres
  make_database pipette
}

run_checks() {
  rm -f "$RUN/failed-checks"
  echo "Checks"
  (check schema schema_drift; check tsc npm --prefix web run typecheck; check eslint npm --prefix web run lint; check size script_size; check sentences all_sentences) &
  check ruff ruff check .
  check format ruff format --check .
  check imports lint-imports
  check mypy mypy
  check migrations no_migration_missing
  wait
  [[ ! -s $RUN/failed-checks ]] || { echo "Checks failed: $(tr '\n' ' ' <"$RUN/failed-checks")"; return 1; }
}

run_checks_and_tests() {
  local ok=0
  database_of_checks
  if [[ $# -eq 0 ]]; then
    run_checks || ok=1
    set -- galvanic server e2e
  fi
  echo "Tests"
  # Two processors are what there is; the third process fills the waits of the browser tests.
  PIPETTE_LOG=plain python manage.py test ${PIPETTE_TEST_OPTIONS:---parallel 3} --noinput "$@" || ok=1
  return "$ok"
}

run_benches() {
  start_database test-postgres
  make_database pipette
  python bench/accuracy.py
  python bench/rest.py
  python bench/coverage.py 40
  python bench/offsets.py 60
  python bench/loops.py 40
  python bench/accounts.py 40
  python bench/deciding.py 40
  python bench/class_fit.py 60
  python bench/foreseen.py 60
  python bench/plan.py
  python bench/years.py
  python bench/checks.py
  python bench/packs.py
  python bench/variables.py
  python bench/answers.py
  python bench/classes.py --classes 1 --rounds 1
  python bench/slow_phone.py
  python bench/flood.py
  python bench/soak.py
  python bench/kill.py
}

take_shots() {
  start_database test-postgres
  tools/local-postgres psql -Xqc "DROP DATABASE IF EXISTS pipette_shots WITH (FORCE)"
  make_database pipette_shots
  manage prepare --demo >/dev/null
  python tools/shots.py docs/screenshots
}

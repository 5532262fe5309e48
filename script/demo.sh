# The demo: four simulated mail accounts, and Schublade with a user who has them.

run_standin() { # directory, first port, messages
  local options
  mapfile -t options < <(sharing "$ROOT/var/standin")
  "$RUN_JDK/bin/java" "${options[@]}" -XX:TieredStopAtLevel=1 -Xmx800m \
    -cp "standin/target/standin-0.1.0-SNAPSHOT.jar:standin/target/lib/*" app.schublade.standin.StandinMain \
    "--directory=$1" "--port=$2" "--messages=$3" "--life=${SCHUBLADE_LIFE:-on}" >"$1/standin.log" 2>&1 &
  STANDIN=$!
}

demo() {
  local fresh='' empty='' home=${SCHUBLADE_HOME:-$ROOT/var/demo}
  for argument in "$@"; do
    case $argument in
      --fresh) fresh=yes ;;
      --empty) fresh=yes empty=yes ;;
      *) die "unknown: $argument. ./schublade help tells what there is." ;;
    esac
  done
  need
  port_must_be_free "$PORT" "the web pages"
  [ ! -f "$home/pg/data/postmaster.pid" ] || pg_stop "$home/pg" # left over from a start that was killed
  port_must_be_free $((PORT + 1)) "PostgreSQL"
  for i in 2 3 4 5 6 7; do port_must_be_free $((PORT + i)) "a mail host of the demo"; done
  build
  if [ -n "$fresh" ]; then
    [ ! -d "$home/pg" ] || pg_stop "$home/pg"
    rm -rf "$home"
  fi
  mkdir -p "$home/mail"
  APP='' STANDIN=''
  trap 'demo_stop "$home"' EXIT
  trap 'exit 0' INT TERM HUP
  run_standin "$home/mail" $((PORT + 2)) "${SCHUBLADE_DEMO_MESSAGES:-2000}"
  pg_start "$home/pg" $((PORT + 1))
  pg_database schublade
  export SCHUBLADE_PORT=$PORT SCHUBLADE_KEY_FILE=$home/key SCHUBLADE_DEMO_ACCOUNTS=$home/mail/accounts.properties
  export SCHUBLADE_DEMO_DIRECTORY=http://127.0.0.1:$((PORT + 7)) SCHUBLADE_DEMO_EMPTY=$empty
  rm -f "$SCHUBLADE_DEMO_ACCOUNTS"
  run_app "$home/app.log" "$ROOT/var/app" -XX:TieredStopAtLevel=1 -Xmx1500m
  wait_for_app "$home/app.log"
  say ""
  say "Schublade is at http://127.0.0.1:$PORT    login: demo    password: demo"
  [ -z "$empty" ] || say "No account yet. Add tilda.marwick@lanternquay.example, desk@northlights-tour.example,
secretary@brackwater-rowing.example and tilda@marwick-post.example; the password of each is lantern."
  say "Mail hosts: SMTP on $((PORT + 2)); commands on http://127.0.0.1:$((PORT + 7)), for instance"
  say "  curl -X POST 'http://127.0.0.1:$((PORT + 7))/deliver?from=anna@westwharf-school.example&to=schools@lanternquay.example&subject=Visit&text=Hello'"
  say "Ctrl-C stops everything; the next start finds it as it was left."
  wait "$APP" || die "the application ended; see $home/app.log"
}

demo_stop() {
  trap '' INT TERM HUP
  say "Stopping."
  local process
  for process in $APP $STANDIN; do kill "$process" 2>/dev/null || true; done
  for process in $APP $STANDIN; do wait "$process" 2>/dev/null || true; done
  pg_stop "$1/pg"
}

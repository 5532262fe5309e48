# Tries every command for real use: from a home without data and from one with it, and what is told when something is wrong.
# Run by `./schublade test`, after the tests of the code.

PASSED=0 FAILED=0

tell() { if [ "$1" = yes ]; then PASSED=$((PASSED + 1)); else FAILED=$((FAILED + 1)); say "FAILED  $2"; say "$3" | sed 's/^/        /' | tail -12; fi; }

# What it is, the code that it must end with, what it must say, and the command.
expect() {
  local what=$1 code=$2 says=$3 said ended=0
  shift 3
  said=$("$@" 2>&1) || ended=$?
  if [ "$ended" = "$code" ] && grep -qF -- "$says" <<<"$said"; then tell yes; else tell no "$what: ended with $ended, not $code, or did not say “$says”" "$said"; fi
}

schublade() { SCHUBLADE_HOME=$NEW "$ROOT/schublade" "$@"; }

check() {
  need bench
  local work foreign
  work=$(mktemp -d /var/tmp/schublade-check.XXXXXX)
  chmod 711 "$work"
  export SCHUBLADE_PORT SCHUBLADE_MEMORY=512m
  SCHUBLADE_PORT=$(free_port $((20000 + RANDOM % 20000)))
  trap 'for NEW in '"$work"'/{one,two,three,four}; do schublade stop >/dev/null; done; pg_stop '"$work"'/pg; rm -rf '"$work" EXIT
  NEW=$work/one
  expect "status of nothing" 3 "is not running" schublade status
  expect "stop of nothing" 0 "was not running" schublade stop
  expect "a backup of nothing" 1 "there is no data" schublade backup "$work/none.tar"
  expect "doctor of nothing" 0 "Nothing is wrong." schublade doctor
  expect "an unknown command" 1 "unknown command" schublade frobnicate

  mkdir -p "$NEW"
  printf 'server.prot = 1\n' >"$NEW/schublade.properties"
  expect "a setting that does not exist" 1 "Is server.port meant?" schublade start
  [ -f "$NEW/pg/data/postmaster.pid" ] && tell no "a start that failed leaves its database running" "" || tell yes
  printf 'server.port = many\n' >"$NEW/schublade.properties"
  expect "a port that is no number" 1 "which is no number" env -u SCHUBLADE_PORT SCHUBLADE_HOME="$NEW" "$ROOT/schublade" start
  expect "memory that is none" 1 "such as 2g" env SCHUBLADE_MEMORY=much SCHUBLADE_HOME="$NEW" "$ROOT/schublade" start
  rm "$NEW/schublade.properties"

  expect "start" 0 "The first visit asks for the owner's login" schublade start
  expect "start once more" 0 "and was already" schublade start
  expect "status" 0 '"database": "up"' schublade status
  expect "status with another port set since" 0 "127.0.0.1:$SCHUBLADE_PORT" env SCHUBLADE_PORT=1024 SCHUBLADE_HOME="$NEW" "$ROOT/schublade" status
  expect "restore while it runs" 1 "Stop it first" schublade restore "$ROOT/README.md"
  expect "another key while it runs" 1 "Stop it first" schublade new-key
  expect "backup while it runs" 0 "Written and checked" schublade backup "$work/all.tar"
  expect "backup over a file" 1 "is there already" schublade backup "$work/all.tar"
  expect "backup without its key" 0 "The key of the passwords is in" schublade backup "$work/apart.tar" --key-apart "$work/apart.key"
  expect "stop" 0 "is stopped" schublade stop
  expect "another key" 0 "sealed with a new key" schublade new-key

  sleep 300 &
  foreign=$!
  printf '%s 00000000-0000-0000-0000-000000000000-1\n' "$foreign" >"$NEW/app.pid"
  expect "a number that is another process's by now" 3 "is not running" schublade status
  expect "stop leaves it alone" 0 "was not running" schublade stop
  if kill "$foreign" 2>/dev/null; then tell yes; else tell no "stop ended another process" ""; fi

  [ -f "$NEW/pg/data/postmaster.pid" ] && tell no "another key leaves the database running" "" || tell yes
  expect "start again" 0 "Schublade is at" schublade start
  schublade stop >/dev/null
  [ -f "$NEW/logs/start.1.log" ] && tell yes || tell no "the log of the start before is kept" "$(ls "$NEW/logs")"

  NEW=$work/two
  expect "restore of no backup" 1 "is no backup of Schublade" schublade restore "$ROOT/README.md"
  head -c 20000 "$work/all.tar" >"$work/cut.tar"
  expect "restore of half a backup" 1 "Nothing was changed" schublade restore "$work/cut.tar"
  expect "restore" 0 "Restored as of" schublade restore "$work/all.tar"
  expect "restore over data" 1 "To put it aside first: --replace" schublade restore "$work/all.tar"
  expect "restore in place of data" 0 "What was there is in" schublade restore "$work/apart.tar" --key "$work/apart.key" --replace
  expect "start of what was restored" 0 "Schublade is at" schublade start
  schublade stop >/dev/null
  expect "install-service" 0 "ExecStart=$ROOT/schublade run" schublade install-service
  [ -z "$(find "$work/one" "$work/two" -maxdepth 1 -type f -perm /077)" ] && tell yes || tell no "others may read files of the home" "$(ls -l "$work/one")"

  NEW=$work/three
  mkdir -p "$NEW"
  "$RUN_JDK/bin/keytool" -genkeypair -alias schublade -keyalg RSA -dname CN=localhost -storetype PKCS12 \
    -keystore "$NEW/tls.p12" -storepass changeit >/dev/null 2>&1
  printf 'server.ssl.key-store = %s\nserver.ssl.key-store-password = changeit\n' "$NEW/tls.p12" >"$NEW/schublade.properties"
  expect "start with TLS" 0 "Schublade is at https://127.0.0.1:" schublade start
  expect "status with TLS" 0 "is running at https://127.0.0.1:" schublade status
  expect "it answers with its certificate" 0 "CN=localhost" "$RUN_JDK/bin/keytool" -printcert -sslserver "127.0.0.1:$SCHUBLADE_PORT"
  schublade stop >/dev/null

  pg_start "$work/pg" "$(free_port $((20000 + RANDOM % 20000)))"
  for NEW in "$work/four" "$work/five"; do
    mkdir -p "$NEW"
    pg_database "of_${NEW##*/}"
    printf 'spring.datasource.url = %s\nspring.datasource.username = app\nspring.datasource.password = %s\n' \
      "$SCHUBLADE_DB_URL" "$SCHUBLADE_DB_PASSWORD" >"$NEW/schublade.properties"
  done
  unset SCHUBLADE_DB_URL SCHUBLADE_DB_USER SCHUBLADE_DB_PASSWORD
  NEW=$work/four
  expect "start on a PostgreSQL of one's own" 0 "Schublade is at" schublade start
  expect "status on a PostgreSQL of one's own" 0 '"database": "up"' schublade status
  expect "a backup of a PostgreSQL of one's own" 0 "Written and checked" schublade backup "$work/own.tar"
  expect "stop on a PostgreSQL of one's own" 0 "is stopped" schublade stop
  NEW=$work/five
  expect "a restore into a PostgreSQL of one's own" 0 "Restored as of" schublade restore "$work/own.tar"
  expect "a restore into one that is not empty" 1 "the database is not empty" schublade restore "$work/own.tar"
  [ ! -e "$NEW/pg" ] && tell yes || tell no "a database of our own beside the other one" ""
  pg_running "$work/pg" && tell yes || tell no "stop leaves somebody's PostgreSQL running" ""
  say "schublade: $PASSED passed, $FAILED failed"
  [ "$FAILED" = 0 ]
}

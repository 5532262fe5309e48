# Looking for what is missing or wrong.

ok() { say "ok      $*"; }
wrong() { say "wrong   $1"; say "        $2"; FOUND=$((FOUND + 1)); }

doctor() {
  FOUND=0
  PG=$(pg_bin)
  if [ -n "$(jdk 17)" ]; then ok "Java to build with: $(jdk 17)"; else wrong "There is no JDK 17." "apt-get install openjdk-17-jdk-headless (start does it)"; fi
  if command -v mvn >/dev/null; then ok "Maven: $(command -v mvn)"; else wrong "There is no Maven." "apt-get install maven (start does it)"; fi
  if [ -n "$PG" ] && [ -x "$PG/initdb" ]; then ok "PostgreSQL: $PG"; else wrong "There is no PostgreSQL server." "apt-get install postgresql (start does it)"; fi
  doctor_home
  if [ "$FOUND" = 0 ]; then say "Nothing is wrong."; return; fi
  say "$FOUND found."
  return 1
}

doctor_home() {
  open_home
  if [ "$(stat -c %a "$HOME_DIR")" = 700 ] || [ "$(id -u)" = 0 ]; then ok "Home: $HOME_DIR"; else wrong "Others may look into $HOME_DIR." "chmod 700 $HOME_DIR"; fi
  if [ "$(id -u)" = 0 ] && has_own_database; then
    if as_postgres test -x "$HOME_DIR"; then ok "The user postgres may pass through it."; else wrong "The user postgres may not pass through $HOME_DIR." "Set SCHUBLADE_HOME to a directory outside of /root, such as /var/lib/schublade."; fi
  fi
  local free
  free=$(df -Pm "$HOME_DIR" | awk 'NR == 2 { print $4 }')
  if [ "$free" -ge 1024 ]; then ok "Room on the disk: $((free / 1024)) GB"; else wrong "There are only $free MB left on the disk of $HOME_DIR." "Make room: mail cannot be stored when it is full."; fi
  if [ -f "$SETTINGS" ]; then
    ok "Settings: $SETTINGS"
    [ "$(stat -c %a "$SETTINGS" | cut -c2-)" = 00 ] || wrong "Others may read $SETTINGS, which may hold passwords." "chmod 600 $SETTINGS"
  fi
  ok "Memory for the application: $(memory)"
  if running; then doctor_running; else doctor_stopped; fi
}

doctor_running() {
  ok "Running at $(address), process $(process)"
  case $(address) in
    https:*) return ;;
  esac
  local health
  health=$(ask /health 2>/dev/null | tr -d '\r' || true)
  case $health in
    *' 200 '*) ok "It says of itself: $(sed '1,/^$/d' <<<"$health" | tr '\n' ' ')" ;;
    *) wrong "It says of itself: $(sed '1,/^$/d' <<<"$health" | tr '\n' ' ')" "See $HOME_DIR/logs/schublade.log" ;;
  esac
}

doctor_stopped() {
  [ ! -f "$HOME_DIR/app.pid" ] || wrong "It ended without being stopped." "See $HOME_DIR/logs/schublade.log and start.log there; then: ./schublade start"
  if (exec 3<>"/dev/tcp/127.0.0.1/$PORT") 2>/dev/null; then
    wrong "Something else uses port $PORT." "Stop it, or set server.port in $SETTINGS"
  else
    ok "Port $PORT is free."
  fi
  local key
  key=$(setting schublade.key-file "$HOME_DIR/key")
  if has_own_database && [ -f "$HOME_DIR/pg/data/PG_VERSION" ] && [ ! -f "$key" ]; then
    wrong "There is data, but no key in $key: the accounts' passwords cannot be opened." "Put the key back, from where it was backed up."
  fi
}

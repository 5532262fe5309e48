# Running for real use: start, stop, status, run, install-service.

# Where the data is. Only its owner looks into it; PostgreSQL, which runs as another user for root, may pass through.
open_home() {
  HOME_DIR=${SCHUBLADE_HOME:-$ROOT/var/home}
  (umask 022 && mkdir -p "$HOME_DIR") || die "the directory $HOME_DIR cannot be made. Set SCHUBLADE_HOME to one that you may write to."
  HOME_DIR=$(cd "$HOME_DIR" && pwd)
  [ -w "$HOME_DIR" ] || die "you may not write to $HOME_DIR. It belongs to $(stat -c %U "$HOME_DIR"): run this as that user."
  if [ "$(id -u)" = 0 ]; then chmod 711 "$HOME_DIR"; else chmod 700 "$HOME_DIR"; fi
  umask 077
  mkdir -p "$HOME_DIR/logs"
  SETTINGS=$HOME_DIR/schublade.properties
  OTHER_DATABASE=${SCHUBLADE_DB_URL:-$(setting spring.datasource.url)}
  PORT=${SCHUBLADE_PORT:-$(setting server.port "$PORT")}
  [[ $PORT =~ ^[0-9]{1,5}$ ]] || die "the port is “$PORT”, which is no number. Look into SCHUBLADE_PORT and server.port in $SETTINGS."
}

setting() { # name, what it is if it is not set: as it stands in the settings file
  local found=''
  [ ! -f "$SETTINGS" ] ||
    found=$(sed -n "s/^[[:space:]]*${1//./\\.}[[:space:]]*[=:][[:space:]]*\(.*[^[:space:]]\)[[:space:]]*$/\1/p" "$SETTINGS" | tail -1)
  printf '%s\n' "${found:-${2:-}}"
}

# One command at a time works on a home.
lock_home() {
  exec 9>"$HOME_DIR/lock"
  flock -n 9 || die "another ./schublade is at work in $HOME_DIR. Wait for it to end."
}

# ---- which process is ours

birth() { # of a process: in which run of the machine, and when; its number alone is somebody else's one day
  local stat
  stat=$(cat "/proc/$1/stat" 2>/dev/null) || return 1
  stat=${stat##*) } # the name before may hold anything
  set -- $stat
  printf '%s-%s\n' "$(cat /proc/sys/kernel/random/boot_id)" "${20}"
}

running() {
  local number born
  [ -f "$HOME_DIR/app.pid" ] || return 1
  read -r number born <"$HOME_DIR/app.pid" || return 1
  [[ $number =~ ^[0-9]+$ ]] && [ -n "$born" ] && [ "$(birth "$number")" = "$born" ]
}

process() { cut -d' ' -f1 "$HOME_DIR/app.pid"; }

# ---- the database: our own, or the one that the settings name

has_own_database() { [ -z "$OTHER_DATABASE" ]; }

where_it_is() { # what is behind jdbc:postgresql: — //host:port/database, with more behind a question mark; for PostgreSQL's own programs
  local rest=${1%%\?*} host=localhost
  if [[ $rest == //* ]]; then
    rest=${rest#//}
    host=${rest%%/*}
    rest=${rest#*/}
  fi
  export PGDATABASE=$rest PGPORT=5432
  if [[ $host =~ ^(.*):([0-9]+)$ ]]; then
    host=${BASH_REMATCH[1]}
    PGPORT=${BASH_REMATCH[2]}
  fi
  host=${host#[}
  export PGHOST=${host%]}
}

open_database() {
  if has_own_database; then
    pg_start "$HOME_DIR/pg" "$(free_port $((PORT + 1)))"
    pg_database schublade
    export PGHOST=127.0.0.1 PGPORT=$PG_PORT PGUSER=app PGPASSWORD=$SCHUBLADE_DB_PASSWORD PGDATABASE=schublade
  else
    export SCHUBLADE_DB_URL=$OTHER_DATABASE
    export SCHUBLADE_DB_USER=${SCHUBLADE_DB_USER:-$(setting spring.datasource.username app)}
    export SCHUBLADE_DB_PASSWORD=${SCHUBLADE_DB_PASSWORD:-$(setting spring.datasource.password)}
    export PGUSER=$SCHUBLADE_DB_USER PGPASSWORD=$SCHUBLADE_DB_PASSWORD
    where_it_is "${SCHUBLADE_DB_URL#jdbc:postgresql:}"
  fi
}

close_database() { ! has_own_database || [ ! -d "$HOME_DIR/pg" ] || pg_stop "$HOME_DIR/pg"; }

# ---- the application

memory() { # of the application: as it was set, else a quarter of what there is
  local wanted=${SCHUBLADE_MEMORY:-} kilobytes limit
  if [ -n "$wanted" ]; then
    [[ $wanted =~ ^[0-9]+[mMgG]$ ]] || die "SCHUBLADE_MEMORY is “$wanted”. Write a number with m or g behind it, such as 2g."
    echo "$wanted"
    return
  fi
  kilobytes=$(sed -n 's/^MemTotal: *\([0-9]*\).*/\1/p' /proc/meminfo)
  limit=$(cat /sys/fs/cgroup/memory.max 2>/dev/null || true)
  if [[ $limit =~ ^[0-9]+$ ]] && [ $((limit / 1024)) -lt "$kilobytes" ]; then kilobytes=$((limit / 1024)); fi
  local megabytes=$((kilobytes / 4096))
  [ $megabytes -ge 512 ] || megabytes=512
  [ $megabytes -le 4096 ] || megabytes=4096
  echo "${megabytes}m"
}

keep_logs() { # the last five starts: they tell why one ended
  local i
  for i in 4 3 2 1; do
    [ ! -f "$HOME_DIR/logs/start.$i.log" ] || mv "$HOME_DIR/logs/start.$i.log" "$HOME_DIR/logs/start.$((i + 1)).log"
  done
  [ ! -f "$HOME_DIR/logs/start.log" ] || mv "$HOME_DIR/logs/start.log" "$HOME_DIR/logs/start.1.log"
}

run_app() { # log of the start, where class data is kept, Java's options; the rest is environment
  local log=$1 kept=$2 sharing
  shift 2
  mapfile -t sharing < <(sharing "$kept")
  "$RUN_JDK/bin/java" "${sharing[@]}" "$@" \
    -cp "$ROOT/app/target/app-0.1.0-SNAPSHOT.jar:$ROOT/app/target/lib/*" app.schublade.SchubladeApplication >"$log" 2>&1 9>&- &
  APP=$!
}

wait_for_app() { # log of the start
  local tenths
  for tenths in $(seq 6000); do
    if (exec 3<>"/dev/tcp/127.0.0.1/$PORT") 2>/dev/null; then return; fi
    if ! kill -0 "$APP" 2>/dev/null; then
      tail -30 "$1" >&2
      die "the application did not start. What it said is above, and in $1"
    fi
    [ "$tenths" != 600 ] || say "It is still starting; see $1."
    sleep 0.1
  done
  die "the application does not answer on port $PORT; see $1"
}

launch() { # everything up to an application that answers; APP is its process then
  need
  port_must_be_free "$PORT" "the web pages"
  build
  open_database
  keep_logs
  export SERVER_PORT=$PORT SCHUBLADE_KEY_FILE=${SCHUBLADE_KEY_FILE:-$(setting schublade.key-file "$HOME_DIR/key")}
  export SCHUBLADE_SETTINGS=$SETTINGS SCHUBLADE_PROCESS=${SCHUBLADE_PROCESS:-$(uname -n):$HOME_DIR}
  export LOGGING_FILE_NAME=$HOME_DIR/logs/schublade.log LOGGING_THRESHOLD_CONSOLE=error
  local memory
  memory=$(memory)
  run_app "$HOME_DIR/logs/start.log" "$HOME_DIR/classes" "-Xmx$memory"
  printf '%s %s\n' "$APP" "$(birth "$APP")" >"$HOME_DIR/app.pid"
  printf '%s\n' "$memory" >"$HOME_DIR/app.memory"
  printf '%s\n' "$PORT" >"$HOME_DIR/app.port"
  wait_for_app "$HOME_DIR/logs/start.log"
}

as_it_runs() { # the port that it was started with, whatever is set now
  [ ! -f "$HOME_DIR/app.port" ] || PORT=$(cat "$HOME_DIR/app.port")
}

say_where() { say "Schublade is at $(address)$*"; }

first_visit() { # as long as there is nobody
  case $(address) in
    https:*) return ;;
  esac
  ! ask /login 2>/dev/null | grep -qi '^location:.*/welcome' || printf " The first visit asks for the owner's login."
}

address() {
  local scheme=http
  [ -z "$(setting server.ssl.key-store)$(setting server.ssl.certificate)$(setting spring.ssl.bundle)" ] || scheme=https
  printf '%s://127.0.0.1:%s\n' $scheme "$PORT"
}

start() {
  open_home
  ! running || { as_it_runs; say_where ", and was already."; return; }
  lock_home
  APP=''
  trap 'run_stop' EXIT # nothing half started is left behind
  launch
  trap - EXIT
  disown "$APP"
  say_where ".$(first_visit)"
}

run() { # as start, but stays; for a service manager
  open_home
  ! running || die "it is running already, as process $(process). Stop it first: ./schublade stop"
  lock_home
  APP=''
  trap 'run_stop' EXIT
  trap 'exit 0' INT TERM HUP
  launch
  say_where "."
  wait "$APP" || die "the application ended by itself; see $HOME_DIR/logs/schublade.log"
}

run_stop() {
  trap '' INT TERM HUP
  [ -z "$APP" ] || { kill "$APP" 2>/dev/null || true; wait "$APP" 2>/dev/null || true; }
  rm -f "$HOME_DIR/app.pid"
  close_database
}

stop() {
  open_home
  PG=$(pg_bin)
  local was='' number
  if running; then
    was=yes number=$(process)
    kill "$number"
    for _ in $(seq 300); do running || break; sleep 0.1; done
    if running; then
      say "It does not end by itself; nothing is lost by ending it the hard way."
      kill -KILL "$number"
      for _ in $(seq 50); do running || break; sleep 0.1; done
    fi
  fi
  rm -f "$HOME_DIR/app.pid"
  close_database
  if [ -n "$was" ]; then say "Schublade is stopped."; else say "Schublade was not running."; fi
}

ask() { # an address of the application; its answer with the header
  exec 3<>"/dev/tcp/127.0.0.1/$PORT" || return 1
  printf 'GET %s HTTP/1.0\r\nHost: 127.0.0.1\r\n\r\n' "$1" >&3
  timeout 5 cat <&3
  exec 3<&-
}

status() { # ends with 3 if it is not running
  open_home
  if ! running; then
    say "Schublade is not running. Its data is in $HOME_DIR; start it with: ./schublade start"
    return 3
  fi
  as_it_runs
  say "Schublade is running at $(address), process $(process) since $(ps -o lstart= -p "$(process)" 2>/dev/null || stat -c %y "$HOME_DIR/app.pid" | cut -c1-16)."
  say "Memory: up to $(cat "$HOME_DIR/app.memory" 2>/dev/null || echo '?')."
  if has_own_database; then say "Database: its own, in $HOME_DIR/pg."; else say "Database: $OTHER_DATABASE"; fi
  say "Log: $HOME_DIR/logs/schublade.log"
  case $(address) in
    http:*) say "Health: $(ask /health 2>/dev/null | tr -d '\r' | sed '1,/^$/d' | tr '\n' ' ')" ;;
  esac
}

install_service() {
  need >&2
  build >&2
  cat <<TEXT
# Schublade as a service of systemd. What to do, as root:
#
#   useradd --system --create-home --home-dir /var/lib/schublade --shell /usr/sbin/nologin schublade
#   cd $ROOT
#   ./schublade install-service >/etc/systemd/system/schublade.service
#   systemctl daemon-reload
#   systemctl enable --now schublade
#
# It runs as a user of its own, who owns its data and nothing else. That user must be able to read $ROOT
# (not below /root); put the program into /opt/schublade, for instance. Settings go into
# /var/lib/schublade/schublade.properties; what it says is shown by: journalctl -u schublade
# Backups, as that user: SCHUBLADE_HOME=/var/lib/schublade ./schublade backup FILE
[Unit]
Description=Schublade, all mail in one cabinet
Wants=network-online.target
After=network-online.target

[Service]
User=schublade
UMask=0077
WorkingDirectory=$ROOT
Environment=SCHUBLADE_HOME=/var/lib/schublade
ExecStart=$ROOT/schublade run
Restart=on-failure
RestartSec=10
TimeoutStartSec=infinity
TimeoutStopSec=90
NoNewPrivileges=true
PrivateTmp=true
ProtectSystem=full

[Install]
WantedBy=multi-user.target
TEXT
}

# PostgreSQL, a server of our own, on loopback.

as_postgres() { # PostgreSQL will not run as root
  if [ "$(id -u)" = 0 ]; then (cd / && exec runuser -u postgres -- "$@"); else "$@"; fi
}

pg_start() { # directory, port, further settings
  local dir=$1 port=$2 settings=${3:-}
  mkdir -p "$dir"
  [ "$(id -u)" != 0 ] || chown postgres: "$dir"
  chmod 700 "$dir"
  as_postgres test -w "$dir" || die "the user postgres may not write to $dir. Set SCHUBLADE_HOME to a directory outside of /root, such as /var/lib/schublade."
  if [ ! -f "$dir/data/PG_VERSION" ]; then
    [ ! -e "$dir/data" ] || die "$dir/data is not a PostgreSQL database. Move it away, or begin anew with: ./schublade demo --fresh"
    (umask 077 && head -c 18 /dev/urandom | base64 | tr '+/' 'ab' >"$dir/password.new")
    [ "$(id -u)" != 0 ] || chown postgres: "$dir/password.new"
    as_postgres "$PG/initdb" -D "$dir/data" -U app -A scram-sha-256 --pwfile="$dir/password.new" -E UTF8 \
      --locale=C.UTF-8 >"$dir/initdb.log" 2>&1 || die "no database could be made in $dir/data; see $dir/initdb.log"
    mv "$dir/password.new" "$dir/password"
  fi
  [ "$(cat "$dir/data/PG_VERSION")" = "$(basename "$(dirname "$PG")")" ] ||
    die "$dir/data was made by PostgreSQL $(cat "$dir/data/PG_VERSION"), this machine has $(basename "$(dirname "$PG")"). Install postgresql-$(cat "$dir/data/PG_VERSION"), or move the directory away."
  if ! pg_running "$dir"; then
    rm -f "$dir/data/postmaster.pid"
    as_postgres "$PG/pg_ctl" -D "$dir/data" -w -t 60 -s -l "$dir/postgres.log" \
      -o "-c listen_addresses=127.0.0.1 -p $port -k '$dir' $settings" start >/dev/null 9>&- ||
      die "the database in $dir/data does not start; see $dir/postgres.log"
  fi
  PG_PORT=$(sed -n 4p "$dir/data/postmaster.pid" | tr -d ' ')
  export SCHUBLADE_DB_USER=app SCHUBLADE_DB_PASSWORD
  SCHUBLADE_DB_PASSWORD=$(cat "$dir/password")
}

pg_running() { # the number in its file may be another process's since the machine was started anew
  local port
  as_postgres "$PG/pg_ctl" -D "$1/data" -s status >/dev/null 2>&1 || return 1
  port=$(sed -n 4p "$1/data/postmaster.pid" | tr -d ' ')
  as_postgres "$PG/pg_isready" -q -h 127.0.0.1 -p "${port:-1}" || [ $? = 1 ] # 1: it is there, and starting
}

pg_stop() { as_postgres "$PG/pg_ctl" -D "$1/data" -m fast -w -s stop >/dev/null 2>&1 || true; }

pg_database() { # make a database unless it is there
  PGPASSWORD=$SCHUBLADE_DB_PASSWORD "$PG/psql" -h 127.0.0.1 -p "$PG_PORT" -U app -d postgres -qtc \
    "select 1 from pg_database where datname = '$1'" | grep -q 1 ||
    PGPASSWORD=$SCHUBLADE_DB_PASSWORD "$PG/createdb" -h 127.0.0.1 -p "$PG_PORT" -U app "$1"
  export SCHUBLADE_DB_URL="jdbc:postgresql://127.0.0.1:$PG_PORT/$1"
}

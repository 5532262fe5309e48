# Keeping it: backup, restore, another key, the next version.

FIGURES="select 'users ' || (select count(*) from app_user) || ', accounts ' || (select count(*) from account)
  || ', folders ' || (select count(*) from folder) || ', messages ' || (select count(*) from message)
  || ', rules ' || (select count(*) from rule) || ', filing record ' || (select count(*) from filing_record)"

figures() { "$PG/psql" -qtAX -c "$FIGURES"; }

begin_keeping() { # what all of these need; the database is open then, and closed at the end if it was
  open_home
  need
  lock_home
  WORK=$(mktemp -d "$HOME_DIR/work.XXXXXX")
  trap 'end_keeping' EXIT
  trap 'exit 1' INT TERM HUP
}

end_keeping() {
  rm -rf "$WORK"
  running || close_database
}

backup() {
  local file='' key_apart=''
  while [ $# -gt 0 ]; do
    case $1 in
      --key-apart) key_apart=${2:-}; [ -n "$key_apart" ] || die "--key-apart wants the name of a file."; shift 2 ;;
      -*) die "unknown: $1. ./schublade help tells what there is." ;;
      *) file=$1; shift ;;
    esac
  done
  [ -n "$file" ] || die "into which file? For instance: ./schublade backup /backups/schublade-$(date +%F).tar"
  file=$(readlink -m "$file")
  [ -z "$key_apart" ] || key_apart=$(readlink -m "$key_apart")
  local one
  for one in "$file" $key_apart; do
    [ ! -e "$one" ] || die "$one is there already. Choose another name, or take it away."
    [ -d "$(dirname "$one")" ] || die "there is no directory $(dirname "$one")."
  done
  begin_keeping
  write_backup "$file" "$key_apart"
  say "Written and checked: $file ($(du -h "$file" | cut -f1)); $(sed -n 's/^holds: //p' "$WORK/about")."
  [ -z "$key_apart" ] || say "The key of the passwords is in $key_apart. Keep it in another place."
}

write_backup() { # file, file for the key or empty; the directory $WORK is there
  local file=$1 key_apart=$2 key parts=(about database.dump)
  ! has_own_database || [ -f "$HOME_DIR/pg/data/PG_VERSION" ] || die "there is no data in $HOME_DIR yet: nothing to back up."
  open_database
  key=$(setting schublade.key-file "$HOME_DIR/key")
  # One picture of all of it, whatever happens meanwhile. Who is logged in is not kept.
  "$PG/pg_dump" -Fc -Z 6 --no-owner --exclude-table-data='spring_session*' -f "$WORK/database.dump" ||
    die "the database could not be written out; nothing was changed."
  if [ -f "$key" ]; then
    cp "$key" "$WORK/key"
    if [ -n "$key_apart" ]; then (umask 077 && cp "$key" "$key_apart"); else parts+=(key); fi
  fi
  if [ -f "$SETTINGS" ]; then cp "$SETTINGS" "$WORK/schublade.properties"; parts+=(schublade.properties); fi
  {
    say "Backup of Schublade"
    say "of: $HOME_DIR on $(uname -n)"
    say "at: $(date -Is)"
    say "version: $(git rev-parse HEAD 2>/dev/null || echo unknown)"
    say "holds: $(figures)"
    (cd "$WORK" && sha256sum "${parts[@]:1}")
  } >"$WORK/about"
  (umask 077 && tar -cf "$file.part" -C "$WORK" "${parts[@]}") || die "$file could not be written."
  # Read from what was written, every byte of it.
  mkdir "$WORK/read"
  tar -xf "$file.part" -C "$WORK/read" && check_backup "$WORK/read" || { rm -f "$file.part"; die "what was written to $file is not what it should be. Is the disk sound?"; }
  mv "$file.part" "$file"
}

check_backup() { # directory with its parts
  (cd "$1" && grep -E '^[0-9a-f]{64}  ' about | sha256sum -c --quiet) >/dev/null 2>&1 && "$PG/pg_restore" -f /dev/null "$1/database.dump"
}

restore() {
  local file='' key='' replace=''
  while [ $# -gt 0 ]; do
    case $1 in
      --key) key=${2:-}; [ -f "$key" ] || die "--key wants the file with the key that was kept apart."; shift 2 ;;
      --replace) replace=yes; shift ;;
      -*) die "unknown: $1. ./schublade help tells what there is." ;;
      *) file=$1; shift ;;
    esac
  done
  [ -n "$file" ] || die "from which file? For instance: ./schublade restore /backups/schublade-$(date +%F).tar"
  [ -f "$file" ] || die "there is no file $file."
  begin_keeping
  ! running || die "it is running. Stop it first: ./schublade stop"
  tar -xf "$file" -C "$WORK" 2>/dev/null && [ -f "$WORK/about" ] && [ -f "$WORK/database.dump" ] || die "$file is no backup of Schublade. Nothing was changed."
  check_backup "$WORK" || die "$file is damaged: its parts are not what it says they are. Nothing was changed; take an older one."
  [ -z "$key" ] || cp "$key" "$WORK/key"
  [ -f "$WORK/key" ] || grep -q 'accounts 0,' "$WORK/about" ||
    die "the key of the accounts' passwords is not in $file. Name the file that it was put into: --key FILE. Nothing was changed."
  put_aside "$replace"
  open_database
  [ "$("$PG/psql" -qtAX -c "select count(*) from information_schema.tables where table_schema = 'public'")" = 0 ] ||
    die "the database is not empty. Empty it first; nothing was changed."
  "$PG/pg_restore" --exit-on-error --no-owner --single-transaction -d "$PGDATABASE" "$WORK/database.dump" ||
    die "the database did not take it in; what it said is above."
  if [ -f "$WORK/key" ]; then (umask 077 && cp "$WORK/key" "$HOME_DIR/key"); fi
  if [ -f "$WORK/schublade.properties" ] && [ ! -f "$SETTINGS" ]; then cp "$WORK/schublade.properties" "$SETTINGS"; fi
  local now
  now=$(figures)
  [ "holds: $now" = "$(grep '^holds: ' "$WORK/about")" ] || die "restored, but it holds $now, and should hold $(sed -n 's/^holds: //p' "$WORK/about")."
  "$PG/psql" -qX -c analyze
  say "Restored as of $(sed -n 's/^at: //p' "$WORK/about"): $now. Start it with: ./schublade start"
}

put_aside() { # yes if what is there may be put aside; a database elsewhere is left alone
  ! has_own_database || [ -d "$HOME_DIR/pg/data" ] || [ -f "$HOME_DIR/key" ] || return 0
  has_own_database || return 0
  [ -n "$1" ] || die "there is data in $HOME_DIR already. To put it aside first: --replace. Nothing was changed."
  pg_stop "$HOME_DIR/pg"
  local aside
  aside=$HOME_DIR/before-$(date +%Y%m%d-%H%M%S)
  mkdir "$aside"
  [ "$(id -u)" != 0 ] || chmod 711 "$aside"
  [ ! -d "$HOME_DIR/pg" ] || mv "$HOME_DIR/pg" "$aside/pg"
  [ ! -f "$HOME_DIR/key" ] || mv "$HOME_DIR/key" "$aside/key"
  say "What was there is in $aside."
}

new_key() {
  begin_keeping
  ! running || die "it is running. Stop it first: ./schublade stop"
  build
  local key
  key=$(setting schublade.key-file "$HOME_DIR/key")
  [ -f "$key" ] || die "there is no key in $key yet; the first start makes one."
  open_database
  "$RUN_JDK/bin/java" -cp "$ROOT/app/target/app-0.1.0-SNAPSHOT.jar:$ROOT/app/target/lib/*" \
    app.schublade.store.base.KeyChange "$key" || die "the key was not changed."
  say "Backups made before need the key of that time, which is in them or where you put it."
}

update() {
  open_home
  need
  command -v git >/dev/null || install git
  [ -d "$ROOT/.git" ] || die "this directory is no clone of a repository, so there is nothing to fetch the next version from. Unpack the new version beside it, and start it with SCHUBLADE_HOME=$HOME_DIR."
  [ -z "$(git status --porcelain --untracked-files=no)" ] || die "files of the program were changed here; look with: git status. Nothing was changed."
  local before after file='' was=''
  before=$(git rev-parse HEAD)
  git fetch -q || die "the next version could not be fetched. Nothing was changed."
  after=$(git rev-parse '@{upstream}' 2>/dev/null) || die "this branch follows none that could have a next version. Nothing was changed."
  [ "$before" != "$after" ] || { say "This is the newest version already."; return; }
  git merge-base --is-ancestor HEAD "$after" || die "there are commits here that the next version lacks. Nothing was changed."
  ! running || was=yes
  if ! has_own_database || [ -f "$HOME_DIR/pg/data/PG_VERSION" ]; then
    file=$HOME_DIR/backups/before-$(date +%Y%m%d-%H%M%S).tar
    mkdir -p "$HOME_DIR/backups"
    "$ROOT/schublade" backup "$file" || die "without a backup there is no update. Nothing was changed."
  fi
  git merge -q --ff-only "$after"
  # From here on the new version's script is at work.
  exec "$ROOT/schublade" update-rest "$before" "$file" "$was"
}

update_rest() { # version before, backup or empty, whether it was running
  open_home
  need
  local back="The way back: ./schublade stop; git reset --keep $1"
  [ -z "$2" ] || back="$back; ./schublade restore --replace $2"
  (build) || die "the new version does not build. $back"
  if [ -n "$3" ]; then
    stop
    (start) || die "the new version does not start. $back; ./schublade start"
  fi
  say "Updated from ${1:0:12} to $(git rev-parse --short=12 HEAD)."
  [ -z "$2" ] || say "Should anything be wrong: $back"
}

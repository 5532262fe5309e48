# Tests and benchmarks.

# A database for tests and benchmarks: nothing in it is worth keeping, so it need not reach the disk.
throwaway_database() {
  SCRATCH=$ROOT/var/scratch-$$
  trap 'pg_stop "$SCRATCH"; rm -rf "$SCRATCH"' EXIT
  trap 'exit 1' INT TERM HUP
  pg_start "$SCRATCH" "$(free_port $((20000 + RANDOM % 20000)))" \
    "-c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=300 -c shared_buffers=512MB -c max_wal_size=4GB"
  export SCHUBLADE_TEST_DB="jdbc:postgresql://127.0.0.1:$PG_PORT/"
  export SCHUBLADE_PG_BIN=$PG SCHUBLADE_PG_DIR=$SCRATCH # for the chaos run, which kills it
}

tests() {
  need tests
  throwaway_database
  local failed='' broken
  find "$ROOT" -maxdepth 3 -path '*/target/*-reports' -prune -exec rm -rf {} +
  # All modules are tried, whatever fails before them: one run tells all.
  JAVA_HOME=$BUILD_JDK mvn -B -T 2 --fail-at-end -Dmaven.test.failure.ignore=true verify "$@" || failed=yes
  broken=$(grep -lE '<(failure|error)[ >]' "$ROOT"/*/target/{surefire,failsafe}-reports/TEST-*.xml 2>/dev/null |
    sed 's/.*TEST-//; s/\.xml$//' | sort -u) || true
  if [ -n "$broken" ]; then
    failed=yes
    printf 'These tests failed:\n%s\n' "$broken" >&2
  fi
  # The commands themselves, when everything is tried.
  [ $# -gt 0 ] || "$ROOT/schublade" check || failed=yes
  [ -z "$failed" ] || die "some tests failed; they are named above."
}

in_bench() { # a class of the bench module, with its arguments
  JAVA_HOME=$BUILD_JDK mvn -q -B -pl bench -am -DskipTests package || die "the build failed"
  "$RUN_JDK/bin/java" -Xmx4g -cp "bench/target/classes:bench/target/lib/*" "$@"
}

bench() {
  case ${1:-} in
    import | arrival | list | find | learn | trial | resync | filing | reading | chaos) ;;
    *) die "which benchmark? There are: import, arrival, list, find, learn, trial, resync, filing, reading, chaos" ;;
  esac
  need bench
  throwaway_database
  in_bench app.schublade.bench.Bench "$@"
}

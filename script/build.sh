# Building what runs.

build() { # only what changed since the last time
  local stamp=$ROOT/var/built
  if [ -f "$stamp" ] && [ -d app/target/lib ] && [ -d standin/target/lib ] &&
    [ -z "$(find pom.xml ./*/pom.xml core/src/main mail/src/main app/src/main standin/src/main -newer "$stamp" -print -quit)" ]; then
    return
  fi
  say "Building (a few minutes the first time, while libraries are fetched)."
  JAVA_HOME=$BUILD_JDK mvn -q -B -pl app,standin -am -Dmaven.test.skip=true -Dspotless.check.skip=true package >"$ROOT/var/build.log" 2>&1 ||
    { tail -40 "$ROOT/var/build.log" >&2; die "the build failed; all of it is in var/build.log"; }
  touch "$stamp"
}

sharing() { # where class data is kept between starts: halves the start (JDK 19 and later)
  [ "$(sed -n 's/^JAVA_VERSION="\([0-9]*\).*/\1/p' "$RUN_JDK/release")" -lt 19 ] ||
    printf '%s\n' -XX:+AutoCreateSharedArchive "-XX:SharedArchiveFile=$1.jsa" -Xlog:disable
}

# What the machine must have, and the ports that are free.

install() {
  local missing=("$@") sudo=()
  [ "$(id -u)" = 0 ] || sudo=(sudo -n)
  say "Installing from Debian's packages: ${missing[*]}"
  if ! { "${sudo[@]}" apt-get -o DPkg::Lock::Timeout=300 update -qq &&
    DEBIAN_FRONTEND=noninteractive "${sudo[@]}" apt-get -o DPkg::Lock::Timeout=300 install -y -qq \
      --no-install-recommends "${missing[@]}"; } >"$ROOT/var/packages.log" 2>&1; then
    die "these packages could not be installed: ${missing[*]} (see var/packages.log). As root, run: apt-get install ${missing[*]}"
  fi
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1; }
jdk() { ls -d /usr/lib/jvm/*"$1"*/bin/javac 2>/dev/null | head -1 | sed 's|/bin/javac||'; }

# Chromium without its windows: the same pages take a fifth less of the processor than in the whole of it.
BROWSER=/usr/bin/chromium-headless-shell

need_imap_server() { # the real one that the stand-in is compared with
  [ -x /usr/sbin/dovecot ] || missing+=(dovecot-imapd)
  [ -x /usr/lib/dovecot/pop3 ] || missing+=(dovecot-pop3d)
  [ -x /usr/bin/sieve-test ] || missing+=(dovecot-sieve)
  [ -x /usr/lib/dovecot/managesieve ] || missing+=(dovecot-managesieved)
  command -v openssl >/dev/null || missing+=(openssl)
  command -v pgrep >/dev/null || missing+=(procps)
}

need() {
  mkdir -p "$ROOT/var" 2>/dev/null || true # of no use to a service that may only read here
  local missing=()
  [ -n "$(jdk 17)" ] || missing+=(openjdk-17-jdk-headless)
  command -v mvn >/dev/null || missing+=(maven)
  [ -x "$(pg_bin)/initdb" ] || missing+=(postgresql)
  if [ "${1:-}" = tests ]; then
    [ -x "$BROWSER" ] || missing+=(chromium-headless-shell)
    need_imap_server
  fi
  [ "${1:-}" != bench ] || need_imap_server
  [ ${#missing[@]} = 0 ] || install "${missing[@]}"
  # Error Prone is pinned to a version for JDK 17, so the build uses that; the application runs on the newest there is.
  BUILD_JDK=$(jdk 17)
  RUN_JDK=$(for java in /usr/lib/jvm/*/bin/java; do
    printf '%s %s\n' "$(sed -n 's/^JAVA_VERSION="\([0-9]*\).*/\1/p' "${java%/bin/java}/release" 2>/dev/null)" "${java%/bin/java}"
  done | grep -E '^[0-9]+ ' | sort -n | tail -1 | cut -d' ' -f2)
  PG=$(pg_bin)
  [ "${1:-}" != tests ] || export SCHUBLADE_CHROMIUM=$BROWSER
}

free_port() { # a free one at or after $1
  local port=$1
  while (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null; do port=$((port + 1)); done
  echo "$port"
}

port_must_be_free() {
  ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null ||
    die "port $1 ($2) is in use. Stop what uses it, or choose another: SCHUBLADE_PORT=$((PORT + 100)) ./schublade $COMMAND"
}

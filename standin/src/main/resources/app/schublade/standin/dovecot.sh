#!/usr/bin/env bash
# Runs Debian's IMAP server privately on loopback, for tests that need the real protocol.
#
#   dovecot.sh start DIR PORT SHAPE   SHAPE is slash (delimiter /, no prefix) or dot (delimiter ., all under INBOX.)
#   dovecot.sh kill DIR               as a power cut would
#   dovecot.sh stop DIR
#   dovecot.sh deliver DIR USER      a message from standard input, by way of the user's script
#
# IMAP listens on PORT (STARTTLS offered), IMAP over TLS on PORT+1, POP3 on PORT+2, POP3 over TLS on PORT+3, ManageSieve on
# PORT+4 (STARTTLS offered). Users stand in DIR/users, one line each: name:{PLAIN}password:::::: and further userdb_ fields. NO_CAPABILITY in the environment
# takes capabilities away; OAUTH_URL is asked about bearer tokens.
set -euo pipefail
PATH=$PATH:/usr/sbin:/sbin # not on the path of an ordinary user of Debian

die() { printf 'dovecot.sh: %s\n' "$*" >&2; exit 1; }

as_owner() { # as root the server runs as a user that owns nothing else
  if [ "$(id -u)" = 0 ]; then (cd / && exec runuser -u nobody -- "$@"); else "$@"; fi
}

capability() {
  local all='IMAP4rev1 SASL-IR LOGIN-REFERRALS ID ENABLE IDLE SORT SORT=DISPLAY THREAD=REFERENCES THREAD=REFS
    THREAD=ORDEREDSUBJECT MULTIAPPEND URL-PARTIAL CATENATE UNSELECT CHILDREN NAMESPACE UIDPLUS LIST-EXTENDED I18NLEVEL=1
    CONDSTORE QRESYNC ESEARCH ESORT SEARCHRES WITHIN CONTEXT=SEARCH LIST-STATUS BINARY MOVE SNIPPET=FUZZY PREVIEW=FUZZY
    STATUS=SIZE SAVEDATE LITERAL+ NOTIFY SPECIAL-USE QUOTA ACL RIGHTS=texk'
  local one kept=()
  for one in $all; do
    [[ " ${NO_CAPABILITY:-} " == *" $one "* ]] || kept+=("$one")
  done
  echo "${kept[*]}"
}

configuration() { # directory, port, shape
  local dir=$1 port=$2 user separator='/' prefix=''
  user=$(as_owner id -un)
  [ "$3" = slash ] || { separator='.' prefix='INBOX.'; }
  cat <<TEXT
protocols = imap pop3 sieve
listen = 127.0.0.1
base_dir = $dir/run
state_dir = $dir/state
instance_name = schublade-$port
log_path = $dir/log
default_internal_user = $user
default_internal_group = $(as_owner id -gn)
default_login_user = $user
first_valid_uid = 1
mail_location = sdbox:~/mail
mail_fsync = never
mail_plugins = quota acl
disable_plaintext_auth = no
auth_mechanisms = plain login xoauth2 oauthbearer
auth_failure_delay = 0
auth_cache_size = 0
ssl = yes
ssl_cert = <$dir/cert.pem
ssl_key = <$dir/key.pem
ssl_dh = 
service anvil {
  chroot =
}
service stats {
  chroot =
  client_limit = 1000
}
service imap-login {
  chroot =
  process_min_avail = 1
  inet_listener imap {
    port = $port
  }
  inet_listener imaps {
    port = $((port + 1))
  }
}
service pop3-login {
  chroot =
  inet_listener pop3 {
    port = $((port + 2))
  }
  inet_listener pop3s {
    port = $((port + 3))
  }
}
service managesieve-login {
  chroot =
  inet_listener sieve {
    port = $((port + 4))
  }
}
passdb {
  driver = passwd-file
  args = username_format=%u $dir/users
}
userdb {
  driver = passwd-file
  args = username_format=%u $dir/users
  default_fields = uid=$user gid=$(as_owner id -gn) home=$dir/mail/%u
}
namespace inbox {
  inbox = yes
  separator = $separator
  prefix = $prefix
  mailbox Sent {
    auto = create
    special_use = \\Sent
  }
  mailbox Entwürfe {
    auto = create
    special_use = \\Drafts
  }
  mailbox Archive {
    auto = create
    special_use = \\Archive
  }
  mailbox Junk {
    auto = create
    special_use = \\Junk
  }
  mailbox Trash {
    auto = create
    special_use = \\Trash
  }
}
plugin {
  quota = count:User
  quota_vsizes = yes
  acl = vfile
  sieve = file:~/sieve;active=~/.dovecot.sieve
}
protocol lda {
  mail_plugins = quota acl sieve
  postmaster_address = postmaster@quay.example
  hostname = mail.quay.example
}
protocol imap {
  mail_plugins = quota acl imap_quota imap_acl
  mail_max_userip_connections = 200
  imap_capability = $(capability)
}
TEXT
  if [ -n "${OAUTH_URL:-}" ]; then
    cat <<TEXT
passdb {
  driver = oauth2
  mechanisms = xoauth2 oauthbearer
  args = $dir/oauth.conf
}
TEXT
  fi
}

start() {
  local dir=$1 port=$2
  command -v dovecot >/dev/null || die "there is no dovecot; install the package dovecot-imapd"
  mkdir -p "$dir"
  cd "$dir"
  configuration "$dir" "$port" "$3" >"$dir/dovecot.conf"
  printf 'introspection_url = %s\nintrospection_mode = post\nusername_attribute = username\nactive_attribute = active\nactive_value = true\n' \
    "${OAUTH_URL:-}" >"$dir/oauth.conf"
  if [ ! -f "$dir/cert.pem" ]; then
    openssl req -x509 -newkey rsa:2048 -nodes -days 3650 -subj /CN=mail.quay.example \
      -addext 'subjectAltName=DNS:mail.quay.example' -keyout "$dir/key.pem" -out "$dir/cert.pem" 2>/dev/null
  fi
  touch "$dir/users" "$dir/log"
  [ "$(id -u)" != 0 ] || chown -R nobody: "$dir"
  as_owner /usr/sbin/dovecot -c "$dir/dovecot.conf"
}


end() { # directory, signal; all that belongs to it shares the master's session
  local master
  master=$(cat "$1/run/master.pid" 2>/dev/null) || return 0
  pkill "-$2" -s "$master" 2>/dev/null || true
  for turn in $(seq 100); do
    pgrep -s "$master" -r R,S,D,T >/dev/null 2>&1 || break
    [ "$2" = TERM ] && [ "$turn" -lt 50 ] || pkill -KILL -s "$master" 2>/dev/null || true # some were being born
    sleep 0.02
  done
  rm -f "$1/run/master.pid"
}

case ${1:-} in
  start) start "$2" "$3" "$4" ;;
  kill) end "$2" KILL ;;
  stop) end "$2" TERM ;;
  deliver) cd "$2" && as_owner /usr/lib/dovecot/dovecot-lda -c "$2/dovecot.conf" -d "$3" ;;
  *) die "start, kill, stop or deliver?" ;;
esac

# A private PostgreSQL on loopback, for ./start and ./test. Sourced, not run.
# The cluster lives in one folder: data/, port, password. PostgreSQL refuses to run as root, so as root its files belong to user postgres.

install_packages() {
  local sudo=""
  [ "$(id -u)" = 0 ] || sudo=sudo
  $sudo apt-get update -qq && $sudo env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}

postgres_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

# Commands of PostgreSQL, as a user it accepts.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

free_port() { python3 -c 'import socket; s=socket.socket(); s.bind(("127.0.0.1",0)); print(s.getsockname()[1])'; }

# Where a cluster lies. As root that is among the other clusters of user postgres, who could not reach a folder below /root or a private
# checkout without opening every folder above it to everybody.
postgres_home() { # folder
  if [ "$(id -u)" = 0 ] && [ ! -f "$1/data/PG_VERSION" ]; then echo "/var/lib/postgresql/lintel-$(printf %s "$1" | cksum | cut -d' ' -f1)"; else echo "$1"; fi
}

postgres_start() { # folder [extra settings]
  local folder bin
  if [ -z "$(postgres_bin)" ]; then
    echo "Installing PostgreSQL ..."
    install_packages postgresql
  fi
  command -v python3 >/dev/null || install_packages python3
  folder=$(postgres_home "$1") bin=$(postgres_bin)
  mkdir -p "$folder"
  if [ ! -f "$folder/data/PG_VERSION" ]; then
    echo "Making a private database in $folder ..."
    rm -rf "$folder/data"
    (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=' > "$folder/password")
    free_port > "$folder/port"
    [ "$(id -u)" != 0 ] || chown -R postgres "$folder"
    as_postgres "$bin/initdb" -D "$folder/data" -U lintel --pwfile "$folder/password" -A scram-sha-256 -E UTF8 --locale=C.UTF-8 >/dev/null
    printf "listen_addresses = '127.0.0.1'\nport = %s\nunix_socket_directories = '%s'\nmax_connections = 200\n%s\n" "$(cat "$folder/port")" "$folder/data" "${2:-}" |
      as_postgres tee -a "$folder/data/postgresql.conf" >/dev/null
  fi
  if ! "$bin/pg_isready" -q -h 127.0.0.1 -p "$(cat "$folder/port")"; then
    echo "Starting PostgreSQL ..."
    as_postgres "$bin/pg_ctl" -w -s -D "$folder/data" -l "$folder/data/server.log" start >/dev/null
  fi
}

postgres_stop() { as_postgres "$(postgres_bin)/pg_ctl" -w -s -m fast -D "$(postgres_home "$1")/data" stop >/dev/null 2>&1 || true; }

postgres_remove() { local folder; folder=$(postgres_home "$1"); if [ -d "$folder/data" ]; then postgres_stop "$1"; rm -rf "$folder"; fi; }

postgres_connection() { echo "Host=127.0.0.1;Port=$(cat "$(postgres_home "$1")/port");Database=$2;Username=lintel;Password=$(cat "$(postgres_home "$1")/password")"; }

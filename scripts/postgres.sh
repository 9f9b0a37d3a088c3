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

postgres_start() { # folder [extra settings]
  local folder=$1 bin
  if [ -z "$(postgres_bin)" ]; then
    echo "Installing PostgreSQL ..."
    install_packages postgresql
  fi
  command -v python3 >/dev/null || install_packages python3
  bin=$(postgres_bin)
  mkdir -p "$folder"
  if [ ! -f "$folder/data/PG_VERSION" ]; then
    echo "Making a private database in $folder ..."
    rm -rf "$folder/data"
    (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=' > "$folder/password")
    free_port > "$folder/port"
    if [ "$(id -u)" = 0 ]; then
      chown -R postgres "$folder"
      # Every folder above must let user postgres through.
      local up=$folder; while [ "$up" != / ]; do up=$(dirname "$up"); chmod a+x "$up" 2>/dev/null || true; done
    fi
    as_postgres "$bin/initdb" -D "$folder/data" -U lintel --pwfile "$folder/password" -A scram-sha-256 -E UTF8 --locale=C.UTF-8 >/dev/null
    printf "listen_addresses = '127.0.0.1'\nport = %s\nunix_socket_directories = '%s'\nmax_connections = 200\n%s\n" "$(cat "$folder/port")" "$folder/data" "${2:-}" |
      as_postgres tee -a "$folder/data/postgresql.conf" >/dev/null
  fi
  if ! "$bin/pg_isready" -q -h 127.0.0.1 -p "$(cat "$folder/port")"; then
    echo "Starting PostgreSQL ..."
    as_postgres "$bin/pg_ctl" -w -s -D "$folder/data" -l "$folder/data/server.log" start >/dev/null
  fi
}

postgres_stop() { as_postgres "$(postgres_bin)/pg_ctl" -w -s -m fast -D "$1/data" stop >/dev/null 2>&1 || true; }

postgres_remove() { if [ -d "$1/data" ]; then postgres_stop "$1"; rm -rf "$1"; fi; }

postgres_connection() { echo "Host=127.0.0.1;Port=$(cat "$1/port");Database=$2;Username=lintel;Password=$(cat "$1/password")"; }

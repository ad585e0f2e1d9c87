# Shared by run, test and bench: missing packages, and a PostgreSQL cluster of the project's own.

say() { printf '%s\n' "$*" >&2; }

# need_packages WHAT PACKAGE... : installs Debian packages that are missing, or says which they are.
need_packages() {
    local what=$1 missing=() package
    shift
    for package in "$@"; do
        dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
    done
    [ ${#missing[@]} -eq 0 ] && return 0
    local as=()
    if [ "$(id -u)" -ne 0 ]; then
        if ! sudo -n true 2>/dev/null; then
            say "$what needs these Debian packages: ${missing[*]}"
            say "Install them with: sudo apt-get install ${missing[*]}"
            return 1
        fi
        as=(sudo)
    fi
    say "Installing ${missing[*]} ..."
    "${as[@]}" apt-get update -qq >&2 || true
    # A cluster of Debian's own is not wanted: the project starts its own.
    if [ ! -e /etc/postgresql-common/createcluster.conf ]; then
        "${as[@]}" mkdir -p /etc/postgresql-common
        echo 'create_main_cluster = false' | "${as[@]}" tee /etc/postgresql-common/createcluster.conf >/dev/null
    fi
    "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null || {
        say "The packages could not be installed. Install them by hand: ${missing[*]}"
        return 1
    }
}

need_dotnet() {
    command -v dotnet >/dev/null || { say "The .NET SDK 10 is needed: https://dotnet.microsoft.com"; return 1; }
}

# PostgreSQL refuses to run as root; as root everything of it runs as the user postgres.
as_postgres() {
    if [ "$(id -u)" -eq 0 ]; then
        (cd / && setpriv --reuid postgres --regid postgres --init-groups env HOME=/tmp PATH="$PATH" "$@")
    else
        "$@"
    fi
}

port_is_free() { ! (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
    local port=$1
    while ! port_is_free "$port"; do port=$((port + 1)); done
    echo "$port"
}

# start_cluster FOLDER [OPTION...] : makes the cluster if it is missing, starts it on a free loopback port, sets PGURL.
start_cluster() {
    local folder=$1 bin port
    shift
    bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1)
    if [ "$(id -u)" -eq 0 ]; then
        mkdir -p "$folder"
        chown postgres:postgres "$folder"
        # A folder that the user postgres cannot reach (a home of root's, say) is replaced by one that it can.
        if ! as_postgres test -x "$folder"; then
            folder=/var/lib/gate-split/$(printf '%s' "$folder" | sha256sum | cut -c1-16)
            mkdir -p "$folder"
            chown postgres:postgres "$folder"
            say "The database lies in $folder, where its own user can reach it."
        fi
    else
        mkdir -p "$folder"
    fi
    if [ ! -f "$folder/data/PG_VERSION" ]; then
        as_postgres rm -rf "$folder/data"
        head -c 24 /dev/urandom | base64 | tr -d '+/=\n' | as_postgres tee "$folder/password" >/dev/null
        as_postgres chmod 600 "$folder/password"
        as_postgres "$bin/initdb" -D "$folder/data" -U gatesplit --pwfile "$folder/password" -A scram-sha-256 -E UTF8 --locale C.UTF-8 >/dev/null
    fi
    if as_postgres "$bin/pg_ctl" -D "$folder/data" status >/dev/null 2>&1; then
        port=$(sed -n 4p "$folder/data/postmaster.pid")
        CLUSTER_OURS=0
    else
        port=$(free_port 54380)
        as_postgres "$bin/pg_ctl" -D "$folder/data" -s -w -l "$folder/log" \
            -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=$folder -c max_connections=200 $*" start >/dev/null || {
            say "PostgreSQL did not start; $folder/log tells why."
            return 1
        }
        CLUSTER_OURS=1
    fi
    CLUSTER_BIN=$bin
    CLUSTER_FOLDER=$folder
    CLUSTER_PORT=$port
    make_role
    PGURL="Host=127.0.0.1;Port=$port;Username=gatesplit_app;Password=$(cat "$folder/app-password");Include Error Detail=false;Timeout=3;Command Timeout=20"
}

# as_admin ARGUMENT... : psql as the role that made the cluster.
as_admin() { PGPASSWORD=$(cat "$CLUSTER_FOLDER/password") "$CLUSTER_BIN/psql" -X -q -t -A -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$CLUSTER_PORT" -U gatesplit "$@"; }

# The application has a role of its own that is no superuser: it owns its databases and nothing else. What an earlier version left to
# the administrator is handed over.
make_role() {
    local database
    if [ ! -s "$CLUSTER_FOLDER/app-password" ]; then
        head -c 24 /dev/urandom | base64 | tr -d '+/=\n' | as_postgres tee "$CLUSTER_FOLDER/app-password" >/dev/null
        as_postgres chmod 600 "$CLUSTER_FOLDER/app-password"
    fi
    as_admin -d postgres <<END
do \$\$ begin
    if not exists (select 1 from pg_roles where rolname = 'gatesplit_app') then
        create role gatesplit_app login nosuperuser nocreaterole createdb;
    end if;
end \$\$;
alter role gatesplit_app password '$(cat "$CLUSTER_FOLDER/app-password")';
END
    for database in $(as_admin -d postgres -c "select datname from pg_database where datdba = 'gatesplit'::regrole and not datistemplate and datname <> 'postgres'"); do
        as_admin -d postgres -c "alter database \"$database\" owner to gatesplit_app"
        as_admin -d "$database" <<'END'
do $$ declare thing record; begin
    for thing in select nspname from pg_namespace where nspname not like 'pg\_%' and nspname not in ('information_schema', 'public') loop
        execute format('alter schema %I owner to gatesplit_app', thing.nspname);
    end loop;
    for thing in select c.oid::regclass as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
        where n.nspname not like 'pg\_%' and n.nspname <> 'information_schema' and c.relkind in ('r', 'p', 'v', 'm') loop
        execute format('alter table %s owner to gatesplit_app', thing.name);
    end loop;
end $$;
END
    done
}

# plain_user FOLDER... : as root, a user without any rights of its own, to whom the folders belong; sets PLAIN to what runs a command as it.
plain_user() {
    PLAIN=()
    [ "$(id -u)" -eq 0 ] || return 0
    id gate-split >/dev/null 2>&1 || useradd --system --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin gate-split
    local folder
    for folder; do
        mkdir -p "$folder"
        chmod 750 "$folder"
        [ "$(stat -c %U "$folder")" = gate-split ] || chown -R gate-split:gate-split "$folder"
    done
    PLAIN=(setpriv --reuid gate-split --regid gate-split --clear-groups env HOME="$1")
}

stop_cluster() {
    [ "${CLUSTER_OURS:-0}" = 1 ] && as_postgres "$CLUSTER_BIN/pg_ctl" -D "$CLUSTER_FOLDER/data" -s -m fast stop >/dev/null 2>&1
    return 0
}

# need_node : Node.js for the checks of the scripts.
need_node() { command -v npm >/dev/null || need_packages "The check of the scripts" nodejs npm; }
